package signal

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
)

// This file finds all the ways in which the sounds of a set are made: by another recipe where a section names one, and
// with another box of a swap slot where its song picks one.

// way is one way in which a sound is made.
type way struct {
	made
	on    *rendering // the rig as it stands then
	words string     // what is other than by the first recipe, as the rig stands
	first bool
	at    []int // positions of the sections that are played so
}

// waysOf are the sounds of a rig, each by its first recipe, and whatever else sections of a set are played by. It fails
// where a box cannot stand where a song asks for it.
func (r *rendering) waysOf(l *plan.SetList) ([]*way, error) {
	var list []*way
	known := map[string]*way{}
	for _, m := range r.recipes() {
		w := &way{made: m, on: r, first: true}
		list = append(list, w)
		known[wayName(m.recipe.ID, "")] = w
	}
	songs, err := r.plan.AsPlayed(r.rig.ID, l.ID)
	if err != nil {
		return nil, fmt.Errorf("signal: %w", err)
	}
	standings := map[string]*rendering{"": r}
	for _, song := range songs {
		on := standings[song.On.Name]
		if on == nil {
			if on, err = newRendering(song.On.Plan, r.rig.ID, r.kept); err != nil {
				return nil, err
			}
			standings[song.On.Name] = on
		}
		for i, sec := range song.Song.Sections {
			rec := on.rig.RecipeFor(sec)
			sound, there := r.plan.FindSound(sec.Sound)
			if rec == nil || !there {
				continue
			}
			name := wayName(rec.ID, song.On.Name)
			w := known[name]
			if w == nil {
				tempo := r.tempoOf(sound.ID)
				w = &way{
					made: made{sound: sound, recipe: rec, setting: on.setFor(rec, sound, tempo), tempo: tempo},
					on:   on, words: on.otherwise(rec, song.On.Boxes()),
				}
				list, known[name] = append(list, w), w
			}
			w.at = append(w.at, song.Begin+i)
		}
	}
	return list, nil
}

// wayName tells ways apart: the recipe, and what is picked.
func wayName(recipe plan.ID, picked string) string {
	return string(recipe) + " " + picked
}

// otherwise says what is other than by the first recipe of a sound and the boxes in the chain.
func (r *rendering) otherwise(rec *plan.Recipe, boxes []string) string {
	var words string
	if first := r.rig.RecipeFor(plan.Section{Sound: rec.Sound}); first.ID != rec.ID {
		if words = rec.Name; words == "" {
			words = "another recipe"
		}
	}
	if len(boxes) > 0 {
		if words != "" {
			words += " "
		}
		words += "with " + plan.Listed(boxes)
	}
	return words
}

// fanWays meters ways and, of each, settings that differ from it: on the rig as it stands for each. The figures of a
// way come first, then those of its settings.
func fanWays(
	ctx context.Context, ways []*way, others func(*way) []Setting, dry []float64, progress func(float64),
) ([][]quick, error) {
	out := make([][]quick, len(ways))
	var standings []*rendering
	for _, w := range ways {
		if !slices.Contains(standings, w.on) {
			standings = append(standings, w.on)
		}
	}
	for n, on := range standings {
		var settings []Setting
		var of []int
		for i, w := range ways {
			if w.on != on {
				continue
			}
			all := append([]Setting{w.setting}, others(w)...)
			for range all {
				of = append(of, i)
			}
			settings = append(settings, all...)
		}
		part := progress
		if part != nil {
			part = func(share float64) { progress((float64(n) + share) / float64(len(standings))) }
		}
		figures, err := on.fan(ctx, settings, dry, false, part)
		if err != nil {
			return nil, err
		}
		for k, i := range of {
			out[i] = append(out[i], figures[k])
		}
	}
	return out, nil
}
