// Package mix says what is heard of a guitar among the rest of a band, section by section: how much of each sound is
// left under what masks it, what it covers of the others, and the least move that makes room.
//
// Loudness under masking is that of package hearing. The guitar is rendered through its rig; the others are
// third-octave spectra of what they are by kind, or measured from recordings, and go up and down as their kind does. It
// is a model, which says so.
package mix
