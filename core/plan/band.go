package plan

import "slices"

// Band is who plays beside the guitar: its parts, how loud each is for a listener, and where they rest.
type Band struct {
	ID       ID        `json:"id"`
	Name     string    `json:"name"`
	Notes    string    `json:"notes,omitempty"`
	LevelDB  *float64  `json:"level_db,omitempty" minimum:"-40" maximum:"20" doc:"How loud the whole band is for a listener, over a usual stage, which is some 95 dB SPL; 0 when absent."`
	GuitarDB *float64  `json:"guitar_db,omitempty" minimum:"-40" maximum:"20" doc:"How loud the home sound is, over what is usual; 0 when absent."`
	Parts    []Part    `json:"parts"`
	Playing  []Playing `json:"playing,omitempty" doc:"Where a part rests, or plays otherwise than it usually does."`
}

// Part is what one player, or one hand of one, plays.
type Part struct {
	ID      ID        `json:"id"`
	Name    string    `json:"name"`
	Kind    PartKind  `json:"kind" enum:"kick,drums,percussion,bass,piano,keys-pad,organ,horns,voice,backing,guitar-dark,guitar-bright,guitar-mid,other"`
	LevelDB *float64  `json:"level_db,omitempty" minimum:"-60" maximum:"40" doc:"Over what is usual for its kind; 0 when absent."`
	Tilt    *float64  `json:"tilt_db,omitempty" minimum:"-12" maximum:"12" doc:"Brighter by so many dB an octave, darker where it is negative; 0 when absent."`
	Octave  int       `json:"octave,omitempty" minimum:"-3" maximum:"3" doc:"It plays so many octaves over what is usual."`
	Bands   []float64 `json:"bands_db,omitempty" doc:"Measured from a recording of it: levels in the third octaves from 25 Hz to 16 kHz, in dB against each other. They stand in place of those of its kind."`
}

// PartBands is how many levels a measured part has.
const PartBands = 29

// PartKind is what a part is played on, by generic kind.
type PartKind string

// The kinds of parts.
const (
	Kick         PartKind = "kick"
	Drums        PartKind = "drums"
	Percussion   PartKind = "percussion"
	BassPart     PartKind = "bass"
	Piano        PartKind = "piano"
	KeysPad      PartKind = "keys-pad"
	Organ        PartKind = "organ"
	Horns        PartKind = "horns"
	Voice        PartKind = "voice"
	Backing      PartKind = "backing"
	GuitarDark   PartKind = "guitar-dark"
	GuitarBright PartKind = "guitar-bright"
	GuitarMid    PartKind = "guitar-mid"
	OtherPart    PartKind = "other"
)

// PartTraits are what rules and screens go by in a kind of part.
type PartTraits struct {
	Kind  PartKind `json:"kind"`
	Name  string   `json:"name"`
	Sings bool     `json:"sings" doc:"It is a voice: it is taken to rest where the guitar leads."`
	Holds bool     `json:"holds" doc:"It holds notes: what rings over it covers it."`
	Plays bool     `json:"guitar" doc:"It is another guitar."`
}

// PartKinds are all kinds of parts, in the order they are offered.
func PartKinds() []PartTraits {
	return []PartTraits{
		{Kind: Voice, Name: "Lead voice", Sings: true},
		{Kind: Backing, Name: "Backing voices", Sings: true},
		{Kind: Kick, Name: "Kick"},
		{Kind: Drums, Name: "Drums without the kick"},
		{Kind: Percussion, Name: "Percussion"},
		{Kind: BassPart, Name: "Bass"},
		{Kind: Piano, Name: "Piano"},
		{Kind: KeysPad, Name: "Keys, pad", Holds: true},
		{Kind: Organ, Name: "Organ", Holds: true},
		{Kind: Horns, Name: "Horns"},
		{Kind: GuitarDark, Name: "Guitar, dark and thick", Plays: true},
		{Kind: GuitarBright, Name: "Guitar, bright and chiming", Plays: true},
		{Kind: GuitarMid, Name: "Guitar, mid-forward", Plays: true},
		{Kind: OtherPart, Name: "Something else"},
	}
}

// Traits are those of the kind; those of something else where there is none of that name.
func (k PartKind) Traits() PartTraits {
	kinds := PartKinds()
	if i := slices.IndexFunc(kinds, func(t PartTraits) bool { return t.Kind == k }); i >= 0 {
		return kinds[i]
	}
	return kinds[len(kinds)-1]
}

// Playing says how a part plays in a song, or in one section of it. A section goes before its song. One whose song
// or section is gone says nothing.
type Playing struct {
	Part    ID       `json:"part"`
	Song    ID       `json:"song"`
	Section ID       `json:"section,omitempty" doc:"All of the song when absent."`
	Rests   bool     `json:"rests,omitempty"`
	LevelDB *float64 `json:"level_db,omitempty" minimum:"-60" maximum:"40" doc:"Over how it usually plays; 0 when absent."`
	Tilt    *float64 `json:"tilt_db,omitempty" minimum:"-12" maximum:"12" doc:"Brighter than it usually is, by so many dB an octave; 0 when absent."`
}

// FindPart looks a part up by its id.
func (b *Band) FindPart(id ID) (*Part, bool) {
	return find(b.Parts, id, func(x *Part) ID { return x.ID })
}

// PlayingOf is how a part plays in a section of a song, and whether anything is said of it: what is said of the
// section before what is said of the song.
func (b *Band) PlayingOf(part, song, section ID) (Playing, bool) {
	for _, where := range []ID{section, ""} {
		for _, x := range b.Playing {
			if x.Part == part && x.Song == song && x.Section == where {
				return x, true
			}
		}
	}
	return Playing{}, false
}

// HowPlays is how a part plays in a section of a song that asks for a sound: as is said of it, else as it usually does.
// A voice of which nothing is said is assumed to rest where the guitar leads.
func (b *Band) HowPlays(part *Part, song, section ID, sound *Sound) (how Playing, assumed bool) {
	how, said := b.PlayingOf(part.ID, song, section)
	if !said && part.Kind.Traits().Sings && sound != nil && sound.Role == LeadRole {
		return Playing{Part: part.ID, Song: song, Section: section, Rests: true}, true
	}
	return how, false
}

// BandOf is the band that plays a set: the one it names, else the only one there is; nil where nobody can say.
func (p *Plan) BandOf(l *SetList) *Band {
	if l != nil && l.Band != "" {
		b, _ := p.FindBand(l.Band)
		return b
	}
	if len(p.Bands) == 1 {
		return &p.Bands[0]
	}
	return nil
}

// thirds are levels in the third octaves: none, or one for each.
func (v *validator) thirds(path string, list []float64) {
	if n := len(list); n != 0 && n != PartBands {
		v.problems.add(path, "there are %d levels: %d are needed, of the third octaves from 25 Hz to 16 kHz", n, PartBands)
	}
	for k, db := range list {
		if db < -200 || db > 200 {
			v.problems.add(at(path, k), "%g dB is no level: -200 to 200", db)
		}
	}
}

func (v *validator) band(path string, b *Band) {
	v.name(dot(path, "name"), b.Name)
	localIDs(v, dot(path, "parts"), b.Parts, func(x Part) ID { return x.ID })
	for i, x := range b.Parts {
		here := at(dot(path, "parts"), i)
		v.name(dot(here, "name"), x.Name)
		v.thirds(dot(here, "bands_db"), x.Bands)
	}
	type place struct{ part, song, section ID }
	seen := map[place]bool{}
	for i, x := range b.Playing {
		here := at(dot(path, "playing"), i)
		if _, ok := b.FindPart(x.Part); !ok {
			v.problems.add(dot(here, "part"), "%s has no part %q", b.Name, x.Part)
		}
		where := place{x.Part, x.Song, x.Section}
		if seen[where] {
			v.problems.add(here, "how this part plays there is said already")
		}
		seen[where] = true
	}
}
