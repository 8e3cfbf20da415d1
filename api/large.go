package api

import (
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/gin-gonic/gin"
)

// What is large takes its turn: so many arrive at once, one of them is read at a time, and while it waits
// it lies on the disk. So the memory of the server does not grow with how many come.
const (
	smallBody    = 256 << 10
	arriveAtOnce = 4
	readAtOnce   = 1
)

// large has bodies that are large, or of a length that is not said, arrive on the disk, and lets one of
// them through at a time.
func (s *Server) large(limit time.Duration) gin.HandlerFunc {
	return func(c *gin.Context) {
		r := c.Request
		if !writes(r) || r.ContentLength >= 0 && r.ContentLength <= smallBody {
			c.Next()
			return
		}
		who := callerOf(r.Context()).client()
		if s.arriving.take(r.Context(), who) != nil {
			c.Abort() // it has gone
			return
		}
		body, err := arrived(c, limit)
		s.arriving.give()
		if err != nil {
			s.tooLarge(c, err, "The request is larger than it may be.")
			return
		}
		defer body.remove()
		if s.reading.take(r.Context(), who) != nil {
			c.Abort()
			return
		}
		defer s.reading.give()
		r.Body = body
		c.Next()
	}
}

// spooled is a body that lies on the disk.
type spooled struct {
	*os.File
	dir string
}

// Close leaves it be: it may be asked to rest more than once.
func (b *spooled) Close() error { return nil }

func (b *spooled) remove() {
	_ = b.File.Close()
	_ = os.RemoveAll(b.dir) // it is in the system's folder for what goes by itself
}

func arrived(c *gin.Context, limit time.Duration) (*spooled, error) {
	hurry(c, limit) // from when its turn came
	dir, err := os.MkdirTemp("", "envex-body-")
	if err != nil {
		return nil, err
	}
	path := filepath.Join(dir, "body")
	if err := spool(c.Request.Body, path); err != nil {
		_ = os.RemoveAll(dir)
		return nil, err
	}
	// What comes after it, such as the next request, has all the time there is.
	_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Time{})
	f, err := os.Open(path)
	if err != nil {
		_ = os.RemoveAll(dir)
		return nil, err
	}
	return &spooled{File: f, dir: dir}, nil
}
