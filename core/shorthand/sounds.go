package shorthand

import (
	"slices"
	"strings"
	"unicode"

	"envex/core/plan"
)

// What a word in the name of a sound says of it.
var (
	dirtOf = map[string]string{
		"clean": "clean", "home": "clean", "jazz": "clean", "skank": "clean", "funk": "clean", "edge": "edge",
		"breakup": "edge", "blues": "edge",
		"crunch": "crunch", "rhythm": "crunch", "chug": "crunch", "drive": "drive", "driven": "drive", "dirty": "drive",
		"dirt": "drive", "overdrive": "drive",
		"lead": "lead", "solo": "lead", "saturated": "saturated", "heavy": "saturated", "metal": "saturated",
		"distorted": "saturated", "distortion": "saturated", "fuzz": "fuzz", "fuzzy": "fuzz",
	}
	roleOf = map[string]plan.Role{
		"home": plan.HomeRole, "lead": plan.LeadRole, "solo": plan.LeadRole, "boost": plan.LeadRole, "loud": plan.LeadRole,
		"rhythm": plan.RhythmRole, "crunch": plan.RhythmRole, "drive": plan.RhythmRole, "edge": plan.RhythmRole,
		"chug": plan.RhythmRole, "skank": plan.RhythmRole, "funk": plan.RhythmRole, "dirty": plan.RhythmRole,
		"overdrive": plan.RhythmRole, "heavy": plan.RhythmRole, "saturated": plan.RhythmRole, "distortion": plan.RhythmRole,
		"swell": plan.TextureRole, "swells": plan.TextureRole, "pad": plan.TextureRole, "ambient": plan.TextureRole,
		"wash": plan.TextureRole, "shimmer": plan.TextureRole, "texture": plan.TextureRole, "drone": plan.TextureRole,
		"chorus": plan.TextureRole, "trem": plan.TextureRole, "tremolo": plan.TextureRole, "vibe": plan.TextureRole,
		"echo": plan.TextureRole, "delay": plan.TextureRole, "reverb": plan.TextureRole, "phaser": plan.TextureRole,
		"flanger": plan.TextureRole, "rotary": plan.TextureRole,
		"fuzz": plan.SpecialRole, "wah": plan.SpecialRole, "octave": plan.SpecialRole, "noise": plan.SpecialRole,
	}
	effectOf = map[string]plan.Effect{
		"chorus": plan.EffectChorus, "trem": plan.EffectTremolo, "tremolo": plan.EffectTremolo, "vibe": plan.EffectVibe,
		"echo": plan.EffectDelay, "delay": plan.EffectDelay, "reverb": plan.EffectReverb,
		"phaser": plan.EffectPhaser, "phase": plan.EffectPhaser, "flanger": plan.EffectFlanger, "rotary": plan.EffectRotary,
		"wah": plan.EffectWah, "octave": plan.EffectOctave, "fuzz": plan.EffectFuzz,
		"swell": plan.EffectVolume, "swells": plan.EffectVolume, "shimmer": plan.EffectReverb, "wash": plan.EffectReverb,
	}
)

// SoundOf is a sound of what a player calls it: its role, dirt, loudness and effects guessed from the words, with a pair
// of letters and a tape that no other sound has. It has no id.
func SoundOf(called string, have []plan.Sound) plan.Sound {
	s := plan.Sound{Name: titled(called), Short: shortOf(called, have), Tape: tapeOf(have), Role: plan.SpecialRole}
	known := false
	for _, w := range wordsOf(called) {
		if dirt, ok := dirtOf[w]; ok && s.Targets.DirtMin == nil && s.Targets.DirtMax == nil {
			s.Targets.Called(dirt)
		}
		if role, ok := roleOf[w]; ok && !known {
			s.Role, known = role, true
		}
		if e, ok := effectOf[w]; ok &&
			!slices.ContainsFunc(s.Targets.Effects, func(h plan.Heard) bool { return h.Effect == e }) {
			s.Targets.Effects = append(s.Targets.Effects, plan.Heard{Effect: e})
		}
		known = known || w == "clean"
	}
	isHome := func(s plan.Sound) bool { return s.Role == plan.HomeRole }
	if words := wordsOf(called); len(words) == 1 && words[0] == "clean" {
		s.Role = plan.RhythmRole
		if !slices.ContainsFunc(have, isHome) {
			s.Role = plan.HomeRole
		}
	} else if s.Role == plan.HomeRole && slices.ContainsFunc(have, isHome) ||
		s.Role == plan.SpecialRole && !known && s.Targets.DirtMax != nil {
		s.Role = plan.RhythmRole
	}
	over := 0.0
	if s.Role == plan.LeadRole {
		over = 3.5
	}
	for _, w := range plan.LoudnessWords() {
		if w.LU == over {
			s.Targets.LoudnessLU, s.Targets.ToleranceLU = &over, &w.Tolerance
		}
	}
	return s
}

// shortOf is two letters that stand for a sound and for no other: its first and one after it, consonants first.
func shortOf(called string, have []plan.Sound) string {
	var letters []rune
	for _, r := range strings.ToUpper(called) {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			letters = append(letters, r)
		}
	}
	if len(letters) == 0 {
		letters = []rune("S")
	}
	free := func(short string) bool {
		return !slices.ContainsFunc(have, func(s plan.Sound) bool { return strings.EqualFold(s.Short, short) })
	}
	var second []rune
	words := strings.Fields(strings.ToUpper(called))
	if len(words) > 1 {
		second = append(second, []rune(words[1])[0])
	}
	for _, vowels := range []bool{false, true} {
		for _, r := range letters[1:] {
			if strings.ContainsRune("AEIOU", r) == vowels {
				second = append(second, r)
			}
		}
	}
	for r := '2'; r <= '9'; r++ {
		second = append(second, r)
	}
	for r := 'A'; r <= 'Z'; r++ {
		second = append(second, r)
	}
	for _, r := range second {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			if short := string([]rune{letters[0], r}); free(short) {
				return short
			}
		}
	}
	return string(letters[0])
}

// tapeOf is the first tape that no sound has, else the one that fewest have.
func tapeOf(have []plan.Sound) string {
	best, least := "", len(have)+1
	for _, tape := range plan.Tapes() {
		n := 0
		for _, s := range have {
			if s.Tape == tape {
				n++
			}
		}
		if n < least {
			best, least = tape, n
		}
	}
	return best
}
