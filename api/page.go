package api

import (
	"io"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// page serves the built front end: files by name, and its one page for every other path,
// which the front end routes itself.
func (s *Server) page(c *gin.Context) {
	name := strings.TrimPrefix(c.Request.URL.Path, "/")
	if strings.HasPrefix(name, "api/") || writes(c.Request) {
		refuse(c, http.StatusNotFound, "There is nothing at "+c.Request.URL.Path+".")
		return
	}
	if info, err := fs.Stat(s.web, name); err == nil && !info.IsDir() {
		if strings.HasPrefix(name, "assets/") { // its name says what is in it
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
			// A policy says what a page may do, and none of these is a page: it is a quarter of a kB for each of them.
			switch path.Ext(name) {
			case ".js", ".css", ".woff2":
				c.Writer.Header().Del("Content-Security-Policy")
			}
		}
		s.file(c, name)
		return
	}
	if _, err := fs.Stat(s.web, "index.html"); err != nil {
		refuse(c, http.StatusNotFound, "The front end was not built into this binary: run make build.")
		return
	}
	c.Header("Cache-Control", "no-cache")
	s.file(c, "index.html")
}

// The encodings that files are compressed in when they are built, the smallest first, and how their names end then.
var encodings = []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// file serves a file, compressed where it was compressed when it was built and the client takes it.
// A part of a file is a part of it as it is.
func (s *Server) file(c *gin.Context, name string) {
	c.Header("Vary", "Accept-Encoding")
	c.Header("Content-Type", typeOf(name))
	if c.GetHeader("Range") == "" {
		for _, e := range encodings {
			if takes(c.GetHeader("Accept-Encoding"), e.name) && s.send(c, name+e.ending, e.name) {
				return
			}
		}
	}
	if !s.send(c, name, "") {
		refuse(c, http.StatusNotFound, "There is nothing at "+c.Request.URL.Path+".")
	}
}

// send is false where there is no such file.
func (s *Server) send(c *gin.Context, name, encoding string) bool {
	f, err := s.web.Open(name)
	if err != nil {
		return false
	}
	defer f.Close()
	content, ok := f.(io.ReadSeeker)
	if !ok {
		return false
	}
	if encoding != "" {
		c.Header("Content-Encoding", encoding)
		if info, err := f.Stat(); err == nil { // else it goes in pieces
			c.Header("Content-Length", strconv.FormatInt(info.Size(), 10))
		}
	}
	http.ServeContent(c.Writer, c.Request, "", time.Time{}, content)
	return true
}

func typeOf(name string) string {
	if t := mime.TypeByExtension(path.Ext(name)); t != "" {
		return t
	}
	return "application/octet-stream"
}

// takes is whether a client that lists what it takes takes an encoding.
func takes(accepted, encoding string) bool {
	for part := range strings.SplitSeq(accepted, ",") {
		name, weight, _ := strings.Cut(strings.TrimSpace(part), ";")
		weight = strings.ReplaceAll(weight, " ", "")
		if strings.EqualFold(strings.TrimSpace(name), encoding) {
			return weight != "q=0" && !strings.HasPrefix(weight, "q=0.0")
		}
	}
	return false
}
