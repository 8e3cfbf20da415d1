package shorthand

import (
	"regexp"
	"strconv"
	"strings"

	"envex/core/plan"
)

// Figures are the numbers that an item says of its box; nil where it says none.
type Figures struct {
	Volts   *float64   `json:"volts,omitempty"`
	MA      *float64   `json:"ma,omitempty"`
	Size    *plan.Size `json:"size,omitempty"`
	WeightG *float64   `json:"weight_g,omitempty"`
}

var (
	sizeWords   = regexp.MustCompile(`(?i)\b(\d{2,4})\s*[x×]\s*(\d{2,4})(?:\s*[x×]\s*(\d{1,4}))?(?:\s*mm)?\b`)
	unitWords   = regexp.MustCompile(`(?i)(^|\s)(\d{1,6}(?:[.,]\d{1,3})?)\s*(v|volts?|ma|g|kg)\b`)
	countWords  = regexp.MustCompile(`(?i)^(\d{1,2})\s*[x×]\s+|^(\d{1,2})\s*[x×]([\p{L}])`)
	bypassWords = regexp.MustCompile(`(?i)\b(true|buffered) bypass\b`)
)

// plausible bounds what a number can mean; one beyond stays a word.
var plausible = map[string][2]float64{"v": {3, 48}, "ma": {0, 5000}, "g": {10, 100000}, "kg": {0.01, 100}}

// takeFigures takes the numbers out of a text.
func takeFigures(text string) (string, Figures) {
	var f Figures
	if m := sizeWords.FindStringSubmatch(text); m != nil {
		w, _ := strconv.ParseFloat(m[1], 64) // digits, by the expression
		d, _ := strconv.ParseFloat(m[2], 64)
		if w >= 20 && d >= 20 && w <= 3000 && d <= 3000 {
			f.Size = &plan.Size{Width: w, Depth: d}
			if h, err := strconv.ParseFloat(m[3], 64); err == nil && h >= 1 && h <= 3000 {
				f.Size.Height = &h
			}
			text = strings.Replace(text, m[0], " ", 1)
		}
	}
	for _, m := range unitWords.FindAllStringSubmatch(text, -1) {
		x, err := strconv.ParseFloat(strings.Replace(m[2], ",", ".", 1), 64)
		unit := strings.ToLower(m[3])
		if strings.HasPrefix(unit, "volt") {
			unit = "v"
		}
		if span := plausible[unit]; err != nil || x < span[0] || x > span[1] {
			continue
		}
		var into **float64
		switch unit {
		case "v":
			into = &f.Volts
		case "ma":
			into = &f.MA
		default:
			into = &f.WeightG
			if unit == "kg" {
				x *= 1000
			}
		}
		if *into != nil {
			continue
		}
		*into = &x
		text = strings.Replace(text, m[0], m[1]+" ", 1)
	}
	return strings.TrimSpace(text), f
}

// takeCount takes "2 x" off the head of a text; 1 where there is none.
func takeCount(text string) (string, int) {
	m := countWords.FindStringSubmatch(text)
	if m == nil {
		return text, 1
	}
	n, _ := strconv.Atoi(m[1] + m[2]) // digits, by the expression
	if n < 2 || n > maxOfAKind {
		return text, 1
	}
	return strings.TrimSpace(m[3] + text[len(m[0]):]), n
}

// maxOfAKind is how many boxes one item can stand for.
const maxOfAKind = 8

// takeBypass takes what is said of the bypass out of a text.
func takeBypass(text string) (string, plan.Bypass) {
	m := bypassWords.FindStringSubmatch(text)
	if m == nil {
		return text, ""
	}
	bypass := plan.TrueBypass
	if strings.EqualFold(m[1], "buffered") {
		bypass = plan.BufferedBypass
	}
	return strings.TrimSpace(strings.Replace(text, m[0], " ", 1)), bypass
}
