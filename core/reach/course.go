package reach

import (
	"envex/core/plan"
	"envex/core/reason"
)

// Start is where a set is followed from: how the rig stands, in a section of its first song. The zero value is the
// beginning of the set, with the rig set up for it.
type Start struct {
	Section plan.ID                 // of the first song, that is being played; its first where it is ""
	Stands  map[plan.Key]plan.Value // where everything stands; what is not of this rig is passed over. Nil where the rig is set up for it.
	Alone   bool                    // the rest of the first song is not played
}

// Course is a set, or what is left of it, as a rig plays it.
type Course struct {
	Report *Report

	s    *solver
	from Start
	skip int // parts before the first section
}

// Follow is the reach of a rig over a set list from a start on, with what is needed to go another way from there. The
// plan must be valid. Same input, same answer. It fails where rig, set list or section are not in the plan, or when one
// footswitch moves more controls at once than any footswitch does.
func Follow(p *plan.Plan, rig, setList plan.ID, from Start) (*Course, error) {
	r, l, err := lookUp(p, rig, setList)
	if err != nil {
		return nil, err
	}
	s, err := prepare(p, r, l, from)
	if err != nil {
		return nil, err
	}
	c := &Course{s: s, from: from, Report: &Report{
		Rig: Named{r.ID, r.Name}, SetList: Named{l.ID, l.Name}, Exact: true,
		Floor: *s.feet.floor, Findings: []Finding{}, Changes: []Change{}, Sections: []Section{}, Rows: []Row{},
		Songs: []Song{},
	}}
	if len(s.parts) == 0 {
		return c, nil
	}
	if s.parts[0].isStart() {
		c.skip = 1
	}
	s.solve()
	c.Report.Exact = s.exact
	for _, m := range s.machines {
		c.Report.Exact = c.Report.Exact && !m.curtailed
	}
	s.describe(c.Report)
	return c, nil
}

// Stands is where everything stands as a section is left, by its position in the report: what is made ready in it is.
// It is nil for a position that the course does not have.
func (c *Course) Stands(position int) map[plan.Key]plan.Value {
	i := position + c.skip
	if position < 0 || i >= len(c.s.parts) {
		return nil
	}
	out := c.s.settings.guitarsAfter(c.s.parts, c.from, i)
	for v, known := range c.s.vars {
		if _, at := c.s.stands(v, i); at < len(known.values) {
			out[known.Key] = known.values[at]
		}
	}
	return out
}

// Arrives is where everything stands as a section begins, before anything is made ready in it. It is nil for a position
// that the course does not have.
func (c *Course) Arrives(position int) map[plan.Key]plan.Value {
	out := c.Stands(position)
	for v, known := range c.s.vars {
		if out == nil {
			break
		}
		if at, _ := c.s.stands(v, position+c.skip); at < len(known.values) {
			out[known.Key] = known.values[at]
		}
	}
	return out
}

// startPosition is the position of the part that stands for where a rig is.
const startPosition = -1

func (p *part) isStart() bool { return p.position == startPosition }

// cut is what of a set is left from a start on: the section that is being played comes first, and before it where
// the rig stands a part of its own that lasts no time.
func (f Start) cut(parts []*part) ([]*part, error) {
	if len(parts) == 0 {
		return parts, nil
	}
	first := 0
	if f.Section != "" {
		for first < len(parts) && (parts[first].entry != parts[0].entry || parts[first].sec.ID != f.Section) {
			first++
		}
		if first == len(parts) {
			return nil, reason.Errorf("%s has no section %q", parts[0].song.Title, f.Section)
		}
	}
	list := parts[first:]
	if f.Alone {
		after := 1
		for after < len(list) && list[after].entry == list[0].entry {
			after++
		}
		list = append(list[:1:1], list[after:]...)
	}
	for i, x := range list {
		x.position = i
	}
	if f.Stands == nil {
		return list, nil
	}
	before := *list[0]
	before.position, before.duration = startPosition, 0
	list[0].starts, list[0].segue, list[0].gap, list[0].held = false, false, 0, true
	return append([]*part{&before}, list...), nil
}

// begin has the part before the first ask for everything as it stands.
func (s *settings) begin(parts []*part, from Start) {
	if len(parts) == 0 || !parts[0].isStart() {
		return
	}
	w := &wants{of: make([]want, len(s.vars))}
	for i, v := range s.vars {
		if x, ok := from.Stands[v.Key]; ok && x.Kind() != plan.NoValue {
			w.of[i].oneOf = []int{v.intern(x)}
		}
	}
	parts[0].wants, parts[0].broken = w, ""
}

// afterStart takes where the rig stood out of a report: it is no section of the set.
func (r *Report) afterStart() {
	if first := r.Changes[0]; len(first.Presses) > 0 || len(first.Hands) > 0 || first.Verdict.fails() {
		r.First = &first
	}
	r.Changes, r.Sections = r.Changes[1:], r.Sections[1:]
	for i := range r.Rows {
		r.Rows[i].Cells = r.Rows[i].Cells[1:]
	}
}
