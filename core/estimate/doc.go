// Package estimate says what a recording of a sound shows: its spectrum, how bent it is, its repeats and its tail, each
// with how far off it may be, as the targets of a sound. A recording has no dry half to hold it against, so that all but
// the spectrum is estimated.
package estimate
