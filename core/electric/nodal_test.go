package electric

import (
	"math"
	"math/cmplx"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// netlist is a circuit as a list of admittances between nodes. Node 0 is earth and node 1 an ideal
// source of 1 V. It is solved by nodal analysis: Gaussian elimination on the whole matrix, with
// nothing in common with chain matrices.
type netlist struct {
	nodes int
	parts []wired
}

type wired struct {
	a, b int
	y    func(w float64) complex128
	emf  float64 // V, in series with it, driving b
}

func newNetlist() *netlist { return &netlist{nodes: 2} }

func (n *netlist) node() int { n.nodes++; return n.nodes - 1 }

func (n *netlist) put(a, b int, y func(w float64) complex128) {
	n.parts = append(n.parts, wired{a: a, b: b, y: y})
}

func (n *netlist) r(a, b int, ohm float64) {
	n.put(a, b, func(float64) complex128 { return complex(1/math.Max(ohm, leastOhm), 0) })
}
func (n *netlist) c(a, b int, pf float64) {
	n.put(a, b, func(w float64) complex128 { return complex(0, w*pf*1e-12) })
}
func (n *netlist) rl(a, b int, ohm, henry float64) {
	n.put(a, b, func(w float64) complex128 { return 1 / complex(ohm, w*henry) })
}

// series puts a resistance and a capacitance in series between two nodes.
func (n *netlist) rc(a, b int, ohm, pf float64) {
	n.put(a, b, func(w float64) complex128 { return 1 / complex(ohm, -1/(w*pf*1e-12)) })
}

// at is the voltage of a node.
func (n *netlist) at(node int, w float64) complex128 {
	size := n.nodes - 2 // of unknown nodes, from 2 on
	m := make([][]complex128, size)
	for i := range m {
		m[i] = make([]complex128, size+1)
	}
	for _, p := range n.parts {
		y := p.y(w)
		for node, sign := range map[int]complex128{p.b: 1, p.a: -1} { // after Norton
			if node >= 2 {
				m[node-2][size] += sign * y * complex(p.emf, 0)
			}
		}
		for _, ends := range [2][2]int{{p.a, p.b}, {p.b, p.a}} {
			a, b := ends[0]-2, ends[1]
			if a < 0 {
				continue
			}
			m[a][a] += y
			switch {
			case b == 1:
				m[a][size] += y
			case b >= 2:
				m[a][b-2] -= y
			}
		}
	}
	for i := range m {
		best := i
		for k := i + 1; k < size; k++ {
			if cmplx.Abs(m[k][i]) > cmplx.Abs(m[best][i]) {
				best = k
			}
		}
		m[i], m[best] = m[best], m[i]
		for k := range m {
			if k == i || m[k][i] == 0 {
				continue
			}
			f := m[k][i] / m[i][i]
			for c := i; c <= size; c++ {
				m[k][c] -= f * m[i][c]
			}
		}
	}
	return m[node-2][size] / m[node-2][node-2]
}

func (n *netlist) db(node int, hz float64) float64 {
	return 20 * math.Log10(cmplx.Abs(n.at(node, angular(hz))))
}

// lay writes a ladder down as a netlist from a node on, and gives the node at its end.
func (n *netlist) lay(list network, from int) int {
	for _, p := range list {
		switch x := p.(type) {
		case coils:
			from = n.coils(x)
		case across:
			if !math.IsInf(x.ohm, 1) {
				n.r(from, 0, x.ohm)
			}
			n.c(from, 0, x.farad*1e12)
		case inLine:
			to := n.node()
			n.r(from, to, float64(x))
			from = to
		case upper:
			to := n.node()
			n.r(from, to, x.ohm)
			switch {
			case x.bleedSeries:
				n.rc(from, to, x.bleedOhm, x.bleedFarad*1e12)
			default:
				n.c(from, to, x.bleedFarad*1e12)
				if !math.IsInf(x.bleedOhm, 1) {
					n.r(from, to, x.bleedOhm)
				}
			}
			from = to
		case toneStack:
			n.rc(from, 0, x.ohm, x.farad*1e12)
		case branch:
			n.lay(network(x), from)
		case parallel:
			var ends []int
			for _, lane := range x {
				ends = append(ends, n.lay(lane, from))
			}
			to := ends[0]
			for _, e := range ends { // 1 microohm makes one node of them
				if e != to {
					n.r(e, to, 1e-4)
				}
			}
			from = to
		}
	}
	return from
}

// coils are each a source of 1 V behind their impedance, or of 1 V between them where they are in series.
func (n *netlist) coils(x coils) int {
	to, each := n.node(), 1.0
	if x.series {
		each = 1 / float64(len(x.list))
	}
	at := 0
	for i, c := range x.list {
		if x.series && i > 0 {
			at, to = to, n.node()
		}
		n.parts = append(n.parts, wired{a: at, b: to, y: func(w float64) complex128 { return 1 / c.impedance(w) }, emf: each})
		n.c(at, to, c.farad*1e12)
	}
	return to
}

func ladders(depth int) *rapid.Generator[network] {
	ohm := rapid.Float64Range(100, 1e6)
	pf := rapid.Float64Range(1, 3000)
	return rapid.Custom(func(t *rapid.T) network {
		var n network
		for range rapid.IntRange(1, 6).Draw(t, "parts") {
			kinds := 5
			if depth > 0 {
				kinds = 7
			}
			switch rapid.IntRange(0, kinds-1).Draw(t, "kind") {
			case 0:
				n = append(n, capacitor(pf.Draw(t, "pF")*1e-12))
			case 1:
				n = append(n, across{ohm.Draw(t, "ohm"), pf.Draw(t, "pF") * 1e-12})
			case 2:
				n = append(n, inLine(ohm.Draw(t, "ohm")))
			case 3:
				n = append(
					n, upper{ohm.Draw(t, "ohm"), pf.Draw(t, "pF") * 1e-12, ohm.Draw(t, "bleed"), rapid.Bool().Draw(t, "series")},
				)
			case 4:
				n = append(n, toneStack{ohm.Draw(t, "ohm"), pf.Draw(t, "nF") * 1e-10})
			case 5:
				n = append(n, branch(ladders(depth-1).Draw(t, "branch")))
			case 6:
				n = append(
					n, parallel{
						ladders(depth-1).Draw(t, "lane"), append(ladders(depth-1).Draw(t, "lane"), inLine(ohm.Draw(t, "ohm"))),
					},
				)
			}
		}
		return n
	})
}

func TestLaddersAgreeWithNodalAnalysis(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		source := coils{series: rapid.Bool().Draw(t, "series")}
		for range rapid.IntRange(1, 3).Draw(t, "pickups") {
			source.list = append(
				source.list,
				coil{
					rapid.Float64Range(0, 20e3).Draw(t, "R"), rapid.Float64Range(0.1, 10).Draw(t, "L"),
					rapid.Float64Range(0, 300e-12).Draw(t, "C"),
				},
			)
		}
		n := append(network{source}, ladders(2).Draw(t, "ladder")...)
		list := newNetlist()
		end := list.lay(n, 1)
		for _, hz := range []float64{20, 440, 3000, 20000} {
			want, got := list.db(end, hz), decibels(n.transfer(angular(hz)))
			if want > -120 { // deeper down it is rounding that is compared
				assert.InDelta(t, want, got, 1e-4, "at %g Hz", hz)
			} else {
				assert.Less(t, got, -110.0, "at %g Hz", hz)
			}
		}
	})
}

func TestSingleRC(t *testing.T) {
	n := network{inLine(10e3), capacitor(1e-9)}
	for _, hz := range []float64{100, 15915.494, 20000} {
		w := angular(hz)
		assert.InDelta(t, -10*math.Log10(1+w*w*1e-10), decibels(n.transfer(w)), 1e-9)
	}
}

func TestResonanceOfACoilWithItsCable(t *testing.T) {
	const r, l, c, load = 6000.0, 2.5, 410e-12, 1e6
	n := network{coils{list: []coil{{r, l, 110e-12}}}, capacitor(300e-12), across{load, 0}}
	for _, hz := range grid {
		w := angular(hz)
		want := 1 / (complex(1+r/load, w*l/load) + complex(r, w*l)*complex(0, w*c))
		assert.InDelta(t, 20*math.Log10(cmplx.Abs(want)), decibels(n.transfer(w)), 1e-9)
	}
	// The height of a second-order peak is where d|H|/dw = 0: w^2 = w0^2 - b^2/2 of the denominator
	// 1 + R/Rl - w^2 LC + jw (L/Rl + RC).
	a, b := 1+r/load, l/load+r*c
	peak := math.Sqrt(a/(l*c)-b*b/(2*l*l*c*c)) / (2 * math.Pi)
	shape := response(func(hz float64) float64 { return decibels(n.transfer(angular(hz))) }).shape()
	require.NotNil(t, shape.PeakHz)
	assert.InDelta(t, peak, *shape.PeakHz, 0.01)
}

func TestAShortIsSilentAndALosslessResonanceIsBounded(t *testing.T) {
	assert.Equal(t, silentDB, decibels(network{inLine(1e3), across{0, 0}, inLine(1e6), across{0, 0}}.transfer(100)))
	w := 1 / math.Sqrt(2.5*410e-12)
	db := decibels(network{coils{list: []coil{{0, 2.5, 410e-12}}}}.transfer(w))
	assert.False(t, math.IsNaN(db) || math.IsInf(db, 0))
}

func TestEachCoilHasItsShare(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		source := coils{series: rapid.Bool().Draw(t, "series")}
		for range rapid.IntRange(1, 3).Draw(t, "pickups") {
			source.list = append(
				source.list,
				coil{
					rapid.Float64Range(100, 20e3).Draw(t, "R"), rapid.Float64Range(0.1, 10).Draw(t, "L"),
					rapid.Float64Range(0, 300e-12).Draw(t, "C"),
				},
			)
		}
		load := ladders(0).Draw(t, "ladder")
		i := rapid.IntRange(0, len(source.list)-1).Draw(t, "which sounds alone")
		for _, hz := range []float64{82, 1000, 5000} {
			list := newNetlist()
			end := list.lay(append(network{source}, load...), 1)
			alone := 0
			for k := range list.parts {
				if list.parts[k].emf != 0 {
					if list.parts[k].emf = 0; alone == i {
						list.parts[k].emf = 1
					}
					alone++
				}
			}
			_, shares, part := source.source(angular(hz))
			got := shares[i] / part * append(network{source}, load...).transfer(angular(hz))
			want := list.at(end, angular(hz))
			assert.InDelta(t, 0, cmplx.Abs(got-want), 1e-6*math.Max(1, cmplx.Abs(want)), "at %g Hz", hz)
		}
	})
}
