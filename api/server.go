// Package api serves a plan over HTTP: the routes, their errors, and the OpenAPI document
// that is made from the Go types which serve them. Rules of the job are not here but in
// core; what is here is how they are asked for.
package api

import (
	"context"
	"encoding/json"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/wav"
	"envex/store"
)

// MaxBody is the largest request body in bytes; a little over the largest file, so that it
// is the file that is refused, by name.
const MaxBody = plan.MaxFileBytes + 1<<20

// Server holds what the routes share.
type Server struct {
	store *store.Store
	newID func() plan.ID
	demo  []byte
	web   fs.FS
	log   *slog.Logger
	work  *workshop
	clips *clips
}

// Options are what a server is made of. Web is the built front end; Demo the demo file. Work that
// outlives its request ends with Context.
type Options struct {
	Context context.Context
	Store   *store.Store
	NewID   func() plan.ID
	Demo    []byte
	Web     fs.FS
	Log     *slog.Logger
}

// New is the handler of the whole application.
func New(o Options) http.Handler {
	s := &Server{store: o.Store, newID: o.NewID, demo: o.Demo, web: o.Web, log: o.Log, work: newWorkshop(o.Context), clips: newClips()}
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(s.recovery(), s.requestLog(), guard())
	s.routes(humagin.New(router, config()))
	router.GET("/api/clips/:id", s.serveClip)
	router.POST(recordingsPath, s.takeRecording)
	router.NoRoute(s.page)
	return router
}

// Document is the OpenAPI document of the routes, as JSON.
func Document() ([]byte, error) {
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	api := humagin.New(router, config())
	(&Server{}).routes(api)
	data, err := json.MarshalIndent(api.OpenAPI(), "", "  ")
	if err != nil {
		return nil, fmt.Errorf("api: write document: %w", err)
	}
	return append(data, '\n'), nil
}

func init() {
	huma.DefaultArrayNullable = false // an empty list is [], never null
}

func config() huma.Config {
	c := huma.DefaultConfig("Envex", "1")
	c.Info.Description = "Plans a guitarist's live rig so that every sound the set needs can be reached on stage, in time, at the right level."
	c.OpenAPIPath, c.DocsPath, c.SchemasPath = "/api/openapi", "", ""
	c.CreateHooks = nil // no $schema links in answers
	registry := huma.NewMapRegistry("#/components/schemas/", schemaName)
	aliasValue(registry)
	c.Components.Schemas = registry
	return c
}

// guard keeps other sites out of a server that trusts whoever can reach it: the name it is
// called by must be a loopback name or an address, and a write must come from its own pages.
func guard() gin.HandlerFunc {
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; media-src 'self' blob:; connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		switch {
		case !knownHost(c.Request.Host):
			refuse(c, http.StatusMisdirectedRequest, "This server answers to its address, not to "+c.Request.Host+".")
		case !ownPage(c.Request):
			refuse(c, http.StatusForbidden, "This request comes from another site.")
		case c.Request.URL.Path == recordingsPath && writes(c.Request):
			recording(c)
		case c.Request.URL.Path == readPath && writes(c.Request):
			otherFile(c)
		case writes(c.Request) && c.Request.ContentLength > MaxBody:
			refuse(c, http.StatusRequestEntityTooLarge, "The request is larger than 11 MB.")
		case writes(c.Request) && c.Request.ContentLength != 0 && !isJSON(c.Request):
			refuse(c, http.StatusUnsupportedMediaType, "Send JSON, with the content type application/json.")
		default:
			c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, MaxBody)
			c.Next()
		}
	}
}

// recordingsPath is where a player's own recordings are brought. With readPath it is all that is no JSON.
const recordingsPath = "/api/recordings"

// recording lets a WAV file of some size pass.
func recording(c *gin.Context) {
	kind, _, _ := strings.Cut(c.Request.Header.Get("Content-Type"), ";")
	switch strings.TrimSpace(kind) {
	case "audio/wav", "audio/x-wav", "audio/wave", "audio/vnd.wave":
	default:
		refuse(c, http.StatusUnsupportedMediaType, "Bring a WAV file, with the content type audio/wav.")
		return
	}
	if c.Request.ContentLength > wav.MaxBytes {
		refuse(c, http.StatusRequestEntityTooLarge, "The recording is larger than 64 MB.")
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, wav.MaxBytes)
	c.Next()
}

// otherFile lets a file of another program through, to be read; a page of another site cannot send its
// content type without asking first.
func otherFile(c *gin.Context) {
	if kind, _, _ := strings.Cut(c.Request.Header.Get("Content-Type"), ";"); strings.TrimSpace(kind) != "application/octet-stream" {
		refuse(c, http.StatusUnsupportedMediaType, "Send the file as it is, with the content type application/octet-stream.")
		return
	}
	if c.Request.ContentLength > exchange.MaxBytes {
		refuse(c, http.StatusRequestEntityTooLarge, "The file is larger than 2 MB.")
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, exchange.MaxBytes)
	c.Next()
}

func writes(r *http.Request) bool { return r.Method != http.MethodGet && r.Method != http.MethodHead }

func isJSON(r *http.Request) bool {
	kind, _, _ := strings.Cut(r.Header.Get("Content-Type"), ";")
	return strings.TrimSpace(kind) == "application/json"
}

// knownHost accepts loopback names and plain addresses, which no other site's name can be
// made to point at.
func knownHost(host string) bool {
	name := host
	if i := strings.LastIndex(host, ":"); i >= 0 && !strings.HasSuffix(host, "]") {
		name = host[:i]
	}
	if name == "localhost" || strings.HasPrefix(name, "[") {
		return true
	}
	return name != "" && strings.Trim(name, "0123456789.") == ""
}

func ownPage(r *http.Request) bool {
	if !writes(r) {
		return true
	}
	if site := r.Header.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return false
	}
	origin := r.Header.Get("Origin")
	return origin == "" || origin == "http://"+r.Host || origin == "https://"+r.Host
}

func refuse(c *gin.Context, status int, detail string) {
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(status, huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: detail})
}

func (s *Server) recovery() gin.HandlerFunc {
	return gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, fault any) {
		s.log.Error("request failed", "path", c.Request.URL.Path, "fault", fmt.Sprint(fault))
		refuse(c, http.StatusInternalServerError, "Something went wrong inside Envex. Nothing was changed.")
	})
}

func (s *Server) requestLog() gin.HandlerFunc {
	return func(c *gin.Context) {
		start := time.Now()
		c.Next()
		s.log.Debug("request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "took", time.Since(start))
	}
}

// page serves the built front end: files by name, and its one page for every other path,
// which the front end routes itself.
func (s *Server) page(c *gin.Context) {
	path := strings.TrimPrefix(c.Request.URL.Path, "/")
	if strings.HasPrefix(path, "api/") || writes(c.Request) {
		refuse(c, http.StatusNotFound, "There is nothing at "+c.Request.URL.Path+".")
		return
	}
	if info, err := fs.Stat(s.web, path); err == nil && !info.IsDir() {
		if strings.HasPrefix(path, "assets/") {
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		c.FileFromFS(path, http.FS(s.web))
		return
	}
	index, err := fs.ReadFile(s.web, "index.html")
	if err != nil {
		refuse(c, http.StatusNotFound, "The front end was not built into this binary: run make build.")
		return
	}
	c.Header("Cache-Control", "no-cache")
	c.Data(http.StatusOK, "text/html; charset=utf-8", index)
}
