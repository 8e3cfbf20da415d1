package catalog

import "envex/core/plan"

// routing is what divides, joins and ends a chain.
func routing() []Kind {
	const family = "Routing"
	box := func(id, name, description string, jacks []plan.Jack, blocks ...plan.Block) Kind {
		return Kind{ID: id, Family: family, Name: name, Description: description, Gear: plan.Gear{
			Kind: plan.Interface, Size: size(90, 120, 45), WeightG: ptr(500.0), Jacks: jacks, Blocks: blocks,
		}}
	}
	always := func(id plan.ID, name string, effect plan.Effect) plan.Block {
		return plan.Block{
			ID: id, Name: name, Effect: effect, Bypass: plan.AlwaysOn, InputOhm: ptr(1e6), OutOhm: ptr(1e3), Level: "any",
		}
	}
	passive := func(b plan.Block) plan.Block {
		b.Passive, b.InputOhm, b.OutOhm = true, nil, nil
		return b
	}
	isolated := func(b plan.Block) plan.Block {
		b.Isolated = true
		return b
	}
	di := isolated(passive(always("fx", "DI", plan.EffectDI)))
	di.InputOhm = ptr(140e3)
	stereoDI := di
	stereoDI.Inputs, stereoDI.Outputs = "stereo", "stereo"
	sum := isolated(passive(always("fx", "junction", plan.EffectMixer)))
	sum.Inputs = "stereo"
	cab := always("fx", "Cab simulator", plan.EffectCab)
	cab.Bypass, cab.Access = plan.BufferedBypass, plan.SlowHand
	cab.Controls = []plan.Control{selector("cab", "cab", plan.SlowHand, "open back", "closed back")}
	speaker := plan.Block{
		ID: "fx", Name: "speaker", Effect: plan.EffectSpeaker, Bypass: plan.AlwaysOn, Level: "speaker", InputOhm: ptr(8.0),
	}
	load := plan.Block{
		ID: "fx", Name: "load", Effect: plan.EffectLoad, Bypass: plan.AlwaysOn, Level: "speaker", OutLevel: "line",
		InputOhm: ptr(8.0),
	}
	powered := func(k Kind, ma float64) Kind {
		k.Gear.Power = power(ma, false)
		return k
	}
	lanes := []plan.Jack{
		{ID: "in", Name: "input", Side: "right"}, {ID: "out-1", Name: "output 1", Side: "left"},
		{ID: "out-2", Name: "output 2", Side: "left"},
	}
	return []Kind{
		powered(
			box(
				"splitter", "Splitter with an isolated output", "Two ways from one, buffered; the second through a transformer.",
				lanes, isolated(always("fx", "splitter", plan.EffectSplitter)),
			),
			20,
		),
		box(
			"passive-splitter", "Passive splitter", "Two ways from one, wire only: both load the guitar.", lanes,
			passive(always("fx", "splitter", plan.EffectSplitter)),
		),
		chooser("ab-box", "A/B box", "One way or the other, or both; a switch of its own.", "A", "B", "both"),
		chooser("amp-selector", "Amp selector", "One of two amps, or both.", "amp 1", "amp 2", "both"),
		switched("mute", "Mute switch", "Silent while it is on.", plan.EffectMute, sideJacks()),
		switched("mono-sum", "Mono switch", "Both sides become their sum while it is on.", plan.EffectSum, stereoJacks()),
		powered(
			box(
				"line-mixer", "Line mixer", "Parts a signal into lanes and sums them again.", nil,
				always("in", "in", plan.EffectSplitter), always("out", "out", plan.EffectMixer),
			),
			60,
		),
		box(
			"isolator", "Isolating transformer", "Breaks a hum loop without touching the mains.", sideJacks(),
			isolated(passive(always("fx", "isolator", plan.EffectBuffer))),
		),
		box(
			"junction", "Junction box that sums", "Left and right into one line.",
			[]plan.Jack{
				{ID: "in-l", Name: "input left", Side: "right"}, {ID: "in-r", Name: "input right", Side: "right"},
				{ID: "out", Name: "output", Side: "left"},
			},
			sum,
		),
		digital(
			powered(box("cab-simulator", "Cab simulator", "A speaker's voice for a line to the house.", sideJacks(), cab), 150),
		),
		powered(
			box(
				"acoustic-simulator", "Acoustic simulator", "Body for a piezo.", sideJacks(),
				always("fx", "Acoustic simulator", plan.EffectAcoustic),
			),
			60,
		),
		box("di", "DI box", "Balanced, isolated line to the house.", sideJacks(), di),
		box("stereo-di", "Stereo DI", "Two balanced, isolated lines to the house.", stereoJacks(), stereoDI),
		heavy(
			box(
				"speaker", "Speaker cabinet", "One twelve-inch speaker of 8 ohm.",
				[]plan.Jack{{ID: "in", Name: "input", Side: "back"}}, speaker,
			),
			size(520, 280, 450), 15000,
		),
		heavy(
			box("load", "Load box", "Takes the place of a speaker, with a line out.", sideJacks(), load), size(220, 200, 80),
			2500,
		),
		{ID: "radio", Family: family, Name: "Radio",
			Description: "Transmitter at the guitar, receiver on the board; the first buffer.", Gear: plan.Gear{
				Kind: plan.Pedal, Size: size(90, 120, 45), WeightG: ptr(350.0), Power: power(250, false), Jacks: sideJacks(),
				Blocks: []plan.Block{
					{ID: "fx", Name: "Radio", Effect: plan.EffectRadio, Bypass: plan.AlwaysOn, LatencyMS: ptr(3.0), OutOhm: ptr(1e3)},
				},
			}},
	}
}

// heavy is a kind of another size and weight.
func heavy(k Kind, s *plan.Size, grams float64) Kind {
	k.Gear.Size, k.Gear.WeightG = s, ptr(grams)
	return k
}

// chooser is a box that sends a signal one way or another.
func chooser(id, name, description string, options ...string) Kind {
	b := plan.Block{
		ID: "fx", Name: name, Effect: plan.EffectSplitter, Bypass: plan.AlwaysOn, Passive: true,
		Controls: []plan.Control{selector("way", "way", plan.Foot, options...)},
	}
	return Kind{ID: id, Family: "Routing", Name: name, Description: description, Gear: plan.Gear{
		Kind: plan.Interface, Size: size(100, 70, 45), WeightG: ptr(350.0), Blocks: []plan.Block{b},
		Jacks: []plan.Jack{
			{ID: "in", Name: "input", Side: "right"}, {ID: "out-1", Name: "output 1", Side: "left"},
			{ID: "out-2", Name: "output 2", Side: "left"},
		},
		Footswitches: []plan.Footswitch{{ID: "way", Label: "way", X: 50, Y: 45, Press: does(plan.Step, "fx/way", 1)}},
	}}
}

// switched is a box of nothing but a switch.
func switched(id, name, description string, effect plan.Effect, jacks []plan.Jack) Kind {
	b := plan.Block{ID: "fx", Name: name, Effect: effect, Bypass: plan.TrueBypass, Passive: true, Level: "any"}
	if effect == plan.EffectSum {
		b.Inputs, b.Outputs = "stereo", "stereo"
	}
	return Kind{ID: id, Family: "Routing", Name: name, Description: description, Gear: plan.Gear{
		Kind: plan.Interface, Size: size(70, 70, 45), WeightG: ptr(250.0), Blocks: []plan.Block{b}, Jacks: jacks,
		Footswitches: []plan.Footswitch{stomp("on", "on", 35, 45, "fx")},
	}}
}

// several is gear with blocks that stand apart in a chain.
func several() []Kind {
	const family = "Delay and reverb"
	pingPong := single(
		"ping-pong-delay", family, "Ping-pong delay", "Repeats from side to side; mono in, stereo out.", plan.EffectDelay,
		plan.BufferedBypass, 150, delayTime(plan.SlowHand, 400, 1200), knob("repeats", "repeats", 4), knob("mix", "mix", 4),
	)
	pingPong.Gear.Jacks, pingPong.Gear.Blocks[0].Outputs, pingPong.Gear.Blocks[0].Trails = stereoJacks(), "stereo", true
	stereo := single(
		"stereo-reverb", family, "Stereo reverb", "A room on both sides.", plan.EffectReverb, plan.BufferedBypass, 200,
		knobs("size", "mix")...,
	)
	stereo.Gear.Jacks, stereo.Gear.Blocks[0].Inputs, stereo.Gear.Blocks[0].Outputs, stereo.Gear.Blocks[0].Trails = stereoJacks(), "stereo", "stereo", true
	block := func(id plan.ID, effect plan.Effect, controls ...plan.Control) plan.Block {
		return plan.Block{
			ID: id, Name: string(id), Effect: effect, Bypass: plan.BufferedBypass, InputOhm: ptr(1e6), OutOhm: ptr(1e3),
			Level: "any", Controls: controls,
		}
	}
	multi := Kind{ID: "multi-effect", Family: family, Name: "Multi-effect",
		Description: "Drive in front, delay and reverb in the loop, by four cables.", Gear: plan.Gear{
			Kind: plan.Pedal, Size: size(260, 140, 60), WeightG: ptr(1500.0), Power: power(500, false),
			MIDI: &plan.MIDIPort{Channel: 2},
			Jacks: []plan.Jack{
				{ID: "in", Name: "input", Side: "right", Block: "drive"}, {ID: "send", Name: "send", Side: "right", Block: "drive"},
				{ID: "return", Name: "return", Side: "left", Block: "delay"},
				{ID: "out", Name: "output", Side: "left", Block: "reverb"},
			},
			Blocks: []plan.Block{
				block("drive", plan.EffectOverdrive, knobs("drive", "tone", "level")...),
				block("delay", plan.EffectDelay, delayTime(plan.SlowHand, 400, 1200), knob("mix", "mix", 4)),
				block("reverb", plan.EffectReverb, knobs("size", "mix")...),
			},
			Footswitches: []plan.Footswitch{
				stomp("drive", "drive", 40, 110, "drive"), stomp("delay", "delay", 130, 110, "delay"),
				stomp("reverb", "reverb", 220, 110, "reverb"),
			},
		}}
	return []Kind{digital(pingPong), digital(stereo), digital(multi)}
}

// slot is a footswitch that recalls a slot of the bank its controller stands on.
func slot(name string, x float64) plan.Footswitch {
	return plan.Footswitch{
		ID: plan.ID(name), Label: name, X: x, Y: 70,
		Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: ptr(plan.Text(name))}}},
	}
}

// switchers take loops of other boxes in and out of the chain.
func switchers() []Kind {
	return []Kind{{ID: "loop-switcher", Family: "Controllers and the rest", Name: "Loop switcher",
		Description: "Eight loops, four slots to a bank; the chain can leave it before the fifth.", Gear: plan.Gear{
			Kind: plan.Controller, Size: size(400, 110, 60), WeightG: ptr(2100.0), Power: power(120, false),
			MIDI:     &plan.MIDIPort{Channel: 1},
			Switcher: &plan.Switcher{Loops: []plan.SwitcherLoop{{}, {}, {}, {}, {Break: true}, {}, {}, {}}}, Banks: 16,
			SkipsEmpty: true,
			Footswitches: []plan.Footswitch{
				slot("1", 40), slot("2", 120), slot("3", 200), slot("4", 280),
				{ID: "bank", Label: "bank", X: 360, Y: 70, Press: does(plan.Bank, "", 1)},
			},
		}}}
}
