package mix

import (
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

// played is one thing that is played, on the rig as it stands then.
type played struct {
	signal.Playing
	on *plan.PickedRig
}

// hangsOnTempo reports whether something that plays in a recipe stands at a length of note.
func hangsOnTempo(s *plan.PickedRig, rec *plan.Recipe) bool {
	set := s.Plan.SetFor(s.Rig, rec, nil, plan.Tempo{})
	for key, v := range set.Values {
		if v.Kind() != plan.SyncValue {
			continue
		}
		of, ok := s.Plan.VariableOf(key)
		if !ok || !set.Works(of) {
			continue
		}
		on := plan.BlockKey(of.Gear, of.Block) + "/on"
		if _, switched := s.Plan.VariableOf(on); !switched || set.At(on).IsOn() {
			return true
		}
	}
	return false
}

// spectrumAt is where the spectrum of what is played will stand.
func (x *room) spectrumAt(want played) int {
	i := slices.IndexFunc(x.playing, func(have played) bool { return same(have, want) })
	if i < 0 {
		i = len(x.playing)
		x.playing = append(x.playing, want)
	}
	return i
}

// tempoWithin is how far apart two tempi are, as a share, at which repeats are heard alike.
const tempoWithin = 0.03

// same reports whether two things that are played are one to the ear.
func same(a, b played) bool {
	if a.on.Name != b.on.Name || a.Sound != b.Sound || a.Recipe != b.Recipe || a.Tuned != b.Tuned {
		return false
	}
	if a.Tempo.BPM == 0 || b.Tempo.BPM == 0 {
		return a.Tempo == b.Tempo
	}
	return math.Abs(a.Tempo.BeatSeconds()/b.Tempo.BeatSeconds()-1) <= tempoWithin
}

// renderFrom renders what is played, but for what another room has rendered of the same and whose sound is not among
// those that have changed.
func (x *room) renderFrom(ctx context.Context, from *room, changed []plan.ID, o Options) error {
	home := x.homeSound()
	own := &plan.PickedRig{Plan: x.plan, Rig: x.rig}
	x.home = x.spectrumAt(played{signal.Playing{Sound: home.Sound, Recipe: home.ID}, own})
	x.spectra = make([]signal.Spectra, len(x.playing))
	var places []int
	for i, want := range x.playing {
		at := slices.IndexFunc(from.playing, func(have played) bool { return same(have, want) })
		if at >= 0 && !slices.Contains(changed, want.Sound) {
			x.spectra[i] = from.spectra[at]
			continue
		}
		places = append(places, i)
	}
	done := 0
	standings := map[string]*plan.PickedRig{}
	for _, i := range places {
		standings[x.playing[i].on.Name] = x.playing[i].on
	}
	for _, name := range plan.SortedKeys(standings) {
		on := standings[name]
		var anew []signal.Playing
		var here []int
		for _, i := range places {
			if x.playing[i].on.Name == name {
				anew, here = append(anew, x.playing[i].Playing), append(here, i)
			}
		}
		options := signal.Options{Dry: o.Dry, Kept: o.Kept}
		if o.Progress != nil {
			options.Progress = func(share float64) {
				o.Progress((float64(done) + share*float64(len(anew))) / float64(len(places)))
			}
		}
		got, err := signal.Spread(ctx, on.Plan, x.rig.ID, anew, options)
		if err != nil {
			return fmt.Errorf("mix: %w", err)
		}
		for k, i := range here {
			x.spectra[i] = got[k]
		}
		done += len(anew)
	}
	return nil
}
