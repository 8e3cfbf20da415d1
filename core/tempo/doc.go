// Package tempo is the arithmetic of time that follows the beat: how long a note is, which note a
// time is nearest to, how many repeats of a delay are heard and when they clutter, what a tempo that
// is a little off does to them, and what all of that comes to over a set.
package tempo
