package plan

// Dialled is where knobs stood when it sounded good: noted at a rehearsal, to be found again.
type Dialled struct {
	ID     ID            `json:"id"`
	Name   string        `json:"name"`
	Date   string        `json:"date,omitempty" doc:"Year-month-day."`
	Place  string        `json:"place,omitempty" doc:"The room it was good in."`
	Volume string        `json:"volume,omitempty" doc:"How loud it was played, in words."`
	Guitar ID            `json:"guitar,omitempty" doc:"The guitar that was played."`
	Notes  string        `json:"notes,omitempty"`
	Values map[Key]Value `json:"values" doc:"Where each knob stood. One whose box is gone says nothing."`
}

// FindDialled looks a set of positions up by its id.
func (r *Rig) FindDialled(id ID) (*Dialled, bool) {
	return find(r.Dialled, id, func(x *Dialled) ID { return x.ID })
}

func (v *validator) dialled(path string, list []Dialled) {
	localIDs(v, path, list, func(x Dialled) ID { return x.ID })
	for i, x := range list {
		here := at(path, i)
		v.name(dot(here, "name"), x.Name)
		if x.Date != "" && !isDate(x.Date) {
			v.problems.add(dot(here, "date"), "%q is no date: write year-month-day, as in 2027-06-12", x.Date)
		}
		for _, key := range SortedKeys(x.Values) {
			value := x.Values[key]
			if value.Kind() != NumberValue {
				v.problems.add(in(dot(here, "values"), string(key)), "%s is no place of a knob", value)
				continue
			}
			// What is gone says nothing, and a knob that is there has its range.
			if target, ok := v.variables[key]; ok && target.Control != nil {
				if low, high := target.Control.Range(); value.Float() < low || value.Float() > high {
					v.problems.add(
						in(dot(here, "values"), string(key)),
						"%s goes from %g to %g",
						target.Label,
						low,
						high,
					)
				}
			}
		}
	}
}
