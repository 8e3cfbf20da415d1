// Package api serves a plan over HTTP: the routes, their errors, and the OpenAPI document
// that is made from the Go types which serve them. Rules of the job are not here but in
// core; what is here is how they are asked for.
package api

import (
	"cmp"
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

	"envex/access"
	"envex/core/exchange"
	"envex/core/plan"
	"envex/core/signal"
	"envex/core/wav"
	"envex/store"
)

// MaxBody is the largest request body in bytes; a little over the largest file, so that it
// is the file that is refused, by name.
const MaxBody = plan.MaxFileBytes + 1<<20

// Server holds what the routes share.
type Server struct {
	store    *store.Store
	router   http.Handler
	newID    func() plan.ID
	demo     []byte
	web      fs.FS
	log      *slog.Logger
	work     *workshop
	clips    *clips
	kept     *signal.Kept
	ctx      context.Context // ends when the server is to stop
	arriving *turns          // for bodies that are large
	reading  *turns
	access   *access.Book // nil where the network cannot be let in
	network  Network      // nil where the network cannot be let in
	rescue   *Rescue      // nil where nothing is wrong with the database
	worked   Worked
	desks    *desks
	lately   *lately
	epoch    string // names this run of the server in states of the plan
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
	Access  *access.Book // who may come by way of the network; nobody when nil
	Network Network
	Rescue  *Rescue // where the store is what is sound of a damaged database

	Kept     *signal.Kept  // what was metered before; nothing when nil
	Worked   Worked        // where what was worked out stays from one start to the next; nowhere when nil
	Scratch  string        // a folder for sounds that are kept for a while; one of the system's when ""
	BodyTime time.Duration // how long the body of a request may take to arrive; 30 s when 0
}

// New is the handler of the whole application.
func New(o Options) http.Handler {
	s := &Server{
		store: o.Store, newID: o.NewID, demo: o.Demo, web: o.Web, log: o.Log, work: newWorkshop(o.Context),
		clips: newClips(o.Scratch), kept: cmp.Or(o.Kept, signal.NewKept()), ctx: o.Context,
		access: o.Access, network: o.Network,
		rescue: o.Rescue, worked: o.Worked, desks: newDesks(), lately: newLately(),
		arriving: newTurns(arriveAtOnce), reading: newTurns(readAtOnce), epoch: string(o.NewID()),
	}
	gin.SetMode(gin.ReleaseMode)
	router := gin.New()
	router.Use(s.recovery(), s.requestLog(), s.guard(cmp.Or(o.BodyTime, bodyTime)), s.admit())
	router.Use(s.large(cmp.Or(o.BodyTime, bodyTime)), s.named(), s.unchanged())
	s.routes(humagin.New(router, config()))
	router.GET("/api/clips/:id", s.serveClip)
	router.GET(eventsPath, s.events)
	router.GET(nightEventsPath, s.nightEvents)
	router.POST(recordingsPath, s.takeRecording)
	s.rawCopyRoutes(router)
	router.NoRoute(s.page)
	s.router = router
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
	aliasTypes(registry)
	c.Components.Schemas = registry
	return c
}

// guard keeps other sites out: the name the server is called by must be one that is its own, and a write
// must come from its own pages.
func (s *Server) guard(limit time.Duration) gin.HandlerFunc {
	return func(c *gin.Context) {
		h := c.Writer.Header()
		h.Set(
			"Content-Security-Policy",
			"default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; media-src 'self' blob:; connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'none'",
		)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		if writes(c.Request) {
			hurry(c, limit)
		}
		switch {
		case !s.knowsName(c.Request):
			refuse(c, http.StatusMisdirectedRequest, "This server answers to its address, not to "+c.Request.Host+".")
		case !ownPage(c.Request):
			refuse(c, http.StatusForbidden, "This request comes from another site.")
		case c.Request.URL.Path == recordingsPath && writes(c.Request):
			recording(c)
		case c.Request.URL.Path == readPath && writes(c.Request):
			otherFile(c, exchange.MaxBytes, "The file is larger than 2 MB.")
		case c.Request.URL.Path == copiesFilePath && writes(c.Request):
			otherFile(c, MaxCopy, "The copy is larger than 256 MB.")
		case writes(c.Request) && c.Request.ContentLength > MaxBody:
			refuse(c, http.StatusRequestEntityTooLarge, "The request is larger than 11 MB.")
		case writes(c.Request) && c.Request.ContentLength != 0 && !isJSON(c.Request):
			refuse(c, http.StatusUnsupportedMediaType, "Send JSON, with the content type application/json.")
		default:
			c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, MaxBody)
			c.Request = remembered(digested(c.Request))
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
func otherFile(c *gin.Context, most int64, large string) {
	if kind, _, _ := strings.Cut(c.Request.Header.Get("Content-Type"), ";"); strings.TrimSpace(kind) != "application/octet-stream" {
		refuse(c, http.StatusUnsupportedMediaType, "Send the file as it is, with the content type application/octet-stream.")
		return
	}
	if c.Request.ContentLength > most {
		refuse(c, http.StatusRequestEntityTooLarge, large)
		return
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, most)
	c.Next()
}

func writes(r *http.Request) bool { return r.Method != http.MethodGet && r.Method != http.MethodHead }

func isJSON(r *http.Request) bool {
	kind, _, _ := strings.Cut(r.Header.Get("Content-Type"), ";")
	return strings.TrimSpace(kind) == "application/json"
}

// ownPage reports whether a request comes from a page of this server, or from no page at all. Another
// site may neither write nor have work begun by reading.
func ownPage(r *http.Request) bool {
	site := r.Header.Get("Sec-Fetch-Site")
	foreign := site != "" && site != "same-origin" && site != "none"
	if !writes(r) {
		return !foreign || !strings.HasPrefix(r.URL.Path, "/api/")
	}
	if foreign {
		return false
	}
	origin := r.Header.Get("Origin")
	return origin == "" || origin == "http://"+r.Host || origin == "https://"+r.Host
}

// How long the body of a request may take to arrive: one that trickles in is cut off. A recording or
// a copy is large, and may take longer.
const (
	bodyTime       = 30 * time.Second
	recordingTimes = 6
)

// hurry sets the time a body may take. What has no connection, as in a test, cannot be hurried.
func hurry(c *gin.Context, limit time.Duration) {
	if path := c.Request.URL.Path; path == recordingsPath || path == copiesFilePath {
		limit *= recordingTimes
	}
	_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(limit))
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
		s.log.Debug(
			"request", "method", c.Request.Method, "path", c.Request.URL.Path, "status", c.Writer.Status(), "took",
			time.Since(start),
		)
	}
}
