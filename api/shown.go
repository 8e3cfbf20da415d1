package api

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"runtime"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
)

// Answer is what a question about the plan was answered: whole, or what became different in an answer that the client
// has.
type Answer struct {
	Question string          `json:"question" doc:"The path and query that was asked."`
	At       string          `json:"at" doc:"The state of the plan that it was computed from."`
	Body     json.RawMessage `json:"body,omitempty" doc:"The whole answer; absent where since is there."`
	Tag      string          `json:"tag,omitempty" doc:"Names this very answer to later writes; a short answer has none."`
	Since    string          `json:"since,omitempty" doc:"The tag of the answer that what changed is to be put into."`
	Changed  []ChangedPart   `json:"changed,omitempty"`
}

// maxQuestions is how many questions one write may bring.
const maxQuestions = 24

// planPath asks for everything there is.
const planPath = "/api/plan"

// What is answered from the plan alone, and whole: while that has not changed, neither has the answer. Work that is
// asked how far it is is not among them.
var ofThePlan = []string{
	planPath, "/api/reach", "/api/order", "/api/order/lessons", "/api/place", "/api/cables", "/api/electric",
	"/api/power", "/api/floor", "/api/floor/sizes", "/api/tempo", "/api/tempo/notes", "/api/tempo/meanings",
	"/api/tempo/set-order", "/api/layers", "/api/midi", "/api/next", "/api/sections", "/api/kinds", "/api/effects",
	"/api/sound-words", "/api/feet", "/api/parts/kinds", "/api/parts/playing", "/api/dialled", "/api/slots", "/api/slots/picked",
	"/api/slots/otherwise",
}

// usesPath and an id ask for what mentions a thing.
const usesPath = "/api/uses/"

func isOfThePlan(path string) bool {
	return slices.Contains(ofThePlan, path) || strings.HasPrefix(path, usesPath)
}

// unchanged answers a question about the plan that was answered before, and says so, when nothing was
// written since: the client has the answer. Everything else goes on.
func (s *Server) unchanged() gin.HandlerFunc {
	return func(c *gin.Context) {
		if c.Request.Method != http.MethodGet || s.store == nil || !isOfThePlan(c.Request.URL.Path) {
			return
		}
		tag := `"` + s.stateOf(s.store.State().Seq) + `"`
		c.Header("ETag", tag)
		c.Header("Cache-Control", "private, no-cache")
		if c.GetHeader("If-None-Match") == tag {
			c.AbortWithStatus(http.StatusNotModified)
		}
	}
}

type requestKey struct{}

// remembered keeps a request in its own context, so that it can be asked further questions in the same name.
func remembered(r *http.Request) *http.Request {
	return r.WithContext(context.WithValue(r.Context(), requestKey{}, r))
}

// shown answers the questions that a write brings, as if each were asked by itself by whoever writes. It is a help:
// what is no such question, and what has no answer, is left out, and the client asks for itself what it is not told.
func (s *Server) shown(ctx context.Context, list string) []Answer {
	from, ok := ctx.Value(requestKey{}).(*http.Request)
	if !ok || list == "" {
		return nil
	}
	questions := strings.Fields(list)
	questions = questions[:min(len(questions), maxQuestions)]
	answers := make([]Answer, len(questions))
	turns := make(chan struct{}, runtime.GOMAXPROCS(0))
	var all sync.WaitGroup
	for i, q := range questions {
		q, known, _ := strings.Cut(q, "#")
		turns <- struct{}{}
		all.Go(func() {
			defer func() { <-turns }()
			answers[i] = s.lately.shorter(s.answered(ctx, from, q), known)
		})
	}
	all.Wait()
	return slices.DeleteFunc(answers, func(a Answer) bool { return a.Question == "" })
}

// answered is the answer to one question; without a body where there is none.
func (s *Server) answered(ctx context.Context, from *http.Request, question string) Answer {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, question, http.NoBody)
	if err != nil || r.URL.IsAbs() || r.URL.Path == planPath || !isOfThePlan(r.URL.Path) {
		return Answer{}
	}
	r.Host, r.RemoteAddr, r.TLS = from.Host, from.RemoteAddr, from.TLS
	r.Header["Cookie"] = from.Header["Cookie"]
	into := &noted{header: http.Header{}, status: http.StatusOK}
	s.router.ServeHTTP(into, r)
	if into.status != http.StatusOK {
		return Answer{}
	}
	return Answer{Question: question, At: into.header.Get(stateHeader), Body: into.body.Bytes()}
}

// noted keeps an answer instead of sending it.
type noted struct {
	header http.Header
	status int
	body   bytes.Buffer
}

func (n *noted) Header() http.Header         { return n.header }
func (n *noted) WriteHeader(status int)      { n.status = status }
func (n *noted) Write(p []byte) (int, error) { return n.body.Write(p) }
