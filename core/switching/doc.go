// Package switching works out which programs a controller needs, and which slot each takes, so
// that every sound of a set is as few presses away as can be.
//
// Two schools are served. One page: a sound has one slot all night, and a change costs one press
// and a bank step for every bank between. A bank per song: the banks stand in set-list order and
// a sound keeps its slot number from song to song as far as possible.
package switching
