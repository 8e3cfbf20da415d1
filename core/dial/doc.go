// Package dial helps a hand at the knobs: what each of them does where it stands, where to start, steps that can be
// followed one knob at a time, and sets of positions that were found good and can be found again.
//
// Figures are those of package signal: models of kinds of circuits.
package dial
