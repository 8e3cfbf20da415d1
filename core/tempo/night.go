package tempo

import (
	"fmt"
	"math"
	"slices"
	"strings"

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
	Echo      *Echo       `json:"echo,omitempty" doc:"A delay as it is set."`
	Audible   int         `json:"repeats" doc:"Audible as it is set, by the models of its mix and repeats knobs."`
	TailMS    float64     `json:"tail_ms"`
	EnergyDB  float64     `json:"energy_db" doc:"Of the repeats over the dry note."`
	Clutter   bool        `json:"clutter"`
	Slapback  bool        `json:"slapback"`
	Way       Way         `json:"way" enum:"tap,stored,remote,hand,fixed"`
	LongestMS *float64    `json:"longest_ms,omitempty" doc:"The longest time of the device."`
	TooLong   bool        `json:"too_long"`
	TapS      float64     `json:"tap_s,omitempty" doc:"How long tapping takes."`
	RoomS     float64     `json:"room_s,omitempty" doc:"How long the set leaves before the sound is first needed in the song."`
	TapFits   bool        `json:"tap_fits,omitempty"`
	Drift     *Drift      `json:"drift,omitempty" doc:"What the usual error of a tap does to the repeats."`
}

// Way is how a time comes to follow the tempo of a song.
type Way string

// The ways a time is set. Fixed is the same all night.
const (
	ByTap    Way = "tap"
	Stored   Way = "stored"
	ByRemote Way = "remote"
	ByHand   Way = "hand"
	Fixed    Way = "fixed"
)

// Finding is something to be said of the times of the set.
type Finding struct {
	ID    string   `json:"id"`
	Title string   `json:"title"`
	Words string   `json:"words"`
	Entry plan.ID  `json:"entry"`
	Sound plan.ID  `json:"sound"`
	Stop  plan.Key `json:"stop"`
}

// LooseShare is how far a time may be off the note in a sound that need not lock, as a share.
const LooseShare = 0.10

// Plan tells the times of a set, on a rig at one of its destinations where one is named, as it stands
// when the destination is "". The plan must be valid. It fails when set list, rig or destination are
// not there.
func Plan(p *plan.Plan, rig, destination, setList plan.ID) (*Night, error) {
	l, ok := p.FindSetList(setList)
	if !ok {
		return nil, fmt.Errorf("tempo: there is no set list %q", setList)
	}
	n := &night{plan: p, out: &Night{SetList: setList, Rig: rig, Songs: []Song{}, Presets: []PresetPlan{}, Findings: []Finding{}, Assumed: []string{}}}
	if rig != "" {
		there, err := p.At(rig, destination)
		if err != nil {
			return nil, fmt.Errorf("tempo: %w", err)
		}
		n.plan = there
		n.rig, _ = there.FindRig(rig)
		n.tapped = tappedIn(there, n.rig)
	}
	for i, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		s := Song{Entry: e.ID, Song: song.ID, Title: song.Title, Tempo: song.Tempo, Table: Table(song.Tempo), Uses: []Use{}, Pairs: []Pair{}}
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
	tapped map[plan.Key]bool
	out    *Night
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

// uses are the timed effects of a song, each once for a sound.
func (n *night) uses(song *plan.Song, gap float64, first bool) []Use {
	list := []Use{}
	room := gap
	if first {
		room = math.Inf(1) // before the show there is all the time
	}
	for _, sec := range song.Sections {
		sound, ok := n.plan.FindSound(sec.Sound)
		rec := n.rig.RecipeFor(sec)
		if ok && rec != nil {
			tempo := sec.TempoIn(*song)
			set := n.plan.SetFor(n.rig, rec, sound, tempo)
			for _, key := range n.rig.Stops() {
				n.use(&list, key, sound, rec, set, tempo, sec.Label, room)
			}
		}
		if sec.Bars != nil {
			room += *sec.Bars * sec.TempoIn(*song).BarSeconds(song.Meter)
		}
	}
	return list
}

// timed are the effects that have a time or a rate.
var timed = []plan.Effect{plan.EffectDelay, plan.EffectTremolo, plan.EffectVibe, plan.EffectRotary, plan.EffectPhaser, plan.EffectChorus, plan.EffectFlanger}

func (n *night) use(list *[]Use, key plan.Key, sound *plan.Sound, rec *plan.Recipe, set plan.Setting, tempo plan.Tempo, section string, room float64) {
	g, ok := n.plan.FindGear(key.Gear())
	if !ok {
		return
	}
	b, ok := g.FindBlock(plan.ID(key.Rest()))
	if !ok || !slices.Contains(timed, b.Effect) || b.Bypass != plan.AlwaysOn && !set.At(plan.OnKey(g.ID, b.ID)).IsOn() {
		return
	}
	if i := slices.IndexFunc(*list, func(u Use) bool { return u.Stop == key && u.Recipe == rec.ID && sameTempo(u, tempo) }); i >= 0 {
		(*list)[i].Sections = append((*list)[i].Sections, section)
		return
	}
	u := Use{Stop: key, Name: g.StopName(b), Effect: b.Effect, Sound: sound.ID, SoundName: sound.Name, Recipe: rec.ID, Sections: []string{section}, Strict: sound.Targets.StrictTempo, Way: Fixed, EnergyDB: silent}
	control := timeControl(b)
	note, repeats := asked(sound, b.Effect)
	u.Asked = repeats
	if control != nil {
		u.Variable = key + "/" + plan.Key(control.ID)
		if bound := n.bound(u.Variable, g, rec, set); note == "" {
			note = bound
		}
		u.SetMS = msOf(control, set.At(u.Variable))
		u.LongestMS = longest(control)
		u.Way = n.way(control, u.Variable, note)
	}
	if control == nil && note == "" || b.Effect != plan.EffectDelay && note == "" {
		return // nothing of it follows the beat
	}
	if ms, ok := tempo.Milliseconds(note); ok {
		u.Note, u.Words, u.WantedMS = note, Words(note), &ms
		u.TooLong = u.LongestMS != nil && ms > *u.LongestMS*1.001
	}
	n.repeats(&u, b, set, tempo)
	if u.Way == ByTap && u.WantedMS != nil {
		f := n.rig.Profile.Filled()
		u.TapS = float64(f.Taps-1) * tempo.BeatSeconds()
		u.RoomS = math.Min(room, 3600)
		u.TapFits = room >= u.TapS
		d := DriftOf(Echo{MS: *u.WantedMS, Ratio: 1, Feedback: feedbackFor(max(1, u.Audible))}, TapPct(tempo, f.TapError))
		u.Drift = &d
	}
	*list = append(*list, u)
}

// silent stands for no energy at all.
const silent = -120.0

// sameTempo reports whether a use was made for the tempo that a section has.
func sameTempo(u Use, t plan.Tempo) bool {
	if u.WantedMS == nil {
		return true
	}
	ms, ok := t.Milliseconds(u.Note)
	return ok && math.Abs(ms-*u.WantedMS) < 1e-9
}

// timeControl is the control of a block that holds a time in ms, or a rate in Hz.
func timeControl(b *plan.Block) *plan.Control {
	for i := range b.Controls {
		if c := &b.Controls[i]; c.Kind == plan.Knob && (c.Unit == "ms" || c.Unit == "Hz") {
			return c
		}
	}
	return nil
}

// msOf is the time of a setting: of a rate, one cycle.
func msOf(c *plan.Control, v plan.Value) *float64 {
	if v.Kind() != plan.NumberValue {
		return nil
	}
	x := v.Float()
	if c.Unit == "Hz" {
		if x <= 0 {
			return nil
		}
		x = 1000 / x
	}
	return &x
}

func longest(c *plan.Control) *float64 {
	low, high := c.Range()
	if c.Unit == "Hz" {
		if low <= 0 {
			return nil
		}
		high = 1000 / low
	}
	return &high
}

// asked is what a sound asks of an effect: the note, and how many repeats.
func asked(sound *plan.Sound, effect plan.Effect) (note string, repeats *int) {
	for _, h := range sound.Targets.Effects {
		if h.Effect == effect {
			return h.Note, h.Repeats
		}
	}
	return "", nil
}

// bound is the note a setting is bound to in the recipe, the preset it stands on, or the base.
func (n *night) bound(key plan.Key, g *plan.Gear, rec *plan.Recipe, set plan.Setting) string {
	if v, ok := rec.Values[key]; ok {
		return noteOf(v)
	}
	if preset, ok := g.PresetControl(); ok {
		shot := ""
		if x, ok := g.SnapshotControl(); ok {
			shot = set.At(x.Key).Word()
		}
		if v, ok := n.rig.Remembered(g.ID, set.At(preset.Key).Word(), shot, key); ok {
			return noteOf(v)
		}
	}
	return noteOf(n.rig.Base[key])
}

func noteOf(v plan.Value) string {
	if v.Kind() == plan.SyncValue {
		return v.Word()
	}
	return ""
}

// way is how a time follows the tempo on this rig.
func (n *night) way(c *plan.Control, key plan.Key, note string) Way {
	switch {
	case note == "":
		return Fixed
	case n.tapped[key]:
		return ByTap
	case c.Access == plan.Memory:
		return Stored
	case c.Access == plan.Remote:
		return ByRemote
	}
	return ByHand
}

// repeats works out what a delay's repeats come to as it is set. Its mix knob is taken for a crossfade
// and its repeats knob for feedback up to 0.95, as the models of level and dirt take them.
func (n *night) repeats(u *Use, b *plan.Block, set plan.Setting, tempo plan.Tempo) {
	e := Echo{}
	switch {
	case u.SetMS != nil:
		e.MS = *u.SetMS
	case u.WantedMS != nil:
		e.MS = *u.WantedMS
	}
	if near, ok := Nearest(tempo, e.MS); ok && u.SetMS != nil {
		u.Nearest = &near
	}
	if u.WantedMS != nil && u.SetMS != nil {
		u.OffMS = *u.SetMS - *u.WantedMS
	}
	if b.Effect != plan.EffectDelay {
		u.LastOffMS = math.Abs(u.OffMS)
		u.Heard = u.Strict && u.LastOffMS > apartMS
		return
	}
	e.Ratio = RatioOfMix(knobOf(b, u.Stop, set, 0.4, "mix", "level"))
	e.Feedback = 0.95 * knobOf(b, u.Stop, set, 0.3, "repeats", "feedback")
	u.Echo = &e
	u.Audible, u.TailMS, u.EnergyDB = e.Audible(), e.TailMS(), math.Max(silent, e.EnergyDB())
	u.Clutter, u.Slapback = e.Clutters(tempo), e.IsSlapback()
	last := max(1, u.Audible)
	if u.Asked != nil {
		last = *u.Asked
	}
	u.LastOffMS = float64(last) * math.Abs(u.OffMS)
	u.Heard = u.Strict && u.LastOffMS > apartMS
}

// knobOf is how far a knob of a block is turned, 0 to 1.
func knobOf(b *plan.Block, key plan.Key, set plan.Setting, usual float64, names ...string) float64 {
	for _, c := range b.Controls {
		if c.Kind != plan.Knob || !slices.Contains(names, strings.ToLower(c.Name)) {
			continue
		}
		if v := set.At(key + "/" + plan.Key(c.ID)); v.Kind() == plan.NumberValue {
			low, high := c.Range()
			return (v.Float() - low) / (high - low)
		}
	}
	return usual
}

// feedbackFor is the feedback at which so many repeats of a delay as loud as the note are audible.
func feedbackFor(n int) float64 {
	if n < 2 {
		return 0
	}
	return math.Pow(10, audibleDB/20/float64(n-1))
}

// find says what is worth a word, each thing once for a sound of a song.
func (n *night) find() {
	for _, s := range n.out.Songs {
		for _, u := range s.Uses {
			say := func(rule, title, words string) {
				n.out.Findings = append(n.out.Findings, Finding{
					ID:    fmt.Sprintf("tempo:%s:%s:%s:%s", rule, u.Stop, s.Song, u.Sound),
					Title: title, Words: words, Entry: s.Entry, Sound: u.Sound, Stop: u.Stop,
				})
			}
			switch {
			case u.TooLong:
				say("too-long", fmt.Sprintf("%s cannot be that long in %s", u.Name, s.Title), fmt.Sprintf("%s asks %s, %.0f ms; its longest is %.0f ms.", u.SoundName, u.Words, *u.WantedMS, *u.LongestMS))
			case u.Heard:
				say("off", fmt.Sprintf("%s is out of time in %s", u.Name, s.Title), fmt.Sprintf("%s asks %s, %.0f ms; it is at %.0f ms, so the last repeat is %.0f ms off.", u.SoundName, u.Words, *u.WantedMS, *u.SetMS, u.LastOffMS))
			case u.Way == ByTap && u.Strict && u.Drift != nil && u.Drift.First > 0:
				say("drift", fmt.Sprintf("A tap may not be enough in %s", s.Title), fmt.Sprintf("A tap is off by %.1f %%, so repeat %d of %s is heard off; a stored tempo or a click is not.", u.Drift.Pct, u.Drift.First, u.Name))
			}
			if u.Way == ByTap && !u.TapFits {
				say("no-room", fmt.Sprintf("No time to tap in %s", s.Title), fmt.Sprintf("Tapping takes %.1f s, and the set leaves %.1f s before %s.", u.TapS, u.RoomS, u.SoundName))
			}
			if !u.Strict && u.WantedMS != nil && u.SetMS != nil && !u.TooLong && math.Abs(u.OffMS) > LooseShare**u.WantedMS {
				n.loose(s, u)
			}
			if u.Clutter {
				say("clutter", fmt.Sprintf("%s clutters in %s", u.Name, s.Title), fmt.Sprintf("Its repeats are closer than an eighth and carry %.1f dB of the note's energy.", u.EnergyDB))
			}
		}
	}
}

// loose gathers the songs in which a sound that need not lock is far from its note: one finding for all.
func (n *night) loose(s Song, u Use) {
	id := fmt.Sprintf("tempo:loose:%s:%s", u.Stop, u.Sound)
	words := fmt.Sprintf("%s (%.0f ms for %.0f)", s.Title, *u.SetMS, *u.WantedMS)
	for i := range n.out.Findings {
		if f := &n.out.Findings[i]; f.ID == id {
			if !strings.Contains(f.Words, words) {
				f.Words = strings.TrimSuffix(f.Words, ".") + ", " + words + "."
			}
			return
		}
	}
	n.out.Findings = append(n.out.Findings, Finding{
		ID: id, Title: fmt.Sprintf("%s is not at the %s of %s", u.Name, u.Words, u.SoundName), Words: "More than a tenth off in " + words + ".",
		Entry: s.Entry, Sound: u.Sound, Stop: u.Stop,
	})
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
