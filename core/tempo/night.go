package tempo

import (
	"fmt"
	"slices"

	"envex/core/plan"
)

// Night is the times of a whole set: the lengths of notes in every song and, on a rig, what each delay
// and each rate that follows the beat is asked, set to, and how it gets there.
type Night struct {
	SetList  plan.ID      `json:"set_list"`
	Rig      plan.ID      `json:"rig,omitempty"`
	Songs    []Song       `json:"songs" doc:"In the order of the set; a song played twice stands twice."`
	Presets  []PresetPlan `json:"presets" doc:"The fewest presets that serve every song, for each device that stores its times."`
	Findings []Finding    `json:"findings"`
	Assumed  []string     `json:"assumed"`
}

// Song is one entry of the set.
type Song struct {
	Entry plan.ID     `json:"entry"`
	Song  plan.ID     `json:"song"`
	Title string      `json:"title"`
	Tempo plan.Tempo  `json:"tempo"`
	Meter *plan.Meter `json:"meter,omitempty"`
	Table []Length    `json:"table"`
	Uses  []Use       `json:"uses"`
	Pairs []Pair      `json:"pairs" doc:"Sounds with several delays: where their repeats fall in a bar."`
}

// Pair is several delays that sound together.
type Pair struct {
	Sound     plan.ID  `json:"sound"`
	SoundName string   `json:"sound_name"`
	Names     []string `json:"names"`
	BarMS     float64  `json:"bar_ms"`
	Hits      []Hit    `json:"hits"`
	Together  int      `json:"together" doc:"Repeats that fall within 10 ms of another delay's."`
}

// Use is one timed effect in one sound of a song.
type Use struct {
	Stop      plan.Key    `json:"stop"`
	Name      string      `json:"name"`
	Effect    plan.Effect `json:"effect"`
	Variable  plan.Key    `json:"variable,omitempty" doc:"The control that holds the time; absent where it has none in ms or Hz."`
	Sound     plan.ID     `json:"sound"`
	SoundName string      `json:"sound_name"`
	Recipe    plan.ID     `json:"recipe"`
	Sections  []string    `json:"sections"`
	Strict    bool        `json:"strict"`
	Note      string      `json:"note,omitempty" doc:"What the sound asks, or what the setting is bound to."`
	Words     string      `json:"words,omitempty"`
	WantedMS  *float64    `json:"wanted_ms,omitempty"`
	SetMS     *float64    `json:"set_ms,omitempty"`
	Nearest   *Near       `json:"nearest,omitempty" doc:"The note that what is set is nearest to."`
	OffMS     float64     `json:"off_ms" doc:"What is set over what is wanted."`
	LastOffMS float64     `json:"last_off_ms" doc:"How far off the last audible repeat is."`
	Heard     bool        `json:"heard" doc:"A repeat is over 30 ms off, in a sound whose repeats must lock."`
	Asked     *int        `json:"repeats_asked,omitempty"`
	AskedDB   *float64    `json:"level_asked_db,omitempty" doc:"Of the first repeat over the dry note."`
	FirstDB   float64     `json:"first_db" doc:"Of the first repeat as it is set."`
	Position  *float64    `json:"position,omitempty" doc:"Where a knob of which rates were measured stands for what is wanted."`
	Untimed   bool        `json:"untimed" doc:"It has no time and no rate that anybody knows."`
	Clock     string      `json:"clock,omitempty" doc:"The box whose clock it follows."`
	Echo      *Echo       `json:"echo,omitempty" doc:"A delay as it is set."`
	Audible   int         `json:"repeats" doc:"Audible as it is set, by the models of its mix and repeats knobs."`
	TailMS    float64     `json:"tail_ms"`
	EnergyDB  float64     `json:"energy_db" doc:"Of the repeats over the dry note."`
	Clutter   bool        `json:"clutter"`
	Slapback  bool        `json:"slapback"`
	Way       Way         `json:"way" enum:"tap,stored,remote,clock,hand,fixed"`
	LongestMS *float64    `json:"longest_ms,omitempty" doc:"The longest time of the device."`
	TooLong   bool        `json:"too_long"`
	TapS      float64     `json:"tap_s,omitempty" doc:"How long tapping takes."`
	RoomS     float64     `json:"room_s,omitempty" doc:"How long the set leaves before the sound is first needed in the song."`
	TapFits   bool        `json:"tap_fits,omitempty"`
	Drift     *Drift      `json:"drift,omitempty" doc:"What the usual error of a tap does to the repeats."`

	tempo plan.Tempo // of the sections
}

// Way is how a time comes to follow the tempo of a song.
type Way string

// The ways a time is set. Fixed is the same all night.
const (
	ByTap    Way = "tap"
	Stored   Way = "stored"
	ByRemote Way = "remote"
	ByClock  Way = "clock"
	ByHand   Way = "hand"
	Fixed    Way = "fixed"
)

// Plan tells the times of a set, on a rig at one of its destinations where one is named, as it stands
// when the destination is "". The plan must be valid. It fails when set list, rig or destination are
// not there.
func Plan(p *plan.Plan, rig, destination, setList plan.ID) (*Night, error) {
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("tempo: %w", err)
	}
	n := &night{
		plan: p,
		out: &Night{
			SetList: setList, Rig: rig, Songs: []Song{}, Presets: []PresetPlan{}, Findings: []Finding{}, Assumed: []string{},
		},
	}
	if rig != "" {
		there, err := p.At(rig, destination)
		if err != nil {
			return nil, fmt.Errorf("tempo: %w", err)
		}
		n.plan = there
		n.rig, _ = there.FindRig(rig)
		n.sets = there.SettingsOf(n.rig)
		n.tapped, n.answered = tappedIn(there, n.rig), map[plan.ID]map[plan.Key]int{}
	}
	for i, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		s := Song{
			Entry: e.ID, Song: song.ID, Title: song.Title, Tempo: song.Tempo, Table: Table(song.Tempo), Uses: []Use{},
			Pairs: []Pair{},
		}
		if song.Meter.Beats > 0 {
			s.Meter = &song.Meter
		}
		if n.rig != nil {
			gap := 0.0
			if i > 0 {
				gap = l.GapBefore(e)
			}
			s.Uses = n.uses(song, gap, i == 0)
			s.Pairs = pairs(song, s.Uses)
		}
		n.out.Songs = append(n.out.Songs, s)
	}
	if n.rig != nil {
		n.out.Presets = n.presets()
		n.find()
	}
	return n.out, nil
}

type night struct {
	plan   *plan.Plan
	rig    *plan.Rig
	sets   *plan.Settings
	tapped map[plan.Key]bool
	out    *Night

	answered map[plan.ID]map[plan.Key]int
}

// tappedIn are the variables that a switch of the rig taps.
func tappedIn(p *plan.Plan, r *plan.Rig) map[plan.Key]bool {
	list := map[plan.Key]bool{}
	for _, id := range r.GearIn() {
		g, ok := p.FindGear(id)
		if !ok {
			continue
		}
		for i := range g.Footswitches {
			press, hold, double := r.SwitchDoes(g, &g.Footswitches[i])
			for _, x := range []*plan.Press{press, hold, double} {
				if x == nil {
					continue
				}
				for _, a := range x.Actions {
					if a.Kind == plan.Tap {
						list[a.Target] = true
					}
				}
			}
		}
	}
	return list
}

// pairs lays the repeats of delays that sound together over a bar.
func pairs(song *plan.Song, uses []Use) []Pair {
	list := []Pair{}
	seen := map[plan.ID]bool{}
	for _, u := range uses {
		if seen[u.Recipe] {
			continue
		}
		seen[u.Recipe] = true
		p := Pair{Sound: u.Sound, SoundName: u.SoundName, BarMS: song.Tempo.BarSeconds(song.Meter) * 1000}
		var echoes []Echo
		for _, x := range uses {
			if x.Recipe == u.Recipe && x.Echo != nil && !slices.Contains(p.Names, x.Name) {
				echoes, p.Names = append(echoes, *x.Echo), append(p.Names, x.Name)
			}
		}
		if len(echoes) < 2 {
			continue
		}
		p.Hits = Interlock(song.Tempo, song.Meter, echoes)
		for _, h := range p.Hits {
			if len(h.With) > 0 {
				p.Together++
			}
		}
		list = append(list, p)
	}
	return list
}
