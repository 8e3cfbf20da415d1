// Package hire is for amps that somebody else brings: what to ask for, so that a rig makes its sounds of a set on one, and
// what is done when the answer lacks some of it.
package hire
