package mix

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"envex/core/hearing"
	"envex/core/plan"
)

func number(x float64) *float64 { return &x }

func partAs(kind plan.PartKind) hearing.Spectrum {
	return spectrumOf(&plan.Band{}, &plan.Part{Kind: kind}, plan.Playing{})
}

func TestEveryKindOfPartHasASpectrum(t *testing.T) {
	for _, k := range plan.PartKinds() {
		s, ok := shapes[k.Kind]
		assert.True(t, ok, "%s", k.Kind)
		assert.InDelta(t, s.usual, partAs(k.Kind).Level(), 1e-9, "%s", k.Kind)
		for i := 1; i < len(s.points); i++ {
			assert.Greater(t, s.points[i].hz, s.points[i-1].hz, "%s", k.Kind)
		}
	}
	low := func(kind plan.PartKind) float64 { return between(partAs(kind), 20, 250) - partAs(kind).Level() }
	assert.Greater(t, low(plan.BassPart), low(plan.GuitarDark))
	assert.Greater(t, low(plan.GuitarDark), low(plan.GuitarMid))
	assert.Greater(t, low(plan.GuitarMid), low(plan.Percussion)-20)
}

func TestWhatIsSaidOfAPartChangesItsSpectrum(t *testing.T) {
	b := &plan.Band{LevelDB: number(-10)}
	usual := spectrumOf(b, &plan.Part{Kind: plan.Organ}, plan.Playing{})
	assert.InDelta(t, shapes[plan.Organ].usual-10, usual.Level(), 1e-9)
	louder := spectrumOf(b, &plan.Part{Kind: plan.Organ, LevelDB: number(4)}, plan.Playing{LevelDB: number(-1)})
	assert.InDelta(t, usual.Level()+3, louder.Level(), 1e-9)
	darker := spectrumOf(b, &plan.Part{Kind: plan.Organ, Tilt: number(-1)}, plan.Playing{Tilt: number(-1)})
	assert.InDelta(t, usual.Level(), darker.Level(), 1e-9, "as loud as before")
	assert.Less(t, between(darker, 2000, 8000), between(usual, 2000, 8000)-2)
	up := spectrumOf(b, &plan.Part{Kind: plan.Organ, Octave: 1}, plan.Playing{})
	assert.InDelta(t, usual.Levels()[10]-usual.Levels()[13], up.Levels()[13]-up.Levels()[16], 1e-6)
	levels := make([]float64, hearing.Bands)
	levels[16] = 60
	measured := spectrumOf(b, &plan.Part{Kind: plan.Organ, Bands: levels}, plan.Playing{})
	assert.InDelta(t, usual.Level(), measured.Level(), 1e-9)
	assert.InDelta(t, 60, measured.Levels()[16]-measured.Levels()[15], 1e-6)
}

// Moments spread a part's levels and leave its power as it is.
func TestMomentsKeepThePower(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom(plan.PartKinds()).Draw(t, "kind").Kind
		who := rapid.String().Draw(t, "who")
		hall := rapid.SampledFrom([]float64{0, 0, 0.6, 4}).Draw(t, "hall")
		var sum hearing.Spectrum
		lowest, highest := math.Inf(1), math.Inf(-1)
		for _, now := range shapeOf(kind).over(partAs(kind), who, hall) {
			sum = sum.Plus(now)
			lowest, highest = math.Min(lowest, now.Levels()[14]), math.Max(highest, now.Levels()[14])
		}
		for band, x := range partAs(kind) {
			assert.InEpsilon(t, x, sum[band]/moments, 1e-9)
		}
		if hall == 0 {
			assert.Greater(t, highest-lowest, 8.0)
		}
	})
	assert.Equal(t, shapeOf(plan.Voice).over(partAs(plan.Voice), "v", 1), shapeOf(plan.Voice).over(partAs(plan.Voice), "v", 1))
	seen := map[int]bool{}
	for _, m := range shuffled(77) {
		seen[m] = true
	}
	assert.Len(t, seen, moments, "each comes once")
}

func voices(kinds ...plan.PartKind) []voice {
	var list []voice
	for _, k := range kinds {
		list = append(list, voice{part: &plan.Part{ID: plan.ID(k), Name: string(k), Kind: k}, heard: partAs(k)})
	}
	return list
}

func TestAloneAllOfItIsHeard(t *testing.T) {
	g := partAs(plan.GuitarMid)
	got := listen(asked{heard: g, dry: g})
	assert.InDelta(t, 100, got.guitar.Share, 1e-6)
	assert.Equal(t, got.guitar.Alone, got.guitar.Sones)
	assert.Empty(t, got.parts)
	assert.Empty(t, got.guitar.Under)
}

// A louder guitar is heard more, and takes more of everyone.
func TestALouderGuitarIsHeardMore(t *testing.T) {
	var before balance
	for i, db := range []float64{-12, -6, 0, 6} {
		g := partAs(plan.GuitarMid).Raised(db)
		got := listen(asked{heard: g, dry: g, voices: voices(plan.Voice, plan.Horns, plan.BassPart)})
		if i > 0 {
			assert.Greater(t, got.guitar.Share, before.guitar.Share)
			assert.Greater(t, got.guitar.Over, before.guitar.Over)
			for k := range got.parts {
				assert.GreaterOrEqual(t, got.parts[k].Loses, before.parts[k].Loses-1e-9)
				assert.LessOrEqual(t, got.parts[k].Sones, before.parts[k].Sones+1e-9)
			}
		}
		before = got
	}
	assert.Equal(t, "voice", before.guitar.Under, "the loudest of the others")
	assert.InDelta(t, 0, before.parts[0].Rings, 1e-9, "nothing rings")
	assert.Greater(t, before.parts[1].Loses, before.parts[2].Loses, "horns lie where a guitar does, a bass does not")
}

// What rings takes from others what the guitar would not take without it.
func TestWhatRingsTakesFromOthers(t *testing.T) {
	g := partAs(plan.GuitarMid)
	got := listen(asked{heard: g.Raised(6), dry: g, voices: voices(plan.KeysPad)})
	bare := listen(asked{heard: g, dry: g, voices: voices(plan.KeysPad)})
	assert.Greater(t, got.parts[0].Rings, 3.0)
	assert.InDelta(t, got.parts[0].Loses-bare.parts[0].Loses, got.parts[0].Rings, 3)
}

func TestRepeatsAreHeardAsFarAsOthersLeaveThem(t *testing.T) {
	g := partAs(plan.GuitarMid)
	got := listen(
		asked{heard: g, dry: g, voices: voices(plan.Voice, plan.Drums, plan.Horns), repeats: []float64{-3, -12, -24}},
	)
	assert.Greater(t, got.repeats[0], got.repeats[1])
	assert.Greater(t, got.repeats[1], got.repeats[2])
	alone := listen(asked{heard: g, dry: g, repeats: []float64{-3, -12, -24}})
	for i := range alone.repeats {
		assert.Greater(t, alone.repeats[i], got.repeats[i])
	}
	assert.Less(t, got.repeats[2], heardFrom)
	assert.Greater(t, alone.repeats[2], heardFrom)
}

func TestHowFarTwoSpectraAreApart(t *testing.T) {
	g := partAs(plan.GuitarMid)
	assert.InDelta(t, 0, apartDB(g, g.Raised(10)), 1e-9, "levels do not count")
	tilted := apartDB(g, g.Tilted(1.5))
	assert.Greater(t, tilted, 1.0)
	assert.Greater(t, apartDB(g, g.Tilted(3)), tilted)
	assert.Greater(t, apartDB(partAs(plan.GuitarDark), partAs(plan.GuitarBright)), 6.0)
}

// Only the figures that are wanted are worked out, and they are the same.
func TestOneFigureIsTheSameAsAmongAll(t *testing.T) {
	g := partAs(plan.GuitarMid)
	all := asked{heard: g.Raised(3), dry: g, voices: voices(plan.Voice, plan.Organ, plan.Horns)}
	whole := listen(all)
	for _, c := range []check{{what: "covers", part: "organ"}, {what: "rings", part: "organ"}, {what: "under"}, {what: "buried"}} {
		one := all
		one.about = &c
		got := listen(one)
		assert.Equal(t, whole.guitar.Share, got.guitar.Share)
		if c.part != "" {
			assert.Equal(t, whole.parts[1].Loses, got.parts[1].Loses)
			assert.Equal(t, whole.parts[1].Rings, got.parts[1].Rings)
		}
		if c.what == "under" {
			assert.Equal(t, whole.guitar.Over, got.guitar.Over)
		}
	}
}

// In a hall gaps fill up, the more the longer it rings: less is heard of what lives in them.
func TestAHallFillsTheGaps(t *testing.T) {
	spread := func(hallS float64) float64 {
		lowest, highest := math.Inf(1), math.Inf(-1)
		for _, now := range shapeOf(plan.Drums).over(partAs(plan.Drums), "d", hallS) {
			lowest, highest = math.Min(lowest, now.Levels()[16]), math.Max(highest, now.Levels()[16])
		}
		return highest - lowest
	}
	assert.Greater(t, spread(0), spread(0.6)+3)
	assert.Greater(t, spread(0.6), spread(3))
	g := partAs(plan.GuitarMid)
	before := 101.0
	for _, hallS := range []float64{0, 0.6, 2, 4} {
		got := listen(asked{heard: g, dry: g, voices: voices(plan.Voice, plan.Drums, plan.Horns), hallS: hallS})
		assert.Less(t, got.guitar.Share, before, "%g s", hallS)
		before = got.guitar.Share
	}
}
