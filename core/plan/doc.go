// Package plan holds what a player decides: the gear they own, the sounds they need,
// the songs and set lists that ask for those sounds, and the rigs that make them.
//
// Everything is a plain value. There is no database, no network and no screen in sight,
// and nothing here is derived: zones, cables, presses and verdicts are computed from a
// Plan by the packages beside this one.
//
// Units, wherever a field does not say otherwise: distances in mm, cable in m, time in s
// (delay time in ms), level in dB, voltage in V, current in mA, resistance in ohm,
// capacitance in pF for pickups and cable and nF for tone circuits, inductance in H, and
// knobs from 0 (7 o'clock) to 10 (5 o'clock).
//
// A value that is not known is absent, never zero.
package plan
