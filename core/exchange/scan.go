package exchange

import (
	"encoding/binary"

	"envex/core/reason"
)

// read is one event of a file: a meta event of a type with its text or figures, or anything else.
type read struct {
	at   uint64 // ticks from the start of its track
	meta byte   // 0xff where it is no meta event
	data []byte
}

// noMeta marks an event that plays or controls something.
const noMeta = 0xff

var errShort = reason.Errorf("it ends too early")

// scanSMF takes a Standard MIDI File apart (RP-001, MIDI Manufacturers Association 1996). Lengths are
// held against what is there before anything is taken, so that a damaged or hostile file costs no more
// than its size.
func scanSMF(data []byte) (ticksAQuarter int, tracks [][]read, err error) {
	if data, err = unwrapped(data); err != nil {
		return 0, nil, err
	}
	if len(data) < 14 || string(data[:4]) != "MThd" {
		return 0, nil, reason.Errorf("this is not a Standard MIDI File")
	}
	head := binary.BigEndian.Uint32(data[4:8])
	if head < 6 || int64(head) > int64(len(data)-8) {
		return 0, nil, errShort
	}
	division := binary.BigEndian.Uint16(data[12:14])
	if division&0x8000 != 0 || division == 0 {
		return 0, nil, reason.Errorf("the file counts frames: only beats are supported")
	}
	data = data[8+head:]
	for len(data) >= 8 {
		size := binary.BigEndian.Uint32(data[4:8])
		kind := string(data[:4])
		data = data[8:]
		if int64(size) > int64(len(data)) {
			return 0, nil, errShort
		}
		if kind == "MTrk" {
			track, err := scanTrack(data[:size])
			if err != nil {
				return 0, nil, reason.Errorf("track %d: %w", len(tracks)+1, err)
			}
			tracks = append(tracks, track)
		}
		data = data[size:]
	}
	if len(tracks) == 0 {
		return 0, nil, reason.Errorf("the file has no tracks")
	}
	return int(division), tracks, nil
}

// unwrapped takes a file out of the RIFF form RMID, where it stands in one.
func unwrapped(data []byte) ([]byte, error) {
	if len(data) < 12 || string(data[:4]) != "RIFF" || string(data[8:12]) != "RMID" {
		return data, nil
	}
	for at := 12; at+8 <= len(data); {
		size := int64(binary.LittleEndian.Uint32(data[at+4:]))
		if size > int64(len(data)-at-8) {
			return nil, errShort
		}
		if string(data[at:at+4]) == "data" {
			return data[at+8 : at+8+int(size)], nil
		}
		at += 8 + int(size+size%2)
	}
	return nil, reason.Errorf("it has no MIDI file in it")
}

func scanTrack(body []byte) ([]read, error) {
	var list []read
	at := uint64(0)
	running := byte(0)
	for len(body) > 0 {
		delta, rest, err := quantity(body)
		if err != nil || len(rest) == 0 {
			return nil, errShort
		}
		at += uint64(delta)
		status := rest[0]
		if status < 0x80 {
			status = running
		} else {
			rest = rest[1:]
		}
		e := read{at: at, meta: noMeta}
		switch {
		case status == 0xff:
			if len(rest) == 0 {
				return nil, errShort
			}
			e.meta = rest[0]
			e.data, rest, err = sized(rest[1:])
		case status == 0xf0 || status == 0xf7:
			e.data, rest, err = sized(rest)
		case status < 0x80 || status > 0xef:
			return nil, reason.Errorf("it has something that is not a MIDI event")
		default:
			running = status
			n := 2
			if kind := status & 0xf0; kind == 0xc0 || kind == 0xd0 {
				n = 1
			}
			if len(rest) < n {
				return nil, errShort
			}
			e.data, rest = rest[:n], rest[n:]
		}
		if err != nil {
			return nil, err
		}
		list = append(list, e)
		body = rest
		if e.meta == 0x2f { // end of track
			break
		}
	}
	return list, nil
}

// quantity reads one of variable length: seven bits a byte, four bytes at most.
func quantity(b []byte) (v uint32, rest []byte, err error) {
	for i := range 4 {
		if i >= len(b) {
			return 0, nil, errShort
		}
		v = v<<7 | uint32(b[i]&0x7f)
		if b[i] < 0x80 {
			return v, b[i+1:], nil
		}
	}
	return 0, nil, reason.Errorf("a length is too long")
}

func sized(b []byte) (data, rest []byte, err error) {
	n, rest, err := quantity(b)
	if err != nil {
		return nil, nil, err
	}
	if int64(n) > int64(len(rest)) {
		return nil, nil, errShort
	}
	return rest[:n], rest[n:], nil
}
