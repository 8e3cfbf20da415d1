package wav_test

import (
	"encoding/binary"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/wav"
)

func sine(hz float64, rate, n int) []float64 {
	x := make([]float64, n)
	for i := range x {
		x[i] = 0.5 * math.Sin(2*math.Pi*hz*float64(i)/float64(rate))
	}
	return x
}

// file is a WAV file by hand, for what the encoder does not write.
func file(format, channels, rate, bits int, data []byte) []byte {
	b := []byte("RIFF\x00\x00\x00\x00WAVEfmt \x10\x00\x00\x00")
	b = binary.LittleEndian.AppendUint16(b, uint16(format))
	b = binary.LittleEndian.AppendUint16(b, uint16(channels))
	b = binary.LittleEndian.AppendUint32(b, uint32(rate))
	b = binary.LittleEndian.AppendUint32(b, uint32(rate*channels*bits/8))
	b = binary.LittleEndian.AppendUint16(b, uint16(channels*bits/8))
	b = binary.LittleEndian.AppendUint16(b, uint16(bits))
	b = append(b, "data"...)
	b = binary.LittleEndian.AppendUint32(b, uint32(len(data)))
	b = append(b, data...)
	binary.LittleEndian.PutUint32(b[4:], uint32(len(b)-8))
	return b
}

func TestWhatIsWrittenIsRead(t *testing.T) {
	l, r := sine(440, wav.Rate, 4800), sine(660, wav.Rate, 4800)
	data, err := wav.Encode(l, r)
	require.NoError(t, err)
	got, err := wav.Decode(data)
	require.NoError(t, err)
	require.Len(t, got, 2)
	for i := range l {
		require.InDelta(t, l[i], got[0][i], 1.0/32000)
		require.InDelta(t, r[i], got[1][i], 1.0/32000)
	}
	loud, err := wav.Encode([]float64{2, -2})
	require.NoError(t, err)
	got, err = wav.Decode(loud)
	require.NoError(t, err)
	assert.InDelta(t, 1, got[0][0], 1e-4)
	assert.InDelta(t, -1, got[0][1], 1e-9)
}

func TestOtherDepthsAndRatesAreRead(t *testing.T) {
	for _, rate := range []int{8000, 22050, 44100, 96000, 192000, 47999} {
		x := sine(441, rate, rate)
		var data []byte
		for _, v := range x {
			data = binary.LittleEndian.AppendUint32(data, math.Float32bits(float32(v)))
		}
		got, err := wav.Decode(file(3, 1, rate, 32, data))
		require.NoError(t, err)
		require.InDelta(t, wav.Rate, len(got[0]), 1)
		want := sine(441, wav.Rate, wav.Rate)
		for i := 2000; i < 40000; i++ {
			require.InDelta(t, want[i], got[0][i], 2e-3, "%d Hz, sample %d", rate, i)
		}
	}
	for _, bits := range []int{8, 16, 24} {
		var data []byte
		for _, v := range sine(440, wav.Rate, 480) {
			n := int64(math.Round(v * float64(int64(1)<<(bits-1)-1)))
			if bits == 8 {
				data = append(data, byte(n+128))
				continue
			}
			for k := range bits / 8 {
				data = append(data, byte(n>>(8*k)))
			}
		}
		got, err := wav.Decode(file(1, 1, wav.Rate, bits, data))
		require.NoError(t, err)
		for i, v := range sine(440, wav.Rate, 480) {
			require.InDelta(t, v, got[0][i], 2.0/float64(int64(1)<<(bits-1)), "%d bits", bits)
		}
	}
}

func TestWhatCannotBeReadIsSaid(t *testing.T) {
	nan := binary.LittleEndian.AppendUint32(nil, math.Float32bits(float32(math.NaN())))
	for says, data := range map[string][]byte{
		"not a WAV file":  []byte("ID3 something that is longer than forty-four bytes, all told"),
		"compressed":      file(85, 1, 48000, 16, make([]byte, 8)),
		"3 channels":      file(1, 3, 48000, 16, make([]byte, 12)),
		"12 bits":         file(1, 1, 48000, 12, make([]byte, 12)),
		"rate is 4000 Hz": file(1, 1, 4000, 16, make([]byte, 12)),
		"no samples":      file(1, 1, 48000, 16, nil),
		"not a number":    file(3, 1, 48000, 32, nan),
		"is the most":     make([]byte, wav.MaxBytes+1),
	} {
		_, err := wav.Decode(data)
		assert.ErrorContains(t, err, says)
	}
	_, err := wav.Encode()
	assert.Error(t, err)
	_, err = wav.Encode([]float64{1}, []float64{1, 2})
	assert.Error(t, err)
	_, err = wav.Encode([]float64{math.NaN()})
	assert.Error(t, err)
}

func FuzzDecode(f *testing.F) {
	good, _ := wav.Encode(sine(440, wav.Rate, 64))
	f.Add(good)
	f.Add(file(3, 2, 44100, 32, make([]byte, 64)))
	f.Add(file(1, 1, 8000, 8, []byte{1, 2, 3}))
	f.Add(append(file(1, 1, 48000, 24, make([]byte, 9)), "LIST\xff\xff\xff\xff"...))
	f.Fuzz(func(t *testing.T, data []byte) {
		channels, err := wav.Decode(data)
		if err != nil {
			return
		}
		for _, x := range channels {
			for _, v := range x {
				if math.IsNaN(v) || math.IsInf(v, 0) {
					t.Fatal("a sample that is no number came through")
				}
			}
		}
	})
}
