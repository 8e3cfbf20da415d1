// Package wal reads what SQLite's write-ahead log says of itself, without SQLite, which takes a log that
// is damaged for one that ends early and opens the plan as it was before, without a word.
//
// The format is that of https://www.sqlite.org/fileformat2.html#the_write_ahead_log: a header of 32
// bytes, then frames, each a header of 24 bytes and a page. Each frame carries the salts of the header
// and a checksum of all that comes before it; one that ends a transaction carries the size of the
// database after it.
package wal

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
)

const (
	headerBytes = 32
	frameBytes  = 24 // before its page
	magic       = 0x377f0682
	maxPage     = 65536
)

// Log is what a log says of itself.
type Log struct {
	Missing bool  // there is no such file
	Commits int   // whole transactions that can be read
	Lost    int   // transactions that were written and cannot be read, at least
	Damage  int64 // where in the file it is damaged; 0 where it is not
}

// Read looks through the log at path. A log that ends in the middle of a transaction is not damaged: that
// transaction was never acknowledged. One is damaged where whole transactions follow on what cannot be
// read.
func Read(path string) (Log, error) {
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return Log{Missing: true}, nil
	}
	if err != nil {
		return Log{}, fmt.Errorf("wal: %w", err)
	}
	defer f.Close()
	l, err := Parse(f)
	if err != nil {
		return Log{}, fmt.Errorf("wal: read %s: %w", path, err)
	}
	return l, nil
}

// header is the first bytes of a log.
type header struct {
	order binary.ByteOrder // of checksums
	page  int
	salts []byte
	sum   [2]uint32
}

func headerOf(data []byte) (header, bool) {
	kind, page := binary.BigEndian.Uint32(data), int(binary.BigEndian.Uint32(data[8:]))
	h := header{order: binary.LittleEndian, page: page, salts: data[16:24]}
	if kind&1 == 1 {
		h.order = binary.BigEndian
	}
	if kind&^1 != magic || page < 512 || page > maxPage || page&(page-1) != 0 {
		return h, false
	}
	h.sum = checksum(h.order, [2]uint32{}, data[:24])
	return h, h.sum == stored(data[24:])
}

func stored(data []byte) [2]uint32 {
	return [2]uint32{binary.BigEndian.Uint32(data), binary.BigEndian.Uint32(data[4:])}
}

// checksum goes on with the checksum of a log over data, whose length is a multiple of 8.
func checksum(order binary.ByteOrder, sum [2]uint32, data []byte) [2]uint32 {
	for i := 0; i+8 <= len(data); i += 8 {
		sum[0] += order.Uint32(data[i:]) + sum[1]
		sum[1] += order.Uint32(data[i+4:]) + sum[0]
	}
	return sum
}

// Parse looks through a log.
func Parse(r io.Reader) (Log, error) {
	first := make([]byte, headerBytes)
	n, err := io.ReadFull(r, first)
	switch {
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return Log{}, nil // it is empty, or its header was never written whole
	case err != nil:
		return Log{}, err
	}
	h, ok := headerOf(first)
	if !ok {
		return headless(r, int64(n))
	}
	return frames(r, h)
}

// headless is a log whose header cannot be read. Where anything follows it, there was something in it.
func headless(r io.Reader, at int64) (Log, error) {
	more, err := io.Copy(io.Discard, io.LimitReader(r, frameBytes+512))
	if err != nil || more < frameBytes+512 {
		return Log{}, err
	}
	return Log{Lost: 1, Damage: at}, nil
}

func frames(r io.Reader, h header) (Log, error) {
	var l Log
	frame := make([]byte, frameBytes+h.page)
	sum, broken, pending := h.sum, int64(0), false
	for at := int64(headerBytes); ; at += int64(len(frame)) {
		_, err := io.ReadFull(r, frame)
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
			return l, nil
		}
		if err != nil {
			return l, err
		}
		ours, commit := bytes.Equal(frame[8:16], h.salts), binary.BigEndian.Uint32(frame[4:]) > 0
		if broken == 0 {
			sum = checksum(h.order, sum, frame[:8])
			sum = checksum(h.order, sum, frame[frameBytes:])
			if ours && sum == stored(frame[16:]) {
				if commit {
					l.Commits++
				}
				continue
			}
			broken = at
			// A frame that is damaged may itself have ended a transaction. One of an earlier log, where a frame
			// of the last transaction never reached the disk, has other salts, both of them.
			pending = commit && (bytes.Equal(frame[8:12], h.salts[:4]) || bytes.Equal(frame[12:16], h.salts[4:]))
			continue
		}
		// Whatever is of this log and comes after the transaction in which it breaks was begun when that
		// had been acknowledged.
		if ours && pending {
			l.Damage = broken
			l.Lost++
			pending = false
		}
		if ours && commit {
			pending = true
		}
	}
}
