package floor

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func ptr[T any](v T) *T { return &v }

// pair is two boxes of 70 by 120 by 55 mm on a board of 460 by 300, with known jacks in their sides: input on the right,
// output on the left, and a lead from the first to the second, which stands on its left.
func pair(x1, y1, x2, y2 float64) *Scene {
	s := stage(&chance{1}, 460, 300, [][2]float64{{70, 120}, {70, 120}})
	for i := range s.Pieces {
		s.Pieces[i].Gear.Size.Height = ptr(55.0)
	}
	s.Night = Night{Presses: map[plan.Key]int{}}
	plugIn(s, true)
	put(s, 0, x1, y1)
	put(s, 1, x2, y2)
	return s
}

func put(s *Scene, i int, x, y float64) {
	b := &s.Pieces[i].Box
	b.X, b.Y, b.Placed = x, y, true
}

func TestWhatIsWrongOnABoardIsFound(t *testing.T) {
	hurry := func(s *Scene) {
		g := s.Pieces[1].Gear
		g.Size.Width, g.Footswitches[0].X = 40, 30
		s.Prepare()
		s.Night.Steps = []Step{{From: "g0/s", To: "g1/s", Times: 3, Hurried: true}}
		s.Night.Presses = map[plan.Key]int{"g0/s": 3, "g1/s": 3}
	}
	cases := map[string]struct {
		scene *Scene
		with  func(s *Scene)
		rule  string
		words string
		value float64
		limit float64
		edit  string
	}{
		"on each other": {
			pair(200, 20, 260, 20), nil, "overlap", "g0 and g1 stand on each other by 10 mm.", 10, 0, "Move g0 25 mm left",
		},
		"over the edge": {
			pair(-20, 20, 200, 20), nil, "overhang", "g0 stands 20 mm over the edge of board.", 20, 0, "Move g0 20 mm right",
		},
		"over the near edge": {
			pair(20, 181, 200, 20), nil, "overhang", "g0 stands 1 mm over the edge of board.", 1, 0,
			"Move g0 1 mm away from you",
		},
		"a plug without room": {
			pair(200, 20, 122, 20), nil, "plug", "The plug at output of g0 has no room: it needs 15 mm, and g1 leaves 8.", 8, 15,
			"Move g0 7 mm right",
		},
		"two plugs in one place": {
			pair(200, 20, 110, 50), nil, "plugs_meet",
			"The plugs at output of g0 and at input of g1 are in one place: 10 mm of one are in the other.", 10, 0,
			"Move g0 10 mm right",
		},
		"switches close together": {
			pair(200, 20, 145, 20), hurry, "switches_close",
			"The switches of g0 and g1 are 60 mm apart and pressed in a hurry; 70 are comfortable.", 60, 70,
			"Move g1 10 mm left",
		},
		"a lid that stays open": {
			pair(200, 20, 20, 20), func(s *Scene) { s.Spec.Lid = ptr(50.0) }, "lid",
			"The lid of board does not close over g0: it is 55 mm high, and there are 50.", 50, 55, "",
		},
		"a gap between slats": {
			pair(200, 20, 20, 20), func(s *Scene) { s.Spec.Slats = []plan.Slat{{Y: 0, Depth: 30}, {Y: 200, Depth: 40}} },
			"slats", "g0 stands in a gap: 10 of its 120 mm are on slats.", 10, 36, "Move g0 100 mm towards you",
		},
		"beneath": {
			pair(200, 20, 20, 20), func(s *Scene) { s.Pieces[0].Box.Under = true; s.Spec.Beneath = ptr(40.0) }, "beneath",
			"g0 does not fit beneath board: it is 55 mm high, and there are 40.", 40, 55, "",
		},
		"a lead that is short": {
			pair(200, 20, 20, 20), func(s *Scene) { s.Leads[0].Made = 150 }, "lead_short",
			"The lead is too short: it is 150 mm long, and the run with its plugs and slack takes 198.", 150, 198, "",
		},
		"a power plug": {pair(200, 30, 20, 20), func(s *Scene) {
			s.Pieces[0].Plugs = append(s.Pieces[0].Plugs, PowerPlug(Socket{side: far, at: 35}))
			s.Pieces[1].Gear.Size.Width = 70
			put(s, 1, 200, -120)
			s.Board.Area = Rect{0, -200, 460, 500}
			s.Prepare()
			put(s, 0, 200, 10)
		}, "power_plug", "The plug at the power inlet of g0 has no room: it needs 25 mm, and g1 leaves 10.", 10, 25,
			"Move g0 15 mm towards you"},
		"behind a taller box": {pair(20, 20, 20, 150), func(s *Scene) {
			s.Pieces[1].Gear.Size.Height = ptr(90.0)
			s.Night.Presses["g0/s"] = 1
		}, "switch_behind", "The switch of g0 is 30 mm behind g1, which is 35 mm taller; the foot needs 50.", 30, 50,
			"Move g0 20 mm away from you"},
		"far from the edge": {pair(20, 0, 200, 150), func(s *Scene) {
			s.Board.Depth = 400
			s.Board.Area.D = 400
			s.Night.Presses["g0/s"] = 9
		}, "far", "g0 is pressed 9 times a night and stands 300 mm from the near edge; 280 are in reach without stepping over.", 300, 280, "Move g0 20 mm towards you"},
		"a heel without room": {pair(20, 20, 20, 170), func(s *Scene) {
			s.Pieces[0].Gear.Blocks = []plan.Block{{ID: "w", Rocker: true}}
		}, "rocker", "The foot has no room on g0: its heel needs 50 mm in front of it, and g1 leaves 30.", 30, 50,
			"Move g0 20 mm away from you"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			if c.with != nil {
				c.with(c.scene)
			}
			list := c.scene.Findings()
			var got *Finding
			for i := range list {
				if list[i].Rule == c.rule && got == nil {
					got = &list[i]
				}
			}
			require.NotNil(t, got, "%+v", list)
			assert.Equal(t, c.words, got.Words)
			assert.InDelta(t, c.value, got.Value, 0.05)
			assert.InDelta(t, c.limit, got.Limit, 0.05)
			if c.edit == "" {
				return
			}
			assert.Equal(t, c.edit, got.Edit)
			for id, at := range got.Moves {
				for i := range c.scene.Pieces {
					if c.scene.Pieces[i].Gear.ID == id {
						put(c.scene, i, at.X, at.Y)
					}
				}
			}
			assert.Less(t, len(c.scene.Findings()), len(list), "the edit mends it")
		})
	}
}

func TestABoardWithNothingWrongHasNoFinding(t *testing.T) {
	s := pair(200, 100, 100, 100)
	assert.Empty(t, s.Findings())
	assert.True(t, s.Stands())
	put(s, 1, 140, 100)
	assert.False(t, s.Stands())
	s.Board = nil
	put(s, 0, -900, 4000)
	put(s, 1, 900, 4000)
	assert.Empty(t, s.Findings(), "nothing bounds the bare floor")
}

func TestPlugsFindRoomAlongASideWhoseJacksAreNotKnown(t *testing.T) {
	s := pair(200, 20, 128, 20)
	plugIn(s, false)
	list := s.Findings()
	require.NotEmpty(t, list)
	assert.Equal(
		t, "The plug at output of g0 has no room anywhere along its side: it needs 15 mm, and g1 leaves 2.", list[0].Words,
	)
	put(s, 1, 128, 45)
	assert.Empty(t, s.Findings(), "the sides are past each other by 25 mm at either end")
	put(s, 1, 128, 35)
	assert.Len(t, s.Findings(), 2, "15 mm are too narrow for a plug")
}

func TestAPinnedBoxIsNotMovedToMendAnything(t *testing.T) {
	s := pair(200, 20, 260, 20)
	s.Pieces[0].Box.Pinned = true
	list := s.Findings()
	require.NotEmpty(t, list)
	assert.Equal(t, "Move g1 25 mm right", list[0].Edit)
	s.Pieces[1].Box.Pinned = true
	assert.Empty(t, s.Findings()[0].Edit)
}

func TestSocketsTurnWithTheirBox(t *testing.T) {
	g := &plan.Gear{
		ID: "g", Size: &plan.Size{Width: 100, Depth: 60},
		Jacks: []plan.Jack{
			{ID: "in", Side: "right", At: ptr(20.0)}, {ID: "a", Side: "back"}, {ID: "b", Side: "top"}, {ID: "none"},
		},
	}
	for degrees, want := range map[int]point{0: {100, 20}, 90: {40, 100}, 180: {0, 40}, 270: {20, 0}} {
		b := BoxOf(g, plan.Placement{X: 10, Y: 1000, Rotation: degrees}, true)
		x, y := b.JackAt(g, "in")
		assert.Equal(t, point{10 + want.x, 1000 + want.y}, point{x, y}, "%d degrees", degrees)
	}
	a, ok := SocketOf(g, "a")
	require.True(t, ok)
	b, _ := SocketOf(g, "b")
	assert.InDelta(t, 100.0/3, a.at, 1e-9)
	assert.InDelta(t, 200.0/3, b.at, 1e-9)
	assert.True(t, a.Assumed)
	_, ok = SocketOf(g, "none")
	assert.False(t, ok, "a jack whose side is not known is nowhere")
	_, ok = InletOf(g)
	assert.False(t, ok)
	g.Power = &plan.PowerDraw{Side: "back"}
	inlet, ok := InletOf(g)
	require.True(t, ok)
	assert.Equal(t, 50.0, inlet.at)
}

func TestABoxInFrontIsInTheWayOnlyWhereItIsTallerAsTheBoardLeans(t *testing.T) {
	s := pair(20, 20, 20, 150)
	s.Night.Presses["g0/s"] = 1
	behind := func(height, slope float64) bool {
		s.Pieces[1].Gear.Size.Height, s.Spec.SlopeDeg = &height, &slope
		for _, f := range s.Findings() {
			if f.Rule == "switch_behind" {
				return true
			}
		}
		return false
	}
	assert.False(t, behind(69, 0), "14 mm are stepped over")
	assert.True(t, behind(71, 0))
	assert.False(t, behind(71, 5), "30 mm on a slope of 5 degrees are 2.6 mm higher")
}
