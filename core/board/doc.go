// Package board puts a rig on its boards: what does not fit and why, how everything is best placed for the show
// that is played, and which board is the smallest that carries it. The geometry is in [envex/core/floor]; this
// package brings together the path, whose cables are plugged in, and the presses of the show.
package board
