package api

import (
	"bufio"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/hashicorp/golang-lru/v2/simplelru"

	"envex/core/signal"
	"envex/core/wav"
)

// clips keeps what was rendered to be listened to, and what players brought to be metered, on the disk and
// only for a while: neither is part of the plan, and a few minutes of sound are much memory.
type clips struct {
	mu    sync.Mutex
	dir   string // made when it is first needed
	next  int
	sizes *simplelru.LRU[string, int64] // those that were asked for last stay longest
	bytes int64
}

// What is kept at most: how much altogether, and how much always, however large.
const (
	keptBytes  = 128 << 20
	keptAlways = 4
)

func newClips(dir string) *clips {
	c := &clips{dir: dir}
	c.sizes, _ = simplelru.NewLRU(math.MaxInt32, func(gone string, size int64) { // it fails on a size of 0 only
		_ = os.Remove(filepath.Join(c.dir, gone)) // what stays of it goes with its folder
		c.bytes -= size
	})
	return c
}

// keep writes one more, and removes those that have expired.
func (c *clips) keep(prefix string, write func(*bufio.Writer) error) (string, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.dir == "" {
		dir, err := os.MkdirTemp("", "envex-clips-")
		if err != nil {
			return "", fmt.Errorf("api: %w", err)
		}
		c.dir = dir
	}
	c.next++
	id := prefix + strconv.Itoa(c.next)
	size, err := kept(filepath.Join(c.dir, id), write)
	if err != nil {
		return "", fmt.Errorf("api: keep a sound: %w", err)
	}
	c.sizes.Add(id, size)
	for c.bytes += size; c.bytes > keptBytes && c.sizes.Len() > keptAlways; {
		c.sizes.RemoveOldest()
	}
	return id, nil
}

func kept(path string, write func(*bufio.Writer) error) (int64, error) {
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return 0, err
	}
	out := bufio.NewWriter(f)
	if err := errors.Join(write(out), out.Flush()); err != nil {
		return 0, errors.Join(err, f.Close(), os.Remove(path))
	}
	info, err := f.Stat()
	return info.Size(), errors.Join(err, f.Close())
}

func (c *clips) addAudio(data []byte) (string, error) {
	return c.keep("clip", func(w *bufio.Writer) error {
		_, err := w.Write(data)
		return err
	})
}

// addDry keeps channels in single precision, which is more than any recording has: how many, then each.
func (c *clips) addDry(channels [][]float64) (string, error) {
	return c.keep("take", func(w *bufio.Writer) error {
		var sample [4]byte
		put := func(x uint32) error {
			binary.LittleEndian.PutUint32(sample[:], x)
			_, err := w.Write(sample[:])
			return err
		}
		if err := put(uint32(len(channels))); err != nil {
			return err
		}
		for _, channel := range channels {
			for _, v := range channel {
				if err := put(math.Float32bits(float32(v))); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// path is where one is; false where it has expired.
func (c *clips) path(id string) (string, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	_, ok := c.sizes.Get(id)
	return filepath.Join(c.dir, id), ok
}

func (c *clips) has(id string) bool {
	_, ok := c.path(id)
	return ok
}

// recording are the channels of one; false where it has expired.
func (c *clips) recording(id string) ([][]float64, bool) {
	path, ok := c.path(id)
	if !ok {
		return nil, false
	}
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, false // it went in between
	}
	if len(data) < 4 {
		return nil, false
	}
	channels := make([][]float64, binary.LittleEndian.Uint32(data))
	each := (len(data)/4 - 1) / max(1, len(channels))
	for k := range channels {
		channels[k] = make([]float64, each)
		for i := range channels[k] {
			channels[k][i] = float64(math.Float32frombits(binary.LittleEndian.Uint32(data[4+4*(k*each+i):])))
		}
	}
	return channels, len(channels) > 0
}

// serveClip gives a rendered clip as a WAV file.
func (s *Server) serveClip(c *gin.Context) {
	path, ok := s.clips.path(c.Param("id"))
	data, err := os.Open(path)
	if !ok || err != nil {
		refuse(c, http.StatusNotFound, "This clip has expired. Listen again.")
		return
	}
	defer data.Close()
	info, err := data.Stat()
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store")
	c.Header("Content-Type", "audio/wav")
	http.ServeContent(c.Writer, c.Request, "", info.ModTime(), data)
}

// TakenIn is a recording that was brought, with what the meter says of it.
type TakenIn struct {
	ID    string          `json:"id"`
	Meter signal.Measured `json:"meter"`
}

// takeRecording takes a WAV file in to be metered or played through a rig.
func (s *Server) takeRecording(c *gin.Context) {
	dir, err := os.MkdirTemp("", "envex-take-")
	if err != nil {
		s.fail(c, err)
		return
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "take.wav")
	if err := spool(c.Request.Body, path); err != nil {
		s.tooLarge(c, err, "The recording is larger than 64 MB.")
		return
	}
	taken, err := s.taken(path)
	if err != nil {
		s.fail(c, s.refusal(err))
		return
	}
	c.JSON(http.StatusOK, taken)
}

func (s *Server) taken(path string) (TakenIn, error) {
	f, err := os.Open(path)
	if err != nil {
		return TakenIn{}, fmt.Errorf("api: %w", err)
	}
	defer f.Close()
	size, err := f.Seek(0, io.SeekEnd)
	if err != nil {
		return TakenIn{}, fmt.Errorf("api: %w", err)
	}
	from, err := wav.Open(f, size)
	if err != nil {
		return TakenIn{}, err
	}
	meter := signal.NewLoudnessMeter(from.Rate, from.Channels)
	channels, err := from.Read(meter.Push)
	if err != nil {
		return TakenIn{}, err
	}
	id, err := s.clips.addDry(channels)
	return TakenIn{ID: id, Meter: meter.Measured()}, err
}

// tooLarge answers a request whose body could not be written down.
func (s *Server) tooLarge(c *gin.Context, err error, large string) {
	var most *http.MaxBytesError
	switch {
	case errors.As(err, &most):
		refuse(c, http.StatusRequestEntityTooLarge, large)
	case errors.Is(err, os.ErrDeadlineExceeded):
		refuse(c, http.StatusRequestTimeout, "The request took too long to arrive. Nothing was changed.")
	default:
		s.fail(c, err)
	}
}
