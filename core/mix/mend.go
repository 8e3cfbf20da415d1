package mix

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
)

// Mending is what would put right one finding.
type Mending struct {
	Finding Finding `json:"finding"`
	Moves   []Move  `json:"moves" doc:"The least first; what has a price after what has none."`
	Words   string  `json:"words" doc:"That nothing helps; empty where there are moves."`
}

// Move is one thing that may be done.
type Move struct {
	What   string                  `json:"what" enum:"knob,part,register" doc:"A knob of the rig, how a part plays, or where the guitar plays: that is no setting."`
	Words  string                  `json:"words"`
	Figure float64                 `json:"figure" doc:"What the finding's figure comes to, where it is worst."`
	Brings []string                `json:"brings" doc:"What is wrong with it that is not wrong now."`
	Ends   []string                `json:"ends" doc:"What else is wrong now and would not be."`
	Breaks []string                `json:"breaks" doc:"Sounds that are in their targets now and would not be."`
	Values map[plan.Key]plan.Value `json:"values,omitempty" doc:"The knob of a move and where it goes, to be listened to."`
	Rig    *plan.Rig               `json:"rig,omitempty" doc:"The whole rig with the knob moved: at the destination it was asked for alone, where it was asked for one."`
	Band   *plan.Band              `json:"band,omitempty" doc:"The whole band with the part playing so."`

	size float64
}

// price is how much a move brings that is not wanted.
func (m Move) price() int { return len(m.Brings) + len(m.Breaks) }

// The most moves that are given, and the most knobs that are tried in full.
const (
	mostMoves = 6
	mostKnobs = 3
)

// Knobs are turned as far as this first, both ways, and by less where that puts the finding right; in tenths of their turn.
const furthest = 3.5

var nearer = []float64{1, 2}

// Mend looks for the least move that puts a finding right: one knob of the sound's chain or of the guitar, or how one
// part plays in those sections; and says where playing in another register would. Every move is worked out again for
// the whole set by the same figures, and for the targets of the sounds. It fails as [Room] does, and when there is no
// such finding.
func Mend(ctx context.Context, p *plan.Plan, rig, destination, setList plan.ID, finding string, o Options) (*Mending, error) {
	there, err := p.At(rig, destination)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	x, err := newRoom(there, rig, setList)
	if err != nil {
		return nil, err
	}
	if err := x.render(ctx, Options{Dry: o.Dry, Kept: o.Kept}); err != nil {
		return nil, err
	}
	x.noCuts = true
	if err := x.report(ctx); err != nil {
		return nil, err
	}
	i := slices.IndexFunc(x.out.Findings, func(f Finding) bool { return f.ID == finding })
	if i < 0 {
		return nil, reason.Errorf("that is not so any more")
	}
	m := &mender{room: x, own: p, destination: destination, o: o, finding: x.out.Findings[i], met: map[plan.ID]bool{}}
	out := &Mending{Finding: m.finding, Moves: []Move{}}
	for _, find := range []func(context.Context) ([]Move, error){m.knobs, m.parts, m.register} {
		found, err := find(ctx)
		if err != nil {
			return nil, err
		}
		out.Moves = append(out.Moves, found...)
	}
	slices.SortStableFunc(out.Moves, func(a, b Move) int {
		return cmp.Or(cmp.Compare(a.price(), b.price()), cmp.Compare(a.size, b.size))
	})
	out.Moves = out.Moves[:min(len(out.Moves), mostMoves)]
	if len(out.Moves) == 0 {
		out.Words = "No one knob of this sound, and nothing that one part would do otherwise, puts it right."
	}
	return out, nil
}

// mender looks for moves.
type mender struct {
	*room
	own         *plan.Plan // the plan without the destination
	destination plan.ID
	o           Options
	finding     Finding
	met         map[plan.ID]bool // sounds that are in their targets as it is, as far as they were asked
}

// worst is the scene in which the finding is worst.
func (m *mender) worst() *scene { return m.scenes[m.finding.Scenes[0]] }

// figureIn is the finding's figure in a scene that has been listened to, and how far it is from well.
func (m *mender) figureIn(x *room, s Scene) (figure, off float64) {
	for _, c := range x.checks(s) {
		if c.what == m.finding.What && c.part == m.finding.Part {
			return c.figure, c.off()
		}
	}
	return 0, -1 // there is nothing to be wrong: the part rests
}

// knob is one that may be turned.
type knob struct{ signal.KnobOf }

// turn is a knob at another place, and what the finding's figure comes to.
type turn struct {
	knob   signal.KnobOf
	to     float64
	figure float64
}

// size is how far it is turned, in tenths of its whole turn.
func (t turn) size() float64 { return math.Abs(t.to-t.knob.At) / (t.knob.High - t.knob.Low) * 10 }

// turns adds turns of a knob to a list: as far as it goes.
func (k knob) turns(list []turn, by ...float64) []turn {
	for _, x := range by {
		to := math.Round(10*math.Min(math.Max(k.At+x*(k.High-k.Low)/10, k.Low), k.High)) / 10
		if to != k.At && !slices.ContainsFunc(list, func(t turn) bool { return t.knob.Key == k.Key && t.to == to }) {
			list = append(list, turn{knob: k.KnobOf, to: to})
		}
	}
	return list
}

// turn tries turns of knobs where the finding is worst, and gives those that put it right there. Loudness is counted
// from home, which stays where it is.
func (m *mender) turn(ctx context.Context, turns []turn, progress func(float64)) ([]turn, error) {
	s := m.worst()
	list := make([]signal.Playing, len(turns))
	for i, t := range turns {
		list[i] = m.playing[s.at]
		list[i].Over = map[plan.Key]plan.Value{t.knob.Key: plan.Number(t.to)}
		list[i].HeardOnly = m.finding.What != "rings" && m.finding.What != "repeats"
	}
	got, err := signal.Spread(ctx, m.plan, m.rig.ID, list, signal.Options{Dry: m.o.Dry, Kept: m.o.Kept, Progress: progress})
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	var right []turn
	for i, t := range turns {
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("mix: %w", err)
		}
		figure, off := m.figureIn(m.room, m.hearAs(s, got[i]))
		if t.figure = figure; off <= 0 {
			right = append(right, t)
		}
	}
	return right, nil
}

// knobs tries each knob of the sound by steps, and takes the least step of each that puts it right where it is worst.
func (m *mender) knobs(ctx context.Context) ([]Move, error) {
	s := m.worst()
	play := m.playing[s.at]
	there, err := signal.Knobs(m.plan, m.rig.ID, play.Sound, play.Recipe)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	knobs := make([]knob, len(there))
	for i, k := range there {
		knobs[i] = knob{k}
	}
	var turns []turn
	for _, k := range knobs {
		turns = k.turns(turns, -furthest, furthest)
	}
	far, err := m.turn(ctx, turns, m.share(0, 0.4))
	if err != nil {
		return nil, err
	}
	turns = nil
	for _, t := range far {
		for _, by := range nearer {
			turns = knob{t.knob}.turns(turns, math.Copysign(by, t.to-t.knob.At))
		}
	}
	near, err := m.turn(ctx, turns, m.share(0.4, 0.6))
	if err != nil {
		return nil, err
	}
	best := map[plan.Key]turn{}
	for _, t := range append(near, far...) {
		if have, ok := best[t.knob.Key]; !ok || t.size() < have.size() {
			best[t.knob.Key] = t
		}
	}
	keys := plan.SortedKeys(best)
	slices.SortStableFunc(keys, func(a, b plan.Key) int { return cmp.Compare(best[a].size(), best[b].size()) })
	var moves []Move
	for n, key := range keys[:min(len(keys), mostKnobs)] {
		move, ok, err := m.turned(ctx, best[key])
		if err != nil {
			return nil, err
		}
		if ok {
			moves = append(moves, move)
		}
		m.share(0.6, 1)(float64(n+1) / float64(min(len(keys), mostKnobs)))
	}
	return moves, nil
}

// quiet are the options without what reports progress.
func (m *mender) quiet() Options { return Options{Dry: m.o.Dry, Kept: m.o.Kept} }

// share reports progress within a part of the whole.
func (m *mender) share(from, to float64) func(float64) {
	return func(done float64) {
		if m.o.Progress != nil {
			m.o.Progress(from + (to-from)*done)
		}
	}
}

// hearAs is a scene with another guitar in it.
func (m *mender) hearAs(s *scene, spectra signal.Spectra) Scene {
	at := len(m.spectra)
	m.spectra, m.playing = append(m.spectra, spectra), append(m.playing, m.playing[s.at])
	other := *s
	other.at = at
	ask := m.asked(&other)
	ask.about = &check{what: m.finding.What, part: m.finding.Part}
	out := m.sceneOf(&other, listen(ask))
	m.spectra, m.playing = m.spectra[:at], m.playing[:at]
	return out
}

// turned is a move of a knob, worked out for the whole set; false where it does not put the finding right everywhere.
func (m *mender) turned(ctx context.Context, t turn) (Move, bool, error) {
	knob, to := t.knob, t.to
	move := Move{
		What: "knob", Figure: t.figure, size: t.size(), Words: fmt.Sprintf("%s from %g to %g", knob.Name, knob.At, to),
		Values: map[plan.Key]plan.Value{knob.Key: plan.Number(to)},
	}
	own, err := m.own.RigByID(m.rig.ID)
	if err != nil {
		return move, false, fmt.Errorf("mix: %w", err)
	}
	rec := m.rig.RecipeFor(plan.Section{Sound: m.worst().sound.ID, Recipe: m.playing[m.worst().at].Recipe})
	rig := knob.Turned(own, m.destination, *rec, to)
	move.Rig = &rig
	changed := *m.own
	changed.Put(rig)
	there, err := changed.At(rig.ID, m.destination)
	if err != nil {
		return move, false, fmt.Errorf("mix: %w", err)
	}
	x, err := newRoom(there, rig.ID, m.out.SetList)
	if err != nil {
		return move, false, err
	}
	x.noCuts = true
	if err := x.renderFrom(ctx, m.room, append(slices.Clone(knob.Shared), m.finding.Sound), m.quiet()); err != nil {
		return move, false, err
	}
	ok, err := m.compare(ctx, x, &move)
	if err != nil || !ok {
		return move, false, err
	}
	move.Breaks, err = m.breaks(ctx, there, append(slices.Clone(knob.Shared), m.finding.Sound))
	return move, err == nil, err
}

// breaks are the sounds that are in their targets and would not be.
func (m *mender) breaks(ctx context.Context, changed *plan.Plan, sounds []plan.ID) ([]string, error) {
	o := signal.Options{Dry: m.o.Dry, Kept: m.o.Kept, Want: signal.ForTargets}
	for _, id := range sounds {
		if _, known := m.met[id]; !known {
			o.Only = append(o.Only, id)
		}
	}
	if len(o.Only) > 0 {
		was, err := signal.Measure(ctx, m.plan, m.rig.ID, o)
		if err != nil {
			return nil, fmt.Errorf("mix: %w", err)
		}
		for _, s := range was.Sounds {
			m.met[s.Sound] = s.Met()
		}
	}
	o.Only = slices.DeleteFunc(slices.Clone(sounds), func(id plan.ID) bool { return !m.met[id] })
	list := []string{}
	if len(o.Only) == 0 {
		return list, nil
	}
	is, err := signal.Measure(ctx, changed, m.rig.ID, o)
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	for _, s := range is.Sounds {
		if !s.Met() {
			list = append(list, s.Name)
		}
	}
	return list, nil
}

// compare works out a room with a move made, and notes what it brings and ends; false where the finding is still there.
func (m *mender) compare(ctx context.Context, x *room, move *Move) (bool, error) {
	if err := x.report(ctx); err != nil {
		return false, err
	}
	move.Brings, move.Ends = []string{}, []string{}
	if move.Breaks == nil {
		move.Breaks = []string{}
	}
	has := func(list []Finding, id string) bool {
		return slices.ContainsFunc(list, func(f Finding) bool { return f.ID == id })
	}
	for _, f := range x.out.Findings {
		if f.ID == m.finding.ID {
			return false, nil
		}
		if !has(m.out.Findings, f.ID) {
			move.Brings = append(move.Brings, f.Title)
		}
	}
	for _, f := range m.out.Findings {
		if f.ID != m.finding.ID && !has(x.out.Findings, f.ID) {
			move.Ends = append(move.Ends, f.Title)
		}
	}
	return true, nil
}

// parts tries what a part could do otherwise in the sections of the finding.
func (m *mender) parts(ctx context.Context) ([]Move, error) {
	var moves []Move
	for _, part := range m.band.Parts {
		if m.finding.Part != "" && part.ID != m.finding.Part || m.finding.Part == "" && !m.masks(part) {
			continue
		}
		for _, way := range waysOf(part, m.finding.Part != "") {
			band := m.playingSo(part, way)
			changed := *m.plan
			changed.Put(band)
			x, err := newRoom(&changed, m.rig.ID, m.out.SetList)
			if err != nil {
				return nil, err
			}
			x.noCuts = true
			if err := x.renderFrom(ctx, m.room, nil, m.quiet()); err != nil {
				return nil, err
			}
			move := Move{What: "part", Words: way.words, Band: &band, size: way.size}
			ok, err := m.compare(ctx, x, &move)
			if err != nil {
				return nil, err
			}
			if ok {
				move.Figure = m.now(x)
				moves = append(moves, move)
				break // the least of this part
			}
		}
	}
	return moves, nil
}

// now is the finding's figure, where it was worst, in a room with a move made.
func (m *mender) now(x *room) float64 {
	for i := range m.out.Sections {
		if m.out.Sections[i].Scene == m.finding.Scenes[0] && i < len(x.out.Sections) {
			figure, _ := m.figureIn(x, x.out.Scenes[x.out.Sections[i].Scene])
			return figure
		}
	}
	return m.finding.Figure
}

// masks reports whether a part plays where the finding is worst.
func (m *mender) masks(part plan.Part) bool {
	return slices.ContainsFunc(m.worst().voices, func(v voice) bool { return v.part.ID == part.ID })
}

// way is how a part may play otherwise.
type way struct {
	words string
	level float64
	tilt  float64
	rests bool
	size  float64
}

// waysOf are the ways of a part, the least first: what is covered comes up, what covers goes down or darker.
func waysOf(part plan.Part, covered bool) []way {
	if covered {
		return []way{
			{words: part.Name + " 3 dB louder there", level: 3, size: 3},
			{words: part.Name + " brighter by 2 dB an octave there", tilt: 2, size: 3.5},
			{words: part.Name + " 6 dB louder there", level: 6, size: 6},
		}
	}
	return []way{
		{words: part.Name + " 3 dB softer there", level: -3, size: 3},
		{words: part.Name + " darker by 2 dB an octave there", tilt: -2, size: 3.5},
		{words: part.Name + " 6 dB softer there", level: -6, size: 6},
		{words: part.Name + " rests there", rests: true, size: 9},
	}
}

// playingSo is the band with a part playing otherwise in the sections of the finding.
func (m *mender) playingSo(part plan.Part, w way) plan.Band {
	band := *m.band
	band.Playing = slices.Clone(m.band.Playing)
	for _, sec := range m.out.Sections {
		if !slices.Contains(m.finding.Scenes, sec.Scene) {
			continue
		}
		how, _ := band.PlayingOf(part.ID, sec.Song, sec.Section)
		level, tilt := value(how.LevelDB)+w.level, value(how.Tilt)+w.tilt
		next := plan.Playing{Part: part.ID, Song: sec.Song, Section: sec.Section, Rests: w.rests}
		if level != 0 {
			next.LevelDB = &level
		}
		if tilt != 0 {
			next.Tilt = &tilt
		}
		at := slices.IndexFunc(band.Playing, func(x plan.Playing) bool {
			return x.Part == part.ID && x.Song == sec.Song && x.Section == sec.Section
		})
		if at < 0 {
			band.Playing = append(band.Playing, next)
		} else {
			band.Playing[at] = next
		}
	}
	return band
}

// renderFrom renders what is otherwise than in another room, which is what is played of some sounds, and takes the rest
// from there.
func (x *room) renderFrom(ctx context.Context, from *room, changed []plan.ID, o Options) error {
	home := x.homeSound()
	x.home = x.spectrumOf(signal.Playing{Sound: home.Sound, Recipe: home.ID})
	x.spectra = make([]signal.Spectra, len(x.playing))
	var anew []signal.Playing
	var places []int
	for i, want := range x.playing {
		at := slices.IndexFunc(from.playing, func(have signal.Playing) bool { return same(have, want) })
		if at >= 0 && !slices.Contains(changed, want.Sound) {
			x.spectra[i] = from.spectra[at]
			continue
		}
		anew, places = append(anew, want), append(places, i)
	}
	got, err := signal.Spread(ctx, x.plan, x.rig.ID, anew, signal.Options{Dry: o.Dry, Kept: o.Kept, Progress: o.Progress})
	if err != nil {
		return fmt.Errorf("mix: %w", err)
	}
	for k, i := range places {
		x.spectra[i] = got[k]
	}
	return nil
}

// same reports whether two things that are played are one.
func same(a, b signal.Playing) bool {
	return a.Sound == b.Sound && a.Recipe == b.Recipe && a.Tuned == b.Tuned
}

// register says where playing an octave higher would put it right: no setting, but what hands can do.
func (m *mender) register(ctx context.Context) ([]Move, error) {
	if m.finding.What != "buried" && m.finding.What != "under" && m.finding.What != "covers" {
		return nil, nil
	}
	s := m.worst()
	play := m.playing[s.at]
	play.Tuned, play.HeardOnly = play.Tuned.Up(12), true
	got, err := signal.Spread(ctx, m.plan, m.rig.ID, []signal.Playing{play}, signal.Options{Dry: m.o.Dry, Kept: m.o.Kept})
	if err != nil {
		return nil, fmt.Errorf("mix: %w", err)
	}
	figure, off := m.figureIn(m.room, m.hearAs(s, got[0]))
	if off > 0 {
		return nil, nil
	}
	return []Move{{
		What: "register", Words: "Play it an octave higher", Figure: figure, Brings: []string{}, Ends: []string{},
		Breaks: []string{}, size: 4,
	}}, nil
}
