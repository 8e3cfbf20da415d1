// Package signal renders what a rig does to a guitar's voltage and meters it: how loud a sound is,
// how dirty, how squashed, how noisy, what its repeats come to, what a mono sum costs, and what any
// of it sounds like.
//
// Blocks take and give volts. Every generic kind of circuit has a small model driven by its knobs,
// with its source named beside it; 1 V at the speaker's microphone is 0 dBFS. These are models of
// kinds, not of any one box: a report built on them says so, and yields to levels that were
// measured. Same input, same samples.
package signal
