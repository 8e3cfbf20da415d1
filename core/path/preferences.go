package path

import "envex/core/plan"

// preference is one reason why stop a had better come before stop b.
type preference struct {
	rule   string
	weight float64
	reason string
	school string // the question it is one side of, if any
}

// rule says whether a had better come before b, and with what weight.
type rule struct {
	name   string
	weight float64
	reason string
	school string
	holds  func(a, b *stop) (float64, bool) // the share of the weight
}

func plainly(test func(a, b *stop) bool) func(a, b *stop) (float64, bool) {
	return func(a, b *stop) (float64, bool) { return 1, test(a, b) }
}

// The weights and reasons are the product's own table of preferences, from the habits of
// working players; see docs/calculations.md.
//
// stereo says whether anything after the chain can carry a second side.
func rules(side map[string]string, stereo bool) []rule {
	list := []rule{
		{
			"looper-last", 5, "what stands behind a looper changes what it has recorded", "",
			plainly(func(a, b *stop) bool {
				return b.is(plan.EffectLooper) && !a.is(plan.EffectLooper, plan.EffectPower, plan.EffectCab, plan.EffectRadio) &&
					!a.ends() && !a.joint
			}),
		},
		{
			"stereo-after-mono", 5, "a mono pedal behind a stereo one loses a side", "",
			plainly(func(a, b *stop) bool {
				return stereo && a.monoOnly() && !a.is(plan.EffectTuner, plan.EffectRadio) && b.stereoOut()
			}),
		},
		{"pitch-before-gain", 4, "a pitch effect tracks a clean note best", "", shared(func(a, b *stop) bool {
			return a.does(plan.NaturePitch) && b.isGain()
		})},
		{
			"fuzz-before-buffer", 4, "a fuzz wants to see the guitar's pickup directly", "",
			plainly(func(a, b *stop) bool {
				return a.lowFuzz() && b.buffers()
			}),
		},
		{"gate-after-gain", 4, "a gate behind the drives stops the hiss they make", "", shared2(func(a, b *stop) bool {
			return a.isDrive() && b.is(plan.EffectGate)
		})},
		{"gate-before-delay", 4, "a gate behind a delay cuts off its repeats", "", plainly(func(a, b *stop) bool {
			return a.is(plan.EffectGate) && b.in(plan.FamilyRepeats)
		})},
		{
			"volume-before-time", 4, "behind a volume pedal the repeats ring on when it is closed", "",
			plainly(func(a, b *stop) bool {
				return a.is(plan.EffectVolume) && b.in(plan.FamilyRepeats)
			}),
		},
		{
			"gain-before-modulation", 3, "a drive behind a modulation flattens its movement", "",
			shared2(func(a, b *stop) bool {
				return a.isDrive() && b.in(plan.FamilyWobble)
			}),
		},
		{
			"short-before-long", 1, "players put the shorter delay first; while both are linear it makes no difference", "",
			plainly(func(a, b *stop) bool {
				return a.is(plan.EffectDelay) && b.is(plan.EffectDelay) && a.time > 0 && a.time < b.time
			}),
		},
		{"light-before-heavy", 2, "the lighter drive pushes the heavier one", "", plainly(func(a, b *stop) bool {
			return a.heaviness() > 1 && a.heaviness() < b.heaviness()
		})},
		{
			"fuzz-before-overdrive", 2, "the low input resistance of a fuzz dulls the pedal before it", "",
			plainly(func(a, b *stop) bool {
				return a.is(plan.EffectFuzz) && b.is(plan.EffectOverdrive)
			}),
		},
		{"fuzz-before-wah", 2, "a wah loses its sweep into a fuzz", "", plainly(func(a, b *stop) bool {
			return a.is(plan.EffectFuzz) && b.is(plan.EffectWah) && !b.buffers()
		})},
		{"modulation-before-delay", 2, "the repeats then carry the modulation", "", plainly(func(a, b *stop) bool {
			return a.does(plan.NatureModulation) && b.is(plan.EffectDelay)
		})},
		{
			"wah-before-gain", 2, "the distortion follows the peak of the wah, as a voice does", "",
			shared(func(a, b *stop) bool {
				return a.is(plan.EffectWah) && b.isGain() && !b.is(plan.EffectFuzz)
			}),
		},
		{
			"eq-after-gain", 1, "behind the drive an EQ shapes the result; before it, the distortion", "",
			shared2(func(a, b *stop) bool {
				return a.isGain() && b.is(plan.EffectEQ)
			}),
		},
	}
	return append(list, schoolRules(side)...)
}

// shared scales by the dirt of b, shared2 by that of a: a preamp that is hardly driven
// hardly matters.
func shared(test func(a, b *stop) bool) func(a, b *stop) (float64, bool) {
	return func(a, b *stop) (float64, bool) { return b.share(), test(a, b) }
}

func shared2(test func(a, b *stop) bool) func(a, b *stop) (float64, bool) {
	return func(a, b *stop) (float64, bool) { return a.share(), test(a, b) }
}

// between lists every reason why a had better come before b.
func between(list []rule, a, b *stop) []preference {
	var found []preference
	for _, r := range list {
		if share, ok := r.holds(a, b); ok && share > 0 {
			found = append(
				found,
				preference{rule: r.name, weight: r.weight * share, reason: r.reason, school: r.school},
			)
		}
	}
	return found
}
