package plan

import (
	"fmt"
	"strconv"
	"strings"
)

// paints are what words for colours of boxes look like.
var paints = map[string][3]uint8{
	"white": {232, 230, 219}, "cream": {226, 214, 178}, "ivory": {232, 224, 200}, "bone": {217, 212, 197},
	"silver": {176, 182, 184}, "grey": {110, 117, 119}, "gray": {110, 117, 119}, "black": {38, 42, 44},
	"red": {178, 50, 42}, "oxide": {150, 66, 44}, "rust": {163, 72, 38}, "maroon": {110, 36, 44},
	"pink": {226, 140, 176}, "rose": {208, 110, 130},
	"orange": {214, 116, 36}, "amber": {214, 155, 44}, "yellow": {232, 204, 66}, "gold": {198, 164, 72},
	"sand": {200, 176, 120}, "tan": {186, 150, 104}, "brown": {112, 82, 52}, "copper": {172, 104, 62},
	"green": {62, 122, 72}, "lime": {160, 204, 70}, "olive": {108, 112, 58}, "mint": {150, 212, 178},
	"moss": {98, 116, 70}, "teal": {46, 112, 108}, "sea": {64, 132, 120}, "turquoise": {58, 170, 168},
	"blue": {64, 108, 170}, "sky": {110, 180, 226}, "navy": {36, 52, 98}, "azure": {72, 140, 208},
	"violet": {122, 92, 164}, "purple": {108, 68, 150}, "lilac": {190, 160, 210}, "magenta": {188, 56, 140},
}

// ColourOf is a colour in words as #rrggbb: the words of it that are known, mixed, and made lighter or darker where
// they say so. A colour that is written as #rrggbb is that. It is false where nothing of it is understood.
func ColourOf(words string) (string, bool) {
	words = strings.ToLower(strings.TrimSpace(words))
	if hex, ok := strings.CutPrefix(words, "#"); ok && len(hex) == 6 {
		if _, err := strconv.ParseUint(hex, 16, 32); err == nil {
			return "#" + hex, true
		}
	}
	var sum [3]int
	known, shade := 0, 0
	for _, w := range strings.FieldsFunc(
		words, func(r rune) bool { return r == ' ' || r == '-' || r == ',' || r == '/' },
	) {
		switch w {
		case "light", "pale", "bright":
			shade++
		case "dark", "deep":
			shade--
		}
		if c, ok := paints[w]; ok {
			known++
			for i := range sum {
				sum[i] += int(c[i])
			}
		}
	}
	if known == 0 {
		return "", false
	}
	var out [3]int
	for i := range out {
		out[i] = sum[i] / known
		switch {
		case shade > 0:
			out[i] += (255 - out[i]) * 2 / 5
		case shade < 0:
			out[i] = out[i] * 3 / 5
		}
	}
	return fmt.Sprintf("#%02x%02x%02x", out[0], out[1], out[2]), true
}
