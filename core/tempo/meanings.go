package tempo

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"envex/core/plan"
	"envex/core/reason"
)

// Memories are the presets of a delay or reverb by what they mean, to be chosen in the moment, beside the other
// ways of using them.
type Memories struct {
	Gear     plan.ID        `json:"gear"`
	Name     string         `json:"name"`
	Rows     []string       `json:"rows" doc:"How long it rings: long, medium, short."`
	Columns  []string       `json:"columns" doc:"The notes, in words; one without a name for a reverb."`
	Meanings []Meaning      `json:"meanings" doc:"In the order of the presets."`
	Steps    [][]int        `json:"steps" doc:"Presses from one meaning to another; -1 where no switch leads there."`
	Farthest int            `json:"farthest" doc:"Presses between the two that are furthest apart."`
	Schools  []MemorySchool `json:"schools"`
	Words    []string       `json:"words" doc:"What taking it does."`
	Findings []Finding      `json:"findings"`
	Rig      plan.Rig       `json:"rig" doc:"The whole rig with the presets made and named, and each sound on the one it means."`
}

// Meaning is one preset by what it means.
type Meaning struct {
	Preset string                  `json:"preset"`
	Name   string                  `json:"name"`
	Row    int                     `json:"row"`
	Column int                     `json:"column"`
	Values map[plan.Key]plan.Value `json:"values"`
	Was    string                  `json:"was,omitempty" doc:"What the preset held, where that is lost."`
	Sounds []string                `json:"sounds" doc:"That stand on it."`

	note string
}

// MemorySchool is a way of using presets, counted over the set.
type MemorySchool struct {
	School  string `json:"school" enum:"meaning,song,page"`
	Name    string `json:"name"`
	Presets int    `json:"presets" doc:"How many it takes."`
	Have    int    `json:"have"`
	Fits    bool   `json:"fits"`
	Presses int    `json:"presses" doc:"Between presets, over the set; 0 where it does not fit."`
	Taps    int    `json:"taps" doc:"Taps of the tempo over the set."`
	Words   string `json:"words"`
}

// Grid says which meanings there are to be.
type Grid struct {
	Notes   []string `json:"notes,omitempty" doc:"Of a delay; an eighth and a dotted eighth when absent."`
	Repeats []int    `json:"repeats,omitempty" doc:"Of a long, a medium and a short one; 6, 3 and 1 when absent."`
}

// The rows of a grid, and how far a reverb's knob is turned for each, as a share.
var (
	meaningRows  = []string{"long", "medium", "short"}
	reverbTurns  = []float64{0.9, 0.5, 0.2}
	usualRepeats = []int{6, 3, 1}
	usualNotes   = []string{"1/8", "1/8."}
)

// both is the column of a device with two delays: the first note on one, the second on the other.
const both = "both"

// MeaningsOf makes the presets of a delay or a reverb by meaning: a row for each length, and for a delay a column
// for each note, and one for the first two at once where it has two delays. Times are bound to the note, so that
// they follow the tempo of each song. Every sound that has it on goes to the preset it means. It fails when rig,
// set list or gear are not there, and says why when the gear cannot hold a grid.
func MeaningsOf(p *plan.Plan, rig, setList, gear plan.ID, grid Grid) (*Memories, error) {
	night, err := Plan(p, rig, "", setList)
	if err != nil {
		return nil, err
	}
	r, err := p.RigByID(rig)
	if err != nil {
		return nil, fmt.Errorf("tempo: %w", err)
	}
	g, ok := p.FindGear(gear)
	if !ok || !slices.Contains(r.GearIn(), gear) {
		return nil, reason.Errorf("%s is not in %s", gear, r.Name)
	}
	m := &meaning{plan: p, rig: r, gear: g, night: night, list: setList, out: &Memories{
		Gear: gear, Name: g.Name, Rows: meaningRows, Meanings: []Meaning{}, Steps: [][]int{}, Schools: []MemorySchool{},
		Words: []string{}, Findings: []Finding{},
	}}
	if err := m.find(grid); err != nil {
		return nil, err
	}
	m.lay()
	m.take()
	m.compare()
	return m.out, nil
}

type meaning struct {
	plan   *plan.Plan
	rig    *plan.Rig
	gear   *plan.Gear
	night  *Night
	list   plan.ID
	preset plan.Variable
	blocks []*plan.Block // the delays, or the reverb
	reverb bool
	grid   Grid
	slots  []string // the presets that take the meanings
	out    *Memories
}

// find finds what a grid needs: presets, blocks whose settings they hold, and enough of them.
func (m *meaning) find(grid Grid) error {
	preset, ok := m.gear.PresetControl()
	if !ok {
		return reason.Errorf("%s has no presets", m.gear.Name)
	}
	m.preset, m.grid = preset, grid
	for _, effect := range []plan.Effect{plan.EffectDelay, plan.EffectReverb} {
		for i := range m.gear.Blocks {
			if b := &m.gear.Blocks[i]; b.Effect == effect && m.length(b) != nil &&
				(effect == plan.EffectReverb || m.time(b) != nil) {
				m.blocks = append(m.blocks, b)
			}
		}
		if len(m.blocks) > 0 {
			m.reverb = effect == plan.EffectReverb
			break
		}
	}
	if len(m.blocks) == 0 {
		return reason.Errorf("no preset of %s holds a delay's time and repeats, or a reverb's size", m.gear.Name)
	}
	if len(grid.Repeats) == 0 {
		m.grid.Repeats = usualRepeats
	}
	if len(m.grid.Repeats) != len(meaningRows) {
		return reason.Errorf("say the repeats of a long, a medium and a short one")
	}
	for _, n := range m.grid.Repeats {
		if n < 1 || n > 100 {
			return reason.Errorf("%d repeats are outside 1 to 100", n)
		}
	}
	if len(grid.Notes) == 0 {
		m.grid.Notes = usualNotes
	}
	m.out.Columns = []string{""}
	if !m.reverb {
		m.out.Columns = nil
		for i, note := range m.grid.Notes {
			if _, ok := plan.NoteFraction(note); !ok {
				return reason.Errorf("%q is not a note: write 1/8 or 1/8.", note)
			}
			if slices.Index(m.grid.Notes, note) != i {
				return reason.Errorf("%s appears twice", Words(note))
			}
			m.out.Columns = append(m.out.Columns, Words(note))
		}
		if len(m.blocks) > 1 && len(m.grid.Notes) > 1 {
			m.out.Columns = append(m.out.Columns, both)
		}
	}
	if n := len(m.out.Columns) * len(meaningRows); n > len(preset.Control.Options) {
		return reason.Errorf(
			"%s has %d presets, and the grid needs %d: name fewer notes", m.gear.Name, len(preset.Control.Options), n,
		)
	}
	return nil
}

// length is the knob that says how long a block rings, where presets hold it.
func (m *meaning) length(b *plan.Block) *plan.Control {
	names := []string{"repeats", "feedback"}
	if b.Effect == plan.EffectReverb {
		names = []string{"size", "decay"}
	}
	for i := range b.Controls {
		c := &b.Controls[i]
		if c.Kind == plan.Knob && c.Access == plan.Memory &&
			(slices.Contains(names, string(c.ID)) || slices.Contains(names, strings.ToLower(c.Name))) {
			return c
		}
	}
	return nil
}

// time is the control that holds a block's time, where presets hold it.
func (m *meaning) time(b *plan.Block) *plan.Control {
	if c := b.TimeControl(); c != nil && c.Access == plan.Memory {
		return c
	}
	return nil
}

func (m *meaning) key(b *plan.Block, c *plan.Control) plan.Key {
	return plan.BlockKey(m.gear.ID, b.ID) + "/" + plan.Key(c.ID)
}

// lay lays the meanings over the presets: by note, then by length, or the other way round, whichever takes fewer
// presses over the set.
func (m *meaning) lay() {
	m.slots = m.free(len(meaningRows) * len(m.out.Columns))
	byNote := m.laid(func(row, column int) int { return column*len(meaningRows) + row })
	byLength := m.laid(func(row, column int) int { return row*len(m.out.Columns) + column })
	m.out.Meanings = byNote
	if m.walk(byLength) < m.walk(byNote) {
		m.out.Meanings = byLength
	}
	for _, a := range m.out.Meanings {
		var row []int
		for _, b := range m.out.Meanings {
			n := m.steps(a.Preset, b.Preset)
			row = append(row, n)
			m.out.Farthest = max(m.out.Farthest, n)
		}
		m.out.Steps = append(m.out.Steps, row)
	}
}

// free are the presets for so many meanings: those that no sound stands on which means none of them, where there
// are enough.
func (m *meaning) free(n int) []string {
	kept := map[string]bool{}
	shape := m.shape()
	for i := range m.rig.Recipes {
		rec := &m.rig.Recipes[i]
		if sound, ok := m.plan.FindSound(rec.Sound); ok && m.on(rec, sound) && m.nearest(shape, rec, sound) < 0 {
			kept[m.standsOn(rec)] = true
		}
	}
	var list []string
	for _, o := range m.preset.Control.Options {
		if !kept[o] {
			list = append(list, o)
		}
	}
	if len(list) < n {
		list = m.preset.Control.Options
	}
	return list
}

// shape is the meanings without their presets.
func (m *meaning) shape() []Meaning {
	var list []Meaning
	for row := range meaningRows {
		for column := range m.out.Columns {
			list = append(list, Meaning{Row: row, Column: column, note: m.noteOf(column)})
		}
	}
	return list
}

// noteOf is the note of a column; "" for a reverb.
func (m *meaning) noteOf(column int) string {
	switch {
	case m.reverb:
		return ""
	case column < len(m.grid.Notes):
		return m.grid.Notes[column]
	}
	return both
}

func (m *meaning) laid(place func(row, column int) int) []Meaning {
	list := make([]Meaning, len(meaningRows)*len(m.out.Columns))
	for row, length := range meaningRows {
		for column, words := range m.out.Columns {
			at := place(row, column)
			x := Meaning{
				Preset: m.slots[at], Name: strings.TrimSpace(length + " " + words), Row: row, Column: column,
				Values: map[plan.Key]plan.Value{}, Sounds: []string{},
			}
			x.note = m.noteOf(column)
			m.set(&x)
			list[at] = x
		}
	}
	return list
}

// set is what the preset of a meaning holds.
func (m *meaning) set(x *Meaning) {
	maps.Copy(x.Values, m.rig.Presets[m.gear.ID][x.Preset]) // what it holds besides stays
	for i, b := range m.blocks {
		c := m.length(b)
		low, high := c.Range()
		turn := reverbTurns[x.Row]
		if !m.reverb {
			turn = feedbackFor(m.grid.Repeats[x.Row]) / 0.95
		}
		x.Values[m.key(b, c)] = plan.Number(math.Round(10*(low+turn*(high-low))) / 10)
		if m.reverb {
			continue
		}
		note := x.note
		if note == both {
			note = m.grid.Notes[i%2]
		} else if i > 0 {
			continue // the second delay stands as it is, and a sound that wants it says so
		}
		x.Values[m.key(b, m.time(b))] = plan.Sync(note)
	}
}

// nearest is the meaning that a sound's use of the device asks for: its note, and the length nearest to its repeats.
func (m *meaning) nearest(list []Meaning, rec *plan.Recipe, sound *plan.Sound) int {
	note, repeats, size := "", m.grid.Repeats[1], ""
	for _, h := range sound.Targets.Effects {
		if h.Effect == plan.EffectDelay && !m.reverb && note == "" {
			note = h.Note
			if h.Repeats != nil {
				repeats = *h.Repeats
			}
		}
		if h.Effect == plan.EffectReverb && m.reverb && size == "" {
			size = h.Size
		}
	}
	if note == "" && !m.reverb {
		b := m.blocks[0]
		note = m.rig.BoundNote(
			m.key(b, m.time(b)), m.gear, rec, m.plan.SetFor(m.rig, rec, sound, m.plan.FirstTempo(sound.ID)),
		)
	}
	best, least := -1, math.Inf(1)
	for i, x := range list {
		away := math.Abs(math.Log(float64(m.grid.Repeats[x.Row]) / float64(repeats)))
		if m.reverb {
			away = math.Abs(float64(x.Row - map[string]int{"large": 0, "medium": 1, "": 1, "small": 2}[size]))
		} else if x.note != note {
			continue
		}
		if away < least {
			best, least = i, away
		}
	}
	return best
}

// on reports whether a recipe has one of the blocks on.
func (m *meaning) on(rec *plan.Recipe, sound *plan.Sound) bool {
	set := m.plan.SetFor(m.rig, rec, sound, m.plan.FirstTempo(sound.ID))
	return slices.ContainsFunc(m.blocks, func(b *plan.Block) bool {
		return b.Bypass == plan.AlwaysOn || set.At(plan.OnKey(m.gear.ID, b.ID)).IsOn()
	})
}

// take makes the presets in a copy of the rig, names them, and has each sound stand on the one it means.
func (m *meaning) take() {
	out := cloned(m.rig)
	held := out.Presets[m.gear.ID]
	if held == nil {
		held = map[string]map[plan.Key]plan.Value{}
		out.Presets[m.gear.ID] = held
	}
	out.PresetNames = maps.Clone(out.PresetNames)
	if out.PresetNames == nil {
		out.PresetNames = map[plan.ID]map[string]string{}
	}
	names := maps.Clone(out.PresetNames[m.gear.ID])
	if names == nil {
		names = map[string]string{}
	}
	for i := range m.out.Meanings {
		x := &m.out.Meanings[i]
		was := held[x.Preset]
		for _, key := range plan.SortedKeys(x.Values) {
			if v, ok := was[key]; ok && v != x.Values[key] {
				x.Was = m.wasWords(was)
			}
		}
		held[x.Preset], names[x.Preset] = x.Values, x.Name
	}
	out.PresetNames[m.gear.ID] = names
	for i := range out.Recipes {
		rec := &out.Recipes[i]
		sound, ok := m.plan.FindSound(rec.Sound)
		if !ok || !m.on(rec, sound) {
			continue
		}
		at := m.nearest(m.out.Meanings, rec, sound)
		if at < 0 {
			m.none(rec, called(rec, sound))
			continue
		}
		x := &m.out.Meanings[at]
		values := maps.Clone(rec.Values)
		if values == nil {
			values = map[plan.Key]plan.Value{}
		}
		values[m.preset.Key] = plan.Text(x.Preset)
		for key := range x.Values {
			delete(values, key) // what the preset holds is the preset's to say
		}
		rec.Values = values
		x.Sounds = append(x.Sounds, called(rec, sound))
		m.out.Words = append(m.out.Words, fmt.Sprintf("%s stands on %s, %s.", called(rec, sound), x.Preset, x.Name))
	}
	for _, x := range m.out.Meanings {
		if x.Was != "" {
			m.out.Words = append(
				m.out.Words, fmt.Sprintf("Preset %s of %s becomes %s; it held %s.", x.Preset, m.gear.Name, x.Name, x.Was),
			)
		}
	}
	m.out.Rig = out
}

// none says what becomes of a sound that means no preset of the grid.
func (m *meaning) none(rec *plan.Recipe, name string) {
	stands := m.standsOn(rec)
	words := fmt.Sprintf("It asks for no note length of the grid. It stays on preset %s, which does not change.", stands)
	for _, x := range m.out.Meanings {
		if x.Preset == stands {
			words = fmt.Sprintf(
				"It asks for no note length of the grid, and its preset %s becomes %s.", stands, x.Name,
			)
		}
	}
	m.out.Findings = append(
		m.out.Findings,
		Finding{ID: "meaning:none:" + string(rec.ID), Title: name + " means none of them", Words: words, Sound: rec.Sound},
	)
}

// called is a sound by its name, and by its recipe's where that has one.
func called(rec *plan.Recipe, sound *plan.Sound) string {
	if rec.Name == "" {
		return sound.Name
	}
	return sound.Name + " (" + rec.Name + ")"
}

func (m *meaning) standsOn(rec *plan.Recipe) string {
	if v, ok := rec.Values[m.preset.Key]; ok && v.Kind() == plan.TextValue {
		return v.Word()
	}
	return m.rig.BaseValue(m.preset).Word()
}

func (m *meaning) wasWords(values map[plan.Key]plan.Value) string {
	var list []string
	for _, key := range plan.SortedKeys(values) {
		label := string(key)
		if v, ok := m.plan.VariableOf(key); ok {
			label = v.Label
		}
		list = append(list, label+" "+values[key].String())
	}
	return plan.Listed(list)
}
