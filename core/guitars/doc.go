// Package guitars levels the guitars of a rig: which setting, made when one is picked up, brings it to where another drives the
// rig, so that every sound is as loud and as dirty on both.
package guitars
