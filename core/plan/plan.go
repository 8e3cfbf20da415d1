package plan

// Plan is everything a player keeps: every aggregate, in the player's order.
type Plan struct {
	Gear     []Gear    `json:"gear"`
	Sounds   []Sound   `json:"sounds"`
	Songs    []Song    `json:"songs"`
	Bands    []Band    `json:"bands,omitempty"`
	SetLists []SetList `json:"set_lists"`
	Rigs     []Rig     `json:"rigs"`
	Shows    []Show    `json:"shows"`
}

// AggregateKind names one of the seven kinds of thing that are saved as a whole.
type AggregateKind string

// The kinds of aggregate.
const (
	KindGear    AggregateKind = "gear"
	KindSound   AggregateKind = "sound"
	KindSong    AggregateKind = "song"
	KindBand    AggregateKind = "band"
	KindSetList AggregateKind = "set_list"
	KindRig     AggregateKind = "rig"
	KindShow    AggregateKind = "show"
)

// Kinds are all kinds of aggregate, those that are referred to before those that refer.
func Kinds() []AggregateKind {
	return []AggregateKind{KindGear, KindSound, KindSong, KindBand, KindSetList, KindRig, KindShow}
}

// Aggregate is anything that is saved as a whole.
type Aggregate interface {
	AggregateKind() AggregateKind
	AggregateID() ID
	Label() string
}

// AggregateKind is [KindGear].
func (g Gear) AggregateKind() AggregateKind { return KindGear }

// AggregateID is the gear's id.
func (g Gear) AggregateID() ID { return g.ID }

// Label is the gear's name.
func (g Gear) Label() string { return g.Name }

// AggregateKind is [KindSound].
func (s Sound) AggregateKind() AggregateKind { return KindSound }

// AggregateID is the sound's id.
func (s Sound) AggregateID() ID { return s.ID }

// Label is the sound's name.
func (s Sound) Label() string { return s.Name }

// AggregateKind is [KindSong].
func (s Song) AggregateKind() AggregateKind { return KindSong }

// AggregateID is the song's id.
func (s Song) AggregateID() ID { return s.ID }

// AggregateKind is [KindBand].
func (b Band) AggregateKind() AggregateKind { return KindBand }

// AggregateID is the band's id.
func (b Band) AggregateID() ID { return b.ID }

// AggregateKind is [KindSetList].
func (l SetList) AggregateKind() AggregateKind { return KindSetList }

// AggregateID is the set list's id.
func (l SetList) AggregateID() ID { return l.ID }

// AggregateKind is [KindRig].
func (r Rig) AggregateKind() AggregateKind { return KindRig }

// AggregateID is the rig's id.
func (r Rig) AggregateID() ID { return r.ID }

// AggregateKind is [KindShow].
func (s Show) AggregateKind() AggregateKind { return KindShow }

// AggregateID is the show's id.
func (s Show) AggregateID() ID { return s.ID }

// FindGear looks gear up by id.
func (p *Plan) FindGear(id ID) (*Gear, bool) {
	return find(p.Gear, id, func(x *Gear) ID { return x.ID })
}

// FindSound looks a sound up by id.
func (p *Plan) FindSound(id ID) (*Sound, bool) {
	return find(p.Sounds, id, func(x *Sound) ID { return x.ID })
}

// FindSong looks a song up by id.
func (p *Plan) FindSong(id ID) (*Song, bool) {
	return find(p.Songs, id, func(x *Song) ID { return x.ID })
}

// FindBand looks a band up by id.
func (p *Plan) FindBand(id ID) (*Band, bool) {
	return find(p.Bands, id, func(x *Band) ID { return x.ID })
}

// FindSetList looks a set list up by id.
func (p *Plan) FindSetList(id ID) (*SetList, bool) {
	return find(p.SetLists, id, func(x *SetList) ID { return x.ID })
}

// FindRig looks a rig up by id.
func (p *Plan) FindRig(id ID) (*Rig, bool) {
	return find(p.Rigs, id, func(x *Rig) ID { return x.ID })
}

// FindShow looks a show up by id.
func (p *Plan) FindShow(id ID) (*Show, bool) {
	return find(p.Shows, id, func(x *Show) ID { return x.ID })
}

// find looks a thing up by its id, without copying any: this is asked thousands of times for one answer.
func find[T any](list []T, id ID, of func(*T) ID) (*T, bool) {
	for i := range list {
		if of(&list[i]) == id {
			return &list[i], true
		}
	}
	return nil, false
}

// FindBlock looks a block up by its id within the gear.
func (g *Gear) FindBlock(id ID) (*Block, bool) {
	for i := range g.Blocks {
		if g.Blocks[i].ID == id {
			return &g.Blocks[i], true
		}
	}
	return nil, false
}

// FindSwitch looks a footswitch up by its id within the gear.
func (g *Gear) FindSwitch(id ID) (*Footswitch, bool) {
	for i := range g.Footswitches {
		if g.Footswitches[i].ID == id {
			return &g.Footswitches[i], true
		}
	}
	return nil, false
}

// StopName is what a block is called in a chain: the gear's name, and the block's own
// where the gear has several.
func (g *Gear) StopName(b *Block) string {
	if len(g.Blocks) > 1 {
		return g.Name + " " + b.Name
	}
	return g.Name
}

// All lists every aggregate of the plan, those referred to before those that refer.
func (p *Plan) All() []Aggregate {
	var all []Aggregate
	for _, g := range p.Gear {
		all = append(all, g)
	}
	for _, s := range p.Sounds {
		all = append(all, s)
	}
	for _, s := range p.Songs {
		all = append(all, s)
	}
	for _, b := range p.Bands {
		all = append(all, b)
	}
	for _, l := range p.SetLists {
		all = append(all, l)
	}
	for _, r := range p.Rigs {
		all = append(all, r)
	}
	for _, s := range p.Shows {
		all = append(all, s)
	}
	return all
}

// Count is how many aggregates the plan has.
func (p *Plan) Count() int {
	return len(p.Gear) + len(p.Sounds) + len(p.Songs) + len(p.Bands) + len(p.SetLists) + len(p.Rigs) + len(p.Shows)
}

// Find is the aggregate of an id, whatever it is; false where there is none.
func (p *Plan) Find(id ID) (Aggregate, bool) {
	if x, ok := p.FindGear(id); ok {
		return *x, true
	}
	if x, ok := p.FindSound(id); ok {
		return *x, true
	}
	if x, ok := p.FindSong(id); ok {
		return *x, true
	}
	if x, ok := p.FindBand(id); ok {
		return *x, true
	}
	if x, ok := p.FindSetList(id); ok {
		return *x, true
	}
	if x, ok := p.FindRig(id); ok {
		return *x, true
	}
	if x, ok := p.FindShow(id); ok {
		return *x, true
	}
	return nil, false
}

// Put replaces the aggregate of the same kind and id, or adds it at the end.
func (p *Plan) Put(a Aggregate) {
	switch a := a.(type) {
	case Gear:
		p.Gear = put(p.Gear, a)
	case Sound:
		p.Sounds = put(p.Sounds, a)
	case Song:
		p.Songs = put(p.Songs, a)
	case Band:
		p.Bands = put(p.Bands, a)
	case SetList:
		p.SetLists = put(p.SetLists, a)
	case Rig:
		p.Rigs = put(p.Rigs, a)
	case Show:
		p.Shows = put(p.Shows, a)
	}
}

func put[T Aggregate](list []T, a T) []T {
	next := append([]T(nil), list...)
	for i := range next {
		if next[i].AggregateID() == a.AggregateID() {
			next[i] = a
			return next
		}
	}
	return append(next, a)
}

// Drop takes the aggregate of that kind and id out; it does nothing when there is none.
func (p *Plan) Drop(kind AggregateKind, id ID) {
	switch kind {
	case KindGear:
		p.Gear = drop(p.Gear, id)
	case KindSound:
		p.Sounds = drop(p.Sounds, id)
	case KindSong:
		p.Songs = drop(p.Songs, id)
	case KindBand:
		p.Bands = drop(p.Bands, id)
	case KindSetList:
		p.SetLists = drop(p.SetLists, id)
	case KindRig:
		p.Rigs = drop(p.Rigs, id)
	case KindShow:
		p.Shows = drop(p.Shows, id)
	}
}

func drop[T Aggregate](list []T, id ID) []T {
	var next []T
	for _, x := range list {
		if x.AggregateID() != id {
			next = append(next, x)
		}
	}
	return next
}

// Label is the band's name.
func (b Band) Label() string { return b.Name }

// Label is the set list's name.
func (l SetList) Label() string { return l.Name }

// Label is the rig's name.
func (r Rig) Label() string { return r.Name }

// Label is the show's name.
func (s Show) Label() string { return s.Name }

// Label is the song's title.
func (s Song) Label() string { return s.Title }

// PathOf is where an aggregate stands in the plan as a file shows it, such as songs[3]; ""
// when it is not there.
func (p *Plan) PathOf(id ID) string {
	place := map[string]string{
		"gear": pathIn("gear", p.Gear, id), "sounds": pathIn("sounds", p.Sounds, id), "songs": pathIn("songs", p.Songs, id),
		"bands": pathIn("bands", p.Bands, id), "set_lists": pathIn("set_lists", p.SetLists, id), "rigs": pathIn("rigs", p.Rigs, id),
		"shows": pathIn("shows", p.Shows, id),
	}
	for _, path := range place {
		if path != "" {
			return path
		}
	}
	return ""
}

func pathIn[T Aggregate](name string, list []T, id ID) string {
	for i := range list {
		if list[i].AggregateID() == id {
			return at(name, i)
		}
	}
	return ""
}
