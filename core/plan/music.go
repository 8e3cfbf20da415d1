package plan

// Role is what a sound is for.
type Role string

// The roles a sound can have.
const (
	HomeRole    Role = "home"
	RhythmRole  Role = "rhythm"
	LeadRole    Role = "lead"
	TextureRole Role = "texture"
	SpecialRole Role = "special"
)

// Tapes are the colours a sound can be marked with, in the order they are offered. No tape
// is red or near it: red is kept for what fails.
func Tapes() []string {
	return []string{
		"bone", "yellow", "sky", "violet", "teal", "pink", "periwinkle", "lime", "sand", "moss", "lilac", "ice",
	}
}

// Sound is a need, free of any rig.
type Sound struct {
	ID      ID      `json:"id"`
	Name    string  `json:"name"`
	Short   string  `json:"short" doc:"One to three letters for the set strip and for paper."`
	Role    Role    `json:"role" enum:"home,rhythm,lead,texture,special"`
	Tape    string  `json:"tape" enum:"bone,yellow,sky,violet,teal,pink,periwinkle,lime,sand,moss,lilac,ice"`
	Notes   string  `json:"notes,omitempty"`
	Targets Targets `json:"targets"`
}

// Targets say what a sound has to be, in terms that any rig can be measured against.
type Targets struct {
	DirtMin     *float64 `json:"dirt_min_pct,omitempty" minimum:"0" maximum:"100"`
	DirtMax     *float64 `json:"dirt_max_pct,omitempty" minimum:"0" maximum:"100"`
	LoudnessLU  *float64 `json:"loudness_lu,omitempty" minimum:"-40" maximum:"40" doc:"Over the home sound."`
	ToleranceLU *float64 `json:"tolerance_lu,omitempty" minimum:"0" maximum:"40"`
	Effects     []Heard  `json:"effects,omitempty" doc:"Effects that must be heard."`
	Width       string   `json:"width,omitempty" enum:"mono,stereo" doc:"Stereo when it must be; mono is fine when absent."`
	Guitar      ID       `json:"guitar,omitempty"`
	Pickup      string   `json:"pickup,omitempty"`
	StrictTempo bool     `json:"strict_tempo,omitempty" doc:"Its repeats must lock to the beat."`

	Bands []float64 `json:"bands_db,omitempty" doc:"From a recording of it: levels in the third octaves from 25 Hz to 16 kHz, in dB against each other. Proposals say how near they come."`
}

// Heard is an effect that must be heard in a sound.
type Heard struct {
	Effect  Effect `json:"effect" doc:"One that a sound can ask for."`
	Note    string `json:"note,omitempty" doc:"For a delay or a synced rate: the note length."`
	Repeats *int   `json:"repeats,omitempty" minimum:"1" maximum:"100"`

	LevelDB *float64 `json:"level_db,omitempty" minimum:"-40" maximum:"12" doc:"Of a delay: how loud its first repeat is, over the dry note."`
	Size    string   `json:"size,omitempty" enum:"small,medium,large" doc:"For a reverb."`
}

// Song is a title, a tempo and its sections in order.
type Song struct {
	ID       ID        `json:"id"`
	Title    string    `json:"title"`
	Tempo    Tempo     `json:"tempo"`
	Meter    Meter     `json:"meter"`
	Tuning   string    `json:"tuning,omitempty"`
	Capo     int       `json:"capo,omitempty" minimum:"0" maximum:"24"`
	Guitar   ID        `json:"guitar,omitempty" doc:"The guitar, where it matters."`
	Notes    string    `json:"notes,omitempty"`
	Sections []Section `json:"sections"`
}

// Section is a part of a song that asks for one sound.
type Section struct {
	ID      ID       `json:"id"`
	Label   string   `json:"label"`
	Sound   ID       `json:"sound"`
	Recipe  ID       `json:"recipe,omitempty" doc:"A recipe of that sound, where the rig's first is not wanted."`
	Bars    *float64 `json:"bars,omitempty" minimum:"0.25" maximum:"1000" doc:"Absent when it is open."`
	Singing bool     `json:"singing,omitempty"`
	Rest    float64  `json:"rest_beats,omitempty" minimum:"0" maximum:"256" doc:"Beats of silence just before it."`
	Tempo   *Tempo   `json:"tempo,omitempty" doc:"Where it differs from the song's."`
	Lead    *float64 `json:"lead_beats,omitempty" minimum:"0" maximum:"64" doc:"How early the sound before may be left."`
	Grace   *float64 `json:"grace_beats,omitempty" minimum:"0" maximum:"64" doc:"How late this sound may arrive."`

	Looping *Looping `json:"looping,omitempty" doc:"What a looper records and plays in it."`

	Others []OtherPlayer `json:"others,omitempty" doc:"What other players with rigs of their own play in it."`
}

// TempoIn is the section's own tempo, else the song's.
func (s Section) TempoIn(song Song) Tempo {
	if s.Tempo != nil {
		return *s.Tempo
	}
	return song.Tempo
}

// DefaultGapS is the time between two songs of a set, in seconds, where nobody has said.
const DefaultGapS = 15.0

// SetList is the songs of a night in order. A song may stand in it twice.
type SetList struct {
	ID      ID         `json:"id"`
	Name    string     `json:"name"`
	Band    ID         `json:"band,omitempty" doc:"Who plays it; the only band there is when absent."`
	GapS    *float64   `json:"gap_s,omitempty" minimum:"0" maximum:"3600" doc:"Between songs, where an entry does not say; 15 when absent."`
	Entries []SetEntry `json:"entries"`
}

// SetEntry is a song's place in a set list and how it follows the song before.
type SetEntry struct {
	ID    ID       `json:"id"`
	Song  ID       `json:"song"`
	Segue bool     `json:"segue,omitempty" doc:"It follows the song before without a gap."`
	GapS  *float64 `json:"gap_s,omitempty" minimum:"0" maximum:"3600" doc:"Seconds before it."`

	Pinned bool `json:"pinned,omitempty" doc:"It stays at its place when another order is looked for."`
	From   int  `json:"from,omitempty" minimum:"0" maximum:"1000" doc:"The first place, from 1, at which it may be played; any when absent."`
	To     int  `json:"to,omitempty" minimum:"0" maximum:"1000" doc:"The last."`
}

// Places are the first and the last place, from 0, at which an entry may be played that stands at a place of a list of
// so many.
func (e SetEntry) Places(at, of int) (first, last int) {
	if e.Pinned {
		return at, at
	}
	first, last = max(0, e.From-1), of-1
	if e.To > 0 {
		last = min(last, e.To-1)
	}
	return first, last
}

// GapBefore is the time before entry e in seconds; 0 for a segue.
func (l SetList) GapBefore(e SetEntry) float64 {
	switch {
	case e.Segue:
		return 0
	case e.GapS != nil:
		return *e.GapS
	case l.GapS != nil:
		return *l.GapS
	}
	return DefaultGapS
}
