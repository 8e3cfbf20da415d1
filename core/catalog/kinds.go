package catalog

import (
	"slices"
	"strconv"

	"envex/core/plan"
)

func guitars() []Kind {
	pot := func(id, name string) plan.Control {
		return plan.Control{
			ID: plan.ID(id), Name: name, Kind: plan.Knob, Access: plan.QuickHand, Default: ptr(plan.Number(10)),
		}
	}
	singleCoil := func(id, name string) plan.Pickup {
		return plan.Pickup{
			ID: plan.ID(id), Name: name, ResistanceOhm: ptr(6000.0), InductanceH: ptr(2.5), CapacitancePF: ptr(110.0),
			OutputMVRMS: ptr(100.0),
		}
	}
	humbucker := func(id, name string) plan.Pickup {
		return plan.Pickup{
			ID: plan.ID(id), Name: name, ResistanceOhm: ptr(8000.0), InductanceH: ptr(4.4), CapacitancePF: ptr(130.0),
			OutputMVRMS: ptr(178.0),
		}
	}
	// Guitars with single coils commonly have 250 kohm pots, those with humbuckers 500.
	wiring := func(ohm float64) *plan.Wiring {
		return &plan.Wiring{
			Volume: &plan.Pot{Ohm: ohm, Taper: plan.AudioTaper},
			Tone:   &plan.ToneControl{Pot: plan.Pot{Ohm: ohm, Taper: plan.AudioTaper}, CapacitorNF: 22},
		}
	}
	const family = "Guitars"
	return []Kind{
		{ID: "three-single-coil", Family: family, Name: "Three single coils",
			Description: "A bolt-on guitar with a five-way selector.", Gear: plan.Gear{
				Kind:    plan.Guitar,
				Wiring:  wiring(250e3),
				Pickups: []plan.Pickup{singleCoil("neck", "neck"), singleCoil("middle", "middle"), singleCoil("bridge", "bridge")},
				Controls: []plan.Control{
					selector("pickup", "pickup", plan.QuickHand, "neck", "neck+middle", "middle", "middle+bridge", "bridge"),
					pot("volume", "volume"), pot("tone", "tone"),
				},
			}},
		{ID: "two-humbucker", Family: family, Name: "Two humbuckers",
			Description: "A set-neck guitar with a three-way selector.",
			Gear: plan.Gear{
				Kind:    plan.Guitar,
				Wiring:  wiring(500e3),
				Pickups: []plan.Pickup{humbucker("neck", "neck"), humbucker("bridge", "bridge")},
				Controls: []plan.Control{
					selector("pickup", "pickup", plan.QuickHand, "neck", "both", "bridge"), pot("volume", "volume"),
					pot("tone", "tone"),
				},
			}},
		{ID: "piezo-guitar", Family: family, Name: "Two humbuckers and a piezo",
			Description: "The piezo comes out of a jack of its own.", Gear: plan.Gear{
				Kind:   plan.Guitar,
				Wiring: wiring(500e3),
				Jacks:  []plan.Jack{{ID: "output", Name: "output"}, {ID: "piezo", Name: "piezo out"}},
				Pickups: []plan.Pickup{
					humbucker("neck", "neck"), humbucker("bridge", "bridge"),
					{
						ID: "piezo", Name: "piezo", Jack: "piezo", ResistanceOhm: ptr(1e3), InductanceH: ptr(0.0),
						CapacitancePF: ptr(0.0), OutputMVRMS: ptr(120.0),
					},
				},
				Controls: []plan.Control{
					selector("pickup", "pickup", plan.QuickHand, "neck", "both", "bridge"),
					selector("voice", "voice", plan.QuickHand, "magnetic", "piezo", "both"), pot("volume", "volume"),
					pot("tone", "tone"),
				},
			}},
		{ID: "two-single-coil", Family: family, Name: "Two single coils",
			Description: "A plain slab guitar with a three-way selector.", Gear: plan.Gear{
				Kind:    plan.Guitar,
				Wiring:  wiring(250e3),
				Pickups: []plan.Pickup{singleCoil("neck", "neck"), singleCoil("bridge", "bridge")},
				Controls: []plan.Control{
					selector("pickup", "pickup", plan.QuickHand, "neck", "both", "bridge"), pot("volume", "volume"),
					pot("tone", "tone"),
				},
			}},
	}
}

func utilities() []Kind {
	const family = "First in line"
	tuner := single("tuner", family, "Tuner", "Mutes while it tunes.", plan.EffectTuner, plan.BufferedBypass, 30)
	volume := Kind{ID: "volume", Family: family, Name: "Volume pedal", Description: "A rocker with a tap for a tuner.",
		Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(100, 260, 70), WeightG: ptr(1100.0),
			Jacks: append(sideJacks(), plan.Jack{ID: "tuner", Name: "tuner out", Side: "left"}),
			Blocks: []plan.Block{{ID: "fx", Name: "Volume", Effect: plan.EffectVolume, Bypass: plan.AlwaysOn, Rocker: true,
				Passive: true, Pot: &plan.Pot{Ohm: 250e3, Taper: plan.AudioTaper},
				Controls: []plan.Control{
					{ID: "position", Name: "position", Kind: plan.Knob, Access: plan.Remote, Default: ptr(plan.Number(10))},
				}}},
		}}
	wah := single("wah", family, "Wah", "A rocker; the switch is under the toe.", plan.EffectWah, plan.TrueBypass, 5)
	wah.Gear.Size, wah.Gear.WeightG = size(100, 250, 75), ptr(1300.0)
	wah.Gear.Footswitches[0].X, wah.Gear.Footswitches[0].Y = 50, 25
	wah.Gear.Blocks[0].Rocker = true
	buffer := single("buffer", family, "Buffer", "Drives a long cable.", plan.EffectBuffer, plan.AlwaysOn, 10)
	buffer.Gear.Footswitches = nil
	pitch := single(
		"pitch", family, "Pitch shifter", "Harmony above or below.", plan.EffectPitch, plan.BufferedBypass, 120,
		append(
			knobs("mix"), selector("interval", "interval", plan.SlowHand, "octave up", "fifth up", "fourth down", "octave down"),
		)...,
	)
	return []Kind{
		digital(tuner), volume, wah,
		single(
			"octave", family, "Octave", "One octave down, mixed in.", plan.EffectOctave, plan.TrueBypass, 15,
			knobs("octave", "dry")...,
		),
		digital(pitch),
		single(
			"compressor", family, "Optical compressor", "Evens the picking.", plan.EffectCompressor, plan.TrueBypass, 20,
			knobs("squeeze", "level")...,
		),
		single(
			"gate", family, "Noise gate", "Quiet between notes.", plan.EffectGate, plan.TrueBypass, 20, knobs("threshold")...,
		),
		buffer,
	}
}

func gain() []Kind {
	const family = "Gain"
	dual := Kind{ID: "dual-drive", Family: family, Name: "Dual drive",
		Description: "Two drives in one box, each with its own switch.", Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(120, 120, 55), WeightG: ptr(620.0), Power: power(40, false), Jacks: sideJacks(),
			Blocks: []plan.Block{
				{
					ID: "left", Name: "left", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass,
					Controls: knobs("drive", "tone", "level"),
				},
				{
					ID: "right", Name: "right", Effect: plan.EffectOverdrive, Bypass: plan.TrueBypass,
					Controls: knobs("drive", "tone", "level"),
				},
			},
			Footswitches: []plan.Footswitch{stomp("left", "left", 30, 100, "left"), stomp("right", "right", 90, 100, "right")},
		}}
	for i := range dual.Gear.Blocks {
		dual.Gear.Blocks[i].InputOhm, dual.Gear.Blocks[i].OutOhm = ptr(1e6), ptr(1e3)
	}
	fuzz := single(
		"fuzz", family, "Two-transistor fuzz", "Wants to see the pickup, not a buffer.", plan.EffectFuzz, plan.TrueBypass, 2,
		knobs("fuzz", "volume")...,
	)
	fuzz.Gear.Blocks[0].InputOhm = ptr(8e3)
	return []Kind{
		single(
			"boost", family, "Clean boost", "Louder, and nothing else.", plan.EffectBoost, plan.TrueBypass, 10,
			knobs("level")...,
		),
		single(
			"mid-hump-overdrive", family, "Mid-hump overdrive", "Pushes the middle, trims the bass.", plan.EffectOverdrive,
			plan.TrueBypass, 20, knobs("drive", "tone", "level")...,
		),
		single(
			"transparent-overdrive", family, "Transparent overdrive", "Keeps the guitar's own tone.", plan.EffectOverdrive,
			plan.TrueBypass, 20, knobs("drive", "tone", "level")...,
		),
		single(
			"thinning-overdrive", family, "Thinning overdrive", "Its bass thins as its gain rises.", plan.EffectOverdrive,
			plan.TrueBypass, 20, knobs("drive", "tone", "level")...,
		),
		single(
			"hard-clip-distortion", family, "Hard-clip distortion", "More gain than an overdrive, and edge.",
			plan.EffectDistortion, plan.TrueBypass, 20, knobs("drive", "tone", "level")...,
		),
		fuzz, dual,
		single(
			"preamp-pedal", family, "Preamp pedal", "Another channel ahead of a clean amp.", plan.EffectPreamp, plan.TrueBypass,
			100, knobs("gain", "bass", "mid", "treble", "level")...,
		),
		single(
			"eq", family, "Graphic equaliser", "Seven bands and a level.", plan.EffectEQ, plan.BufferedBypass, 30,
			knobs("100", "200", "400", "800", "1600", "3200", "6400", "level")...,
		),
	}
}

func modulation() []Kind {
	const family = "Modulation"
	return []Kind{
		single(
			"vibe", family, "Rotary vibe", "Four uneven phase stages, throbbing.", plan.EffectVibe, plan.TrueBypass, 40,
			knobs("speed", "depth", "volume")...,
		),
		single("phaser", family, "Phaser", "A sweeping notch.", plan.EffectPhaser, plan.TrueBypass, 20, knobs("speed")...),
		single(
			"chorus", family, "Chorus", "A wavering double.", plan.EffectChorus, plan.BufferedBypass, 20,
			knobs("speed", "depth")...,
		),
		single(
			"flanger", family, "Flanger", "A wavering comb.", plan.EffectFlanger, plan.BufferedBypass, 30,
			knobs("speed", "depth", "regeneration")...,
		),
		single(
			"tremolo", family, "Tremolo", "The level rises and falls.", plan.EffectTremolo, plan.TrueBypass, 20,
			knobs("speed", "depth", "level")...,
		),
	}
}

func timeEffects() []Kind {
	const family = "Delay and reverb"
	tape := Kind{ID: "tape-echo", Family: family, Name: "Tape echo",
		Description: "Three presets, stepped by a hold; tap tempo.", Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(125, 130, 60), WeightG: ptr(800.0), Power: power(250, false), Jacks: stereoJacks(),
			Blocks: []plan.Block{{ID: "fx", Name: "Tape echo", Effect: plan.EffectDelay, Inputs: "mono", Outputs: "stereo",
				Bypass: plan.BufferedBypass, Trails: true, InputOhm: ptr(1e6), OutOhm: ptr(1e3),
				Controls: []plan.Control{
					presets(plan.Foot, "A", "B", "C"), delayTime(plan.Memory, 400, 1200),
					{ID: "repeats", Name: "repeats", Kind: plan.Knob, Access: plan.Memory, Default: ptr(plan.Number(4))},
					{ID: "mix", Name: "mix", Kind: plan.Knob, Access: plan.Memory, Default: ptr(plan.Number(4))},
				}}},
			Footswitches: []plan.Footswitch{
				stomp("on", "on", 30, 110, "fx"),
				{ID: "preset", Label: "preset", X: 95, Y: 110, Press: does(plan.Step, "fx/preset", 1)},
			},
		}}
	tape.Description = "Three presets, stepped by a switch of their own."
	tap := Kind{ID: "tap-delay", Family: family, Name: "Tap delay", Description: "A digital delay that is tapped.",
		Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(120, 125, 60), WeightG: ptr(700.0), Power: power(150, false), Jacks: sideJacks(),
			Blocks: []plan.Block{{ID: "fx", Name: "Tap delay", Effect: plan.EffectDelay, Bypass: plan.BufferedBypass,
				Trails: true, InputOhm: ptr(1e6), OutOhm: ptr(1e3),
				Controls: []plan.Control{delayTime(plan.Foot, 400, 2000), knob("repeats", "repeats", 4), knob("mix", "mix", 4)}}},
			Footswitches: []plan.Footswitch{
				stomp("on", "on", 30, 105, "fx"), {ID: "tap", Label: "tap", X: 90, Y: 105, Press: does(plan.Tap, "fx/time", 0)},
			},
		}}
	reverb := single(
		"reverb", family, "Reverb", "Spring, room or hall.", plan.EffectReverb, plan.BufferedBypass, 100,
		append(knobs("size", "mix"), selector("type", "type", plan.SlowHand, "spring", "room", "hall"))...,
	)
	reverb.Gear.Blocks[0].Trails, reverb.Gear.Blocks[0].RingS = true, ptr(2.0)
	looper := single(
		"looper", family, "Looper", "Records and repeats.", plan.EffectLooper, plan.BufferedBypass, 120, knobs("level")...,
	)
	looper.Gear.Footswitches[0].Label = "record"
	slap := single(
		"slap-delay", family, "Slapback delay", "One short repeat.", plan.EffectDelay, plan.BufferedBypass, 20,
		delayTime(plan.SlowHand, 110, 300), knob("repeats", "repeats", 2), knob("mix", "mix", 5),
	)
	slap.Gear.Blocks[0].Trails, slap.Gear.Blocks[0].RingS = true, ptr(0.5)
	return []Kind{slap, digital(tape), digital(tap), digital(reverb), digital(looper)}
}

func amps() []Kind {
	const family = "Amps"
	section := func(id plan.ID, effect plan.Effect, controls ...plan.Control) plan.Block {
		return plan.Block{
			ID: id, Name: string(id), Effect: effect, Bypass: plan.AlwaysOn, InputOhm: ptr(1e6), Controls: controls,
		}
	}
	tone := knobs("bass", "mid", "treble")
	combo := plan.Gear{Kind: plan.Amp, SpeakerOut: &plan.SpeakerOut{Internal: true, Valve: true, Ohms: []float64{8}},
		Size: size(560, 260, 460), WeightG: ptr(18500.0), Loop: &plan.AmpLoop{Kind: "series"},
		Blocks: []plan.Block{
			section("preamp", plan.EffectPreamp, append([]plan.Control{knob("gain", "gain", 4)}, tone...)...),
			{
				ID: "reverb", Name: "reverb", Effect: plan.EffectReverb, Bypass: plan.AlwaysOn,
				Controls: []plan.Control{knob("reverb", "level", 3)},
			},
			section("power", plan.EffectPower, knob("master", "master", 5)),
		}}
	plain := combo
	plain.Loop = nil
	plain.Blocks = append([]plan.Block{section(
		"preamp", plan.EffectPreamp,
		append([]plan.Control{selector("input", "input", plan.SlowHand, "high", "low"), knob("gain", "gain", 4)}, tone...)...,
	)}, combo.Blocks[1:]...)
	channel := selector("channel", "channel", plan.Foot, "clean", "drive")
	head := plan.Gear{Kind: plan.Amp, SpeakerOut: &plan.SpeakerOut{Valve: true, Ohms: []float64{8, 16}},
		Size: size(640, 240, 260), WeightG: ptr(19000.0), Loop: &plan.AmpLoop{Kind: "series"}, FloorUnit: size(120, 70, 40),
		Blocks: []plan.Block{
			section(
				"preamp", plan.EffectPreamp,
				append(
					[]plan.Control{
						channel, knob("clean", "clean volume", 5), knob("drive", "drive", 6), knob("level", "drive level", 5),
					},
					tone...,
				)...,
			),
			section("power", plan.EffectPower, knob("master", "master", 5)),
		},
		Footswitches: []plan.Footswitch{
			{ID: "channel", Label: "channel", X: 35, Y: 35, Press: does(plan.Step, "preamp/channel", 1)},
		},
	}
	stored := func(id, name string, options ...string) plan.Control {
		return selector(id, name, plan.Memory, options...)
	}
	numbers := make([]string, 48)
	for i := range numbers {
		numbers[i] = strconv.Itoa(i + 1)
	}
	memory := head
	memory.MIDI, memory.FloorUnit, memory.Footswitches = &plan.MIDIPort{Channel: 5}, nil, nil
	memory.Controls = []plan.Control{
		presets(plan.Remote, numbers...), stored("mode", "gain mode", "low", "high"), stored("loop", "loop", "in", "out"),
	}
	memory.Blocks = append([]plan.Block(nil), head.Blocks...)
	memory.Blocks[0].Controls = append(
		[]plan.Control{stored("channel", "channel", "clean", "drive")}, memory.Blocks[0].Controls[1:]...,
	)
	return []Kind{
		{
			ID: "combo-loop", Family: family, Name: "Open-back combo with a loop",
			Description: "One channel, spring reverb, series loop.", Gear: combo,
		},
		{
			ID: "combo-plain", Family: family, Name: "Open-back combo without a loop",
			Description: "One channel, a high and a low input; everything stands in front.", Gear: plain,
		},
		{
			ID: "memory-head", Family: family, Name: "Head with a memory",
			Description: "Channel, gain mode and loop in 48 stored combinations, recalled by MIDI.", Gear: memory,
		},
		{
			ID: "two-channel-head", Family: family, Name: "Two-channel head",
			Description: "Clean and drive on a footswitch, series loop.", Gear: head,
		},
	}
}

func controllers() []Kind {
	const family = "Controllers and the rest"
	return []Kind{
		{ID: "amp-footswitch", Family: family, Name: "Amp footswitch",
			Description: "Two switches; say in the rig what they do.",
			Gear: plan.Gear{
				Kind: plan.Controller, Size: size(130, 70, 40), WeightG: ptr(300.0),
				Footswitches: []plan.Footswitch{{ID: "1", Label: "1", X: 35, Y: 35}, {ID: "2", Label: "2", X: 95, Y: 35}},
			}},
		{ID: "midi-controller", Family: family, Name: "MIDI floor controller",
			Description: "Five slots to a bank; moves what listens to its messages.", Gear: plan.Gear{
				Kind: plan.Controller, Size: size(420, 110, 60), WeightG: ptr(1900.0), Power: power(150, false),
				MIDI: &plan.MIDIPort{Channel: 1}, Banks: 16, SkipsEmpty: true,
				Footswitches: []plan.Footswitch{
					slot("1", 40), slot("2", 110), slot("3", 180), slot("4", 250), slot("5", 320),
					{ID: "bank", Label: "bank", X: 385, Y: 70, Press: does(plan.Bank, "", 1)},
				},
			}},
		{ID: "relay-controller", Family: family, Name: "Controller with relays",
			Description: "Two contacts for footswitch jacks, recalled with its programs.", Gear: plan.Gear{
				Kind: plan.Controller, Size: size(260, 110, 60), WeightG: ptr(1200.0), Power: power(100, false),
				MIDI: &plan.MIDIPort{Channel: 1}, Banks: 16, SkipsEmpty: true,
				Relays: []plan.Relay{{ID: "relay-1", Name: "relay 1"}, {ID: "relay-2", Name: "relay 2"}},
				Footswitches: []plan.Footswitch{
					slot("1", 40), slot("2", 110), slot("3", 180),
					{ID: "bank", Label: "bank", X: 230, Y: 70, Press: does(plan.Bank, "", 1)},
				},
			}},
		{ID: "tempo-box", Family: family, Name: "Tempo box",
			Description: "One tap switch; say in the rig whose time it taps.",
			Gear: plan.Gear{
				Kind: plan.Controller, Size: size(70, 110, 50), WeightG: ptr(300.0), Power: power(20, true),
				Footswitches: []plan.Footswitch{{ID: "tap", Label: "tap", X: 35, Y: 80}},
			}},
		{ID: "remote-switch", Family: family, Name: "Remote switch",
			Description: "One switch on a lead, for what another box can do.", Gear: plan.Gear{
				Kind: plan.Controller, Size: size(60, 60, 40), WeightG: ptr(200.0),
				Footswitches: []plan.Footswitch{{ID: "1", Label: "remote", X: 30, Y: 30}},
			}},
	}
}

func rest() []Kind {
	const family = "Controllers and the rest"
	return []Kind{
		{ID: "supply", Family: family, Name: "Isolated supply",
			Description: "Eight outputs of 9 V, each with a ground of its own.", Gear: plan.Gear{
				Kind: plan.Supply, Size: size(160, 90, 45), WeightG: ptr(900.0),
				Supply: &plan.PowerSupply{Outputs: slices.Concat(outputs(1, 6, 100, 9), outputs(7, 2, 500, 9)), MainsV: "100-240"},
			}},
		{ID: "switchable-supply", Family: family, Name: "Supply with switchable outputs",
			Description: "Isolated; four of 9, 12 or 18 V that may be joined by doubling leads.", Gear: plan.Gear{
				Kind: plan.Supply, Size: size(220, 90, 50), WeightG: ptr(1100.0),
				Supply: &plan.PowerSupply{
					Outputs: slices.Concat(outputs(1, 4, 100, 9), outputs(5, 4, 500, 9, 12, 18)),
					Doubles: []string{plan.CurrentDoubling, plan.VoltageDoubling}, MainsV: "100-240",
				},
			}},
		{ID: "plug-supply", Family: family, Name: "Plug-in supply", Description: "One output of 9 V, for a daisy chain.",
			Gear: plan.Gear{
				Kind: plan.Supply, Size: size(60, 90, 70), WeightG: ptr(250.0),
				Supply: &plan.PowerSupply{Outputs: outputs(1, 1, 1000, 9)},
			}},
		{
			ID: "board", Family: family, Name: "Board", Description: "What the boxes stand on.",
			Gear: plan.Gear{Kind: plan.Board, Size: size(800, 400, 60), WeightG: ptr(3200.0)},
		},
		{
			ID: "cable", Family: family, Name: "Instrument cable", Description: "Six metres, guitar to board.",
			Gear: plan.Gear{Kind: plan.CableStock, Cable: &plan.CableSpec{PFPerM: ptr(100.0), LengthM: ptr(6.0)}},
		},
		{
			ID: "patch-cable", Family: family, Name: "Patch cable", Description: "Stock to cut to length, with flat plugs.",
			Gear: plan.Gear{Kind: plan.CableStock, Cable: &plan.CableSpec{PFPerM: ptr(120.0), Plugs: "flat"}},
		},
	}
}

// outputs are so many of a supply that are the same, numbered from one on.
func outputs(from, count int, ma float64, volts ...float64) []plan.PowerOutput {
	var list []plan.PowerOutput
	for i := range count {
		list = append(list, plan.PowerOutput{ID: plan.ID(strconv.Itoa(from + i)), Voltages: volts, CurrentMA: ma})
	}
	return list
}
