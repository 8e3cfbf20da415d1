package api

import (
	"net/http"
	"strconv"
	"sync"

	"github.com/gin-gonic/gin"

	"envex/core/signal"
	"envex/core/wav"
)

// clips keeps what was rendered to be listened to, and what players brought to be metered, in memory
// and only for a while: neither is part of the plan.
type clips struct {
	mu    sync.Mutex
	next  int
	audio map[string][]byte    // WAV files
	dry   map[string][]float64 // the first channel of recordings
	order []string             // the oldest first
}

// What is kept at most: how much altogether, how much always, however large, and the length of a
// recording.
const (
	keptBytes      = 256 << 20
	keptAlways     = 4
	longestSeconds = 180
)

func newClips() *clips { return &clips{audio: map[string][]byte{}, dry: map[string][]float64{}} }

func (c *clips) keep(prefix string, put func(id string)) string {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.next++
	id := prefix + strconv.Itoa(c.next)
	put(id)
	c.order = append(c.order, id)
	for size := c.size(); size > keptBytes && len(c.order) > keptAlways; size = c.size() {
		delete(c.audio, c.order[0])
		delete(c.dry, c.order[0])
		c.order = c.order[1:]
	}
	return id
}

// size is how many bytes are kept. The lock is held.
func (c *clips) size() int {
	n := 0
	for _, data := range c.audio {
		n += len(data)
	}
	for _, x := range c.dry {
		n += 8 * len(x)
	}
	return n
}

func (c *clips) addAudio(data []byte) string {
	return c.keep("clip", func(id string) { c.audio[id] = data })
}

func (c *clips) addDry(channel []float64) string {
	return c.keep("take", func(id string) { c.dry[id] = channel })
}

func (c *clips) has(id string) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.audio[id] != nil
}

func (c *clips) recording(id string) ([]float64, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	x, ok := c.dry[id]
	return x, ok
}

// serveClip gives a rendered clip as a WAV file.
func (s *Server) serveClip(c *gin.Context) {
	s.clips.mu.Lock()
	data, ok := s.clips.audio[c.Param("id")]
	s.clips.mu.Unlock()
	if !ok {
		refuse(c, http.StatusNotFound, "That was rendered too long ago and is kept no more. Listen again.")
		return
	}
	c.Header("Cache-Control", "no-store")
	c.Data(http.StatusOK, "audio/wav", data)
}

// TakenIn is a recording that was brought, with what the meter says of it.
type TakenIn struct {
	ID    string          `json:"id"`
	Meter signal.Measured `json:"meter"`
}

// takeRecording takes a WAV file in to be metered or played through a rig.
func (s *Server) takeRecording(c *gin.Context) {
	data, err := c.GetRawData()
	if err != nil {
		refuse(c, http.StatusRequestEntityTooLarge, "The recording is larger than 64 MB.")
		return
	}
	channels, err := wav.Decode(data)
	if err != nil {
		refuse(c, http.StatusUnprocessableEntity, sentence(err.Error())+" Nothing was changed.")
		return
	}
	if len(channels[0]) > longestSeconds*signal.Rate {
		refuse(c, http.StatusUnprocessableEntity, "The recording is longer than three minutes. Cut it to the part that is to be played. Nothing was changed.")
		return
	}
	c.JSON(http.StatusOK, TakenIn{ID: s.clips.addDry(channels[0]), Meter: signal.Meter(channels...)})
}
