package catalog

import (
	"slices"

	"envex/core/plan"
)

// circuits are those of blocks that are not the first of their effect's, by kind and block.
var circuits = map[string]string{
	"transparent-overdrive/fx": plan.Transparent,
	"light-overdrive/fx":       plan.Transparent,
	"amp-in-a-box/fx":          plan.DrivenVoice,
	"thinning-overdrive/fx":    plan.Thinning,
	"tape-echo/fx":             plan.Tape,
	"ping-pong-delay/fx":       plan.PingPong,
	"combo-loop/reverb":        plan.Spring,
	"combo-plain/reverb":       plan.Spring,
}

// bySelector are circuits that a selector chooses.
var bySelector = map[string][]plan.ModelAt{
	"reverb/fx": {
		{Control: "type", Is: "spring", Model: plan.Spring}, {Control: "type", Is: "room", Model: plan.Room},
		{Control: "type", Is: "hall", Model: plan.Hall},
	},
	"cab-simulator/fx": {
		{Control: "cab", Is: "open back", Model: plan.OpenBack}, {Control: "cab", Is: "closed back", Model: plan.ClosedBack},
	},
	"pitch/fx": {
		{Control: "interval", Is: "octave up", Model: plan.OctaveUp},
		{Control: "interval", Is: "fifth up", Model: plan.FifthUp},
		{Control: "interval", Is: "fourth down", Model: plan.FourthDown},
		{Control: "interval", Is: "octave down", Model: plan.OctaveDown},
	},
	"harmony/fx": {
		{Control: "interval", Is: "fifth up", Model: plan.FifthUp},
		{Control: "interval", Is: "octave up", Model: plan.OctaveUp},
		{Control: "interval", Is: "fourth down", Model: plan.FourthDown},
		{Control: "interval", Is: "octave down", Model: plan.OctaveDown},
	},
	"two-channel-head/preamp": channels,
	"memory-head/preamp":      channels,
}

var channels = []plan.ModelAt{
	{Control: "channel", Is: "clean", Model: plan.CleanVoice, Gain: "clean"},
	{Control: "channel", Is: "drive", Model: plan.DrivenVoice, Gain: "drive", Level: "level"},
}

// withCircuits is a kind with the circuits of its blocks chosen.
func withCircuits(k Kind) Kind {
	k.Gear.Blocks = slices.Clone(k.Gear.Blocks)
	for i := range k.Gear.Blocks {
		b := &k.Gear.Blocks[i]
		at := k.ID + "/" + string(b.ID)
		if m, ok := bySelector[at]; ok {
			b.ModelAt = slices.Clone(m)
		}
		if b.Model != "" || len(b.ModelAt) > 0 {
			continue
		}
		if b.Model = circuits[at]; b.Model == "" {
			if list := plan.ModelsOf(b.Effect); len(list) > 0 {
				b.Model = list[0].ID
			}
		}
	}
	return k
}
