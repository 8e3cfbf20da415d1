// Package beside puts one set side by side as it is played in several ways: with one box of a swap slot or another, plugged
// in here or there, faster or slower. Everything that can differ is worked out anew for each, from the same plan.
package beside
