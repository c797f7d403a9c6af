package api

import (
	"database/sql"
	"errors"
	"net"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"obturon/internal/turn"
)

// meters count what the server does, for whoever runs it.
type meters struct {
	registry *prometheus.Registry
	seconds  *prometheus.HistogramVec
	refused  *prometheus.CounterVec
	handler  http.Handler
}

func newMeters(database *sql.DB) *meters {
	m := &meters{
		registry: prometheus.NewRegistry(),
		seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "obturon_request_seconds", Help: "Time from a request to its answer.",
			Buckets: []float64{0.005, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 6.4, 12.8, 30},
		}, []string{"operation", "status"}),
		refused: prometheus.NewCounterVec(prometheus.CounterOpts{
			Name: "obturon_turns_refused_total", Help: "Requests told to wait, or overtaken by a newer one of the same user.",
		}, []string{"reason"}),
	}
	m.registry.MustRegister(
		m.seconds,
		m.refused,
		collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		collectors.NewDBStatsCollector(database, "obturon"),
	)
	m.handler = promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{})
	return m
}

// watch shows how many compute and how many wait.
func (m *meters) watch(q *turn.Queue) {
	gauge := func(name, help string, of func() int) {
		m.registry.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, func() float64 { return float64(of()) }))
	}
	gauge("obturon_turns_running", "Requests that compute now.", func() int { running, _ := q.Load(); return running })
	gauge("obturon_turns_waiting", "Requests that wait for their turn.", func() int { _, waiting := q.Load(); return waiting })
}

func (m *meters) turnRefused(err error) {
	reason := "left"
	switch {
	case errors.Is(err, turn.ErrBusy):
		reason = "busy"
	case errors.Is(err, turn.ErrOutdated):
		reason = "outdated"
	}
	m.refused.WithLabelValues(reason).Inc()
}

// measure times every request by its operation.
func (m *meters) measure(names map[string]string) gin.HandlerFunc {
	return func(c *gin.Context) {
		if c.FullPath() == apiPrefix+changesPath {
			return // it goes on for as long as somebody looks
		}
		begun := time.Now()
		c.Next()
		name := names[c.Request.Method+" "+c.FullPath()]
		if name == "" {
			name = "site"
		}
		m.seconds.WithLabelValues(name, strconv.Itoa(c.Writer.Status())).Observe(time.Since(begun).Seconds())
	}
}

// serve answers programs on this machine alone: not what a proxy passes on.
func (m *meters) serve(c *gin.Context) {
	host, _, err := net.SplitHostPort(c.Request.RemoteAddr)
	address := net.ParseIP(host)
	passedOn := c.GetHeader("X-Forwarded-For")+c.GetHeader("Forwarded")+c.GetHeader("Via") != ""
	if err != nil || address == nil || !address.IsLoopback() || passedOn {
		(&problem{status: http.StatusNotFound, title: "There is nothing at this address"}).write(c)
		return
	}
	m.handler.ServeHTTP(c.Writer, c.Request)
}
