// Package shorthand reads a rig and a set that a player has typed in a line or two, in their own words, and makes gear,
// a path and a rig, songs and sounds of them. It never refuses words: what it does not understand it keeps and says.
//
// A chain is items in the order of the signal, parted by commas or new lines:
//
//	tuner, volume, comp, light drive + mid-hump drive (one box), chorus / tremolo, hall reverb > combo with loop: looper
//
//	a, b          one after the other
//	a + b         one box with two circuits
//	a / b         one or the other: the first is placed, the others are owned
//	a > b         on to the amp, the house or whatever comes after the board
//	amp: a, b     in the loop of the amp
//	a | b         lanes: each gets the signal, parted by the splitter or A/B box before them where there is one
//	[1 a][2 b, c] loops of a loop switcher, by number; [a][b] are numbered as they come
//	Amber = a     a box with a name of its own; of a name that is owned, that box
//	2 x a         several of a kind
//	9V 250mA 120x70x50 400g   what it draws, its size in mm and its weight
//	(one box)     a note
//	# words       nothing: to the end of the line
package shorthand
