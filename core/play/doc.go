// Package play is a rehearsal: the rig's devices as presses move them, the changes of a song as they
// come, how each was made, and what a player's feet tell of themselves.
//
// Times are in seconds of the song, from its first downbeat. The clock is not here: presses arrive
// with the time they were made.
package play
