// Package midi works out which program and control changes a rig's controllers send when a
// program is recalled, what is wrong with the line they go over, and what simulated devices at its
// other end make of the bytes.
//
// Program change and control change are the channel voice messages of the MIDI 1.0 specification:
// a status byte 0xC0 or 0xB0 with the channel, counted from 0, in its low half, then one or two
// bytes of seven bits.
package midi
