package mix

import (
	"fmt"
	"math"
	"slices"

	"envex/core/hearing"
	"envex/core/plan"
)

// The bands that figures are given in, as in the figures of a sound.
var edges = [5]float64{80, 250, 800, 3000, 8000}

// bandNames are the four bands in words.
var bandNames = [4]string{"80 to 250 Hz", "250 to 800 Hz", "800 Hz to 3 kHz", "3 to 8 kHz"}

// voice is one part of a band as it plays somewhere.
type voice struct {
	part  *plan.Part
	which int // of its kind in the band, from 0
	heard hearing.Spectrum
}

// seed is what the order of a part's moments hangs on: not its id, so that a band that is copied is heard the same.
func (v voice) seed() string { return fmt.Sprint(v.part.Kind, v.which) }

// PartHeard is what is heard of a part beside the guitar and everyone else.
type PartHeard struct {
	Part  plan.ID    `json:"part"`
	Name  string     `json:"name"`
	Sones float64    `json:"sones" doc:"How loud it is among all."`
	Share float64    `json:"heard_pct" doc:"Of what it would be alone, where it is strongest."`
	Loses float64    `json:"loses_pct" doc:"What the guitar takes of it, where it is strongest."`
	Most  string     `json:"most" doc:"Where it takes most."`
	Rings float64    `json:"rings_pct" doc:"What repeats, tails and movement of the guitar take of it there."`
	Apart *float64   `json:"apart_db,omitempty" doc:"Of another guitar: how far its spectrum is from that of this one, whatever their levels."`
	Bands [4]float64 `json:"loses_bands_pct" doc:"What the guitar takes: 80 to 250, 250 to 800, 800 to 3k, 3k to 8k Hz."`
}

// GuitarHeard is what is heard of the guitar among all.
type GuitarHeard struct {
	Alone float64    `json:"alone_sones"`
	Sones float64    `json:"sones" doc:"Among all."`
	Share float64    `json:"heard_pct" doc:"Of what it would be alone, where it is strongest."`
	Bands [4]float64 `json:"bands_pct" doc:"The same in the whole of 80 to 250, 250 to 800, 800 to 3k, 3k to 8k Hz."`
	Over  float64    `json:"over_phon" doc:"Its loudness level among all over that of the loudest other part; negative under it."`
	Under string     `json:"under,omitempty" doc:"The loudest other part."`
}

// Curve is loudness along frequency, in sones a Cam, at the third octaves from 25 Hz to 16 kHz.
type Curve struct {
	Alone  []float64 `json:"alone" doc:"Of the guitar alone."`
	Heard  []float64 `json:"heard" doc:"Of the guitar among all."`
	Others []float64 `json:"others" doc:"Of the others beside the guitar, together."`
}

// balance is what is heard of everyone.
type balance struct {
	guitar  GuitarHeard
	parts   []PartHeard
	curve   Curve
	repeats []float64 // of each, in sones
	cut     []changed // of each guitar that may play in its place
}

// changed is what another guitar in place of the one that plays comes to.
type changed struct {
	sones float64
	parts []float64 // of the others beside it
}

// asked is a guitar among those that play with it, and what else is asked of it.
type asked struct {
	heard   hearing.Spectrum
	dry     hearing.Spectrum // without what rings
	voices  []voice
	repeats []float64          // their levels re the note, in dB
	instead []hearing.Spectrum // other guitars in its place
	hallS   float64            // how long the hall rings

	about *check // the figures this one needs, and no others; all when nil
}

// wants reports whether what is heard of a part is wanted: beside the guitar, and what the guitar takes.
func (x asked) wants(part plan.ID) (heard, taken bool) {
	if x.about == nil {
		return true, true
	}
	return x.about.what == "under" || x.about.part == part, x.about.part == part
}

// guitarShape is how the levels of the guitar go up and down.
var guitarShape = shapes[plan.GuitarMid]

// listen is what is heard, over all moments.
func listen(x asked) balance {
	n := len(x.voices)
	sums := newSums(x)
	all := [][moments]hearing.Spectrum{guitarShape.over(x.heard, "", x.hallS)}
	for _, v := range x.voices {
		all = append(all, shapeOf(v.part.Kind).over(v.heard, v.seed(), x.hallS))
	}
	dry := guitarShape.over(x.dry, "", x.hallS)
	instead := make([][moments]hearing.Spectrum, len(x.instead))
	for k, s := range x.instead {
		instead[k] = guitarShape.over(s, "", x.hallS)
	}
	for moment := range moments {
		var now []hearing.Spectrum
		for _, s := range all {
			now = append(now, s[moment])
		}
		others := []hearing.Spectrum{dry[moment]}
		for _, db := range x.repeats { // another moment of the guitar's own
			others = append(others, dry[(moment+5)%moments].Raised(db))
		}
		for _, s := range instead {
			others = append(others, s[moment])
		}
		f := hearing.FieldOf(now, others...)
		parts := make([]int, n)
		for i := range parts {
			parts[i] = i + 1
		}
		sums.alone[0].add(f.Alone(0))
		sums.with[0].add(f.Beside(0, parts...))
		for i := range x.voices {
			rest := append(slices.Delete(slices.Clone(parts), i, i+1), 0)
			heard, taken := x.wants(x.voices[i].part.ID)
			if heard {
				sums.with[i+1].add(f.Beside(i+1, rest...))
			}
			if !taken {
				continue
			}
			sums.alone[i+1].add(f.Alone(i + 1))
			sums.without[i].add(f.Beside(i+1, rest[:n-1]...))
			sums.bare[i].add(f.Beside(i+1, append(slices.Clone(rest[:n-1]), n+1)...))
			for k := range x.instead {
				got := f.Beside(i+1, append(slices.Clone(rest[:n-1]), n+2+len(x.repeats)+k)...)
				sums.cut[k].parts[i] += got.Sones / moments
			}
		}
		for k := range x.repeats {
			sums.repeats[k] += f.Beside(n+2+k, parts...).Sones / moments
		}
		for k := range x.instead {
			sums.cut[k].sones += f.Beside(n+2+len(x.repeats)+k, parts...).Sones / moments
		}
	}
	return sums.balance(x)
}

// mean is a loudness, added up over the moments.
type mean struct{ hearing.Loudness }

func (m *mean) add(x hearing.Loudness) {
	m.Sones += x.Sones / moments
	for i, v := range x.Pattern {
		m.Pattern[i] += v / moments
	}
}

// sums are what is heard, added up over the moments: of the guitar first, then of the parts.
type sums struct {
	alone, with   []mean
	without, bare []mean // of the parts: without the guitar, and beside it without what rings
	repeats       []float64
	cut           []changed
}

func newSums(x asked) *sums {
	n := len(x.voices)
	s := &sums{
		alone: make([]mean, n+1), with: make([]mean, n+1), without: make([]mean, n), bare: make([]mean, n),
		repeats: make([]float64, len(x.repeats)), cut: make([]changed, len(x.instead)),
	}
	for k := range s.cut {
		s.cut[k].parts = make([]float64, n)
	}
	return s
}

func (s *sums) balance(x asked) balance {
	out := balance{
		guitar: GuitarHeard{
			Alone: s.alone[0].Sones, Sones: s.with[0].Sones, Share: left(x.heard, s.alone[0], s.with[0]),
		},
		repeats: s.repeats, cut: s.cut,
	}
	for b := range out.guitar.Bands {
		out.guitar.Bands[b] = percent(s.with[0].Between(edges[b], edges[b+1]), s.alone[0].Between(edges[b], edges[b+1]))
	}
	loudest := 0.0
	for i, v := range x.voices {
		got := s.part(i, v)
		if v.part.Kind.Traits().Plays {
			apart := apartDB(x.heard, v.heard)
			got.Apart = &apart
		}
		if got.Sones > loudest {
			loudest, out.guitar.Under = got.Sones, got.Name
		}
		out.parts = append(out.parts, got)
	}
	out.guitar.Over = hearing.Phon(out.guitar.Sones) - hearing.Phon(loudest)
	out.curve = s.curve()
	return out
}

// part is what is heard of a part.
func (s *sums) part(i int, v voice) PartHeard {
	with, without := s.with[i+1], s.without[i]
	x := PartHeard{
		Part: v.part.ID, Name: v.part.Name, Sones: with.Sones, Share: left(v.heard, s.alone[i+1], with),
		Loses: 100 - left(v.heard, without, with),
		Rings: math.Max(0, left(v.heard, without, s.bare[i])-left(v.heard, without, with)),
	}
	most := 0.0
	for b := range x.Bands {
		was, is := without.Between(edges[b], edges[b+1]), with.Between(edges[b], edges[b+1])
		x.Bands[b] = 100 - percent(is, was)
		if was-is > most {
			most, x.Most = was-is, bandNames[b]
		}
	}
	return x
}

// strongestDB is how far under its strongest third octave a band counts as one of those where a sound is strongest.
const strongestDB = 12.0

// left is how much of a sound is left of what it was, in per cent, where it is strongest: what lies far under that is
// loud by itself, and is not missed among others.
func left(heard hearing.Spectrum, was, is mean) float64 {
	levels := heard.Levels()
	most := slices.Max(levels[:])
	before, after := 0.0, 0.0
	for band, db := range levels {
		if low, high := hearing.Edges(band); db >= most-strongestDB {
			before += was.Between(low, high)
			after += is.Between(low, high)
		}
	}
	return percent(after, before)
}

// percent is a share in per cent; 100 where there is nothing to have a share of.
func percent(x, of float64) float64 {
	if of <= 1e-6 {
		return 100
	}
	return 100 * x / of
}

func (s *sums) curve() Curve {
	c := Curve{}
	for band := range hearing.Bands {
		hz := hearing.Centre(band)
		others := 0.0
		for _, x := range s.with[1:] {
			others += x.At(hz)
		}
		c.Alone = append(c.Alone, hundredth(s.alone[0].At(hz)))
		c.Heard = append(c.Heard, hundredth(s.with[0].At(hz)))
		c.Others = append(c.Others, hundredth(others))
	}
	return c
}

func hundredth(x float64) float64 { return math.Round(100*x) / 100 }
