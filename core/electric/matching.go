package electric

import (
	"fmt"
	"math"
	"slices"

	"envex/core/path"
	"envex/core/plan"
)

// Limits beyond which a matching is worth a finding.
const (
	worthJump  = 3.0 // dB of treble between two neighbouring sections
	worthLoss  = 3.0 // dB of treble in a sound
	worthLevel = 1.0 // dB of level from an output into an input
	longM      = 8.0 // of an unbalanced run
)

// The cautions of this package.
const (
	phantomCaution = "Phantom power stays off unbalanced outputs: it can break what is plugged in. Ask the house to switch it off before you plug in."
	humCaution     = "Never lift the mains safety earth to cure hum: use an isolated DI or a transformer."
)

// findings are what is to be said of treble, levels and impedances.
func (s *solving) findings(r *Report, cables *path.Cables, destination plan.ID) []path.Finding {
	list := []path.Finding{}
	add := func(f path.Finding) {
		for _, x := range s.rig.Settled {
			if x.Finding == f.ID {
				f.Settled = x.Reason
			}
		}
		f.Repairs = []path.Move{}
		if f.Stops == nil {
			f.Stops, f.Names = []plan.Key{}, []string{}
		}
		list = append(list, f)
	}
	if f, ok := s.jumpFinding(r); ok {
		add(f)
	}
	if f, ok := s.lossFinding(r); ok {
		add(f)
	}
	for _, f := range s.lowInputs() {
		add(f)
	}
	for _, f := range s.bridging() {
		add(f)
	}
	for _, f := range s.longRuns(cables) {
		add(f)
	}
	if f, ok := s.house(destination); ok {
		add(f)
	}
	return list
}

func tenth(x float64) float64 { return math.Round(x*10) / 10 }

func (s *solving) about(rule string, gravity path.Gravity, title, reason string, keys ...plan.Key) path.Finding {
	f := path.Finding{ID: "electric:" + rule, Rule: rule, Gravity: gravity, Title: title, Reason: reason}
	for _, k := range keys {
		f.ID += ":" + string(k)
		f.Stops, f.Names = append(f.Stops, k), append(f.Names, s.nameOf(k))
	}
	return f
}

func (s *solving) jumpFinding(r *Report) (path.Finding, bool) {
	if r.Jump == nil || math.Abs(r.Jump.JumpDB) < worthJump {
		return path.Finding{}, false
	}
	j := r.Jump
	way := "brighter"
	if j.JumpDB < 0 {
		way = "duller"
	}
	f := s.about("jump", path.Fault,
		fmt.Sprintf("%s is %.1f dB %s than %s", j.ToName, math.Abs(j.JumpDB), way, j.FromName),
		s.jumpReason(r, j))
	f.ID += ":" + string(j.FromRecipe) + ":" + string(j.ToRecipe)
	f.Figures = []path.Figure{{Name: "treble at 5 kHz", Value: tenth(j.JumpDB), Unit: "dB"}}
	return f, true
}

func (s *solving) lossFinding(r *Report) (path.Finding, bool) {
	i := slices.IndexFunc(r.Sounds, func(x Sound) bool { return x.Recipe == r.Worst })
	if i < 0 || r.Sounds[i].Tone5k < worthLoss {
		return path.Finding{}, false
	}
	x := r.Sounds[i]
	f := s.about("loss", path.Notice, fmt.Sprintf("%s loses %.1f dB of treble", x.Name, x.Tone5k),
		s.lossReason(&x))
	f.ID += ":" + string(x.Recipe)
	f.Figures = []path.Figure{{Name: "at 5 kHz", Value: tenth(-x.Tone5k), Unit: "dB"}}
	return f, true
}

// lowInputs are inputs under 100 kohm: one that the pickup drives is loaded by it, and a fuzz that is
// made for the pickup and stands behind a buffer sounds unlike itself.
func (s *solving) lowInputs() []path.Finding {
	var list []path.Finding
	said := map[plan.Key]bool{}
	for i := range s.states {
		segs, guitar := s.plain(i)
		for k, seg := range segs {
			if !seg.ended || seg.toOhm >= lowOhm || said[seg.to] {
				continue
			}
			if k > 0 && !s.isFuzz(seg.to) {
				continue
			}
			said[seg.to] = true
			as := responseOf(segs[:k+1])
			other := s.otherwise(segs, k, guitar)
			name := s.nameOf(seg.to)
			var f path.Finding
			switch {
			case k > 0:
				f = s.about("fuzz-after-buffer", path.Preference, fmt.Sprintf("%s does not see the pickup", name),
					fmt.Sprintf(
						"%s drives it; from the pickup its %.0f kohm would take the top off and clean up with the guitar's volume",
						s.nameOf(seg.from), seg.toOhm/1000,
					), seg.to)
				f.Weight = 4
			case s.isFuzz(seg.to):
				f = s.about("low-input", path.Notice, fmt.Sprintf("%s loads the pickup", name),
					fmt.Sprintf(
						"%.0f kohm after the pickup: a fuzz of this kind is made for it, and a buffer before it would change it",
						seg.toOhm/1000,
					), seg.to)
			default:
				f = s.about("low-input", path.Fault, fmt.Sprintf("%s loads the pickup", name),
					fmt.Sprintf("%.0f kohm after the pickup and before any buffer takes level and treble", seg.toOhm/1000), seg.to)
			}
			f.Figures = []path.Figure{
				{Name: "level as it stands", Value: tenth(as(levelHz)), Unit: "dB"},
				{Name: "treble at 5 kHz as it stands", Value: tenth(as.treble()), Unit: "dB"},
				{Name: otherwiseName(k) + ", level", Value: tenth(other(levelHz)), Unit: "dB"},
				{Name: otherwiseName(k) + ", treble at 5 kHz", Value: tenth(other.treble()), Unit: "dB"},
			}
			list = append(list, f)
		}
	}
	return list
}

func otherwiseName(k int) string {
	if k > 0 {
		return "straight from the guitar"
	}
	return "behind a buffer"
}

// otherwise is the response at an input the other way: straight from the guitar where something is
// before it, behind a buffer where nothing is.
func (s *solving) otherwise(segs []segment, k int, guitar instrument) response {
	end := segs[k].parts[len(segs[k].parts)-1]
	if k > 0 {
		n := append(guitar.ladder(guitar.knobs), capacitor(referencePF*1e-12), end)
		return responseOf([]segment{{parts: n}})
	}
	head := slices.Clone(segs[0].parts)
	head[len(head)-1] = across{usualInputOhm, 0}
	return responseOf(
		[]segment{{parts: head}, {parts: network{inLine(usualOutputOhm), capacitor(patchM * usualPFPerM * 1e-12), end}}},
	)
}

// FuzzCurves are what a fuzz of low input resistance gets, both ways.
type FuzzCurves struct {
	Fuzz     plan.Key `json:"fuzz"`
	Name     string   `json:"name"`
	Buffered bool     `json:"buffered" doc:"Something drives it as it stands; else the pickup does."`
	As       []Point  `json:"as_it_stands"`
	Other    []Point  `json:"otherwise" doc:"Straight from the guitar through 3 m where it is buffered, behind a buffer where it is not."`
}

// fuzzes gives both curves of every fuzz of low input resistance that a sound of the rig has on.
func (s *solving) fuzzes() []FuzzCurves {
	list := []FuzzCurves{}
	said := map[plan.Key]bool{}
	for i := range s.states {
		segs, guitar := s.plain(i)
		for k, seg := range segs {
			if !seg.ended || seg.toOhm >= lowOhm || said[seg.to] || !s.isFuzz(seg.to) {
				continue
			}
			said[seg.to] = true
			list = append(
				list,
				FuzzCurves{seg.to, s.nameOf(seg.to), k > 0, responseOf(segs[:k+1]).points(), s.otherwise(segs, k, guitar).points()},
			)
		}
	}
	return list
}

// bridging are outputs that an input loads down: an input is to be ten times the output or more.
func (s *solving) bridging() []path.Finding {
	var list []path.Finding
	said := map[[2]plan.Key]bool{}
	for i := range s.states {
		segs, _ := s.plain(i)
		for k, seg := range segs {
			lost := 20 * math.Log10(1+seg.fromOhm/math.Max(seg.toOhm, leastOhm))
			at := [2]plan.Key{seg.from, seg.to}
			if k == 0 || !seg.ended || lost < worthLevel || said[at] {
				continue
			}
			said[at] = true
			f := s.about("bridging", path.Notice, fmt.Sprintf("%s loads %s", s.nameOf(seg.to), s.nameOf(seg.from)),
				fmt.Sprintf(
					"%.3g kohm of output into %.3g kohm of input; an input ten times the output loses nothing to speak of",
					seg.fromOhm/1000, seg.toOhm/1000,
				), seg.from, seg.to)
			f.Figures = []path.Figure{{Name: "level", Value: tenth(-lost), Unit: "dB"}}
			list = append(list, f)
		}
	}
	return list
}

// longRuns are long unbalanced cables from a box: they pick up hum, and the output has their
// capacitance to drive.
func (s *solving) longRuns(c *path.Cables) []path.Finding {
	var list []path.Finding
	for _, run := range c.Runs {
		from, ok := s.plan.FindGear(run.From.Gear)
		if !ok || run.LengthM <= longM || run.Level == "speaker" || from.Kind == plan.Guitar {
			continue
		}
		if b, ok := from.FindBlock(plan.ID(run.From.Place.Rest())); ok && b.Effect == plan.EffectDI {
			continue // balanced
		}
		f := s.about("long-run", path.Notice,
			fmt.Sprintf("%.1f m unbalanced from %s to %s", run.LengthM, run.From.Name, run.To.Name),
			"a long unbalanced run picks up hum; a balanced line from a DI does not", run.From.Place, run.To.Place)
		f.Names = []string{run.From.Name, run.To.Name}
		if khz, name, ok := s.lowestCorner(span{run.From.Place, run.To.Place}); ok {
			f.Figures = []path.Figure{{Name: "3 dB down at", Value: math.Round(khz*100) / 100, Unit: "kHz"}}
			f.Reason += fmt.Sprintf("; in %s, %s drives it", name.sound, name.driver)
		}
		f.Caution = humCaution
		list = append(list, f)
	}
	return list
}

// driven says in which sound a cable is driven by what.
type driven struct{ sound, driver string }

// highestCorner is where looking for a corner ends, in Hz.
const highestCorner = 1e6

// lowestCorner is the lowest frequency, in kHz, at which the run a cable is part of is 3 dB down, over
// the sounds of the rig: whatever drives it in each. It is false where no sound has the cable in a run
// that falls so far under a megahertz.
func (s *solving) lowestCorner(cable span) (khz float64, by driven, ok bool) {
	for i := range s.states {
		segs, _ := s.plain(i)
		for _, seg := range segs {
			if !slices.Contains(seg.cables, cable) {
				continue
			}
			r := responseOf([]segment{seg})
			level := r(levelHz)
			for hz := levelHz; hz <= highestCorner; hz *= 1.25 {
				if r(hz*1.25) > level-3 {
					continue
				}
				if at, _ := r.falls([]Point{{Hz: hz}, {Hz: hz * 1.25, DB: r(hz * 1.25)}}, level-3); !ok || at/1000 < khz*0.999 {
					khz, by, ok = at/1000, driven{s.states[i].sound.Name, s.nameOf(seg.from)}, true
				}
				break
			}
		}
	}
	return khz, by, ok
}

// isFed reports whether a battery or the power plan feeds a box.
func (s *solving) isFed(id plan.ID) bool {
	return slices.ContainsFunc(s.rig.Batteries, func(b plan.BatteryUse) bool { return b.Gear == id }) ||
		slices.ContainsFunc(s.rig.PowerPlan, func(f plan.PowerFeed) bool { return slices.Contains(f.Gear, id) })
}

// house is how the rig goes to a house desk.
func (s *solving) house(destination plan.ID) (path.Finding, bool) {
	d, ok := s.rig.FindDestination(destination)
	if !ok || d.Kind != plan.StereoDI && d.Kind != plan.MonoDI {
		return path.Finding{}, false
	}
	stops := s.rig.Stops()
	for _, key := range slices.Backward(stops) {
		g, ok := s.plan.FindGear(key.Gear())
		if !ok {
			continue
		}
		b, ok := g.FindBlock(plan.ID(key.Rest()))
		if !ok || b.Effect != plan.EffectDI {
			continue
		}
		if !b.Passive && s.isFed(g.ID) {
			return path.Finding{}, false // it has power of its own, and phantom power does it no harm
		}
		f := s.about("phantom", path.Notice, fmt.Sprintf("%s needs no phantom power", g.Name), "it is a transformer", key)
		if !b.Passive {
			f.Title, f.Reason = fmt.Sprintf("%s needs power", g.Name), "an active DI runs on a battery, a supply or phantom power: say which to the house"
		}
		f.Caution = phantomCaution
		return f, true
	}
	f := s.about(
		"no-di", path.Fault, "No DI before the house",
		"the last box of the chain drives the multicore unbalanced, which hums and loses treble",
	)
	if len(stops) > 0 {
		last := stops[len(stops)-1]
		f = s.about(
			"no-di", path.Fault, "No DI before the house",
			fmt.Sprintf("%s drives the multicore unbalanced, which hums and loses treble", s.nameOf(last)), last,
		)
	}
	f.Caution = phantomCaution
	return f, true
}
