package shorthand

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"envex/core/catalog"
	"envex/core/plan"
	"envex/core/reason"
)

// Where a chip stands.
const (
	InPath    = "path"  // on the board, or after it
	InLoop    = "loop"  // in the loop of the amp before it
	Owned     = "owned" // not in the path: the other of two, a supply, a lead
	AsGuitar  = "guitar"
	AsBoard   = "board"
	NotPlaced = "unknown" // what it is is not understood
)

// Chip is what was understood of one item.
type Chip struct {
	Text string `json:"text" doc:"As it was typed."`
	From int    `json:"from" doc:"Where it begins in the text, in bytes."`
	To   int    `json:"to"`

	Name   string      `json:"name" doc:"What the box is called."`
	Gear   plan.ID     `json:"gear,omitempty" doc:"A thing that is owned already, under that name."`
	Kind   string      `json:"kind,omitempty" doc:"Of the catalogue; absent where nothing is understood."`
	IsA    string      `json:"is_a,omitempty" doc:"The kind in words."`
	Sure   bool        `json:"sure" doc:"It is named in full; a guess when not."`
	Effect plan.Effect `json:"effect,omitempty" doc:"Of its first circuit."`
	Others []Guess     `json:"others" doc:"What else it may be."`
	Left   []string    `json:"left" doc:"Words that were not understood. They are kept in its name."`
	Note   string      `json:"note,omitempty" doc:"What stood in brackets."`

	Place   string `json:"place" enum:"path,loop,owned,guitar,board,unknown"`
	With    int    `json:"with" doc:"The chip whose box this is another circuit of; -1 for a box of its own."`
	Count   int    `json:"count" doc:"How many there are of it."`
	Segment int    `json:"segment" doc:"How often the signal went on to what comes after the board, before it."`
	Lane    int    `json:"lane" doc:"Of its segment, from 0."`
	Loop    int    `json:"loop,omitempty" doc:"The loop of the loop switcher it stands in."`

	Bypass plan.Bypass `json:"bypass,omitempty"`
	Colour string      `json:"colour,omitempty"`
	Figures
}

// Reading is what was understood of a chain.
type Reading struct {
	Chips []Chip   `json:"chips"`
	Said  []string `json:"said" doc:"How it was taken where the text does not say, in words."`
}

func (r *Reading) say(format string, args ...any) {
	if words := fmt.Sprintf(format, args...); !slices.Contains(r.Said, words) {
		r.Said = append(r.Said, words)
	}
}

// Limits of what is read.
const (
	MaxText  = 20000
	maxItems = 80
	maxBoxes = 80
)

// maxKindText is how long a text is that may name a kind.
const maxKindText = 200

var bracketNumber = regexp.MustCompile(`^(\d{1,2})(?:[.:)]?\s+|$)`)

// ReadChain reads a chain; owned is what names in it may mean. It fails on texts that are too long alone.
func ReadChain(text string, owned *plan.Plan) (*Reading, error) {
	if len(text) > MaxText {
		return nil, reason.Errorf("%d characters are too many: the limit is %d", len(text), MaxText)
	}
	if !isText(text) {
		return nil, errNoText
	}
	items := itemsOf(text)
	if len(items) > maxItems {
		return nil, reason.Errorf("%d boxes are too many: the limit is %d", len(items), maxItems)
	}
	c := &chainReader{owned: owned, kinds: NewKinds(catalog.All()), out: &Reading{Chips: []Chip{}, Said: []string{}}}
	for i := 0; i < len(items); i++ {
		it := items[i]
		if i+1 < len(items) && c.isName(items[i+1]) && !c.isAmp(it) {
			if c.name == "" {
				c.head = it
			}
			c.head.span.to = it.span.to
			c.head.text = text[c.head.span.from:c.head.span.to]
			c.name = c.head.text
			continue
		}
		if c.name != "" { // a name stands where what it names does: in a loop, in one box with the one before
			it.before = c.head.before
		}
		c.item(it)
		c.name = ""
	}
	if c.name != "" { // "Amber =" and nothing after it
		c.item(c.head)
	}
	boxes := 0
	for _, chip := range c.out.Chips {
		boxes += chip.Count
	}
	if boxes > maxBoxes {
		return nil, reason.Errorf("%d boxes are too many: the limit is %d", boxes, maxBoxes)
	}
	return c.out, nil
}

// errNoText is what is said of a file that holds something else, such as a picture.
var errNoText = reason.Errorf("this is not text in UTF-8")

// isText reports whether it is text, without the control characters that no keyboard types.
func isText(text string) bool {
	return utf8.ValidString(text) && !strings.ContainsFunc(text, func(r rune) bool {
		return unicode.IsControl(r) && r != '\n' && r != '\r' && r != '\t'
	})
}

type chainReader struct {
	owned  *plan.Plan
	kinds  *Kinds
	out    *Reading
	name   string // typed before an equals sign, where it is an item
	head   item
	loops  map[int]int // number of the loop, by bracket
	inLoop [2]int      // segment and lane whose amp has begun its loop, plus one
}

// isName reports whether an item follows a name and what makes a name of it.
func (c *chainReader) isName(next item) bool { return next.before == '=' || next.before == ':' }

func (c *chainReader) isAmp(it item) bool {
	if len(it.text) > maxKindText {
		return false
	}
	text, _ := takeFigures(it.text)
	g := c.kinds.Guesses(text)
	if len(g) == 0 {
		return false
	}
	k := c.kinds.byID[g[0].Kind]
	return k.Gear.Kind == plan.Amp || c.ownedNamed(it.text, plan.Amp)
}

func (c *chainReader) ownedNamed(name string, kind plan.GearKind) bool {
	return c.owned != nil &&
		slices.ContainsFunc(c.owned.Gear, func(g plan.Gear) bool { return g.Kind == kind && strings.EqualFold(g.Name, name) })
}

// item makes a chip of an item.
func (c *chainReader) item(it item) {
	chips := c.out.Chips
	chip := Chip{
		Text: it.text, From: it.span.from, To: it.span.to, With: -1, Count: 1, Segment: it.segment, Lane: it.lane,
		Others: []Guess{}, Left: []string{}, Place: InPath,
	}
	text, name := it.text, c.name
	if it.bracket > 0 {
		if name != "" && name != it.text {
			name = c.loopOf(&chip, it, name)
		} else if text = c.loopOf(&chip, it, text); text == "" {
			c.out.say("Loop %d has nothing in it.", chip.Loop)
			return
		}
	}
	text, chip.Note = takeNote(text)
	text, chip.Count = takeCount(text)
	text, chip.Figures = takeFigures(text)
	text, chip.Bypass = takeBypass(text)
	c.understand(&chip, text)
	if name != "" && name != it.text {
		chip.Text, chip.From, chip.Name = c.name+" = "+it.text, c.head.span.from, titled(name)
	}
	c.place(&chip, it, chips)
	c.out.Chips = append(chips, chip)
}

// loopOf takes the number of a loop off the first item in a bracket; later ones stand in the same loop.
func (c *chainReader) loopOf(chip *Chip, it item, text string) string {
	if c.loops == nil {
		c.loops = map[int]int{}
	}
	if n, ok := c.loops[it.bracket]; ok {
		chip.Loop = n
		return text
	}
	next := 1
	for _, n := range c.loops {
		next = max(next, n+1)
	}
	if m := bracketNumber.FindStringSubmatch(text); m != nil {
		n, _ := strconv.Atoi(m[1]) // digits, by the expression
		if n >= 1 && n <= maxLoops {
			next, text = n, strings.TrimSpace(text[len(m[0]):])
		}
	}
	c.loops[it.bracket], chip.Loop = next, next
	return text
}

// maxLoops is the greatest number of a loop.
const maxLoops = 16

// takeNote takes what stands in round brackets out of a text.
func takeNote(text string) (rest, note string) {
	open := strings.IndexByte(text, '(')
	if open < 0 {
		return text, ""
	}
	end := strings.IndexByte(text[open:], ')')
	if end < 0 {
		return strings.TrimSpace(text[:open]), strings.TrimSpace(text[open+1:])
	}
	return strings.TrimSpace(text[:open] + " " + text[open+end+1:]), strings.TrimSpace(text[open+1 : open+end])
}

// understand finds what a text means: something owned by that name, else the likeliest kind.
func (c *chainReader) understand(chip *Chip, text string) {
	chip.Name = titled(text)
	if chip.Name == "" {
		chip.Name = titled(chip.Text)
	}
	var guesses []Guess
	if len(text) <= maxKindText {
		guesses = c.kinds.Guesses(text)
	}
	if g := c.ownedAs(text, guesses); g != nil {
		chip.Gear, chip.Name, chip.IsA, chip.Sure = g.ID, g.Name, g.Circuit, true
		if len(g.Blocks) > 0 {
			chip.Effect = g.Blocks[0].Effect
		}
		return
	}
	if len(guesses) == 0 {
		chip.Left = append(chip.Left, wordsOf(text)...)
		return
	}
	g := guesses[0]
	chip.Kind, chip.IsA, chip.Sure, chip.Others = g.Kind, g.Name, g.Sure &&
		len(g.left) == 0, append(chip.Others, guesses[1:]...)
	k := c.kinds.byID[g.Kind]
	if len(k.Gear.Blocks) > 0 {
		chip.Effect = k.Gear.Blocks[0].Effect
	}
	for _, w := range g.left {
		if _, ok := plan.ColourOf(w); ok && chip.Colour == "" {
			chip.Colour = w
			continue
		}
		chip.Left = append(chip.Left, w)
	}
	if len(chip.Left) == 0 {
		if chip.Sure = g.Sure; !g.Sure {
			chip.Name = g.Name // spelt right
		}
	}
}

// ownedAs is what is owned under a name that was typed: as the words themselves, or before an equals sign, where what
// is said of it after that is what it is.
func (c *chainReader) ownedAs(text string, guesses []Guess) *plan.Gear {
	if c.owned == nil {
		return nil
	}
	find := func(name string) *plan.Gear {
		i := slices.IndexFunc(c.owned.Gear, func(g plan.Gear) bool { return name != "" && strings.EqualFold(g.Name, name) })
		if i < 0 {
			return nil
		}
		return &c.owned.Gear[i]
	}
	if g := find(text); g != nil {
		return g
	}
	g := find(titled(c.name))
	if g == nil || len(guesses) == 0 {
		return g
	}
	said := c.kinds.byID[guesses[0].Kind].Gear
	same := said.Kind == g.Kind && (len(said.Blocks) > 0) == (len(g.Blocks) > 0) &&
		(len(g.Blocks) == 0 || said.Blocks[0].Effect == g.Blocks[0].Effect)
	if !same {
		c.out.say("%s is something else that you own: this one gets a name beside it.", g.Name)
		return nil
	}
	return g
}

// place says where a chip stands, from what it is and the separator before it.
func (c *chainReader) place(chip *Chip, it item, before []Chip) {
	kind := c.kindOf(chip)
	last := len(before) - 1
	switch {
	case it.before == '+' && last >= 0 && c.kindOf(&before[last]) == plan.Pedal && kind == plan.Pedal &&
		chip.Gear == "" && before[last].Gear == "":
		chip.With = last
		if before[last].With >= 0 {
			chip.With = before[last].With
		}
		chip.Place, chip.Loop = before[last].Place, before[last].Loop
		return
	case it.before == '/' && last >= 0:
		chip.Place, chip.Loop = Owned, 0
		c.out.say("%s is owned and not placed: %s is in its place.", chip.Name, before[last].Name)
		return
	}
	if it.before == ':' && last >= 0 && c.kindOf(&before[last]) == plan.Amp {
		c.inLoop = [2]int{it.segment + 1, it.lane + 1}
	}
	looped := c.inLoop == [2]int{it.segment + 1, it.lane + 1}
	switch {
	case kind == plan.Guitar:
		chip.Place = AsGuitar
	case kind == plan.Board:
		chip.Place = AsBoard
	case kind == "":
		chip.Place = NotPlaced
		c.out.say("%q is not understood: it is kept as a box that is not placed.", chip.Name)
	case chip.Effect == "":
		chip.Place = Owned
	case looped && kind != plan.Amp:
		chip.Place = InLoop
	}
}

func (c *chainReader) kindOf(chip *Chip) plan.GearKind {
	if chip.Gear != "" && c.owned != nil {
		if g, ok := c.owned.FindGear(chip.Gear); ok {
			return g.Kind
		}
	}
	k := c.kinds.byID[chip.Kind]
	return k.Gear.Kind
}

// titled is a text with a capital letter first, in one line, no longer than a name.
func titled(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	if len(text) == 2 {
		return strings.ToUpper(text) // OD, EQ, DI
	}
	if r := []rune(text); len(r) > 0 {
		text = strings.ToUpper(string(r[0])) + string(r[1:])
	}
	for len(text) > plan.MaxName {
		r := []rune(text)
		text = string(r[:len(r)-1])
	}
	return text
}
