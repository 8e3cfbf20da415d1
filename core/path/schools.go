package path

import "envex/core/plan"

// Side is one side of a question on which good players disagree.
type Side struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Gains string `json:"gains" doc:"What it gives, in a few words."`
}

// Question is something on which good players disagree about the order of a chain.
type Question struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Sides []Side `json:"sides" doc:"The first is taken where none is chosen."`
}

// Questions lists the disagreements that decide an order.
func Questions() []Question {
	return []Question{
		{"volume", "Volume pedal", []Side{
			{"before", "before the drives", "it cleans them up, like the guitar's own knob"},
			{"after", "after the drives", "swells stay dirty, it is a master"},
		}},
		{"compressor", "Compressor", []Side{
			{"first", "first", "it evens out the picking for everything behind it"},
			{"after", "after the drives", "it does not push the drives harder"},
		}},
		{"boost", "Solo boost", []Side{
			{"front", "in front", "it pushes every stage behind it and sounds thicker"},
			{"after", "after the drives", "it makes the sound louder and changes nothing else"},
		}},
		{"delay-reverb", "Delay and reverb", []Side{
			{"delay-first", "delay, then reverb", "the repeats sound in the room"},
			{"reverb-first", "reverb, then delay", "the room is repeated"},
		}},
		{"time-effects", "Time effects and a driven amp", []Side{
			{"loop", "in the effects loop", "the repeats are not distorted"},
			{"front", "in front", "the amp stays clean, so no loop is needed, or distorted repeats are wanted"},
		}},
		{"vibe", "Vibe and phaser", []Side{
			{"before", "before the drive", "it moves the harmonics that the drive makes"},
			{"after", "after the drive", "it moves the whole sound"},
		}},
		{"cab", "Cab simulator", []Side{
			{"anywhere", "wherever it stands", "it stays where the player put it"},
			{
				"after", "after the time effects",
				"repeats and reverb pass the speaker too, as in an amp; stereo needs one with two sides",
			},
			{
				"before", "before the time effects",
				"one side is enough for a stereo line or headphones, and the repeats stay bright",
			},
		}},
		{"tuner", "Tuner", []Side{
			{"first", "first in line", "it always hears the clean guitar"},
			{"anywhere", "on a tap, or wherever", "closing the volume pedal lets you tune in silence"},
		}},
	}
}

// sides is the chosen side of every question, the first where none is chosen.
func sides(r *plan.Rig) map[string]string {
	chosen := map[string]string{}
	for _, q := range Questions() {
		chosen[q.ID] = q.Sides[0].ID
	}
	for _, s := range r.Schools {
		for _, q := range Questions() {
			for _, side := range q.Sides {
				if q.ID == s.Question && side.ID == s.Side {
					chosen[q.ID] = s.Side
				}
			}
		}
	}
	return chosen
}

// schoolRules are the preferences that follow from the chosen sides. Where a school replaces
// a preference it has that one's weight, else 3.
func schoolRules(side map[string]string) []rule {
	volume := func(s *stop) bool { return s.is(plan.EffectVolume) }
	compressor := func(s *stop) bool { return s.is(plan.EffectCompressor) }
	boost := func(s *stop) bool { return s.is(plan.EffectBoost) && !s.lane } // one in a lane drives what is in the lane
	sweep := func(s *stop) bool { return s.in(plan.FamilySweep) }
	drive := func(s *stop) bool { return s.isDrive() }
	time := func(s *stop) bool { return s.in(plan.FamilyRepeats) && !s.isAmp() }
	pedalDrive := func(s *stop) bool { return s.isGain() && !s.isAmp() }
	var list []rule
	add := func(question, name, reason string, weight float64, first, second func(*stop) bool) {
		list = append(list, rule{name, weight, reason, question, func(a, b *stop) (float64, bool) {
			return min(a.share(), b.share()), first(a) && second(b)
		}})
	}
	// either adds the preference for one side of a question or its opposite.
	either := func(question, one string, name, reason, other, otherReason string, weight float64, x, y func(*stop) bool) {
		if side[question] == one {
			add(question, name, reason, weight, x, y)
		} else {
			add(question, other, otherReason, weight, y, x)
		}
	}
	either(
		"volume", "before", "volume-before-gain", "before the drives it cleans them up, as the guitar's own volume does",
		"volume-after-gain", "behind the drives a swell keeps its distortion", 3, volume, drive,
	)
	either(
		"compressor", "first", "compressor-first", "it evens out the picking for everything behind it",
		"compressor-after-gain", "it does not push the drives harder", 3, compressor, drive,
	)
	either(
		"boost", "front", "boost-before-gain", "it pushes every stage behind it and sounds thicker", "boost-after-gain",
		"it makes the sound louder and changes nothing else", 3, boost, drive,
	)
	either(
		"vibe", "before", "vibe-before-gain", "before the drive it moves the harmonics; behind it, the whole sound",
		"vibe-after-gain", "behind the drive it moves the whole sound; before it, the harmonics", 3, sweep, drive,
	)
	either("delay-reverb", "delay-first", "delay-before-reverb", "the repeats sound in the room", "reverb-before-delay",
		"the room is repeated", 3,
		func(s *stop) bool { return s.is(plan.EffectDelay) },
		func(s *stop) bool { return s.is(plan.EffectReverb) && !s.isAmp() })
	add("", "gain-before-time", "a drive behind a delay smears its repeats together", 5, pedalDrive, time)
	ampDrive := func(s *stop) bool { return s.isAmp() && s.is(plan.EffectPreamp) }
	either(
		"time-effects", "loop", "preamp-before-time", "a drive behind a delay smears its repeats together",
		"time-before-preamp", "distorted repeats are wanted, or the amp is clean", 5, ampDrive, time,
	)
	cab := func(s *stop) bool { return s.is(plan.EffectCab) }
	if side["cab"] != "anywhere" {
		either(
			"cab", "after", "cab-after-time", "repeats and reverb pass the speaker too", "cab-before-time",
			"the repeats stay bright, and one side is enough", 3, time, cab,
		)
	}
	if side["tuner"] == "first" {
		list = append(list, rule{"tuner-first", 2, "it hears the clean guitar", "tuner", plainly(func(a, b *stop) bool {
			return a.is(plan.EffectTuner) && !a.tapped && !b.is(plan.EffectTuner, plan.EffectRadio) && !b.lowFuzz() &&
				!b.joint
		})})
	}
	return list
}
