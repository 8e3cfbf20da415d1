package plan

import "slices"

// Effect is what a block does to the signal.
type Effect string

// The effects a block can have. What the rules of the job go by in them is in [Effects].
const (
	EffectTuner      Effect = "tuner"
	EffectVolume     Effect = "volume"
	EffectWah        Effect = "wah"
	EffectPitch      Effect = "pitch"
	EffectOctave     Effect = "octave"
	EffectCompressor Effect = "compressor"
	EffectGate       Effect = "gate"
	EffectBoost      Effect = "boost"
	EffectOverdrive  Effect = "overdrive"
	EffectDistortion Effect = "distortion"
	EffectFuzz       Effect = "fuzz"
	EffectEQ         Effect = "eq"
	EffectVibe       Effect = "vibe"
	EffectPhaser     Effect = "phaser"
	EffectChorus     Effect = "chorus"
	EffectFlanger    Effect = "flanger"
	EffectTremolo    Effect = "tremolo"
	EffectRotary     Effect = "rotary"
	EffectDelay      Effect = "delay"
	EffectReverb     Effect = "reverb"
	EffectLooper     Effect = "looper"
	EffectPreamp     Effect = "preamp"
	EffectPower      Effect = "power"
	EffectCab        Effect = "cab"
	EffectBuffer     Effect = "buffer"
	EffectDI         Effect = "di"
	EffectSplitter   Effect = "splitter"
	EffectMixer      Effect = "mixer"
	EffectAcoustic   Effect = "acoustic"
	EffectRadio      Effect = "radio"
	EffectSpeaker    Effect = "speaker"
	EffectLoad       Effect = "load"
	EffectMute       Effect = "mute" // silent while it is on
	EffectSum        Effect = "sum"  // both sides become their sum while it is on
)

// Nature is what sort of thing an effect does to the signal.
type Nature string

// The natures of effects.
const (
	NatureGain       Nature = "gain"
	NatureDynamics   Nature = "dynamics"
	NatureTone       Nature = "tone"
	NatureLevel      Nature = "level"
	NaturePitch      Nature = "pitch"
	NatureModulation Nature = "modulation"
	NatureTime       Nature = "time"
	NatureRouting    Nature = "routing" // it passes the signal on, or hands it to something else
)

// Family is what effects that stand by the same rules of order have in common. An effect whose rules are its own has
// none.
type Family string

// The families of effects.
const (
	FamilySweep   Family = "sweep"   // a slow filter, liked before dirt or after it
	FamilyWobble  Family = "wobble"  // movement that stands after dirt
	FamilyRepeats Family = "repeats" // what it makes rings on
)

// Mark names a drawing; several effects may share one.
type Mark string

// Ask is a thing that a sound can ask of an effect it has to be heard with.
type Ask string

// What can be asked of effects.
const (
	AskNote    Ask = "note"    // a length of note, for a time or a rate
	AskRepeats Ask = "repeats" // how many repeats, and how loud the first is
	AskSize    Ask = "size"    // of a room
)

// Enum lists what can be asked.
func (Ask) Enum() []string { return []string{string(AskNote), string(AskRepeats), string(AskSize)} }

// Traits are what the rules of the job go by in an effect. A generic kind of pedal that is like others needs an entry
// here, one among the kinds of gear, and a circuit in the signal models.
type Traits struct {
	Effect Effect `json:"effect"`
	Name   string `json:"name" doc:"As it is called in a sentence."`
	Mark   Mark   `json:"mark" doc:"The drawing that stands for it."`
	Nature Nature `json:"nature"`
	Family Family `json:"family,omitempty" doc:"It stands by the same rules of order as others of its family."`
	Weight int    `json:"weight,omitempty" doc:"Of a drive: where it stands from light to heavy. A fuzz is excepted."`

	Clips    bool  `json:"clips,omitempty" doc:"It clips or squashes: what is twice as loud is not twice as loud after it."`
	Pushes   bool  `json:"pushes,omitempty" doc:"A pedal that is there to drive what comes after it, or may: where it stands makes the difference."`
	Wet      bool  `json:"wet,omitempty" doc:"It is heard beside the dry sound, which is metered without it."`
	Widens   bool  `json:"widens,omitempty" doc:"It makes two sides of one, even where it has two inputs."`
	Parallel bool  `json:"parallel,omitempty" doc:"It is right in a parallel loop, where the dry sound is always there too."`
	Tempo    bool  `json:"tempo,omitempty" doc:"It has a time or a rate, which may follow the beat."`
	Asked    bool  `json:"asked,omitempty" doc:"A sound can ask that it is heard."`
	Asks     []Ask `json:"asks,omitempty" doc:"What a sound can ask of it besides."`
	Apart    bool  `json:"apart,omitempty" doc:"It is heard as itself, and is off where a sound does not ask for it."`
	Unheard  bool  `json:"unheard,omitempty" doc:"Its job is not to be heard: a sound is the same without it."`
	Ends     bool  `json:"ends,omitempty" doc:"A chain is handed on there: to a speaker, a load or a line."`
}

var rate = []Ask{AskNote}

var effects = []Traits{
	{Effect: EffectTuner, Name: "tuner", Mark: "tuner", Nature: NatureRouting, Unheard: true},
	{Effect: EffectVolume, Name: "volume", Mark: "volume", Nature: NatureLevel, Asked: true, Unheard: true},
	{Effect: EffectWah, Name: "wah", Mark: "wah", Nature: NatureTone, Wet: true, Asked: true, Apart: true},
	{Effect: EffectPitch, Name: "pitch", Mark: "pitch", Nature: NaturePitch,
		Wet: true, Widens: true, Asked: true, Apart: true},
	{Effect: EffectOctave, Name: "octave", Mark: "octave", Nature: NaturePitch, Wet: true, Asked: true, Apart: true},
	{Effect: EffectCompressor, Name: "compressor", Mark: "compressor", Nature: NatureDynamics,
		Clips: true, Pushes: true, Asked: true},
	{Effect: EffectGate, Name: "gate", Mark: "gate", Nature: NatureDynamics},
	{Effect: EffectBoost, Name: "boost", Mark: "boost", Nature: NatureGain, Weight: 1, Clips: true, Pushes: true},
	{
		Effect: EffectOverdrive, Name: "overdrive", Mark: "overdrive", Nature: NatureGain, Weight: 2, Clips: true,
		Pushes: true,
	},
	{
		Effect: EffectDistortion, Name: "distortion", Mark: "distortion", Nature: NatureGain, Weight: 3, Clips: true,
		Pushes: true,
	},
	{Effect: EffectFuzz, Name: "fuzz", Mark: "fuzz", Nature: NatureGain, Clips: true, Pushes: true, Asked: true},
	{Effect: EffectEQ, Name: "EQ", Mark: "eq", Nature: NatureTone},
	{Effect: EffectVibe, Name: "vibe", Mark: "vibe", Nature: NatureModulation,
		Family: FamilySweep, Wet: true, Widens: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectPhaser, Name: "phaser", Mark: "phaser", Nature: NatureModulation,
		Family: FamilySweep, Wet: true, Widens: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectChorus, Name: "chorus", Mark: "chorus", Nature: NatureModulation,
		Family: FamilyWobble, Wet: true, Widens: true, Parallel: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectFlanger, Name: "flanger", Mark: "flanger", Nature: NatureModulation,
		Family: FamilyWobble, Wet: true, Widens: true, Parallel: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectTremolo, Name: "tremolo", Mark: "tremolo", Nature: NatureModulation,
		Family: FamilyWobble, Wet: true, Widens: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectRotary, Name: "rotary", Mark: "rotary", Nature: NatureModulation,
		Wet: true, Widens: true, Parallel: true, Tempo: true, Asked: true, Asks: rate, Apart: true},
	{Effect: EffectDelay, Name: "delay", Mark: "delay", Nature: NatureTime,
		Family: FamilyRepeats, Wet: true, Widens: true, Parallel: true, Tempo: true, Asked: true,
		Asks: []Ask{AskNote, AskRepeats}, Apart: true},
	{Effect: EffectReverb, Name: "reverb", Mark: "reverb", Nature: NatureTime,
		Family: FamilyRepeats, Wet: true, Widens: true, Parallel: true, Asked: true, Asks: []Ask{AskSize}, Apart: true},
	{Effect: EffectLooper, Name: "looper", Mark: "looper", Nature: NatureTime,
		Wet: true, Parallel: true, Unheard: true},
	{Effect: EffectPreamp, Name: "preamp", Mark: "preamp", Nature: NatureGain, Clips: true},
	{Effect: EffectPower, Name: "power section", Mark: "power", Nature: NatureLevel, Clips: true},
	{Effect: EffectCab, Name: "speaker simulation", Mark: "cab", Nature: NatureTone},
	{Effect: EffectBuffer, Name: "buffer", Mark: "buffer", Nature: NatureRouting, Unheard: true},
	{Effect: EffectDI, Name: "DI", Mark: "di", Nature: NatureRouting, Unheard: true, Ends: true},
	{Effect: EffectSplitter, Name: "splitter", Mark: "splitter", Nature: NatureRouting, Unheard: true},
	{Effect: EffectMixer, Name: "mixer", Mark: "mixer", Nature: NatureRouting, Unheard: true},
	{Effect: EffectAcoustic, Name: "acoustic", Mark: "acoustic", Nature: NatureTone, Apart: true},
	{Effect: EffectRadio, Name: "radio", Mark: "radio", Nature: NatureRouting, Unheard: true},
	{Effect: EffectSpeaker, Name: "speaker", Mark: "speaker", Nature: NatureTone, Ends: true},
	{Effect: EffectLoad, Name: "load", Mark: "load", Nature: NatureRouting, Unheard: true, Ends: true},
	{Effect: EffectMute, Name: "mute", Mark: "mute", Nature: NatureLevel, Apart: true},
	{Effect: EffectSum, Name: "sum", Mark: "sum", Nature: NatureRouting, Apart: true},
}

var traits = func() map[Effect]Traits {
	all := map[Effect]Traits{}
	for _, t := range effects {
		all[t.Effect] = t
	}
	return all
}()

// Effects are the traits of every effect there is, in the order in which they are offered.
func Effects() []Traits { return slices.Clone(effects) }

// Traits are what the rules go by in an effect; none where there is no such effect.
func (e Effect) Traits() Traits { return traits[e] }

// IsGain reports whether an effect makes a signal louder or dirtier by what it is for: every drive, a preamp,
// and a clean boost, since it drives what comes after it. A compressor is none: it evens.
func (e Effect) IsGain() bool { return e.Traits().Nature == NatureGain }

// Enum lists every drawing there is to be.
func (Mark) Enum() []string {
	var list []string
	for _, t := range effects {
		if !slices.Contains(list, string(t.Mark)) {
			list = append(list, string(t.Mark))
		}
	}
	return list
}

// Enum lists every effect, for schemas and for the check of files.
func (Effect) Enum() []string {
	list := make([]string, len(effects))
	for i, t := range effects {
		list[i] = string(t.Effect)
	}
	return list
}
