package reach

import (
	"math"

	"envex/core/plan"
)

// part is a section of the show with everything that follows from the music alone, and
// what the rig's recipe asks of the variables.
type part struct {
	position int
	entry    plan.ID
	song     *plan.Song
	sec      *plan.Section
	sound    *plan.Sound
	tempo    plan.Tempo
	duration float64 // seconds; infinite when the section is open
	starts   bool    // it is the first of its song
	segue    bool
	gap      float64 // seconds before it; only where starts and not segue
	held     bool    // the rig is in it already: nothing is moved at the change into it that does not have to

	recipe *plan.Recipe
	guitar plan.ID
	rocker plan.Key
	broken string // why the rig cannot make this sound at all; empty when it can
	wants  *wants
}

// beatNote is the length of one beat in seconds.
func (p *part) beat() float64 { return p.tempo.BeatSeconds() }

// afterGap reports whether the change into the part happens between two songs.
func (p *part) afterGap() bool { return p.starts && !p.segue }

// layOut puts the songs of the set one after the other.
func layOut(p *plan.Plan, l *plan.SetList) []*part {
	var parts []*part
	for _, e := range l.Entries {
		song, ok := p.FindSong(e.Song)
		if !ok {
			continue
		}
		for j := range song.Sections {
			sec := &song.Sections[j]
			t := sec.TempoIn(*song)
			duration := math.Inf(1)
			if sec.Bars != nil {
				duration = *sec.Bars * t.BarSeconds(song.Meter)
			}
			sound, _ := p.FindSound(sec.Sound)
			first := j == 0 && len(parts) > 0
			x := &part{
				position: len(parts), entry: e.ID, song: song, sec: sec, sound: sound, tempo: t,
				duration: duration, starts: j == 0, segue: first && e.Segue,
			}
			if first {
				x.gap = l.GapBefore(e)
			}
			parts = append(parts, x)
		}
	}
	return parts
}

func (p *part) place() Place {
	return Place{
		Position: p.position, Entry: p.entry, SongID: p.song.ID, Song: p.song.Title,
		SectionID: p.sec.ID, Section: p.sec.Label,
	}
}

// freeTime is how long the change from a to b may take: (lead + rest + grace) beats, the
// lead at the tempo before and the others at the new one, or the gap between two songs.
func freeTime(a, b *part, f plan.Footwork) float64 {
	if b.afterGap() {
		return b.gap
	}
	return leadOf(b, f)*a.beat() + (b.sec.Rest+graceOf(b, f))*b.beat()
}

func leadOf(b *part, f plan.Footwork) float64 {
	if b.sec.Lead != nil {
		return *b.sec.Lead
	}
	return f.Lead
}

func graceOf(b *part, f plan.Footwork) float64 {
	if b.sec.Grace != nil {
		return *b.sec.Grace
	}
	return f.Grace
}

// clearTime is how much of part i lies clear of the change windows at both its ends, when
// the first ringing seconds after its start must be waited out too. A part so short that
// the next change starts from where the foot is has none.
func clearTime(parts []*part, i int, f plan.Footwork, ringing float64) float64 {
	x := parts[i]
	if x.rocker != "" || x.duration < f.Short {
		return 0
	}
	from := ringing
	if i > 0 && !x.afterGap() {
		from = math.Max(from, graceOf(x, f)*x.beat())
	}
	until := x.duration
	if i+1 < len(parts) && !parts[i+1].afterGap() {
		next := parts[i+1]
		until -= leadOf(next, f)*x.beat() + next.sec.Rest*next.beat()
	}
	return math.Max(0, until-from)
}

// unset reports whether the rig has no recipe yet for the sound of the part.
func (p *part) unset() bool { return p.recipe == nil }
