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
	state := func() string { return fmt.Sprintf("data: %s\n\n", s.stateOf(s.store.State().Seq)) }
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for alive := send("retry: 1000\n" + state()); alive; {
		select {
		case <-changed:
			alive = send(state())
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
