package electric

import "math"

// twoPort is a chain matrix: V1 = a V2 + b I2, I1 = c V2 + d I2. Chains multiply (any text on
// linear networks; here after Zobel's and Feldtkeller's use).
type twoPort struct{ a, b, c, d complex128 }

// through is the two-port that changes nothing.
var through = twoPort{a: 1, d: 1}

// series is the two-port with an impedance in its line behind it.
func (t twoPort) series(z complex128) twoPort {
	return twoPort{t.a, t.a*z + t.b, t.c, t.c*z + t.d}
}

// shunt is the two-port with an admittance across its line behind it.
func (t twoPort) shunt(y complex128) twoPort {
	return twoPort{t.a + t.b*y, t.b, t.c + t.d*y, t.d}
}

// then is the two-port with another behind it.
func (t twoPort) then(u twoPort) twoPort {
	return twoPort{t.a*u.a + t.b*u.c, t.a*u.b + t.b*u.d, t.c*u.a + t.d*u.c, t.c*u.b + t.d*u.d}
}

// leastOhm stands for a short, so that zeros are legal.
const leastOhm = 1e-6

// conductance is that of a resistance in ohm.
func conductance(ohm float64) float64 { return 1 / math.Max(ohm, leastOhm) }

// part is one piece of a ladder.
type part interface {
	// onto puts the part behind a two-port, at an angular frequency in rad/s.
	onto(t twoPort, w float64) twoPort
}

// network is a ladder of parts.
type network []part

func (n network) matrix(w float64) twoPort {
	t := through
	for _, p := range n {
		t = p.onto(t, w)
	}
	return t
}

// transfer is the voltage at the end of the ladder over that at its head, with nothing beyond.
func (n network) transfer(w float64) complex128 { return 1 / n.matrix(w).a }

// coil is a pickup: resistance and inductance in series, in line, and a capacitance across both.
type coil struct{ ohm, henry, farad float64 }

func (c coil) impedance(w float64) complex128 {
	if z := complex(c.ohm, w*c.henry); z != 0 {
		return z
	}
	return leastOhm
}

// coils are pickups that sound together, side by side or one after the other. What they are driven by
// is taken to give every coil the same voltage, and the response is counted from that, or in series
// from their sum, whichever way round they are wired: what polarity takes away depends on where along
// the strings they stand, and is no matter of the circuit.
type coils struct {
	list   []coil
	series bool
}

// source is what coils are together, after Thevenin: the impedance behind their capacitances, and the
// share that the voltage of each has in theirs together. With the same voltage in all of them, theirs is
// the given part of the ideal.
func (c coils) source(w float64) (z complex128, shares []complex128, part complex128) {
	shares = make([]complex128, len(c.list))
	if c.series {
		for i, x := range c.list {
			one := x.impedance(w)
			shares[i] = 1 / (1 + complex(0, w*x.farad)*one)
			z += one * shares[i]
			part += shares[i] / complex(float64(len(shares)), 0)
		}
		return z, shares, part
	}
	var inner, y complex128
	for i, x := range c.list {
		shares[i] = 1 / x.impedance(w)
		inner += shares[i]
		y += shares[i] + complex(0, w*x.farad)
	}
	for i := range shares {
		shares[i] /= y
	}
	return 1 / y, shares, inner / y
}

// onto begins a ladder: nothing stands before coils.
func (c coils) onto(_ twoPort, w float64) twoPort {
	z, _, part := c.source(w)
	if part == 0 {
		part = complex(1e-15, 0)
	}
	return twoPort{a: 1 / part, b: z / part}
}

// across is a resistance and a capacitance side by side to earth; an infinite resistance is none.
type across struct{ ohm, farad float64 }

func (a across) onto(t twoPort, w float64) twoPort {
	return t.shunt(complex(conductance(a.ohm), w*a.farad))
}

// capacitor is one to earth: a cable, the wiring of a box that is off.
func capacitor(farad float64) across { return across{math.Inf(1), farad} }

// inLine is a resistance in line.
type inLine float64

func (r inLine) onto(t twoPort, _ float64) twoPort { return t.series(complex(float64(r), 0)) }

// upper is the upper part of a volume pot with a treble bleed across it.
type upper struct {
	ohm         float64
	bleedFarad  float64
	bleedOhm    float64 // infinite where there is none
	bleedSeries bool
}

func (u upper) onto(t twoPort, w float64) twoPort {
	if u.ohm == 0 {
		return t
	}
	y := complex(conductance(u.ohm), 0)
	switch {
	case !u.bleedSeries:
		y += complex(1/u.bleedOhm, w*u.bleedFarad)
	case u.bleedFarad > 0:
		y += 1 / complex(u.bleedOhm, -1/(w*u.bleedFarad))
	}
	return t.series(1 / y)
}

// toneStack is a resistance and a capacitor in series to earth.
type toneStack struct{ ohm, farad float64 }

func (s toneStack) onto(t twoPort, w float64) twoPort {
	if s.farad == 0 {
		return t
	}
	return t.shunt(1 / complex(s.ohm, -1/(w*s.farad)))
}

// branch is a ladder that hangs on the line and leads elsewhere: the other lane of a passive split,
// a tuner's tap.
type branch network

func (b branch) onto(t twoPort, w float64) twoPort {
	m := network(b).matrix(w)
	return t.shunt(m.c / m.a)
}

// parallel are ladders from one point of the line to the next, side by side.
type parallel []network

// onto adds the admittance parameters of the lanes. A lane without anything in line is a wire, which
// makes one point of both ends: what the others have across them is then across the line.
func (b parallel) onto(t twoPort, w float64) twoPort {
	var y11, y21, y22, toEarth complex128
	wired := false
	for _, lane := range b {
		m := lane.matrix(w)
		if m.b == 0 {
			wired, toEarth = true, toEarth+m.c
			continue
		}
		y11, y21, y22 = y11+m.d/m.b, y21-1/m.b, y22+m.a/m.b
	}
	if wired {
		return t.shunt(toEarth + y11 + y22 + 2*y21)
	}
	if y21 == 0 {
		return t
	}
	return t.then(twoPort{-y22 / y21, -1 / y21, y21 - y11*y22/y21, -y11 / y21})
}
