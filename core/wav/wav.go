// Package wav reads and writes WAV files as channels of samples at 48 kHz.
package wav

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"math"

	"github.com/go-audio/audio"
	gowav "github.com/go-audio/wav"
	"gonum.org/v1/gonum/dsp/fourier"
)

// Rate is the sample rate of what is read and written, in Hz.
const Rate = 48000

// Limits on what is read: a few minutes of a player's own recording.
const (
	MaxBytes   = 64 << 20
	MaxSeconds = 300
)

// formats of a WAV file's samples that are read.
const (
	formatPCM        = 1
	formatFloat      = 3
	formatExtensible = 0xFFFE
)

// Decode reads a WAV file of one or two channels, 8 to 32 bits as whole numbers or 32 as floating
// point, at any rate from 8 to 192 kHz, and gives its channels at 48 kHz with full scale at 1. It
// fails with a sentence for anything else.
func Decode(data []byte) (channels [][]float64, err error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("wav: the file is %d MB; %d MB is the most", len(data)>>20, MaxBytes>>20)
	}
	defer func() {
		if fault := recover(); fault != nil { // the decoder trusts the sizes in a header
			channels, err = nil, errors.New("wav: the file is damaged")
		}
	}()
	if len(data) < 44 || !bytes.Equal(data[:4], []byte("RIFF")) || !bytes.Equal(data[8:12], []byte("WAVE")) {
		return nil, errors.New("wav: this is not a WAV file")
	}
	d := gowav.NewDecoder(bytes.NewReader(data))
	d.ReadInfo()
	if d.Err() != nil && !errors.Is(d.Err(), io.EOF) {
		return nil, fmt.Errorf("wav: the file is damaged: %w", d.Err())
	}
	bits, rate, count := int(d.BitDepth), int(d.SampleRate), int(d.NumChans)
	switch {
	case d.WavAudioFormat != formatPCM && d.WavAudioFormat != formatFloat && d.WavAudioFormat != formatExtensible:
		return nil, fmt.Errorf("wav: its samples are compressed (format %d); whole numbers or floating point are read", d.WavAudioFormat)
	case count != 1 && count != 2:
		return nil, fmt.Errorf("wav: it has %d channels; one or two are read", count)
	case bits != 8 && bits != 16 && bits != 24 && bits != 32, d.WavAudioFormat == formatFloat && bits != 32:
		return nil, fmt.Errorf("wav: its samples have %d bits; 8, 16, 24 or 32 are read", bits)
	case rate < 8000 || rate > 192000:
		return nil, fmt.Errorf("wav: its rate is %d Hz; 8 to 192 kHz is read", rate)
	}
	buffer, err := d.FullPCMBuffer()
	if err != nil {
		return nil, fmt.Errorf("wav: the file is damaged: %w", err)
	}
	frames := len(buffer.Data) / count
	switch {
	case frames == 0:
		return nil, errors.New("wav: it has no samples")
	case frames > MaxSeconds*rate:
		return nil, fmt.Errorf("wav: it lasts %d s; %d is the most", frames/rate, MaxSeconds)
	}
	channels = make([][]float64, count)
	for c := range channels {
		x := make([]float64, frames)
		for i := range x {
			x[i] = sample(buffer.Data[i*count+c], bits, d.WavAudioFormat == formatFloat)
			if math.IsNaN(x[i]) || math.IsInf(x[i], 0) {
				return nil, errors.New("wav: a sample is not a number")
			}
		}
		channels[c] = resampled(x, rate)
	}
	return channels, nil
}

// sample is one sample with full scale at 1.
func sample(v, bits int, float bool) float64 {
	switch {
	case float:
		return float64(math.Float32frombits(uint32(v)))
	case bits == 8:
		return float64(v-128) / 128
	}
	return float64(v) / float64(int64(1)<<(bits-1))
}

// resampled brings a signal to 48 kHz by way of its spectrum, in pieces that overlap by half under a
// window whose halves add up to one, so that a long file takes no more than a short one at a time.
func resampled(x []float64, rate int) []float64 {
	if rate == Rate {
		return x
	}
	// A whole number of samples at both rates: 1/50 s is one at every common rate.
	step := rate / 50 * 8
	to := step * Rate / rate
	if step*Rate%rate != 0 {
		step, to = rate, Rate
	}
	in, out := fourier.NewFFT(2*step), fourier.NewFFT(2*to)
	padded := append(append(make([]float64, step), x...), make([]float64, 2*step)...)
	y := make([]float64, (len(padded)/step+2)*to)
	frame := make([]float64, 2*step)
	for k := 0; (k+2)*step <= len(padded); k++ {
		for i := range frame {
			w := math.Sin(math.Pi * (float64(i) + 0.5) / float64(2*step))
			frame[i] = padded[k*step+i] * w * w
		}
		spectrum := in.Coefficients(nil, frame)
		other := make([]complex128, to+1)
		copy(other, spectrum[:min(len(spectrum), len(other))])
		for i, v := range out.Sequence(nil, other) {
			y[k*to+i] += v / float64(2*step)
		}
	}
	return y[to : to+int(math.Ceil(float64(len(x))*Rate/float64(rate)))]
}

// Encode writes one or two channels at 48 kHz as a WAV file of 16 bits; what is over full scale is
// held there. It fails when there are no channels or more than two, or when they differ in length.
func Encode(channels ...[]float64) ([]byte, error) {
	if len(channels) < 1 || len(channels) > 2 || len(channels[0]) != len(channels[len(channels)-1]) {
		return nil, errors.New("wav: one channel, or two of the same length, are written")
	}
	buffer := &audio.IntBuffer{Format: &audio.Format{NumChannels: len(channels), SampleRate: Rate}, SourceBitDepth: 16}
	for i := range channels[0] {
		for _, x := range channels {
			v := math.Round(x[i] * 32767)
			if math.IsNaN(v) {
				return nil, errors.New("wav: a sample is not a number")
			}
			buffer.Data = append(buffer.Data, int(math.Min(math.Max(v, -32768), 32767)))
		}
	}
	var out memory
	e := gowav.NewEncoder(&out, Rate, 16, len(channels), formatPCM)
	if err := e.Write(buffer); err != nil {
		return nil, fmt.Errorf("wav: %w", err)
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
		return 0, errors.New("wav: before the start")
	}
	return int64(m.at), nil
}
