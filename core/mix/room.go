package mix

import (
	"context"
	"fmt"
	"math"
	"runtime"
	"slices"
	"sync"

	"envex/core/hearing"
	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Report is what is heard of a guitar in a set with a band.
type Report struct {
	Rig      plan.ID   `json:"rig"`
	SetList  plan.ID   `json:"set_list"`
	Band     plan.ID   `json:"band"`
	Name     string    `json:"name" doc:"Of the band."`
	HallS    float64   `json:"hall_s" doc:"How long the hall rings, in s; 0 is the open air."`
	Hz       []float64 `json:"hz" doc:"Where curves are given: the third octaves from 25 Hz to 16 kHz."`
	Sections []Section `json:"sections" doc:"Those of the set that the rig has a recipe for."`
	Scenes   []Scene   `json:"scenes" doc:"What is different among them: a sound, its tuning, and who plays with it."`
	Findings []Finding `json:"findings" doc:"The worst first."`
	Cuts     []Cut     `json:"cuts" doc:"Of each lane that ends on its own, and of the whole rig."`
	Assumed  []string  `json:"assumed" doc:"What was taken where nobody has said."`
}

// Section is one section of the set.
type Section struct {
	Position int     `json:"position" doc:"In the set, from 0."`
	Song     plan.ID `json:"song"`
	Title    string  `json:"title"`
	Section  plan.ID `json:"section"`
	Label    string  `json:"label"`
	Scene    int     `json:"scene" doc:"By index."`
}

// Scene is a sound among the parts that play with it.
type Scene struct {
	Sound   plan.ID     `json:"sound"`
	Name    string      `json:"name"`
	Recipe  plan.ID     `json:"recipe"`
	Boxes   []string    `json:"boxes,omitempty" doc:"Boxes that the song picks from swap slots, where they are not those in the chain."`
	Tuned   string      `json:"tuned,omitempty" doc:"The tuning and capo of the song, where they are not standard."`
	Lead    bool        `json:"lead" doc:"It has to be over the band."`
	Home    bool        `json:"home" doc:"It is what levels are counted from."`
	Guitar  GuitarHeard `json:"guitar"`
	Parts   []PartHeard `json:"parts"`
	Rests   []string    `json:"rests" doc:"Parts that rest."`
	Curve   Curve       `json:"curve"`
	Lanes   []Lane      `json:"lanes" doc:"Of a rig that ends in several places."`
	Repeats []Repeats   `json:"repeats" doc:"Of each delay that is on."`
}

// Lane is one place where a rig ends: an amp, or what is sent to the house.
type Lane struct {
	Key   plan.Key   `json:"key"`
	Name  string     `json:"name"`
	Level float64    `json:"level_lu" doc:"Over the same lane in the home sound."`
	Bands [4]float64 `json:"bands_db" doc:"Against the whole of the lane: 80 to 250, 250 to 800, 800 to 3k, 3k to 8k Hz."`
	Share float64    `json:"share_pct" doc:"Of the power of all lanes."`

	Wished *float64 `json:"wished_lu,omitempty" doc:"Over the same lane in the home sound; absent where nobody has said."`
}

// Repeats are those of a delay that a listener hears through the others.
type Repeats struct {
	Stop  plan.Key `json:"stop"`
	Name  string   `json:"name"`
	MS    float64  `json:"ms" doc:"From one to the next, at the tempo of the song where they are a length of note."`
	Of    int      `json:"of" doc:"Repeats that are within 30 dB of the note."`
	Heard int      `json:"heard" doc:"Of them, through the others."`
}

// Options say how it is worked out.
type Options struct {
	Kept     *signal.Kept
	Dry      []float64 // a recording to play instead of the phrase, as for [signal.Options]
	Progress func(share float64)
	HallS    float64 // how long the hall rings until a sound has fallen by 60 dB; 0 is the open air
}

// heardFrom is the loudness from which on a repeat counts as heard among others, in sones: a whisper.
const heardFrom = 0.5

// Room says what is heard of a rig in a set among a band: every section of it, whatever is the same once. It fails when
// rig or set are not there, when nobody can say which band plays it, when that has no parts or the rig no recipe for
// the set, and with the context's error when that is cancelled.
func Room(ctx context.Context, p *plan.Plan, rig, setList plan.ID, o Options) (*Report, error) {
	x, err := newRoom(p, rig, setList)
	if err != nil {
		return nil, err
	}
	x.out.HallS = o.HallS
	if err := x.render(ctx, o); err != nil {
		return nil, err
	}
	if err := x.report(ctx); err != nil {
		return nil, err
	}
	return x.out, nil
}

// room is a report being made.
type room struct {
	plan *plan.Plan
	rig  *plan.Rig
	band *plan.Band
	out  *Report

	scenes  []*scene
	spectra []signal.Spectra
	home    int // of spectra: what levels are counted from
	playing []played
	lowCuts []*lowCut
	noCuts  bool // they are not asked for
}

// scene is a scene being made.
type scene struct {
	at     int // of spectra
	sound  *plan.Sound
	voices []voice
	rests  []string
	tuned  string
	song   plan.ID // where something is wished for it alone
}

func newRoom(p *plan.Plan, rig, setList plan.ID) (*room, error) {
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	l, err := p.SetListByID(setList)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	b := p.BandOf(l)
	switch {
	case b == nil && len(p.Bands) == 0:
		return nil, reason.Errorf("there is no band yet: say who plays beside the guitar")
	case b == nil:
		return nil, reason.Errorf("there are %d bands: say which of them plays %s", len(p.Bands), l.Name)
	case len(b.Parts) == 0:
		return nil, reason.Errorf("%s has no parts yet: say who plays beside the guitar", b.Name)
	}
	x := &room{plan: p, rig: r, band: b, out: &Report{
		Rig: rig, SetList: setList, Band: b.ID, Name: b.Name, Sections: []Section{}, Scenes: []Scene{}, Findings: []Finding{},
		Cuts: []Cut{}, Assumed: []string{},
	}}
	for band := range hearing.Bands {
		x.out.Hz = append(x.out.Hz, math.Round(hearing.Centre(band)*10)/10)
	}
	if err := x.walk(l); err != nil {
		return nil, err
	}
	if len(x.scenes) == 0 {
		return nil, reason.Errorf("%s has no recipe for a sound of %s", r.Name, l.Name)
	}
	x.assume()
	return x, nil
}

// walk goes through the set and notes what is different in it.
func (x *room) walk(l *plan.SetList) error {
	songs, err := x.plan.AsPlayed(x.rig.ID, l.ID)
	if err != nil {
		return fmt.Errorf("mix: %w", err)
	}
	known := map[string]int{}
	for _, there := range songs {
		song, on := there.Song, there.On
		tuned, read := song.TunedFor()
		if !read {
			x.assumed("The tuning of %s, %q, is not one that is known; the standard is taken.", song.Title, song.Tuning)
		}
		for i, sec := range song.Sections {
			rec := on.Rig.RecipeFor(sec)
			sound, made := x.plan.FindSound(sec.Sound)
			if rec == nil || !made {
				continue
			}
			want := played{signal.Playing{Sound: sound.ID, Recipe: rec.ID, Tuned: tuned}, on}
			if hangsOnTempo(on, rec) {
				want.Tempo = sec.TempoIn(*song)
			}
			at := x.spectrumAt(want)
			s := &scene{at: at, sound: sound, tuned: tuningWords(song)}
			key := fmt.Sprint(at)
			if slices.ContainsFunc(x.rig.LaneLevels, func(l plan.LaneLevel) bool {
				return l.Sound == sound.ID && l.Song == song.ID
			}) {
				s.song = song.ID
				key += "/" + string(song.ID)
			}
			kinds := map[plan.PartKind]int{}
			for i := range x.band.Parts {
				part := &x.band.Parts[i]
				which := kinds[part.Kind]
				kinds[part.Kind]++
				how, assumed := x.band.HowPlays(part, song.ID, sec.ID, sound)
				if assumed {
					x.assumed("%s is taken to rest where the guitar leads; say where it does not.", part.Name)
				}
				if how.Rests {
					s.rests = append(s.rests, part.Name)
					key += "/-"
					continue
				}
				s.voices = append(s.voices, voice{part, which, spectrumOf(x.band, part, how)})
				key += fmt.Sprintf("/%g,%g", value(how.LevelDB), value(how.Tilt))
			}
			if _, ok := known[key]; !ok {
				known[key] = len(x.scenes)
				x.scenes = append(x.scenes, s)
			}
			x.out.Sections = append(x.out.Sections, Section{
				Position: there.Begin + i, Song: song.ID, Title: song.Title, Section: sec.ID, Label: sec.Label, Scene: known[key],
			})
		}
	}
	return nil
}

func tuningWords(song *plan.Song) string {
	words := song.Tuning
	if song.Capo > 0 {
		if words != "" {
			words += ", "
		}
		words += fmt.Sprintf("capo %d", song.Capo)
	}
	return words
}

func (x *room) assumed(format string, args ...any) {
	words := fmt.Sprintf(format, args...)
	if !slices.Contains(x.out.Assumed, words) {
		x.out.Assumed = append(x.out.Assumed, words)
	}
}

// assume says what is taken whatever is played.
func (x *room) assume() {
	measured := 0
	for _, part := range x.band.Parts {
		if len(part.Bands) > 0 {
			measured++
		}
	}
	if measured < len(x.band.Parts) {
		x.assumed("Parts without a recording have the spectrum and the level that are usual for their kind.")
	}
	x.assumed(
		"The home sound is %.0f dB SPL for a listener, the lead voice %.0f, unless the band says otherwise.",
		guitarSPL, shapes[plan.Voice].usual,
	)
	x.assumed(
		"Every part goes up and down over the range that is usual for its kind, apart from the others.",
	)
	said := map[string]bool{}
	for _, how := range x.band.Playing {
		song, ok := x.plan.FindSong(how.Song)
		gone := !ok
		if ok && how.Section != "" {
			gone = !slices.ContainsFunc(song.Sections, func(s plan.Section) bool { return s.ID == how.Section })
		}
		if part, ok := x.band.FindPart(how.Part); gone && ok && !said[part.Name] {
			said[part.Name] = true
			x.assumed("How %s plays is said of a song or a section that is gone; that says nothing.", part.Name)
		}
	}
}

// render renders what the guitar plays, and the home sound that levels are counted from.
func (x *room) render(ctx context.Context, o Options) error {
	return x.renderFrom(ctx, &room{}, nil, o)
}

// homeSound is the recipe of the home sound: that of the home role, else the first the rig makes.
func (x *room) homeSound() plan.Recipe {
	for _, s := range x.plan.Sounds {
		if rec := x.rig.RecipeFor(plan.Section{Sound: s.ID}); rec != nil && s.Role == plan.HomeRole {
			return *rec
		}
	}
	for _, s := range x.plan.Sounds {
		if rec := x.rig.RecipeFor(plan.Section{Sound: s.ID}); rec != nil {
			return *rec
		}
	}
	return x.rig.Recipes[0] // a scene has a recipe
}

// raise is how far the guitar's spectra are raised from full scale at the microphone to a listener, in dB.
func (x *room) raise() float64 {
	return guitarSPL + value(x.band.LevelDB) + value(x.band.GuitarDB) - x.spectra[x.home].Dry.Level()
}

func (x *room) report(ctx context.Context) error {
	if !x.noCuts {
		x.lowCuts = x.possibleCuts()
	}
	heard := make([]balance, len(x.scenes))
	var wait sync.WaitGroup
	next := make(chan int)
	for range runtime.GOMAXPROCS(0) {
		wait.Go(func() {
			for i := range next {
				heard[i] = listen(x.asked(x.scenes[i]))
			}
		})
	}
	for i := range x.scenes {
		if ctx.Err() == nil {
			next <- i
		}
	}
	close(next)
	wait.Wait()
	if err := ctx.Err(); err != nil {
		return fmt.Errorf("mix: %w", err)
	}
	for i, s := range x.scenes {
		x.noteCuts(s, heard[i])
		x.out.Scenes = append(x.out.Scenes, x.sceneOf(s, heard[i]))
	}
	x.find()
	x.adviseCuts()
	return nil
}

// asked is what is to be listened to in a scene.
func (x *room) asked(s *scene) asked {
	spectra, by := x.spectra[s.at], x.raise()
	ask := asked{
		heard: spectra.Heard.Raised(by), dry: spectra.Dry.Raised(by), voices: s.voices, hallS: x.out.HallS,
	}
	for _, d := range spectra.Delays {
		ask.repeats = append(ask.repeats, d.Levels...)
	}
	for _, c := range x.lowCuts {
		ask.instead = append(ask.instead, c.of(spectra).Raised(by))
	}
	return ask
}

// sceneOf is a scene with what is heard in it.
func (x *room) sceneOf(s *scene, all balance) Scene {
	spectra := x.spectra[s.at]
	out := Scene{
		Sound: s.sound.ID, Name: s.sound.Name, Recipe: x.playing[s.at].Recipe, Tuned: s.tuned,
		Boxes: x.playing[s.at].on.Boxes(), Lead: s.sound.Role == plan.LeadRole,
		Home: s.sound.ID == x.homeSound().Sound, Guitar: all.guitar, Parts: all.parts,
		Rests: s.rests, Curve: all.curve, Lanes: x.lanesOf(s, spectra), Repeats: []Repeats{},
	}
	if out.Rests == nil {
		out.Rests = []string{}
	}
	if out.Parts == nil {
		out.Parts = []PartHeard{}
	}
	at := 0
	for _, d := range spectra.Delays {
		r := Repeats{Stop: d.Stop, Name: d.Name, MS: d.MS, Of: len(d.Levels)}
		for range d.Levels {
			if all.repeats[at] >= heardFrom {
				r.Heard++
			}
			at++
		}
		out.Repeats = append(out.Repeats, r)
	}
	return out
}

// lanesOf are the lanes of what is played, against those of the home sound.
func (x *room) lanesOf(s *scene, spectra signal.Spectra) []Lane {
	list, all := []Lane{}, 0.0
	for _, l := range spectra.Lanes {
		all += power(l.Heard.Level())
	}
	for _, l := range spectra.Lanes {
		lane := Lane{Key: l.Key, Name: l.Name, Share: 100 * power(l.Heard.Level()) / math.Max(all, 1e-12)}
		// The home sound is what levels are counted from: nothing can be wished of it.
		if lu, said := x.rig.WishedFor(l.Key, s.sound.ID, s.song); said && s.sound.ID != x.homeSound().Sound {
			lane.Wished = &lu
		}
		for _, home := range x.spectra[x.home].Lanes {
			if home.Key == l.Key {
				lane.Level = l.Loudness - home.Loudness
			}
		}
		for b := range lane.Bands {
			lane.Bands[b] = between(l.Heard, edges[b], edges[b+1]) - l.Heard.Level()
		}
		list = append(list, lane)
	}
	return list
}

func power(db float64) float64 { return math.Pow(10, db/10) }

// between is the level of a spectrum between two frequencies.
func between(s hearing.Spectrum, low, high float64) float64 {
	for band := range s {
		if hz := hearing.Centre(band); hz < low || hz >= high {
			s[band] = 0
		}
	}
	return s.Level()
}
