package electric

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
)

// This file says why treble is lost, or jumps: by leaving out, one at a time, what could be the cause.

// worthCause is from where a part in a loss is said, in dB.
const worthCause = 0.3

// causes are those that are tried.
var causes = []cause{theCable, theBoxes, theVolume, theTone, theInput}

// share is what leaving something out changes, in dB.
type share struct {
	cause cause
	db    float64
}

// sharesOf are the causes that change a figure by something worth saying, the greatest first.
func sharesOf(figure func(without cause) float64) []share {
	whole := figure(nothing)
	var list []share
	for _, c := range causes {
		if d := math.Abs(whole) - math.Abs(figure(c)); d >= worthCause {
			list = append(list, share{c, d})
		}
	}
	slices.SortStableFunc(list, func(a, b share) int { return cmp.Compare(b.db, a.db) })
	return list
}

// tone5k is the treble a sound loses, apart from its level, with something left out.
func (s *solving) tone5k(st *state, without cause) float64 {
	segs, guitar := s.walk(st.set, trial{without: without})
	return referenceOf(guitar).treble() - responseOf(segs).treble()
}

func (s *solving) treble5k(st *state, without cause) float64 {
	segs, _ := s.walk(st.set, trial{without: without})
	return responseOf(segs).treble()
}

// lossReason is what takes the treble of a sound.
func (s *solving) lossReason(x *Sound) string {
	st := s.stateOf(x)
	if st == nil {
		return ""
	}
	shares := sharesOf(func(without cause) float64 { return s.tone5k(st, without) })
	var words []string
	for _, c := range shares {
		switch c.cause {
		case theCable:
			words = append(words, fmt.Sprintf("without the cable before %s it would be %.1f dB less", s.firstName(x), c.db))
		case theBoxes:
			words = append(words, fmt.Sprintf("without the switched-off boxes there %.1f dB less", c.db))
		case theVolume:
			words = append(words, fmt.Sprintf("with the guitar's volume up %.1f dB less", c.db))
		case theTone:
			words = append(words, fmt.Sprintf("with its tone control up %.1f dB less", c.db))
		case theInput:
			words = append(words, fmt.Sprintf("into an input of 1 Mohm %.1f dB less", c.db))
		}
	}
	if len(words) == 0 {
		return "no one thing takes it: pots, cable and input do so together"
	}
	return plan.Listed(words)
}

func (s *solving) firstName(x *Sound) string {
	if x.FirstBuffer == nil {
		return "the end of the chain"
	}
	return x.BufferName
}

func (s *solving) stateOf(x *Sound) *state {
	i := slices.IndexFunc(s.states, func(st state) bool { return st.recipe.ID == x.Recipe })
	if i < 0 {
		return nil
	}
	return &s.states[i]
}

// jumpReason is why two sounds differ in treble: what, left out of both, makes them more alike.
func (s *solving) jumpReason(r *Report, j *Jump) string {
	find := func(recipe plan.ID) *Sound {
		i := slices.IndexFunc(r.Sounds, func(x Sound) bool { return x.Recipe == recipe })
		if i < 0 {
			return nil
		}
		return &r.Sounds[i]
	}
	from, to := find(j.FromRecipe), find(j.ToRecipe)
	if from == nil || to == nil {
		return ""
	}
	a, b := s.stateOf(from), s.stateOf(to)
	shares := sharesOf(func(without cause) float64 { return s.treble5k(b, without) - s.treble5k(a, without) })
	if len(shares) == 0 {
		if from.Guitar != to.Guitar {
			return fmt.Sprintf("%s is played on %s, %s on %s", from.Name, from.Guitar, to.Name, to.Guitar)
		}
		return "no one thing makes it: pots, cable and inputs do so together"
	}
	switch shares[0].cause {
	case theVolume:
		return fmt.Sprintf(
			"the guitar's volume is at %.0f in %s and at %.0f in %s", from.Volume, from.Name, to.Volume, to.Name,
		)
	case theTone:
		return fmt.Sprintf("the guitar's tone control stands otherwise in %s than in %s", from.Name, to.Name)
	case theInput:
		return fmt.Sprintf("%s loads the pickup in %s, %s in %s", s.firstName(from), from.Name, s.firstName(to), to.Name)
	}
	if s.firstName(from) != s.firstName(to) {
		return fmt.Sprintf("the first live input is %s in %s, after %.0f pF of cable and switched-off boxes, and %s in %s, after %.0f pF",
			s.firstName(from), from.Name, from.BeforePF, s.firstName(to), to.Name, to.BeforePF)
	}
	return fmt.Sprintf(
		"%.0f pF of cable and switched-off boxes hang before %s in %s, and %.0f pF in %s", from.BeforePF, s.firstName(from),
		from.Name, to.BeforePF, to.Name,
	)
}
