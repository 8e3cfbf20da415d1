package mix

import (
	"math"

	"envex/core/hearing"
	"envex/core/plan"
)

// shape is how a kind of part spreads over frequency, by a few points of its third-octave levels, how loud it
// usually is for a listener, in dB SPL, and over how many dB its level goes up and down: as a whole, from beat to beat,
// and in each band by itself, as notes come and go.
type shape struct {
	usual  float64
	beats  float64
	notes  float64
	points []point
}

type point struct{ hz, db float64 }

// guitarSPL is how loud the home sound usually is for a listener.
const guitarSPL = 84.0

// shapes are those of all kinds. Voices are the long-term average speech spectrum of D. Byrne and others, "An
// international comparison of long-term average speech spectra" (Journal of the Acoustical Society of America 96,
// 1994). The others are working figures: where an instrument of the kind has its fundamentals and its partials. A
// recording of the part stands in their place. That levels in a band are spread evenly over a range in dB is taken for
// all parts as ANSI S3.5 takes it for speech, where the range is 30 dB.
var shapes = map[plan.PartKind]shape{
	plan.Voice:   {90, 20, 22, speech},
	plan.Backing: {84, 16, 22, speech},
	plan.Kick: {88, 40, 8, []point{
		{
			50,
			0,
		}, {63, 0}, {80, -1}, {100, -4}, {160, -10}, {250, -16}, {400, -20}, {1000, -24}, {2500, -20}, {4000, -20}, {8000, -28},
	}},
	plan.Drums: {84, 30, 16, []point{
		{
			100,
			-12,
		}, {160, -5}, {200, -3}, {250, -3}, {400, -6}, {1000, -8}, {2000, -7}, {4000, -6}, {8000, -6}, {12500, -9}, {16000, -13},
	}},
	plan.Percussion: {83, 30, 16, []point{
		{125, -10}, {200, -3}, {315, 0}, {500, -3}, {1000, -8}, {2500, -8}, {5000, -6}, {8000, -7}, {12500, -11},
	}},
	plan.BassPart: {88, 20, 20, []point{
		{
			40,
			-4,
		}, {50, -1}, {63, 0}, {80, 0}, {100, -1}, {160, -4}, {250, -9}, {400, -13}, {800, -18}, {1600, -22}, {3150, -28}, {6300, -42},
	}},
	plan.Piano: {
		84,
		22,
		22,
		[]point{
			{80, -12},
			{125, -6},
			{250, -1},
			{400, 0},
			{630, -2},
			{1000, -6},
			{2000, -12},
			{4000, -19},
			{8000, -29},
		},
	},
	plan.KeysPad: {83, 8, 20, []point{
		{100, -8}, {200, -1}, {315, 0}, {500, -1}, {800, -4}, {1600, -9}, {3150, -14}, {6300, -21}, {12500, -32},
	}},
	plan.Organ: {84, 10, 20, []point{
		{80, -6}, {125, -3}, {250, 0}, {500, -1}, {1000, -3}, {2000, -6}, {4000, -12}, {6300, -20}, {10000, -32},
	}},
	plan.Horns: {86, 20, 20, []point{
		{
			125,
			-12,
		}, {200, -4}, {315, -1}, {500, 0}, {1000, -1}, {1600, -2}, {2500, -5}, {4000, -10}, {8000, -20}, {12500, -30},
	}},
	plan.GuitarDark: {84, 18, 22, []point{
		{
			80,
			-8,
		}, {125, -2}, {200, 0}, {315, 0}, {500, -3}, {800, -6}, {1600, -11}, {2500, -15}, {4000, -26}, {8000, -45},
	}},
	plan.GuitarBright: {84, 18, 22, []point{
		{100, -14}, {160, -8}, {250, -4}, {500, -2}, {1000, 0}, {2000, 0}, {3150, -1}, {5000, -8}, {8000, -20},
	}},
	plan.GuitarMid: {84, 18, 22, []point{
		{100, -14}, {200, -7}, {400, -2}, {630, 0}, {1000, 0}, {1600, -3}, {2500, -6}, {4000, -14}, {8000, -32},
	}},
	plan.OtherPart: {84, 18, 20, []point{{100, -3}, {200, 0}, {800, 0}, {3150, -8}, {8000, -18}}},
}

var speech = []point{
	{63, 38.6}, {80, 43.5}, {100, 54.4}, {125, 57.7}, {160, 56.8}, {200, 60.2}, {250, 60.3}, {315, 59.0}, {400, 62.1},
	{
		500,
		62.1,
	}, {630, 60.5}, {800, 56.8}, {1000, 53.7}, {1250, 53.0}, {1600, 52.0}, {2000, 48.7}, {2500, 48.1}, {3150, 46.8},
	{4000, 45.6}, {5000, 44.5}, {6300, 44.3}, {8000, 43.7}, {10000, 43.4}, {12500, 41.3}, {16000, 40.7},
}

// beyond is how steeply a shape falls outside its points, in dB an octave.
const beyond = 18.0

// at is the level of a shape in a band around a frequency, the band moved so many octaves up.
func (s shape) at(hz float64) float64 {
	first, last := s.points[0], s.points[len(s.points)-1]
	switch {
	case hz <= first.hz:
		return first.db - beyond*math.Log2(first.hz/hz)
	case hz >= last.hz:
		return last.db - beyond*math.Log2(hz/last.hz)
	}
	for i := 1; ; i++ {
		if a, b := s.points[i-1], s.points[i]; hz <= b.hz {
			return a.db + (b.db-a.db)*math.Log(hz/a.hz)/math.Log(b.hz/a.hz)
		}
	}
}

func shapeOf(kind plan.PartKind) shape {
	if s, ok := shapes[kind]; ok {
		return s
	}
	return shapes[plan.OtherPart]
}

// spectrumOf is what a part puts into the third octaves for a listener, as it usually plays or as it is said to in a
// section.
func spectrumOf(b *plan.Band, x *plan.Part, playing plan.Playing) hearing.Spectrum {
	kind := shapeOf(x.Kind)
	var levels [hearing.Bands]float64
	for band := range levels {
		if len(x.Bands) == hearing.Bands {
			levels[band] = x.Bands[band]
			continue
		}
		levels[band] = kind.at(hearing.Centre(band) * math.Pow(2, -float64(x.Octave)))
	}
	s := hearing.FromLevels(levels).Tilted(value(x.Tilt) + value(playing.Tilt))
	return s.Raised(kind.usual + value(b.LevelDB) + value(x.LevelDB) + value(playing.LevelDB) - s.Level())
}

func value(x *float64) float64 {
	if x == nil {
		return 0
	}
	return *x
}
