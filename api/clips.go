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
	audio map[string][]byte      // WAV files
	dry   map[string][][]float64 // recordings, as channels
	order []string
}

// keptClips is how many are kept: some minutes of audio.
const keptClips = 48

func newClips() *clips { return &clips{audio: map[string][]byte{}, dry: map[string][][]float64{}} }

func (c *clips) keep(prefix string, put func(id string)) string {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.next++
	id := prefix + strconv.Itoa(c.next)
	put(id)
	c.order = append(c.order, id)
	for len(c.order) > keptClips {
		delete(c.audio, c.order[0])
		delete(c.dry, c.order[0])
		c.order = c.order[1:]
	}
	return id
}

func (c *clips) addAudio(data []byte) string {
	return c.keep("clip", func(id string) { c.audio[id] = data })
}

func (c *clips) addDry(channels [][]float64) string {
	return c.keep("take", func(id string) { c.dry[id] = channels })
}

func (c *clips) recording(id string) ([][]float64, bool) {
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
	c.JSON(http.StatusOK, TakenIn{ID: s.clips.addDry(channels), Meter: signal.Meter(channels...)})
}
