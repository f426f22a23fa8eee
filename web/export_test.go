package web

import "net/http"

// NewBounded gives a handler that keeps maps in memory up to so many bytes.
func NewBounded(c Config, most int64) (http.Handler, error) {
	s, app, err := build(c)
	if err == nil {
		s.desks.most = most
	}
	return app, err
}
