// Package choose answers which boxes to take: the fewest of a pile that make every sound of a set within its targets,
// the least to press, to carry and to feed among those, and the rig for tonight that a choice comes to.
package choose
