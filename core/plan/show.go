package plan

import (
	"slices"
	"strings"
)

// Show is a set list on a date, with a rig and where it plugs in, and what happened there.
type Show struct {
	ID          ID        `json:"id"`
	Name        string    `json:"name"`
	Date        string    `json:"date,omitempty" doc:"Year-month-day."`
	Place       string    `json:"place,omitempty"`
	SetList     ID        `json:"set_list"`
	Rig         ID        `json:"rig"`
	Destination ID        `json:"destination,omitempty"`
	Picks       []Pick    `json:"picks,omitempty" doc:"Which box stands in a swap slot that night, where it is not the one in the chain."`
	Others      []ShowRig `json:"others,omitempty" doc:"Other rigs at the show, each with its player."`
	Notes       string    `json:"notes,omitempty" doc:"What to know before it."`
	After       string    `json:"after,omitempty" doc:"What to remember of it."`
	Faults      []Fault   `json:"faults,omitempty"`
	Fixes       []Fix     `json:"fixes,omitempty" doc:"What was changed on the night."`
	Batteries   []ID      `json:"batteries,omitempty" doc:"Boxes that got a fresh battery for it."`
}

// Fault is something that failed at a show.
type Fault struct {
	Text  string `json:"text" doc:"What went wrong."`
	Gear  ID     `json:"gear,omitempty" doc:"Where in the chain: the box."`
	Lead  bool   `json:"lead,omitempty" doc:"It was the lead into the box, not the box itself."`
	Cured string `json:"cured,omitempty" doc:"How it was cured; absent while it is not."`
	Event string `json:"event,omitempty" doc:"What of the night it was written down by."`
}

// Whether a change of the night stays.
const (
	FixKept = "kept" // it is how the rig is from now on
	FixLeft = "left" // it was for that night alone
)

// Fix is something that was changed on the night. One that says which control stood where can be
// carried over to the rig.
type Fix struct {
	Text   string `json:"text" doc:"What was changed and why."`
	Gear   ID     `json:"gear,omitempty"`
	Key    Key    `json:"key,omitempty" doc:"The control that was moved."`
	Value  *Value `json:"value,omitempty" doc:"Where it stood then."`
	Sound  ID     `json:"sound,omitempty" doc:"For this sound alone; for all that do not say otherwise when absent."`
	Preset string `json:"preset,omitempty" doc:"In this preset of the box."`
	Keep   string `json:"keep,omitempty" enum:"kept,left" doc:"Absent while it is not decided."`
}

func (v *validator) show(path string, s *Show) {
	v.name(dot(path, "name"), s.Name)
	if _, ok := v.plan.FindSetList(s.SetList); !ok {
		v.problems.add(dot(path, "set_list"), "there is no set list %q", s.SetList)
	}
	r, _ := v.plan.FindRig(s.Rig)
	if r == nil {
		v.problems.add(dot(path, "rig"), "there is no rig %q", s.Rig)
	} else if s.Destination != "" {
		if _, ok := r.FindDestination(s.Destination); !ok {
			v.problems.add(dot(path, "destination"), "%s has no destination %q", r.Name, s.Destination)
		}
	}
	if r != nil {
		v.picks(dot(path, "picks"), r, s.Picks)
	}
	v.showRigs(path, s)
	for i, f := range s.Faults {
		fp := at(dot(path, "faults"), i)
		v.written(dot(fp, "text"), f.Text, "say what went wrong")
		v.gearIs(dot(fp, "gear"), f.Gear)
		if f.Lead && f.Gear == "" {
			v.problems.add(dot(fp, "gear"), "a lead goes into a box: say which")
		}
	}
	for i, f := range s.Fixes {
		v.fix(at(dot(path, "fixes"), i), f)
	}
	for i, id := range s.Batteries {
		v.gearIs(at(dot(path, "batteries"), i), id)
	}
}

// written adds a problem where a line of a log says nothing.
func (v *validator) written(path, text, ask string) {
	if strings.TrimSpace(text) == "" {
		v.problems.add(path, "%s", ask)
	}
}

// gearIs adds a problem where gear is named that is not there.
func (v *validator) gearIs(path string, id ID) {
	if id != "" && v.gearByID[id] == nil {
		v.problems.add(path, "there is no gear %q", id)
	}
}

func (v *validator) fix(path string, f Fix) {
	v.written(dot(path, "text"), f.Text, "say what was changed")
	v.gearIs(dot(path, "gear"), f.Gear)
	if f.Sound != "" && !v.soundByID[f.Sound] {
		v.problems.add(dot(path, "sound"), "there is no sound %q", f.Sound)
	}
	switch {
	case f.Key == "" && f.Value != nil:
		v.problems.add(dot(path, "key"), "say which control stood at %s", f.Value)
	case f.Key != "" && f.Value == nil:
		v.problems.add(dot(path, "value"), "say where the control stood")
	case f.Key != "" && f.Keep == "":
		// One that is decided is only a record: gear may move on without it.
		if target, ok := v.variables[f.Key]; ok {
			v.setting(dot(path, "value"), *f.Value, target, resolvable)
		} else {
			v.problems.add(dot(path, "key"), "there is no control %q", f.Key)
		}
	}
	switch {
	case f.Preset == "" || f.Keep != "":
	case f.Key == "":
		v.problems.add(dot(path, "key"), "say which control was moved in preset %s", f.Preset)
	default:
		v.fixPreset(dot(path, "preset"), f)
	}
}

// fixPreset checks that the box has the preset in which a control is said to have been moved, and that
// the preset holds that control.
func (v *validator) fixPreset(path string, f Fix) {
	g := v.gearByID[f.Key.Gear()]
	if g == nil {
		return // said of the control
	}
	preset, ok := g.PresetControl()
	switch {
	case !ok:
		v.problems.add(path, "%s has no presets", g.Name)
	case !slices.Contains(preset.Control.Options, f.Preset):
		v.problems.add(path, "%s has no preset %q", g.Name, f.Preset)
	case v.variables[f.Key].Access != Memory:
		v.problems.add(path, "no preset holds %s", v.variables[f.Key].Label)
	}
}
