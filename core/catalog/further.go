package catalog

import (
	"slices"

	"envex/core/plan"
)

// This file holds the kinds that are variants of those in kinds.go: other pickups, circuits, times and voices.

// guitarOf is a guitar of a kind that there is, with other pickups.
func guitarOf(like Kind, id, name, description string, output float64) Kind {
	g := like.Gear
	g.Pickups = slices.Clone(g.Pickups)
	for i := range g.Pickups {
		g.Pickups[i].OutputMVRMS = ptr(output)
	}
	return Kind{ID: id, Family: like.Family, Name: name, Description: description, Gear: g}
}

func furtherGuitars() []Kind {
	list := guitars()
	three, two := list[0], list[1]
	one := guitarOf(two, "one-humbucker", "One humbucker", "A bridge pickup and nothing else.", 190)
	one.Gear.Pickups, one.Gear.Controls = one.Gear.Pickups[1:], one.Gear.Controls[1:]
	mixed := guitarOf(
		three, "humbucker-single-single", "Humbucker and two single coils", "Single coils, and a humbucker at the bridge.",
		100,
	)
	mixed.Gear.Pickups[2] = two.Gear.Pickups[1]
	wide := guitarOf(
		two, "two-wide-coil", "Two wide single coils", "Fatter than a single coil, brighter than a humbucker.", 140,
	)
	for i := range wide.Gear.Pickups {
		wide.Gear.Pickups[i].ResistanceOhm, wide.Gear.Pickups[i].InductanceH = ptr(8000.0), ptr(6.0)
	}
	return []Kind{one, mixed, wide,
		guitarOf(
			two, "semi-hollow", "Semi-hollow with two humbuckers", "Two humbuckers of low output on a body with air in it.", 150,
		),
		guitarOf(two, "baritone", "Baritone with two humbuckers", "A long scale, tuned a fourth or a fifth low.", 180),
	}
}

func furtherUtilities() []Kind {
	const family = "First in line"
	octaves := single(
		"octave-up-down", family, "Two octaves", "One octave down under the dry note, in one mix.", plan.EffectOctave,
		plan.BufferedBypass, 60, knobs("octave", "dry")...,
	)
	harmony := single(
		"harmony", family, "Harmony", "A fixed interval beside the note.", plan.EffectPitch, plan.BufferedBypass, 120,
		append(
			knobs("mix"), selector("interval", "interval", plan.Foot, "fifth up", "octave up", "fourth down", "octave down"),
		)...,
	)
	harmony.Gear.Footswitches = append(
		harmony.Gear.Footswitches,
		plan.Footswitch{ID: "interval", Label: "interval", X: 95, Y: 100, Press: does(plan.Step, "fx/interval", 1)},
	)
	harmony.Gear.Footswitches[0].X, harmony.Gear.Size = 30, size(120, 120, 55)
	fixed := single(
		"fixed-wah", family, "Filter", "A wah that stands still, as a tone.", plan.EffectWah, plan.TrueBypass, 10,
		knobs("position")...,
	)
	active := single("active-volume", family, "Active volume pedal",
		"A rocker with a buffer in it: it does not load the guitar.", plan.EffectVolume, plan.AlwaysOn, 10,
		plan.Control{ID: "position", Name: "position", Kind: plan.Knob, Access: plan.Remote, Default: ptr(plan.Number(10))})
	active.Gear.Size, active.Gear.WeightG, active.Gear.Footswitches = size(100, 260, 70), ptr(1200.0), nil
	active.Gear.Blocks[0].Rocker = true
	return []Kind{digital(octaves), digital(harmony), fixed, active,
		single(
			"fast-compressor", family, "Fast compressor", "A transistor that clamps every pick stroke.", plan.EffectCompressor,
			plan.TrueBypass, 10, knobs("sustain", "level")...,
		),
		single(
			"limiter", family, "Limiter", "Holds peaks, leaves the rest.", plan.EffectCompressor, plan.TrueBypass, 20,
			knobs("squeeze", "level")...,
		),
	}
}

func furtherGain() []Kind {
	const family = "Gain"
	pair := func(id, name, description string, left, right plan.Block) Kind {
		k := Kind{ID: id, Family: family, Name: name, Description: description, Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(120, 120, 55), WeightG: ptr(620.0), Power: power(40, false), Jacks: sideJacks(),
			Blocks: []plan.Block{left, right},
			Footswitches: []plan.Footswitch{
				stomp(string(left.ID), left.Name, 30, 100, left.ID), stomp(string(right.ID), right.Name, 90, 100, right.ID),
			},
		}}
		for i := range k.Gear.Blocks {
			b := &k.Gear.Blocks[i]
			b.Bypass, b.InputOhm, b.OutOhm = plan.TrueBypass, ptr(1e6), ptr(1e3)
		}
		return k
	}
	boost := plan.Block{ID: "boost", Name: "boost", Effect: plan.EffectBoost, Controls: knobs("level")}
	drive := plan.Block{
		ID: "drive", Name: "drive", Effect: plan.EffectOverdrive, Controls: knobs("drive", "tone", "level"),
	}
	driven := single(
		"amp-in-a-box", family, "High-gain preamp pedal", "A driven channel for a clean amp.", plan.EffectPreamp,
		plan.BufferedBypass, 100, knobs("gain", "bass", "mid", "treble", "level")...,
	)
	silicon := single(
		"silicon-fuzz", family, "Silicon fuzz", "Brighter and more steady than its older kin.", plan.EffectFuzz,
		plan.TrueBypass, 5, knobs("fuzz", "volume")...,
	)
	silicon.Gear.Blocks[0].InputOhm = ptr(12e3)
	sustain := single(
		"sustaining-fuzz", family, "Sustaining fuzz", "Four stages: long notes, and a buffered input.", plan.EffectFuzz,
		plan.TrueBypass, 5, knobs("fuzz", "volume")...,
	)
	sustain.Gear.Blocks[0].InputOhm = ptr(100e3)
	return []Kind{
		single(
			"light-overdrive", family, "Light overdrive", "Just off clean.", plan.EffectOverdrive, plan.TrueBypass, 10,
			knob("drive", "drive", 3), knob("tone", "tone", 5), knob("level", "level", 6),
		),
		single(
			"treble-boost", family, "Treble booster", "Ahead of an amp that is turned up.", plan.EffectBoost, plan.TrueBypass, 5,
			knob("level", "level", 7),
		),
		single(
			"high-gain-distortion", family, "High-gain distortion", "As much as a pedal has.", plan.EffectDistortion,
			plan.TrueBypass, 30, knob("drive", "drive", 8), knob("tone", "tone", 5), knob("level", "level", 5),
		),
		silicon, sustain,
		pair(
			"boost-and-drive", "Boost and drive", "A boost and an overdrive in one box, each with its own switch.", boost, drive,
		),
		driven,
	}
}

// tappedSpeed is a rate in Hz, from a half to the fastest it has, that a foot can tap.
func tappedSpeed(fastest float64) plan.Control {
	return plan.Control{
		ID: "speed", Name: "speed", Kind: plan.Knob, Access: plan.Foot, Unit: "Hz", Min: ptr(0.5), Max: ptr(fastest),
		Default: ptr(plan.Number(4)),
	}
}

func furtherModulation() []Kind {
	const family = "Modulation"
	tapped := single("tap-tremolo", family, "Tap tremolo", "A tremolo whose speed is tapped.",
		plan.EffectTremolo, plan.BufferedBypass, 60, tappedSpeed(12), knob("depth", "depth", 6), knob("level", "level", 5))
	tapped.Gear.Size = size(120, 120, 55)
	tapped.Gear.Footswitches = []plan.Footswitch{
		stomp("on", "on", 30, 100, "fx"), {ID: "tap", Label: "tap", X: 90, Y: 100, Press: does(plan.Tap, "fx/speed", 0)},
	}
	sliced := single("slicer", family, "Slicer", "The level jumps on and off in time: chords become a pulse.",
		plan.EffectTremolo, plan.BufferedBypass, 70, tappedSpeed(16), knob("depth", "depth", 10), knob("level", "level", 5))
	sliced.Gear.Blocks[0].Model = plan.Slicing
	sliced.Gear.Footswitches = tapped.Gear.Footswitches
	sliced.Gear.Size = size(120, 120, 55)
	wide := single(
		"stereo-chorus", family, "Stereo chorus", "A wavering double on both sides.", plan.EffectChorus, plan.BufferedBypass,
		40, knobs("speed", "depth")...,
	)
	wide.Gear.Jacks, wide.Gear.Blocks[0].Inputs, wide.Gear.Blocks[0].Outputs = stereoJacks(), "stereo", "stereo"
	return []Kind{
		digital(
			single(
				"vibrato", family, "Vibrato", "The pitch wavers; nothing of the dry note is left.", plan.EffectChorus,
				plan.BufferedBypass, 30, append(knobs("speed", "depth"), knob("mix", "mix", 10))...,
			),
		),
		single(
			"rotary", family, "Rotary speaker", "Two speeds of a turning horn.", plan.EffectRotary, plan.BufferedBypass, 120,
			knobs("speed", "depth", "volume")...,
		),
		digital(tapped), digital(wide), digital(sliced),
	}
}

func furtherTime() []Kind {
	const family = "Delay and reverb"
	delay := func(id, name, description, model string, at, longest, ma float64) Kind {
		k := single(
			id, family, name, description, plan.EffectDelay, plan.TrueBypass, ma, delayTime(plan.SlowHand, at, longest),
			knob("repeats", "repeats", 4), knob("mix", "mix", 4),
		)
		k.Gear.Blocks[0].Model = model
		return k
	}
	reverb := func(id, name, description, model string, ma float64) Kind {
		k := single(id, family, name, description, plan.EffectReverb, plan.BufferedBypass, ma, knobs("size", "mix")...)
		k.Gear.Blocks[0].Model, k.Gear.Blocks[0].Trails, k.Gear.Blocks[0].RingS = model, true, ptr(2.0)
		return k
	}
	two := func(id, name, description string, left, right plan.Block) Kind {
		k := Kind{ID: id, Family: family, Name: name, Description: description, Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(145, 120, 60), WeightG: ptr(800.0), Power: power(300, false), Jacks: stereoJacks(),
			Blocks: []plan.Block{left, right},
			Footswitches: []plan.Footswitch{
				stomp(string(left.ID), left.Name, 35, 100, left.ID), stomp(string(right.ID), right.Name, 110, 100, right.ID),
			},
		}}
		for i := range k.Gear.Blocks {
			b := &k.Gear.Blocks[i]
			b.Bypass, b.InputOhm, b.OutOhm, b.Trails, b.Inputs, b.Outputs = plan.BufferedBypass, ptr(1e6), ptr(1e3), true, "stereo", "stereo"
		}
		return digital(k)
	}
	echo := plan.Block{
		ID: "delay", Name: "delay", Effect: plan.EffectDelay,
		Controls: []plan.Control{delayTime(plan.SlowHand, 400, 1600), knob("repeats", "repeats", 4), knob("mix", "mix", 4)},
	}
	room := plan.Block{ID: "reverb", Name: "reverb", Effect: plan.EffectReverb, Controls: knobs("size", "mix")}
	tape := delay(
		"tape-echo-tap", "Tape echo with tap", "Repeats get darker; its time is tapped.", plan.Tape, 400, 1200, 200,
	)
	tape.Gear.Size, tape.Gear.Blocks[0].Controls[0], tape.Gear.Blocks[0].Trails, tape.Gear.Blocks[0].Bypass = size(120, 125, 60), delayTime(plan.Foot, 400, 1200), true, plan.BufferedBypass
	tape.Gear.Footswitches = []plan.Footswitch{
		stomp("on", "on", 30, 105, "fx"), {ID: "tap", Label: "tap", X: 90, Y: 105, Press: does(plan.Tap, "fx/time", 0)},
	}
	left, right := room, room
	left.ID, left.Name, right.ID, right.Name, right.Model = "short", "short", "long", "long", plan.Hall
	return []Kind{
		digital(tape),
		delay("analogue-delay-300", "Analogue delay, 300 ms", "Dark repeats, short.", plan.Tape, 250, 300, 30),
		delay(
			"analogue-delay-600", "Analogue delay, 600 ms", "Dark repeats, long enough for a dotted eighth.", plan.Tape, 400,
			600, 40,
		),
		digital(
			delay(
				"tape-delay-knob", "Tape delay on a knob", "Tape repeats to a second, set by hand.", plan.Tape, 400, 1000, 100,
			),
		),
		digital(
			delay("digital-delay", "Digital delay", "Repeats as they were played, to two seconds.", plan.Digital, 400, 2000, 80),
		),
		digital(reverb("spring-reverb", "Spring reverb", "Drips.", plan.Spring, 80)),
		digital(reverb("hall-reverb", "Hall reverb", "Large and slow.", plan.Hall, 120)),
		digital(reverb("room-reverb", "Room reverb", "Short and even.", plan.Room, 80)),
		two("dual-reverb", "Dual reverb", "A short and a long one, each with its own switch.", left, right),
		two("delay-and-reverb", "Delay and reverb", "Both in one box, each with its own switch.", echo, room),
	}
}

// furtherAmps are amps by how they speak, with settings to start from.
func furtherAmps() []Kind {
	const family = "Amps"
	section := func(id plan.ID, effect plan.Effect, controls ...plan.Control) plan.Block {
		return plan.Block{
			ID: id, Name: string(id), Effect: effect, Bypass: plan.AlwaysOn, InputOhm: ptr(1e6), Controls: controls,
		}
	}
	voiced := func(id, name, description, model string, combo, loop bool, gain, bass, mid, treble, master float64) Kind {
		g := plan.Gear{Kind: plan.Amp, Blocks: []plan.Block{
			section(
				"preamp", plan.EffectPreamp, knob("gain", "gain", gain), knob("bass", "bass", bass), knob("mid", "mid", mid),
				knob("treble", "treble", treble),
			),
			section("power", plan.EffectPower, knob("master", "master", master)),
		}}
		g.Blocks[0].Model = model
		if combo {
			g.Size, g.WeightG, g.SpeakerOut = size(560, 260, 460), ptr(18500.0), &plan.SpeakerOut{
				Internal: true, Valve: true, Ohms: []float64{8},
			}
		} else {
			g.Size, g.WeightG, g.SpeakerOut = size(640, 240, 260), ptr(17000.0), &plan.SpeakerOut{
				Valve: true, Ohms: []float64{8, 16},
			}
		}
		if loop {
			g.Loop = &plan.AmpLoop{Kind: "series"}
		}
		return Kind{ID: id, Family: family, Name: name, Description: description, Gear: g}
	}
	powered := section("power", plan.EffectPower, knob("master", "master", 5))
	powered.OutLevel = "speaker"
	power := Kind{ID: "power-amp", Family: family, Name: "Power amp alone",
		Description: "What a preamp pedal is plugged into.",
		Gear: plan.Gear{
			Kind: plan.Interface, Size: size(220, 160, 60), WeightG: ptr(2400.0),
			Power:  &plan.PowerDraw{Voltage: 24, Current: ptr(4000.0), Connector: "2.1 mm barrel"},
			Jacks:  []plan.Jack{{ID: "in", Name: "input", Side: "right"}, {ID: "out", Name: "speaker", Side: "left"}},
			Blocks: []plan.Block{powered},
		}}
	channels := selector("channel", "channel", plan.Memory, "clean", "crunch", "lead")
	preamp := plan.Block{ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn,
		InputOhm: ptr(1e6), OutOhm: ptr(1e3), OutLevel: "line",
		Controls: append(
			[]plan.Control{
				channels, knob("clean", "clean volume", 5), knob("crunch", "crunch gain", 5), knob("lead", "lead gain", 6),
				knob("level", "lead level", 5),
			},
			knobs("bass", "mid", "treble")...,
		),
		ModelAt: []plan.ModelAt{
			{Control: "channel", Is: "clean", Model: plan.CleanVoice, Gain: "clean"},
			{Control: "channel", Is: "crunch", Model: plan.EdgeVoice, Gain: "crunch"},
			{Control: "channel", Is: "lead", Model: plan.DrivenVoice, Gain: "lead", Level: "level"},
		}}
	midi := Kind{ID: "midi-preamp", Family: family, Name: "Three-channel preamp by MIDI",
		Description: "Clean, crunch and lead, recalled by program change.", Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(180, 130, 60), WeightG: ptr(1200.0),
			Power: &plan.PowerDraw{Voltage: 12, Current: ptr(500.0), Polarity: "centre-negative", Connector: "2.1 mm barrel"},
			Jacks: sideJacks(), MIDI: &plan.MIDIPort{Channel: 3},
			Controls: []plan.Control{presets(plan.Remote, "1", "2", "3", "4", "5", "6", "7", "8")}, Blocks: []plan.Block{preamp},
		}}
	return []Kind{
		voiced(
			"scooped-clean-combo", "Scooped clean combo", "Loud and clean; little middle.", plan.CleanVoice, true, false, 4, 6,
			3, 6, 6,
		),
		voiced(
			"chiming-combo", "Chiming combo", "Bright; breaks up when dug into.", plan.EdgeVoice, true, false, 4, 4, 5, 7, 6,
		),
		voiced(
			"mid-forward-head", "Mid-forward head", "Crunch with much middle, and a loop.", plan.EdgeVoice, false, true, 6, 5, 7,
			6, 5,
		),
		voiced(
			"tight-high-gain-head", "Tight high-gain head", "Driven, with a firm low end, and a loop.", plan.DrivenVoice, false,
			true, 6, 4, 5, 6, 4,
		),
		voiced(
			"small-combo", "Small combo without a loop", "Few watts: it is turned up.", plan.EdgeVoice, true, false, 6, 5, 5, 5,
			8,
		),
		power, midi,
	}
}

func furtherRouting() []Kind {
	const family = "Routing"
	cabinet := func(id, name, description, model string, w, d, h, grams float64) Kind {
		return Kind{ID: id, Family: family, Name: name, Description: description, Gear: plan.Gear{
			Kind: plan.Interface, Size: size(w, d, h), WeightG: ptr(grams),
			Jacks: []plan.Jack{{ID: "in", Name: "input", Side: "back"}},
			Blocks: []plan.Block{
				{
					ID: "fx", Name: "speaker", Effect: plan.EffectSpeaker, Model: model, Bypass: plan.AlwaysOn, Level: "speaker",
					InputOhm: ptr(8.0),
				},
			},
		}}
	}
	patch := Kind{ID: "patch-box", Family: family, Name: "Junction box with its switches",
		Description: "Where leads to the amp come together; two contacts for the amp's footswitch jack.", Gear: plan.Gear{
			Kind: plan.Controller, Size: size(150, 60, 40), WeightG: ptr(350.0),
			Relays:       []plan.Relay{{ID: "relay-1", Name: "switch 1"}, {ID: "relay-2", Name: "switch 2"}},
			Footswitches: []plan.Footswitch{{ID: "1", Label: "1", X: 45, Y: 30}, {ID: "2", Label: "2", X: 105, Y: 30}},
		}}
	expression := Kind{ID: "expression-pedal", Family: "Controllers and the rest", Name: "Expression pedal",
		Description: "A rocker on a lead that moves another box's knob.", Gear: plan.Gear{
			Kind: plan.Controller, Size: size(100, 250, 70), WeightG: ptr(900.0),
			Jacks: []plan.Jack{{ID: "out", Name: "output", Side: "back"}},
		}}
	dial := Kind{ID: "tempo-dial", Family: "Controllers and the rest", Name: "Tempo box with a dial",
		Description: "Beats a minute on a dial, a tap switch beside it; says a clock to what listens.", Gear: plan.Gear{
			Kind: plan.Controller, Size: size(110, 110, 55), WeightG: ptr(400.0), Power: power(60, false),
			MIDI: &plan.MIDIPort{Channel: 1},
			Controls: []plan.Control{
				{
					ID: "bpm", Name: "bpm", Kind: plan.Knob, Access: plan.SlowHand, Min: ptr(30.0), Max: ptr(300.0),
					Default: ptr(plan.Number(120)),
				},
			},
			Footswitches: []plan.Footswitch{{ID: "tap", Label: "tap", X: 55, Y: 85}},
		}}
	selectorBox := chooser(
		"input-selector", "Input selector", "One of two guitars into one chain.", "guitar 1", "guitar 2",
	)
	return []Kind{patch, selectorBox,
		cabinet(
			"closed-cabinet", "Closed cabinet of four", "Four twelve-inch speakers behind a closed back.", plan.ClosedBack, 760,
			360, 760, 36000,
		),
		expression, dial,
	}
}

func furtherRest() []Kind {
	const family = "Controllers and the rest"
	board := func(id, name string, w, d, grams float64) Kind {
		return Kind{
			ID: id, Family: family, Name: name, Description: "What the boxes stand on.",
			Gear: plan.Gear{Kind: plan.Board, Size: size(w, d, 60), WeightG: ptr(grams)},
		}
	}
	return []Kind{
		{ID: "small-supply", Family: family, Name: "Small isolated supply", Description: "Five outputs of 9 V and 100 mA.",
			Gear: plan.Gear{
				Kind: plan.Supply, Size: size(110, 70, 35), WeightG: ptr(450.0),
				Supply: &plan.PowerSupply{Outputs: outputs(1, 5, 100, 9), MainsV: "100-240"},
			}},
		board("small-board", "Small board", 460, 300, 2100), board("medium-board", "Middle board", 600, 320, 2600),
	}
}
