// Package web answers the contract in api/openapi.yaml and serves the pages.
// A handler decodes what was sent, has the shop do it, and writes the answer in the
// contract's types; sentences come from package wording.
package web

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"regexp"
	"runtime"
	"strings"
	"sync"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	"github.com/gin-gonic/gin/binding"

	"waxplanus/core/surface"
	"waxplanus/internal/camera"
	"waxplanus/internal/gauge"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/proof"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

//go:generate go tool -modfile=../../tools/go.mod oapi-codegen -config ../../api/oapi-codegen.yaml ../../api/openapi.yaml

//go:embed all:dist
var pages embed.FS

// Server answers requests on one shop.
type Server struct {
	shop    *shop.Shop
	log     *slog.Logger
	version string
	link    *gauge.Link  // nil where no gauge is looked for
	camera  *camera.Link // nil where no camera is looked for
	hub     *hub
	hosts   hosts
	streams *perAddress
	pages   chan struct{} // holds as many as may be made at once
	photos  chan struct{} // holds as many as may arrive at once
	self    http.Handler  // all of it, for pages that are made before anybody asks
}

// piece is the piece of paint, 48 mm wide, that all pictures are made from. It
// never changes and is made when the first picture is asked for.
var piece = sync.OnceValue(func() *surface.Field { return surface.NewField(48, 17.6, 0.1, 7) })

// Site is a shop's pages and API. Close ends the streams of screens that watch, so
// that the server can shut down.
type Site struct {
	http.Handler
	hub *hub
}

// Close ends all streams.
func (s *Site) Close() { s.hub.close() }

// Devices are the ways to what the shop's server looks for in the workshop: a gauge that sends,
// and a camera with meters; nil for none.
type Devices struct {
	Gauge  *gauge.Link
	Camera *camera.Link
}

// New returns the handler of a shop's pages and API; names are those that the machine is called
// by, besides its own.
func New(of *shop.Shop, version string, log *slog.Logger, d Devices, names ...string) *Site {
	srv := &Server{shop: of, log: log, version: version, link: d.Gauge, camera: d.Camera, hub: newHub(), hosts: hostsOf(names), streams: newPerAddress(mostStreams), pages: make(chan struct{}, runtime.GOMAXPROCS(0)), photos: make(chan struct{}, photosAtOnce)}
	of.OnChange(srv.hub.changed)
	srv.self = srv.routes()
	return &Site{srv.self, srv.hub}
}

// photosAtOnce is how many photos are read from the network at once: each may be large.
const photosAtOnce = 3

// How many bytes a request has, and one that brings a photo to be read.
const (
	mostBody  = 8 << 20
	mostPhoto = proof.MostProof + 1
)

// strictly sets what holds for all routers: unknown fields are refused. What the contract
// says of the others is held against it before.
var strictly = sync.OnceFunc(func() {
	gin.SetMode(gin.ReleaseMode)
	binding.EnableDecoderDisallowUnknownFields = true
	binding.Validator = nil
})

func (s *Server) routes() http.Handler {
	strictly()
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.NoMethod(s.noMethod)
	r.Use(gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, cause any) {
		s.fail(c, fmt.Errorf("panic: %v", cause))
	}), gzip.Gzip(gzip.BestSpeed, gzip.WithCustomShouldCompressFn(worthPacking)))
	r.Use(s.speak)
	r.Use(s.guard)
	r.Use(s.abide)
	r.Use(s.keepPages)
	r.ContextWithFallback = true // a handler's context ends with its request
	strict := api.NewStrictHandlerWithOptions(s, []api.StrictMiddlewareFunc{ownContext, s.inTurn}, api.StrictGinServerOptions{
		RequestErrorHandlerFunc:  func(c *gin.Context, err error) { s.fail(c, badRequest(err)) },
		HandlerErrorFunc:         func(c *gin.Context, err error) { s.fail(c, err) },
		ResponseErrorHandlerFunc: func(c *gin.Context, err error) { s.fail(c, err) },
	})
	api.RegisterHandlersWithOptions(r, strict, api.GinServerOptions{
		BaseURL:      "/api",
		ErrorHandler: func(c *gin.Context, err error, _ int) { s.fail(c, badRequest(err)) },
	})
	r.GET("/api/panels/:panelId/events", s.watchPanel)
	r.GET("/api/cars/:carId/events", s.watchCar)
	r.GET("/api/events", s.watchCars)
	r.GET("/api", s.readContract)
	s.servePages(r)
	return http.NewCrossOriginProtection().Handler(r)
}

// ownContext gives each handler a context of its own: the database watches it
// for longer than the router, which takes its contexts back, lets it live.
func ownContext(next api.StrictHandlerFunc, _ string) api.StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) { return next(c.Copy(), request) }
}

// inTurn lets as many pages be made at once as there are processors: taps go past those that
// wait. A list of cars mostly waits itself.
func (s *Server) inTurn(next api.StrictHandlerFunc, operation string) api.StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) {
		if c.Request.Method != http.MethodGet || operation == "ListCars" {
			return next(c, request)
		}
		select {
		case s.pages <- struct{}{}:
		case <-c.Request.Context().Done():
			return nil, c.Request.Context().Err()
		}
		defer func() { <-s.pages }()
		return next(c, request)
	}
}

// servePages serves the built pages; a path that is no file is the app's own.
func (s *Server) servePages(r *gin.Engine) {
	dist, err := fs.Sub(pages, "dist")
	if err != nil {
		panic(err) // the folder is part of the program
	}
	files := http.FileServerFS(dist)
	r.NoRoute(func(c *gin.Context) {
		path := strings.TrimPrefix(c.Request.URL.Path, "/")
		if strings.HasPrefix(path, "api/") {
			s.fail(c, refuse.ErrMissing)
			return
		}
		if f, err := fs.Stat(dist, path); path != "" && err == nil && !f.IsDir() {
			if strings.HasPrefix(path, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			files.ServeHTTP(c.Writer, c.Request)
			return
		}
		if strings.HasPrefix(path, "assets/") {
			c.String(http.StatusNotFound, wording.NoFile)
			return
		}
		page, err := fs.ReadFile(dist, "index.html")
		if err != nil {
			c.String(http.StatusNotFound, wording.NoPages)
			return
		}
		c.Header("Cache-Control", "no-cache")
		c.Data(http.StatusOK, "text/html; charset=utf-8", page)
	})
}

// GetHealth answers once the shop is open.
func (s *Server) GetHealth(context.Context, api.GetHealthRequestObject) (api.GetHealthResponseObject, error) {
	return api.GetHealth200JSONResponse{Status: "ok", Version: s.version}, nil
}

var packed = regexp.MustCompile(`\.png$|/pictures/|/events$|/file$|/backups/|\.pdf$`)

// worthPacking says whether an answer is packed: pages are; pictures are already, news go out
// as they come, and the answer to a tap is short.
func worthPacking(c *gin.Context) bool {
	return c.Request.Method == http.MethodGet && strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") && !packed.MatchString(c.Request.URL.Path)
}
