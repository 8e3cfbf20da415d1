package midi_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"envex/core/midi"
	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// pier is a rig with a controller, an amp with a memory, a delay with a map of its own, and a
// reverb on the same channel as the delay when asked.
func pier(change ...func(*plan.Plan)) *plan.Plan {
	knob := func(id string) plan.Control {
		return plan.Control{ID: plan.ID(id), Name: id, Kind: plan.Knob, Access: plan.Remote}
	}
	p := &plan.Plan{
		Gear: []plan.Gear{
			{ID: "c", Name: "Turntable", Kind: plan.Controller, MIDI: &plan.MIDIPort{Channel: 1},
				Relays: []plan.Relay{
					{ID: "r1"},
					{ID: "r2"},
				}, Switcher: &plan.Switcher{Loops: make([]plan.SwitcherLoop, 3)},
				Footswitches: []plan.Footswitch{
					{
						ID:    "1",
						Label: "1",
						Press: &plan.Press{Actions: []plan.Action{{Kind: plan.Recall, Value: ptr(plan.Text("1"))}}},
					},
				}},
			{ID: "d", Name: "Echo", Kind: plan.Pedal,
				MIDI: &plan.MIDIPort{Channel: 3, CountsFrom: ptr(0), Map: []plan.MIDIMessage{
					{Target: "fx/preset", Values: map[string]int{"A": 10, "B": 20}},
					{Target: "fx/on", Control: ptr(27), Values: map[string]int{"on": 100, "off": 1}},
					{Target: "fx/mix", Control: ptr(28)},
				}}, Blocks: []plan.Block{{ID: "fx", Name: "delay", Effect: plan.EffectDelay, Bypass: plan.BufferedBypass,
					Controls: []plan.Control{
						{
							ID:      "preset",
							Name:    "preset",
							Kind:    plan.Preset,
							Access:  plan.Foot,
							Options: []string{"A", "B", "C"},
						},
						knob("mix"),
					}}}},
			{
				ID: "v", Name: "Room", Kind: plan.Pedal, MIDI: &plan.MIDIPort{Channel: 4},
				Blocks: []plan.Block{
					{
						ID: "fx", Name: "reverb", Effect: plan.EffectReverb, Bypass: plan.BufferedBypass,
						Controls: []plan.Control{knob("size")},
					},
				},
			},
			{
				ID: "b", Name: "Nudge", Kind: plan.Pedal,
				Blocks: []plan.Block{{ID: "fx", Name: "boost", Effect: plan.EffectBoost, Bypass: plan.TrueBypass}},
			},
			{ID: "a", Name: "Pier", Kind: plan.Amp, Blocks: []plan.Block{
				{
					ID: "preamp", Name: "preamp", Effect: plan.EffectPreamp, Bypass: plan.AlwaysOn,
					Controls: []plan.Control{
						{
							ID:      "channel",
							Name:    "channel",
							Kind:    plan.Selector,
							Access:  plan.Foot,
							Options: []string{"clean", "drive"},
						},
					},
				},
				{ID: "power", Name: "power", Effect: plan.EffectPower, Bypass: plan.AlwaysOn},
			}},
		},
		Sounds: []plan.Sound{{ID: "s", Name: "Home", Short: "HM", Role: plan.HomeRole, Tape: "bone"}},
		Rigs: []plan.Rig{{ID: "rig", Name: "Board",
			Path: []plan.Node{
				{
					Stop:     "b/fx",
					Switcher: "c",
					Loop:     2,
				}, {Stop: "d/fx"}, {Stop: "v/fx"}, {Stop: "a/preamp"}, {Stop: "a/power"},
			},
			Relays: []plan.RelayLink{{Controller: "c", Relay: "r2", Target: "a/preamp/channel"}},
			Programs: plan.ProgramMap{"c": {"1": {"1": {Label: "Home", Sound: "s", Values: map[plan.Key]plan.Value{
				"b/fx/on": plan.On(
					true,
				), "d/fx/on": plan.On(true), "d/fx/preset": plan.Text("B"), "v/fx/on": plan.On(false),
				"v/fx/size": plan.Number(10), "a/preamp/channel": plan.Text("drive"),
			}}}}},
		}},
	}
	for _, c := range change {
		c(p)
	}
	return p
}

func mapOf(t *testing.T, p *plan.Plan) *midi.Report {
	t.Helper()
	require.Empty(t, p.Validate())
	r, err := midi.Map(p, "rig")
	require.NoError(t, err)
	return r
}

func TestAProgramSendsItsMessagesInOrder(t *testing.T) {
	r := mapOf(t, pier())
	require.Len(t, r.Programs, 1)
	type line struct{ bytes, words string }
	var got []line
	for _, s := range r.Programs[0].Sends {
		got = append(got, line{s.Bytes, s.Words})
	}
	assert.Equal(t, []line{
		{"C2 14", "Echo preset B"}, // program changes first: they move everything in the device
		{"B2 1B 64", "Echo on"},
		{"B3 14 00", "Room off"},
		{"B3 15 7F", "Room size 10"},
		{"", "relay r2 closed: Pier preamp channel drive"},
	}, got)
	assert.Equal(t, 20, r.Programs[0].Sends[0].Shown, "the display counts from 0")
	assert.Equal(t, []midi.Loop{{Loop: 2, On: true}}, r.Programs[0].Loops, "its own loop needs no message")
	assert.Empty(t, r.Findings)
	assert.True(t, r.Devices[1].Presumed)
	assert.False(t, r.Devices[0].Presumed)
}

func TestWhatIsWrongWithALineIsFound(t *testing.T) {
	cases := map[string]struct {
		change func(*plan.Plan)
		id     string
		words  string
	}{
		"two on one channel": {
			func(p *plan.Plan) { p.Gear[2].MIDI.Channel = 3 },
			"midi:shared:d:v",
			"moves the other too",
		},
		"the wrong channel": {func(p *plan.Plan) {
			p.Rigs[0].MIDI = []plan.MIDILink{{Controller: "c", Gear: "v", Channel: 9}}
			delete(p.Rigs[0].Programs["c"]["1"]["1"].Values, "v/fx/on")
			delete(p.Rigs[0].Programs["c"]["1"]["1"].Values, "v/fx/size")
		}, "midi:channel:c:v", "on channel 9, and it listens on 4"},
		"no message says it": {
			func(p *plan.Plan) { p.Rigs[0].Programs["c"]["1"]["1"].Values["d/fx/preset"] = plan.Text("C") },
			"midi:unsaid:c:1:1:d/fx/preset", "No message sets Echo preset to C.",
		},
		"a device is gone": {func(p *plan.Plan) {
			p.Rigs[0].Path = append(p.Rigs[0].Path[:2:2], p.Rigs[0].Path[3:]...)
		}, "midi:absent:c:v", "still send to it"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			r := mapOf(t, pier(c.change))
			require.Len(t, r.Findings, 1)
			assert.Equal(t, c.id, r.Findings[0].ID)
			assert.Contains(t, r.Findings[0].Words, c.words)
		})
	}
}

func TestSimulatedDevicesStandWhereTheProgramSays(t *testing.T) {
	p := pier()
	m, err := midi.Play(p, "rig", []midi.Slot{{Controller: "c", Bank: "1", Slot: "1"}})
	require.NoError(t, err)
	at := map[plan.Key]string{}
	for _, s := range m.Shown {
		at[s.Variable] = s.Value
	}
	assert.Equal(
		t,
		map[plan.Key]string{"d/fx/on": "on", "d/fx/preset": "B", "d/fx/mix": "5", "v/fx/on": "off", "v/fx/size": "10"},
		at,
	)
	assert.Len(t, m.Heard, 4, "a relay is no message")

	p.Gear[2].MIDI.Channel = 3 // both on channel 3
	m, err = midi.Play(p, "rig", []midi.Slot{{Controller: "c", Bank: "1", Slot: "1"}})
	require.NoError(t, err)
	assert.Len(t, m.Heard, 4)

	_, err = midi.Play(p, "rig", []midi.Slot{{Controller: "c", Bank: "9", Slot: "1"}})
	assert.ErrorContains(t, err, "no program in bank 9")
	_, err = midi.Play(p, "nope", nil)
	assert.ErrorContains(t, err, "no rig")
}

func TestWhateverAProgramHoldsArrives(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := pier()
		values := map[plan.Key]plan.Value{
			"d/fx/on": plan.On(rapid.Bool().Draw(t, "echo")), "v/fx/on": plan.On(rapid.Bool().Draw(t, "room")),
			"d/fx/preset": plan.Text(rapid.SampledFrom([]string{"A", "B"}).Draw(t, "preset")),
			"d/fx/mix":    plan.Number(rapid.Float64Range(0, 10).Draw(t, "mix")),
			"v/fx/size":   plan.Number(rapid.Float64Range(0, 10).Draw(t, "size")),
		}
		p.Rigs[0].Programs = plan.ProgramMap{"c": {"1": {"1": {Values: values}}}}
		report, err := midi.Map(p, "rig")
		require.NoError(t, err)
		desk, err := midi.NewDesk(p, "rig")
		require.NoError(t, err)
		for _, s := range report.Programs[0].Sends {
			bytes := s.Message.Bytes()
			cut := rapid.IntRange(0, len(bytes)).Draw(t, "cut")
			desk.Receive(bytes[:cut]) // a stream may break anywhere, and real-time bytes come between
			desk.Receive([]byte{0xF8})
			desk.Receive(bytes[cut:])
		}
		for key, want := range values {
			got := desk.At(key)
			if want.Kind() == plan.NumberValue {
				require.LessOrEqual(t, math.Abs(got.Float()-want.Float()), 10.0/127/2+1e-9, "%s: seven bits", key)
				continue
			}
			require.Equal(t, want, got, "%s", key)
		}
	})
}

func TestReaderKnowsRunningStatusAndSkipsTheRest(t *testing.T) {
	var r midi.Reader
	got := r.Read(
		[]byte{0x05, 0xB0, 1, 2, 3, 0xFE, 4, 0xF0, 1, 2, 0xF7, 9, 9, 0x90, 60, 64, 0xD1, 5, 0xC4, 7, 8, 0xE0, 1},
	)
	assert.Equal(t, []midi.Message{
		{Kind: midi.ControlChange, Channel: 1, Number: 1, Value: 2},
		{Kind: midi.ControlChange, Channel: 1, Number: 3, Value: 4},
		{Kind: midi.ProgramChange, Channel: 5, Number: 7},
		{Kind: midi.ProgramChange, Channel: 5, Number: 8},
	}, got)
}

func FuzzReader(f *testing.F) {
	f.Add([]byte{0xC0, 1, 0xB1, 2, 3})
	f.Add([]byte{0xF0, 0x80, 0xFF, 0xC0})
	f.Fuzz(func(t *testing.T, data []byte) {
		var whole, parts midi.Reader
		all := whole.Read(data)
		var one []midi.Message
		for _, b := range data {
			one = append(one, parts.Read([]byte{b})...)
		}
		assert.Equal(t, all, one, "a stream reads the same in pieces")
		for _, m := range all {
			if m.Channel < 1 || m.Channel > 16 || m.Number < 0 || m.Number > 127 || m.Value < 0 || m.Value > 127 {
				t.Fatalf("%v", m)
			}
			var again midi.Reader
			assert.Equal(t, []midi.Message{m}, again.Read(m.Bytes()))
		}
	})
}

func TestACueBringsEveryDeviceWhereAStateHasIt(t *testing.T) {
	p := pier()
	sent, err := midi.Cue(p, "rig", map[plan.Key]plan.Value{
		"v/fx/size": plan.Number(5), "d/fx/preset": plan.Text("A"), "d/fx/on": plan.On(false),
		"d/fx/mix": plan.Number(10), "b/fx/on": plan.On(true), "gone/fx/on": plan.On(true),
	})
	require.NoError(t, err)
	var got []string
	for _, s := range sent {
		got = append(got, s.Bytes+" "+s.Words)
	}
	assert.Equal(t, []string{
		"C2 0A Echo preset A", // ahead of all controls: it moves everything in the device
		"B2 1B 01 Echo off", "B2 1C 7F Echo mix 10", "B3 15 40 Room size 5",
	}, got, "Room's switch is not said, and Nudge hears nothing")

	sent, err = midi.Cue(p, "rig", map[plan.Key]plan.Value{"d/fx/preset": plan.Text("C")})
	require.NoError(t, err)
	assert.NotNil(t, sent)
	assert.Empty(t, sent, "no message sets it")
	_, err = midi.Cue(p, "nope", nil)
	assert.ErrorContains(t, err, "no rig")
}

func TestASimulatedDeviceAnswers(t *testing.T) {
	program := midi.Message{Kind: midi.ProgramChange, Channel: 3, Number: 127}
	control := midi.Message{Kind: midi.ControlChange, Channel: 3, Number: 127, Value: 126}
	assert.Equal(t, program.Bytes(), midi.Answer(program, false))
	assert.Equal(t, control.Bytes(), midi.Answer(control, false))
	assert.Equal(t, []byte{0xC2, 0}, midi.Answer(program, true), "the program after the last is the first")
	assert.Equal(t, []byte{0xB2, 127, 127}, midi.Answer(control, true))
	control.Value = 127
	assert.Equal(t, []byte{0xB2, 127, 0}, midi.Answer(control, true))
	program.Number = 4
	assert.Equal(t, []byte{0xC2, 5}, midi.Answer(program, true))
}

func TestDevicesAreListedByChannel(t *testing.T) {
	order := func(change func(*plan.Plan)) []plan.ID {
		var list []plan.ID
		for _, d := range mapOf(t, pier(change)).Devices {
			list = append(list, d.Gear)
		}
		return list
	}
	assert.Equal(t, []plan.ID{"d", "v"}, order(func(*plan.Plan) {}))
	assert.Equal(t, []plan.ID{"v", "d"}, order(func(p *plan.Plan) { p.Gear[1].MIDI.Channel = 9 }))
	assert.Equal(
		t,
		[]plan.ID{"d", "v"},
		order(func(p *plan.Plan) { p.Gear[2].MIDI.Channel = 3 }),
		"those that share one as the rig has them",
	)
}

func TestARelayIsOpenOrClosed(t *testing.T) {
	words := func(channel string) midi.Sent {
		r := mapOf(t, pier(func(p *plan.Plan) {
			p.Rigs[0].Programs["c"]["1"]["1"].Values["a/preamp/channel"] = plan.Text(channel)
		}))
		sends := r.Programs[0].Sends
		return sends[len(sends)-1]
	}
	closed, open := words("drive"), words("clean")
	assert.Equal(t, "relay r2 closed: Pier preamp channel drive", closed.Words)
	assert.Equal(t, "relay r2 open: Pier preamp channel clean", open.Words)
	for _, s := range []midi.Sent{closed, open} {
		assert.Equal(t, midi.Message{Kind: midi.Relay, Number: 2}, s.Message, "the second contact")
		assert.Empty(t, s.Message.Bytes())
	}
}

func TestWhatEndsRunningStatus(t *testing.T) {
	for name, between := range map[string][]byte{
		"exclusive": {0xF0}, "system common": {0xF1}, "its end": {0xF7}, "another status": {0xE0},
	} {
		var r midi.Reader
		assert.Empty(t, r.Read(append(append([]byte{0xB0, 1}, between...), 2, 3)), name)
	}
	var r midi.Reader
	assert.Len(t, r.Read([]byte{0xB0, 1, 0xF8, 2, 0xFF, 3, 4}), 2, "real time stands anywhere and ends nothing")
	assert.Equal(
		t,
		[]midi.Message{{Kind: midi.ProgramChange, Channel: 16, Number: 7}},
		r.Read([]byte{0xDF, 5, 6, 0xCF, 7, 0x80, 1}),
		"pressure has one byte, and is skipped",
	)
}

// Programs that send to an amp which stands at another destination are no mistake there, nor where the rig is at none.
func TestProgramsMaySendToTheAmpOfAnotherDestination(t *testing.T) {
	p := pier()
	own, _ := p.FindGear("a")
	hired := *own
	hired.ID, hired.Name, hired.MIDI = "hired", "Hired", &plan.MIDIPort{Channel: 9}
	hired.Controls = []plan.Control{{
		ID: "preset", Name: "preset", Kind: plan.Preset, Access: plan.Remote, Options: []string{"1", "2"},
	}}
	p.Gear = append(p.Gear, hired)
	r := &p.Rigs[0]
	values := r.Programs["c"]["1"]["1"].Values
	values["hired/preset"] = plan.Text("2")
	absent := func(p *plan.Plan) (ids []string) {
		found, err := midi.Map(p, r.ID)
		require.NoError(t, err)
		for _, f := range found.Findings {
			ids = append(ids, f.ID)
		}
		return ids
	}
	assert.Equal(t, []string{"midi:absent:c:hired"}, absent(p), "it stands nowhere")
	r.Destinations = []plan.Destination{{ID: "hall", Name: "Hall", Kind: plan.HiredAmp, Amp: "hired"}}
	assert.Empty(t, absent(p))
	there, err := p.At(r.ID, "hall")
	require.NoError(t, err)
	assert.Empty(t, absent(there))
	values["gone/fx/on"] = plan.On(true)
	p.Gear = append(p.Gear, plan.Gear{ID: "gone", Name: "Gone", Kind: plan.Pedal})
	assert.Equal(t, []string{"midi:absent:c:gone"}, absent(p), "a pedal stands nowhere else")
}
