package mix

import (
	"context"
	"fmt"
	"slices"

	"envex/core/plan"
	"envex/core/signal"
)

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
			x.noCuts, x.out.HallS = true, m.o.HallS
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

// register says where playing an octave higher would put it right: no setting, but what hands can do.
func (m *mender) register(ctx context.Context) ([]Move, error) {
	if m.finding.What != "buried" && m.finding.What != "under" && m.finding.What != "covers" {
		return nil, nil
	}
	s := m.worst()
	play := m.playing[s.at]
	play.Tuned, play.HeardOnly = play.Tuned.Up(12), true
	got, err := signal.Spread(
		ctx,
		play.on.Plan,
		m.rig.ID,
		[]signal.Playing{play.Playing},
		signal.Options{Dry: m.o.Dry, Kept: m.o.Kept},
	)
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
