package api

import (
	"fmt"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
)

// eventsPath is where a page hears that the plan has changed.
const eventsPath = "/api/events"

// heartbeat is how often a stream says that it is alive, so that one whose other end has gone is
// noticed.
const heartbeat = 20 * time.Second

// events is a stream of the states the plan comes to, as server-sent events: the one it is in when
// the stream begins, then each one that it is found in after a write. What is new in it is asked for
// with the state that is known.
func (s *Server) events(c *gin.Context) {
	changed, stop := s.store.Watch()
	defer stop()
	state := func(send func(string) bool) bool {
		return send(fmt.Sprintf("data: %s\n\n", s.stateOf(s.store.State().Seq)))
	}
	s.stream(c, told{changed, state})
}

// told is what a stream tells each time that a channel has something in it, and as it begins; false when that cannot be.
type told struct {
	when <-chan struct{}
	tell func(send func(string) bool) bool
}

// stream is a response of server-sent events, until its other end, its device or the server is gone. It tells two things
// at most.
func (s *Server) stream(c *gin.Context, what ...told) {
	h := c.Writer.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	control := http.NewResponseController(c.Writer)
	send := func(text string) bool {
		if _, err := c.Writer.WriteString(text); err != nil {
			return false
		}
		return control.Flush() == nil
	}
	alive := send("retry: 1000\n")
	for _, x := range what {
		alive = alive && x.tell(send)
	}
	what = append(what, told{}) // nothing comes from the channel of one that is not there
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for alive {
		select {
		case <-what[0].when:
			alive = what[0].tell(send)
		case <-what[1].when:
			alive = what[1].tell(send)
		case <-beat.C:
			alive = send(": still here\n\n")
		case <-callerOf(c.Request.Context()).gone:
			return // it was forgotten
		case <-c.Request.Context().Done():
			return
		case <-s.ctx.Done():
			return
		}
	}
}
