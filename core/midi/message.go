package midi

import "fmt"

// Kind is what sort of message goes out.
type Kind string

// The messages a recall sends; a relay is a contact, not a message, and stands with them in a map.
const (
	ProgramChange Kind = "program change"
	ControlChange Kind = "control change"
	Relay         Kind = "relay"
)

// Message is one message on a line.
type Message struct {
	Kind    Kind `json:"kind" enum:"program change,control change,relay"`
	Channel int  `json:"channel,omitempty" doc:"1 to 16."`
	Number  int  `json:"number" doc:"The program as sent, from 0; or the number of the control change."`
	Value   int  `json:"value,omitempty" doc:"Of a control change."`
}

// Status bytes of MIDI 1.0, without their channel.
const (
	statusProgram = 0xC0
	statusControl = 0xB0
)

// Bytes is the message as it goes over the line; nothing for a relay.
func (m Message) Bytes() []byte {
	channel := byte(m.Channel-1) & 0x0F
	switch m.Kind {
	case ProgramChange:
		return []byte{statusProgram | channel, byte(m.Number) & 0x7F}
	case ControlChange:
		return []byte{statusControl | channel, byte(m.Number) & 0x7F, byte(m.Value) & 0x7F}
	}
	return nil
}

// String is the message in words.
func (m Message) String() string {
	if m.Kind == ControlChange {
		return fmt.Sprintf("control change %d to %d on channel %d", m.Number, m.Value, m.Channel)
	}
	return fmt.Sprintf("%s %d on channel %d", m.Kind, m.Number, m.Channel)
}

// Reader takes a stream of bytes apart into program and control changes. It knows running status
// (a status byte holds until the next), lets real-time bytes through anywhere, and skips what
// else there is. It never fails: what it cannot read it drops, as a device does.
type Reader struct {
	status  byte // 0 while none holds
	pending []byte
}

// Read takes bytes in and gives the messages they complete.
func (r *Reader) Read(data []byte) []Message {
	var list []Message
	for _, b := range data {
		switch {
		case b >= 0xF8: // real time: may stand between the bytes of a message
		case b >= 0xF0: // system common and exclusive end running status
			r.status, r.pending = 0, nil
		case b >= 0x80:
			r.status, r.pending = b, nil
		case r.status != 0:
			r.pending = append(r.pending, b)
			if m, ok := r.complete(); ok {
				list = append(list, m)
			}
		}
	}
	return list
}

// complete gives the message the pending bytes make, once there are enough of them.
func (r *Reader) complete() (Message, bool) {
	kind := r.status & 0xF0
	needs := 2
	if kind == statusProgram || kind == 0xD0 {
		needs = 1
	}
	if len(r.pending) < needs {
		return Message{}, false
	}
	at := r.pending
	r.pending = nil
	channel := int(r.status&0x0F) + 1
	switch kind {
	case statusProgram:
		return Message{Kind: ProgramChange, Channel: channel, Number: int(at[0])}, true
	case statusControl:
		return Message{Kind: ControlChange, Channel: channel, Number: int(at[0]), Value: int(at[1])}, true
	}
	return Message{}, false
}
