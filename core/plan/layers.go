package plan

import (
	"slices"
	"strings"
)

// Looping is what a looper does in a section: the layer it records, and the layers that run.
type Looping struct {
	Records string   `json:"records,omitempty" maxLength:"60" doc:"The name of the layer that is recorded, from the first beat of the section on."`
	Bars    *float64 `json:"bars,omitempty" minimum:"0.25" maximum:"1000" doc:"How long that is; the whole section when absent."`
	Plays   []string `json:"plays,omitempty" maxItems:"20" doc:"The layers that run from its first beat, by name."`
}

// Layers are the names of what a song records, in order.
func (s *Song) Layers() []string {
	var list []string
	for _, sec := range s.Sections {
		if sec.Looping != nil && sec.Looping.Records != "" {
			list = append(list, sec.Looping.Records)
		}
	}
	return list
}

// layers says what is wrong with the layers of a song: a name twice or blank, and one that no section records.
func (v *validator) layers(path string, s *Song) {
	recorded, said := s.Layers(), map[string]bool{}
	for i, sec := range s.Sections {
		x := sec.Looping
		if x == nil {
			continue
		}
		lp := dot(at(dot(path, "sections"), i), "looping")
		switch {
		case x.Records != "" && strings.TrimSpace(x.Records) == "":
			v.problems.add(dot(lp, "records"), "a layer needs a name")
		case x.Records != "" && said[x.Records]:
			v.problems.add(dot(lp, "records"), "another section records %q already", x.Records)
		case x.Records == "" && x.Bars != nil:
			v.problems.add(dot(lp, "bars"), "say which layer is so long")
		case x.Bars != nil && sec.Bars != nil && *x.Bars > *sec.Bars:
			v.problems.add(dot(lp, "bars"), "a layer of %g bars does not fit a section of %g", *x.Bars, *sec.Bars)
		case x.Records != "" && x.Bars == nil && sec.Bars == nil:
			v.problems.add(dot(lp, "bars"), "the section is open: say how many bars %s has", x.Records)
		}
		said[x.Records] = true
		for k, name := range x.Plays {
			switch {
			case !slices.Contains(recorded, name):
				v.problems.add(at(dot(lp, "plays"), k), "no section records %q", name)
			case slices.Index(x.Plays, name) != k:
				v.problems.add(at(dot(lp, "plays"), k), "%q stands here twice", name)
			}
		}
	}
}
