// Package wav reads and writes WAV files as channels of samples at 48 kHz.
package wav

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"math"

	"github.com/go-audio/audio"
	gowav "github.com/go-audio/wav"

	"envex/core/reason"
)

// Rate is the sample rate of what is read and written, in Hz.
const Rate = 48000

// Limits on what is read: a few minutes of a player's own recording.
const (
	MaxBytes   = 64 << 20
	MaxSeconds = 180
)

// Decode reads a WAV file in memory: its channels at 48 kHz with full scale at 1.
func Decode(data []byte) ([][]float64, error) {
	r, err := Open(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, err
	}
	return r.Read(nil)
}

// blockFrames is how much is read at a time.
const blockFrames = 8192

// Read gives the channels of a file at 48 kHz with full scale at 1. It reads a piece at a time, and takes no
// more memory than what it gives. Where something listens, it is given every piece as the file has it, at
// the file's own rate.
func (r *Reader) Read(listen func(block [][]float64)) ([][]float64, error) {
	to := make([]resampler, r.Channels)
	block := make([][]float64, r.Channels)
	for c := range to {
		to[c] = newResampler(r.Rate, r.Frames)
		block[c] = make([]float64, blockFrames)
	}
	width := r.Bits / 8
	from := io.NewSectionReader(r.from, r.at, int64(r.Frames*r.Channels*width))
	piece := make([]byte, blockFrames*r.Channels*width)
	for left := r.Frames; left > 0; {
		n := min(left, blockFrames)
		if _, err := io.ReadFull(from, piece[:n*r.Channels*width]); err != nil {
			return nil, reason.Errorf("the file is damaged: %w", err)
		}
		now := make([][]float64, r.Channels)
		for c := range now {
			now[c] = block[c][:n]
			for i := range now[c] {
				at := (i*r.Channels + c) * width
				now[c][i] = sample(piece[at:at+width], r.Float)
				if math.IsNaN(now[c][i]) || math.IsInf(now[c][i], 0) {
					return nil, reason.Errorf("a sample is not a number")
				}
			}
			to[c].push(now[c])
		}
		if listen != nil {
			listen(now)
		}
		left -= n
	}
	channels := make([][]float64, r.Channels)
	for c := range to {
		channels[c] = to[c].end()
	}
	return channels, nil
}

// sample is one sample with full scale at 1.
func sample(b []byte, float bool) float64 {
	switch {
	case float && len(b) == 8:
		return math.Float64frombits(binary.LittleEndian.Uint64(b))
	case float:
		return float64(math.Float32frombits(binary.LittleEndian.Uint32(b)))
	case len(b) == 1:
		return float64(int(b[0])-128) / 128
	case len(b) == 2:
		return float64(int16(binary.LittleEndian.Uint16(b))) / (1 << 15)
	case len(b) == 3:
		return float64(int32(uint32(b[0])<<8|uint32(b[1])<<16|uint32(b[2])<<24)>>8) / (1 << 23)
	}
	return float64(int32(binary.LittleEndian.Uint32(b))) / (1 << 31)
}

// encodePiece is how many frames are written at a time: the package that writes wants eight bytes a sample.
const encodePiece = 4096

// Encode writes one or two channels at 48 kHz as a WAV file of 16 bits; what is over full scale is
// held there. It fails when there are no channels or more than two, or when they differ in length.
func Encode[S float32 | float64](channels ...[]S) ([]byte, error) {
	if len(channels) < 1 || len(channels) > 2 || len(channels[0]) != len(channels[len(channels)-1]) {
		return nil, reason.Errorf("only mono, or stereo of the same length, can be written")
	}
	frames := len(channels[0])
	out := memory{data: make([]byte, 0, 64+2*frames*len(channels))}
	e := gowav.NewEncoder(&out, Rate, 16, len(channels), formatPCM)
	buffer := &audio.IntBuffer{Format: &audio.Format{NumChannels: len(channels), SampleRate: Rate}, SourceBitDepth: 16}
	for from := 0; from == 0 || from < frames; from += encodePiece {
		buffer.Data = buffer.Data[:0]
		for i := from; i < min(from+encodePiece, frames); i++ {
			for _, x := range channels {
				v := math.Round(float64(x[i]) * 32767)
				if math.IsNaN(v) {
					return nil, reason.Errorf("a sample is not a number")
				}
				buffer.Data = append(buffer.Data, int(math.Min(math.Max(v, -32768), 32767)))
			}
		}
		if err := e.Write(buffer); err != nil {
			return nil, fmt.Errorf("wav: %w", err)
		}
	}
	if err := e.Close(); err != nil {
		return nil, fmt.Errorf("wav: %w", err)
	}
	return out.data, nil
}

// memory is a file in memory that can be written at any place.
type memory struct {
	data []byte
	at   int
}

// Write puts bytes at the place it stands.
func (m *memory) Write(p []byte) (int, error) {
	if need := m.at + len(p); need > len(m.data) {
		m.data = append(m.data, make([]byte, need-len(m.data))...)
	}
	copy(m.data[m.at:], p)
	m.at += len(p)
	return len(p), nil
}

// Seek moves the place.
func (m *memory) Seek(offset int64, whence int) (int64, error) {
	base := map[int]int{io.SeekStart: 0, io.SeekCurrent: m.at, io.SeekEnd: len(m.data)}[whence]
	if m.at = base + int(offset); m.at < 0 {
		return 0, reason.Errorf("before the start")
	}
	return int64(m.at), nil
}
