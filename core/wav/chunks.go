package wav

import (
	"encoding/binary"
	"fmt"
	"io"

	"envex/core/reason"
)

// Info is what a file says of its samples.
type Info struct {
	Rate     int // Hz
	Channels int
	Bits     int
	Float    bool
	Frames   int // that are there, whatever the file claims
}

// formats of a WAV file's samples that are read.
const (
	formatPCM        = 1
	formatFloat      = 3
	formatExtensible = 0xFFFE
)

// unknownLength stands where a length was not known when it was written, or does not fit.
const unknownLength = 0xFFFFFFFF

// Reader reads one file.
type Reader struct {
	Info
	from io.ReaderAt
	at   int64 // where the samples begin
}

// Open looks at the chunks of a file of some size: RIFF, or RF64 (EBU Tech 3306), whose lengths have 64
// bits. A header may claim any length, such as that of a file that was cut off, one that was written before
// its length was known, or one made to have a reader ask for more memory than there is: what counts is
// what is there. It fails with a sentence for what cannot be read, before any of the samples is.
func Open(from io.ReaderAt, size int64) (*Reader, error) {
	if size > MaxBytes {
		return nil, reason.Errorf("the file is %d MB: the limit is %d MB", size>>20, MaxBytes>>20)
	}
	head := make([]byte, 12)
	if size < int64(len(head)) {
		return nil, reason.Errorf("this is not a WAV file")
	}
	if _, err := from.ReadAt(head, 0); err != nil {
		return nil, fmt.Errorf("wav: %w", err)
	}
	kind := string(head[:4])
	if kind != "RIFF" && kind != "RF64" || string(head[8:]) != "WAVE" {
		return nil, reason.Errorf("this is not a WAV file")
	}
	r := &Reader{from: from}
	bytes, err := r.chunks(size)
	if err != nil {
		return nil, err
	}
	if err := r.readable(); err != nil {
		return nil, err
	}
	r.Frames = int(bytes) / (r.Channels * r.Bits / 8)
	switch {
	case r.Frames == 0:
		return nil, reason.Errorf("it has no samples")
	case r.Frames > MaxSeconds*r.Rate:
		return nil, reason.Errorf("it lasts %d s: the limit is %d s", r.Frames/r.Rate, MaxSeconds)
	}
	return r, nil
}

// chunks goes through the chunks up to the samples, and gives how many bytes of them are there.
func (r *Reader) chunks(size int64) (int64, error) {
	head := make([]byte, 8)
	var long int64 // of the samples, in an RF64 file
	for at := int64(12); at+8 <= size; {
		if _, err := r.from.ReadAt(head, at); err != nil {
			return 0, fmt.Errorf("wav: %w", err)
		}
		claimed, left := int64(binary.LittleEndian.Uint32(head[4:])), size-at-8
		body := make([]byte, min(claimed, left, 40))
		if n, err := r.from.ReadAt(body, at+8); n < len(body) {
			return 0, fmt.Errorf("wav: %w", err)
		}
		switch string(head[:4]) {
		case "fmt ":
			if err := r.format(body); err != nil {
				return 0, err
			}
		case "ds64":
			if len(body) >= 16 {
				long = int64(min(binary.LittleEndian.Uint64(body[8:]), uint64(size)))
			}
		case "data":
			if r.Rate == 0 {
				return 0, reason.Errorf("the file is damaged: its samples come before what they are")
			}
			r.at = at + 8
			switch {
			case claimed == unknownLength && long > 0:
				claimed = long
			case claimed == 0: // written before its length was known
				claimed = left
			}
			return min(claimed, left), nil
		}
		at += 8 + claimed + claimed%2
	}
	if r.Rate == 0 {
		return 0, reason.Errorf("the file is damaged: it does not say what its samples are")
	}
	return 0, reason.Errorf("it has no samples")
}

// format reads what the samples are. The extensible form says it in the first bytes of a GUID.
func (r *Reader) format(body []byte) error {
	if len(body) < 16 {
		return reason.Errorf("the file is damaged: it does not say what its samples are")
	}
	format := binary.LittleEndian.Uint16(body)
	if format == formatExtensible && len(body) >= 26 {
		format = binary.LittleEndian.Uint16(body[24:])
	}
	if format != formatPCM && format != formatFloat {
		return reason.Errorf("its samples are compressed (format %d): only PCM or float WAV files are supported", format)
	}
	r.Float = format == formatFloat
	r.Channels, r.Bits = int(binary.LittleEndian.Uint16(body[2:])), int(binary.LittleEndian.Uint16(body[14:]))
	r.Rate = int(min(binary.LittleEndian.Uint32(body[4:]), 1<<30))
	return nil
}

// readable fails where the samples are of a kind that is not read.
func (r *Reader) readable() error {
	switch {
	case r.Channels != 1 && r.Channels != 2:
		return reason.Errorf("it has %d channels: only mono and stereo files are supported", r.Channels)
	case r.Float && r.Bits != 32 && r.Bits != 64:
		return reason.Errorf("its samples are %d-bit float: only 32 and 64 bits are supported", r.Bits)
	case !r.Float && r.Bits != 8 && r.Bits != 16 && r.Bits != 24 && r.Bits != 32:
		return reason.Errorf("its samples have %d bits: only 8, 16, 24 and 32 are supported", r.Bits)
	case r.Rate < 8000 || r.Rate > 192000:
		return reason.Errorf("its rate is %d Hz: only 8 to 192 kHz is supported", r.Rate)
	}
	return nil
}
