package web

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// NewBounded gives a handler that keeps maps in memory up to so many bytes.
func NewBounded(c Config, most int64) (http.Handler, error) {
	c.memory = most
	return New(c)
}

// Addressed is a route as a test walks it.
type Addressed struct {
	Method, Path string
	Needs        Capability
}

// Addresses lists all routes.
func Addresses() []Addressed {
	var all []Addressed
	for _, r := range (&server{}).routes() {
		all = append(all, Addressed{r.method, r.path, r.needs})
	}
	return all
}

// RegisterWithout tries to make an address known that does not say what it needs.
func RegisterWithout() error {
	return (&server{}).register(gin.New(), []route{{method: "GET", path: "/open-to-all"}})
}
