package wav_test

import (
	"bytes"
	"encoding/binary"
	"math"
	"runtime"
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
		"the limit is":    make([]byte, wav.MaxBytes+1),
	} {
		_, err := wav.Decode(data)
		assert.ErrorContains(t, err, says)
	}
	_, err := wav.Encode[float64]()
	assert.Error(t, err)
	_, err = wav.Encode([]float64{1}, []float64{1, 2})
	assert.Error(t, err)
	_, err = wav.Encode([]float64{math.NaN()})
	assert.Error(t, err)
}

// A header may claim any length: what is read is what is there, and takes memory for that alone.
func TestALengthThatIsClaimedIsNotBelieved(t *testing.T) {
	claims := func(data []byte, size uint32) []byte {
		binary.LittleEndian.PutUint32(data[40:], size)
		binary.LittleEndian.PutUint32(data[4:], size)
		return data
	}
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	for _, size := range []uint32{0xFFFFFFFF, 0xFFFFFFF0, 1 << 31, 100} {
		got, err := wav.Decode(claims(file(1, 1, 48000, 8, make([]byte, 18)), size))
		require.NoError(t, err)
		assert.Len(t, got[0], 18)
	}
	runtime.ReadMemStats(&after)
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(4<<20))
	_, err := wav.Decode(file(1, 1, 8000, 8, make([]byte, 8000*(wav.MaxSeconds+1))))
	assert.ErrorContains(t, err, "it lasts 181 s: the limit is 180 s")
}

// chunk is a chunk of a file.
func chunk(name string, size uint32, body []byte) []byte {
	return append(binary.LittleEndian.AppendUint32([]byte(name), size), body...)
}

func TestFilesOfOtherFormsAreRead(t *testing.T) {
	want := []float64{0.5, -0.25, 0.125, 1}
	var f32, f64, i16 []byte
	for _, v := range want {
		f32 = binary.LittleEndian.AppendUint32(f32, math.Float32bits(float32(v)))
		f64 = binary.LittleEndian.AppendUint64(f64, math.Float64bits(v))
		i16 = binary.LittleEndian.AppendUint16(i16, uint16(int16(math.Min(v*32768, 32767))))
	}
	format := func(kind, bits int, more ...byte) []byte {
		b := file(kind, 1, 48000, bits, nil)[20:36]
		return append(b, more...)
	}
	guid := func(kind byte) []byte {
		return append(
			[]byte{22, 0, 32, 0, 4, 0, 0, 0, kind, 0}, "\x00\x00\x00\x00\x10\x00\x80\x00\x00\xaa\x00\x38\x9b\x71"...,
		)
	}
	whole := func(id string, chunks ...[]byte) []byte {
		b := []byte(id + "\xff\xff\xff\xffWAVE")
		for _, c := range chunks {
			b = append(b, c...)
		}
		return b
	}
	ds64 := make([]byte, 28)
	binary.LittleEndian.PutUint64(ds64[8:], uint64(len(i16)))
	for name, data := range map[string][]byte{
		"64 bits of floating point": file(3, 1, 48000, 64, f64),
		"extensible, floating point": whole(
			"RIFF", chunk("fmt ", 40, format(0xFFFE, 32, guid(3)...)), chunk("data", uint32(len(f32)), f32),
		),
		"extensible, whole numbers": whole(
			"RIFF", chunk("fmt ", 40, format(0xFFFE, 16, guid(1)...)), chunk("data", uint32(len(i16)), i16),
		),
		"of a length nobody knew":         whole("RIFF", chunk("fmt ", 16, format(1, 16)), chunk("data", 0xFFFFFFFF, i16)),
		"of a length that was never said": whole("RIFF", chunk("fmt ", 16, format(1, 16)), chunk("data", 0, i16)),
		"RF64": whole(
			"RF64", chunk("ds64", 28, ds64), chunk("fmt ", 16, format(1, 16)),
			chunk("data", 0xFFFFFFFF, append(i16[:len(i16):len(i16)], "LIST\x04\x00\x00\x00more"...)),
		),
		"with chunks in between": whole(
			"RIFF", chunk("JUNK", 3, []byte{1, 2, 3, 0}), chunk("fmt ", 16, format(1, 16)), chunk("fact", 4, make([]byte, 4)),
			chunk("data", uint32(len(i16)), i16),
		),
	} {
		got, err := wav.Decode(data)
		require.NoError(t, err, name)
		require.Len(t, got[0], len(want), name)
		for i := range want {
			assert.InDelta(t, want[i], got[0][i], 1.0/32000, name)
		}
	}
	for says, data := range map[string][]byte{
		"compressed (format 85)": whole("RIFF", chunk("fmt ", 16, format(85, 16)), chunk("data", 4, i16)),
		"compressed (format 2)":  whole("RIFF", chunk("fmt ", 40, format(0xFFFE, 16, guid(2)...)), chunk("data", 4, i16)),
		"before what they are":   whole("RIFF", chunk("data", 4, i16)),
		"does not say what":      whole("RIFF", chunk("fmt ", 4, []byte{1, 2, 3, 4})),
		"it has no samples":      whole("RIFF", chunk("fmt ", 16, format(1, 16))),
		"this is not a WAV file": []byte("RIFX\x00\x00\x00\x00WAVE"),
		"only 32 and 64 bits":    file(3, 1, 48000, 16, i16),
	} {
		_, err := wav.Decode(data)
		assert.ErrorContains(t, err, says)
	}
}

// A rate with a large prime factor is as quick as any, and as true.
func TestOddRatesAreQuickAndTrue(t *testing.T) {
	for _, rate := range []int{8009, 25598, 47999, 96001, 191999} {
		n := 2 * rate
		data := make([]byte, 2*n)
		for i := range n {
			binary.LittleEndian.PutUint16(data[2*i:], uint16(int16(16000*math.Sin(2*math.Pi*997*float64(i)/float64(rate)))))
		}
		got, err := wav.Decode(file(1, 1, rate, 16, data))
		require.NoError(t, err)
		require.Len(t, got[0], 2*wav.Rate, "at %d Hz", rate)
		for i := wav.Rate / 2; i < wav.Rate; i++ {
			require.InDelta(
				t, 16000.0/32768*math.Sin(2*math.Pi*997*float64(i)/wav.Rate), got[0][i], 2e-4, "at %d Hz, sample %d", rate, i,
			)
		}
	}
}

func BenchmarkOddRate(b *testing.B) {
	data := file(1, 1, 25598, 16, make([]byte, 2*25598*10))
	for b.Loop() {
		if _, err := wav.Decode(data); err != nil {
			b.Fatal(err)
		}
	}
}

func TestWhatIsReadIsListenedToAtItsOwnRate(t *testing.T) {
	data := file(1, 2, 96000, 16, make([]byte, 4*20000))
	r, err := wav.Open(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	assert.Equal(t, wav.Info{Rate: 96000, Channels: 2, Bits: 16, Frames: 20000}, r.Info)
	heard := 0
	got, err := r.Read(func(block [][]float64) {
		require.Len(t, block, 2)
		heard += len(block[0])
	})
	require.NoError(t, err)
	assert.Equal(t, 20000, heard)
	assert.Len(t, got[0], 10000)
}

func FuzzDecode(f *testing.F) {
	cut := file(1, 2, 48000, 16, make([]byte, 18))
	binary.LittleEndian.PutUint32(cut[40:], 0xFFFFFFFF)
	f.Add(cut)
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
