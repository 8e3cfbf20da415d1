package plan

import "slices"

// DirtWord is how dirty a sound is in one word, and the share of distortion that it stands for.
type DirtWord struct {
	Word string   `json:"word"`
	Min  *float64 `json:"dirt_min_pct,omitempty"`
	Max  *float64 `json:"dirt_max_pct,omitempty"`
}

// LoudnessWord is how loud a sound is over home in words, and the figures that they stand for.
type LoudnessWord struct {
	Word      string  `json:"word"`
	LU        float64 `json:"loudness_lu"`
	Tolerance float64 `json:"tolerance_lu"`
}

// DirtWords are the words for dirt, from clean on. Neighbours share an edge, so that a sound between two is either.
func DirtWords() []DirtWord {
	pct := func(x float64) *float64 { return &x }
	return []DirtWord{
		{"clean", nil, pct(12)}, {"edge", pct(8), pct(22)}, {"crunch", pct(20), pct(40)}, {"drive", pct(30), pct(50)},
		{"lead", pct(30), pct(55)}, {"saturated", pct(45), pct(75)}, {"fuzz", pct(50), nil},
	}
}

// LoudnessWords are the words for loudness. A solo that stands over the band is commonly 3 to 6 dB over the rhythm sound.
func LoudnessWords() []LoudnessWord {
	return []LoudnessWord{
		{"softer", -3, 1.5}, {"same as home", 0, 1}, {"a little more", 1.5, 1}, {"over the band", 3.5, 1},
	}
}

// Called puts the figures of a word for dirt into targets; it reports whether it is one.
func (t *Targets) Called(word string) bool {
	list := DirtWords()
	i := slices.IndexFunc(list, func(w DirtWord) bool { return w.Word == word })
	if i < 0 {
		return false
	}
	t.DirtMin, t.DirtMax = list[i].Min, list[i].Max
	return true
}
