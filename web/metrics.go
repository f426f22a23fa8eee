package web

import (
	"context"
	"crypto/subtle"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// measures are the figures of a running Mevrin, in the text format of Prometheus.
type measures struct {
	requests *prometheus.CounterVec
	lasted   *prometheus.HistogramVec
	answer   http.Handler
}

// newMeasures counts requests, and asks for the rest when it is asked.
func (s *server) newMeasures() *measures {
	m := &measures{
		requests: prometheus.NewCounterVec(prometheus.CounterOpts{Name: "mevrin_requests_total", Help: "requests by address, as it is declared, and status"}, []string{"method", "address", "status"}),
		lasted:   prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "mevrin_request_seconds", Help: "how long answers took; streams are left out", Buckets: []float64{.005, .01, .025, .05, .1, .25, .5, 1, 2.5, 10}}, []string{"method"}),
	}
	count := func(name, help string, of func(context.Context) (int, error)) prometheus.Collector {
		return prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, func() float64 {
			ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
			defer cancel()
			n, err := of(ctx)
			if err != nil {
				return -1
			}
			return float64(n)
		})
	}
	all := prometheus.NewRegistry()
	all.MustRegister(m.requests, m.lasted, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		count("mevrin_maps", "maps that are not in the bin", s.Store.CountMaps),
		count("mevrin_people", "people with accounts", s.Store.CountPeople),
		count("mevrin_entries", "entries in the logs of all maps", s.Store.CountEntries),
		count("mevrin_windows", "windows that listen to maps", func(context.Context) (int, error) { return s.work.Listening(), nil }))
	m.answer = promhttp.HandlerFor(all, promhttp.HandlerOpts{})
	return m
}

// measure counts a request once it is answered.
func (s *server) measure(g *gin.Context) {
	begun := time.Now()
	g.Next()
	address := g.FullPath()
	if address == "" {
		address = "none"
	}
	s.measures.requests.WithLabelValues(g.Request.Method, address, strconv.Itoa(g.Writer.Status())).Inc()
	if !strings.HasSuffix(address, "/live") {
		s.measures.lasted.WithLabelValues(g.Request.Method).Observe(time.Since(begun).Seconds())
	}
}

// measurer tells whether a program asks that measures, and knows the password for it.
func (s *server) measurer(g *gin.Context) bool {
	shown, is := strings.CutPrefix(g.GetHeader("Authorization"), "Bearer ")
	return is && s.Metrics != "" && g.FullPath() == "/metrics" && subtle.ConstantTimeCompare([]byte(shown), []byte(s.Metrics)) == 1
}

// metrics shows the figures.
func (s *server) metrics(g *gin.Context) {
	g.Header("Cache-Control", "no-store")
	s.measures.answer.ServeHTTP(g.Writer, g.Request)
}
