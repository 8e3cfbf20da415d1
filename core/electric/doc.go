// Package electric solves a rig as circuits: the treble that cables, pots and switched-off pedals
// take, whether levels and impedances fit, and whether the supply can run the board.
//
// Lost treble is a linear circuit from the pickup to the first live active input, and from each
// active output to the next input. Every such segment is a ladder of series and shunt impedances,
// solved exactly by multiplying chain (ABCD) matrices at each frequency; which segments there are
// depends on what is on, so each sound has its own.
package electric
