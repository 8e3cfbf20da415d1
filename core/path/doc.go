// Package path judges the order of a signal chain, and finds the best one.
//
// Which of two stops had better come first is a preference with a weight and a reason. The
// cost of an order is the weight of the preferences it violates. The best order is found
// exactly, by dynamic programming over sets of stops, under what cannot be changed: an
// amp's preamp stands before its power section, nothing stands in a loop that is not there,
// nothing crosses a pinned stop, and loops of a switcher run in number order.
//
// Where good players disagree the rig's chosen school decides, and where none is chosen the
// commoner habit does.
package path
