// Package layers works out what a looper does over a set: the presses on the bar that record, play and stop its
// layers, whether they can be, and what of the chain changes a layer that is recorded already.
//
// A looper has one loop: the first layer sets its length, what comes after is laid over it, and all of it plays or
// stops. What stands after the looper changes the layers as it changes the playing; what stands before it does not.
package layers
