package doctor

import (
	"bytes"
	"cmp"
	"context"
	"slices"
	"strings"

	"github.com/jmoiron/sqlx"

	"envex/core/plan"
)

// revision is one version of a thing as it was read. a is nil where that version removed it.
type revision struct {
	version, content int
	doc              any // text, or nil
	at, label        string
	a                plan.Aggregate
}

// thing is an aggregate with every version of it that is sound, the newest first.
type thing struct {
	id       plan.ID
	kind     plan.AggregateKind
	seq      int
	newest   int // the newest version of which anything was found
	versions []revision
	chosen   int // which of versions stands; len(versions) where none can
	why      string
	unsound  int  // versions that cannot be read
	back     bool // it was removed, and is needed
}

func (t *thing) standing() *revision {
	if t.chosen >= len(t.versions) {
		return nil
	}
	return &t.versions[t.chosen]
}

func (t *thing) name() string {
	for _, r := range t.versions {
		if r.a != nil {
			return r.a.Label()
		}
	}
	return string(t.id)
}

// read reads a document; false where it is not sound. A kind that is lost is found by trying.
func (t *thing) read(column any) (doc any, a plan.Aggregate, ok bool) {
	if column == nil {
		return nil, nil, true
	}
	data, ok := text(column)
	if !ok {
		return nil, nil, false
	}
	kinds := []plan.AggregateKind{t.kind}
	if t.kind == "" {
		kinds = plan.Kinds()
	}
	for _, kind := range kinds {
		if a, err := plan.DecodeAggregate(kind, []byte(data)); err == nil && a.AggregateID() == t.id {
			t.kind = kind
			return data, a, true
		}
	}
	return nil, nil, false
}

// things reads every thing of a database with all its versions.
func (r *Report) things(ctx context.Context, db *sqlx.DB) []*thing {
	byID := map[plan.ID]*thing{}
	of := func(id plan.ID) *thing {
		if byID[id] == nil {
			byID[id] = &thing{id: id, seq: 1 << 30}
		}
		return byID[id]
	}
	type standing struct {
		version int
		doc     any
	}
	now := map[plan.ID]standing{}
	if salvage(ctx, db, "aggregates", "seq, kind, id, version, doc", func(row []any) {
		kind, ok := text(row[1])
		id, ok2 := text(row[2])
		if !ok || !ok2 {
			return
		}
		t := of(plan.ID(id))
		t.kind = plan.AggregateKind(kind)
		t.seq, _ = number(row[0])
		version, _ := number(row[3])
		t.newest = version
		now[t.id] = standing{version, row[4]}
	}) {
		r.say("some of what stands in the plan cannot be read")
	}
	if salvage(ctx, db, "revisions", "id, version, content, doc, at, label", func(row []any) {
		id, ok := text(row[0])
		version, ok2 := number(row[1])
		if !ok || !ok2 {
			return
		}
		t := of(plan.ID(id))
		t.newest = max(t.newest, version)
		doc, a, sound := t.read(row[3])
		if !sound {
			t.unsound++
			return
		}
		content, _ := number(row[2])
		at, _ := text(row[4])
		label, _ := text(row[5])
		t.versions = append(t.versions, revision{version: version, content: content, doc: doc, at: at, label: label, a: a})
	}) {
		r.say("some of the older versions cannot be read")
	}
	list := []*thing{}
	for _, t := range byID {
		slices.SortFunc(t.versions, func(a, b revision) int { return cmp.Compare(b.version, a.version) })
		if s, ok := now[t.id]; ok {
			t.stand(s.version, s.doc)
		}
		if t.kind != "" {
			list = append(list, t)
		}
	}
	slices.SortFunc(list, func(a, b *thing) int {
		return cmp.Or(cmp.Compare(a.seq, b.seq), strings.Compare(string(a.id), string(b.id)))
	})
	for _, t := range list {
		t.judge()
	}
	return list
}

// stand puts what stands of a thing before its versions, where it is sound and not one of them.
func (t *thing) stand(version int, column any) {
	doc, a, sound := t.read(column)
	switch {
	case !sound:
		t.why = "what stands of it cannot be read"
	case len(t.versions) > 0 && t.versions[0].version == version && t.versions[0].doc == doc:
	default:
		t.why = "what stands of it is not what was written last"
		t.versions = slices.Insert(
			t.versions, 0, revision{version: version, content: version, doc: doc, a: a, label: "As it stood"},
		)
	}
}

// judge says why a thing is not simply as it was.
func (t *thing) judge() {
	if t.why == "" && t.unsound > 0 && (len(t.versions) == 0 || t.versions[0].version < t.newest) {
		t.why = "its newest version cannot be read"
	}
}

// whole brings the plan to where it is valid, by the newest versions of each thing that go together.
func whole(list []*thing) {
	for {
		p, at := planOf(list)
		problems := p.Validate()
		if len(problems) == 0 {
			return
		}
		if bringBack(list, at, problems) {
			continue
		}
		t := at[place(problems[0].Path)]
		if t == nil { // of no one thing: of the newest, which came last to what was valid before it
			t = newestOf(list)
		}
		if t == nil {
			return
		}
		if t.why == "" {
			t.why = "it does not go with the rest: " + problems[0].Message
		}
		t.chosen++
	}
}

func newestOf(list []*thing) *thing {
	for i := len(list) - 1; i >= 0; i-- {
		if r := list[i].standing(); r != nil && r.a != nil {
			return list[i]
		}
	}
	return nil
}

// planOf is the plan of what stands, and which thing is at which path of it.
func planOf(list []*thing) (*plan.Plan, map[string]*thing) {
	var p plan.Plan
	for _, t := range list {
		if r := t.standing(); r != nil && r.a != nil {
			p.Put(r.a)
		}
	}
	at := map[string]*thing{}
	for _, t := range list {
		if path := p.PathOf(t.id); path != "" {
			at[path] = t
		}
	}
	return &p, at
}

// place is the thing that a path of a plan begins with.
func place(path string) string {
	head, _, ok := strings.Cut(path, "]")
	if !ok {
		return ""
	}
	return head + "]"
}

// bringBack brings back something that was removed and that something with a problem names, where there
// are fewer problems with it.
func bringBack(list []*thing, at map[string]*thing, problems plan.Problems) bool {
	for _, problem := range problems {
		wants := at[place(problem.Path)]
		if wants == nil {
			continue
		}
		doc, _ := text(wants.standing().doc)
		for _, t := range list {
			if r := t.standing(); t.back || r != nil && r.a != nil ||
				!bytes.Contains([]byte(doc), []byte(`"`+string(t.id)+`"`)) {
				continue
			}
			before := *t
			t.back = true
			t.chosen = slices.IndexFunc(t.versions, func(r revision) bool { return r.a != nil })
			if t.chosen >= 0 {
				p, _ := planOf(list)
				if len(p.Validate()) < len(problems) {
					t.why = "it was removed while " + wants.name() + " still needs it"
					return true
				}
			}
			*t = before
		}
	}
	return false
}
