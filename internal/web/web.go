// Package web is the pages: Gin routes, handlers and view models over core and
// store. A handler parses, makes one call, builds a view model of ready strings
// and coordinates, renders it into a buffer, and writes. No arithmetic in
// templates or scripts.
package web

import (
	"log/slog"
	"net/http"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/internal/store"
)

// Server answers the pages.
type Server struct {
	store *store.Store
	kit   adapt.Kit
	views *views
	hosts []string // allowed Host names, beside the loopback ones
}

// New returns the handler of the whole application. Hosts are names by which it
// may be called beside localhost and loopback addresses.
func New(st *store.Store, hosts ...string) (http.Handler, error) {
	v, err := loadViews()
	if err != nil {
		return nil, err
	}
	s := &Server{store: st, kit: adapt.DefaultKit(), views: v, hosts: hosts}
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	e.HandleMethodNotAllowed = true
	e.Use(s.recovered, s.hostAllowed, headers, gzip.Gzip(gzip.DefaultCompression, gzip.WithExcludedExtensions([]string{".woff2"})), limitBody)
	e.NoRoute(func(c *gin.Context) { s.fail(c, http.StatusNotFound, notFound) })
	e.NoMethod(func(c *gin.Context) { s.fail(c, http.StatusMethodNotAllowed, notFound) })

	e.GET("/", s.shelf)
	e.GET("/recipes", s.shelf)
	e.POST("/recipes", s.newFromText)
	e.GET("/new", s.newRecipe)
	e.GET("/drafts/:id", s.draft)
	e.POST("/drafts/:id", s.saveDraft)
	e.GET("/weigh", s.weigh)
	e.GET("/recipes/:id", s.recipe)
	e.GET("/recipes/:id/read", s.readRecipe)
	e.POST("/recipes/:id/correct", s.correctRecipe)
	e.GET("/recipes/:id/adapt", s.bench)
	e.GET("/recipes/:id/heat", s.heat)
	e.POST("/recipes/:id/versions", s.keep)
	e.POST("/recipes/:id/delete", s.deleteRecipe)
	e.POST("/recipes/:id/restore", s.restoreRecipe)
	e.GET("/versions/:id", s.version)
	e.GET("/versions/:id/card", s.card)
	e.GET("/settings", s.settings)
	e.POST("/settings", s.saveSettings)
	e.GET("/sources", s.sources)
	e.GET("/healthz", s.health)
	e.GET("/static/:tree/*path", s.static)
	cross := http.NewCrossOriginProtection()
	return cross.Handler(e), nil
}

func (s *Server) health(c *gin.Context) {
	if err := s.store.Ping(c); err != nil {
		slog.Error("healthz", "err", err)
		c.String(http.StatusServiceUnavailable, "database does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}

// kitchen is how the household measures; the default when it cannot be read.
func (s *Server) kitchen(c *gin.Context) measure.Kitchen {
	h, err := s.store.Household(c)
	if err != nil {
		slog.Error("household", "err", err)
	}
	return h.Kitchen
}

// kitFor is the kit with the household's kitchen.
func (s *Server) kitFor(c *gin.Context) adapt.Kit {
	k := s.kit
	k.Kitchen = s.kitchen(c)
	return k
}
