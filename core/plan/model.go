package plan

import (
	"maps"
	"slices"
	"strings"
)

// The circuits that a block's sound can be computed by, of effects that have more than one.
const (
	MidHump     = "mid-hump"
	Transparent = "transparent"
	Thinning    = "thinning" // its bass thins as its gain rises

	CleanVoice  = "clean"
	EdgeVoice   = "edge"
	DrivenVoice = "driven"

	OpenBack   = "open-back"
	ClosedBack = "closed-back"

	Spring = "spring"
	Room   = "room"
	Hall   = "hall"

	Digital  = "digital"
	Tape     = "tape"
	PingPong = "ping-pong"

	FourthDown = "fourth-down"
	FifthDown  = "fifth-down"
	OctaveDown = "octave-down"
	FourthUp   = "fourth-up"
	FifthUp    = "fifth-up"
	OctaveUp   = "octave-up"

	Smooth  = "smooth"
	Slicing = "slicing"
)

// Model is a circuit by which a sound can be computed.
type Model struct {
	ID          string `json:"id"`
	Name        string `json:"name"`
	Description string `json:"description" doc:"What it does to the sound."`
}

// models are the circuits of each effect that has a choice of them; the first is taken where a block does
// not say.
var models = map[Effect][]Model{
	EffectOverdrive: {
		{MidHump, "mid-hump", "clips above 720 Hz and keeps the bass clean"},
		{Transparent, "transparent", "clips the whole range, softly"},
		{Thinning, "thinning", "clips hard; its bass thins as its gain rises"},
	},
	EffectPreamp: {
		{EdgeVoice, "edge of breakup", "breaks up when dug into"},
		{CleanVoice, "clean", "stays clean until it is pushed"},
		{DrivenVoice, "driven", "made to distort: two stages in a row"},
	},
	EffectCab:     cabinets,
	EffectSpeaker: cabinets,
	EffectReverb: {
		{Room, "room", "even and short"},
		{Spring, "spring", "drips, and rings in the middle"},
		{Hall, "hall", "larger than its knob says"},
	},
	EffectDelay: {
		{Digital, "digital", "repeats as they were played"},
		{Tape, "tape", "repeats get darker and softer at their tops"},
		{PingPong, "ping-pong", "repeats go from side to side, of a stereo output"},
	},
	EffectTremolo: {
		{Smooth, "smooth", "the level rises and falls"},
		{Slicing, "slicing", "the level jumps between on and off: half the time each"},
	},
	EffectPitch: {
		{OctaveUp, "octave up", "12 semitones up"}, {FifthUp, "fifth up", "7 semitones up"},
		{FourthUp, "fourth up", "5 semitones up"},
		{FourthDown, "fourth down", "5 semitones down"}, {FifthDown, "fifth down", "7 semitones down"},
		{OctaveDown, "octave down", "12 semitones down"},
	},
}

var cabinets = []Model{{OpenBack, "open back", "less low end"}, {ClosedBack, "closed back", "more low end"}}

// ModelsOf are the circuits a block of an effect can be computed by: none where there is one alone, or the
// effect has no circuit of its own.
func ModelsOf(e Effect) []Model { return slices.Clone(models[e]) }

// Models are the circuits of every effect that has a choice of them.
func Models() map[Effect][]Model { return maps.Clone(models) }

// ModelAt is what circuit a block is while a selector stands at a position: a channel, a kind of reverb, an
// interval.
type ModelAt struct {
	Control ID     `json:"control" doc:"The selector, of the block or of the whole box."`
	Is      string `json:"is" doc:"Its position."`
	Model   string `json:"model" doc:"One of those of the block's effect."`
	Gain    ID     `json:"gain,omitempty" doc:"Of a preamp: the knob that is its gain there; found by its name when absent."`
	Level   ID     `json:"level,omitempty" doc:"Of a preamp: the knob that is its level there; none when absent."`
}

// ModelIn is the circuit of a block as it is set: by a selector that tells, else its own, else the first of
// its effect's. Said is false where nobody chose, and the zero value stands for an effect without a choice.
func (g *Gear) ModelIn(b *Block, at func(Key) Value) (m ModelAt, said bool) {
	for _, m := range b.ModelAt {
		key := BlockKey(g.ID, b.ID) + "/" + Key(m.Control)
		if !slices.ContainsFunc(b.Controls, func(c Control) bool { return c.ID == m.Control }) {
			key = Key(g.ID) + "/" + Key(m.Control)
		}
		if at(key).Word() == m.Is {
			return m, true
		}
	}
	if b.Model != "" {
		return ModelAt{Model: b.Model}, true
	}
	if list := models[b.Effect]; len(list) > 0 {
		return ModelAt{Model: list[0].ID}, false
	}
	return ModelAt{}, false
}

// models checks the circuits that a block is said to be.
func (v *validator) models(path string, g *Gear, b *Block) {
	ids := make([]string, 0, 8)
	for _, m := range models[b.Effect] {
		ids = append(ids, m.ID)
	}
	known := func(path, model string) {
		switch {
		case len(ids) == 0:
			v.problems.add(path, "there is no choice of circuits for a %s", b.Effect)
		case !slices.Contains(ids, model):
			v.problems.add(path, "%q is not one of %s", model, strings.Join(ids, ", "))
		}
	}
	if b.Model != "" {
		known(dot(path, "model"), b.Model)
	}
	for i, m := range b.ModelAt {
		mp := at(dot(path, "model_at"), i)
		known(dot(mp, "model"), m.Model)
		c := slices.IndexFunc(b.Controls, func(c Control) bool { return c.ID == m.Control })
		list := b.Controls
		if c < 0 {
			list = g.Controls
			c = slices.IndexFunc(list, func(c Control) bool { return c.ID == m.Control })
		}
		switch {
		case c < 0:
			v.problems.add(dot(mp, "control"), "%s has no control %q", g.StopName(b), m.Control)
		case !slices.Contains(list[c].Options, m.Is):
			v.problems.add(dot(mp, "is"), "%s has no position %q", list[c].Name, m.Is)
		case slices.ContainsFunc(b.ModelAt[:i], func(x ModelAt) bool { return x.Control == m.Control && x.Is == m.Is }):
			v.problems.add(mp, "%s at %q is described twice", list[c].Name, m.Is)
		}
		v.pot(dot(mp, "gain"), b.Controls, m.Gain, g.StopName(b))
		v.pot(dot(mp, "level"), b.Controls, m.Level, g.StopName(b))
	}
}

// TellModels says of gear from before circuits were chosen which they are: what was gathered then from
// what the box and its circuits were called, so that nothing sounds other than it did. It changes nothing
// where something is said already.
func TellModels(g *Gear) {
	for i := range g.Blocks {
		b := &g.Blocks[i]
		if b.Model != "" || len(b.ModelAt) > 0 || len(models[b.Effect]) == 0 {
			continue
		}
		called := strings.ToLower(g.Circuit + " " + b.Name + " " + g.Notes)
		description := func(word string) bool { return strings.Contains(called, word) }
		b.Model = models[b.Effect][0].ID
		switch b.Effect {
		case EffectOverdrive:
			if description("transparent") {
				b.Model = Transparent
			}
		case EffectPreamp:
			tellVoices(g, b, description)
		case EffectCab, EffectSpeaker:
			if description("closed") {
				b.Model = ClosedBack
			}
			b.tellOptions("cab", map[string]string{"closed back": ClosedBack})
		case EffectReverb:
			if description("spring") || g.Kind == Amp {
				b.Model = Spring
			} else {
				b.tellOptions("type", map[string]string{"spring": Spring, "hall": Hall, "room": Room})
			}
		case EffectDelay:
			switch {
			case description("ping-pong") && b.Outputs == "stereo":
				b.Model = PingPong
			case description("tape"):
				b.Model = Tape
			}
		case EffectPitch:
			b.tellOptions(
				"interval",
				map[string]string{"octave up": OctaveUp, "fifth up": FifthUp, "fourth down": FourthDown, "octave down": OctaveDown},
			)
		}
	}
}

func (b *Block) tellOptions(control ID, known map[string]string) {
	for _, c := range b.Controls {
		if c.ID != control {
			continue
		}
		for _, o := range c.Options {
			if model, ok := known[o]; ok {
				b.ModelAt = append(b.ModelAt, ModelAt{Control: control, Is: o, Model: model})
			}
		}
	}
}

// tellVoices are the channels of a preamp, by what they are called.
func tellVoices(g *Gear, b *Block, description func(string) bool) {
	switch {
	case description("high-gain"), description("high gain"):
		b.Model = DrivenVoice
	case description("clean"):
		b.Model = CleanVoice
	}
	knob := func(ids ...ID) ID {
		for _, id := range ids {
			if slices.ContainsFunc(b.Controls, func(c Control) bool { return c.ID == id && c.Kind == Knob }) {
				return id
			}
		}
		return ""
	}
	driven := func(word string) bool {
		return slices.ContainsFunc(
			[]string{"drive", "lead", "high", "dirty", "crunch", "overdrive"},
			func(w string) bool { return strings.Contains(strings.ToLower(word), w) },
		)
	}
	for _, list := range [][]Control{b.Controls, g.Controls} {
		for _, c := range list {
			if c.ID != "channel" || len(b.ModelAt) > 0 {
				continue
			}
			for _, o := range c.Options {
				m := ModelAt{
					Control: "channel", Is: o, Model: EdgeVoice, Gain: knob("gain", "volume", "drive"), Level: knob("level"),
				}
				switch {
				case driven(o):
					m.Model, m.Gain = DrivenVoice, knob("drive", "gain")
				case strings.Contains(strings.ToLower(o), "clean"):
					m.Model, m.Gain, m.Level = CleanVoice, knob("clean", "gain", "volume"), ""
				}
				b.ModelAt = append(b.ModelAt, m)
			}
		}
	}
}
