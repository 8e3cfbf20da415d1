package path

import "math/bits"

// trailing is the number of the lowest stop of a set.
func trailing(set int) int { return bits.TrailingZeros(uint(set)) }
