package signal

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"strings"
	"sync"

	"envex/core/plan"
)

// This file tells a chain as it is set from every other, of this plan or another, by all that its figures hang on.

// stageIdentity is all that a stage does, but for what its gear is and how that is set.
type stageIdentity struct {
	Key, Hears, Block        plan.Key
	Name, Run                string
	Effect                   plan.Effect
	Amp, On, Solved          bool
	Sum, Narrow, Sums, Turns bool
	DelayMS, Trim            float64
	Own                      *plan.Block `json:",omitempty"` // of a stage whose block its gear does not have
}

// forkIdentity is where a chain divides.
type forkIdentity struct {
	Key              plan.Key
	Name, Kind, Join string
	Sides            []int
	Names            []string
	Heard, Muted     bool
	Lanes            [][]any
}

// setGear is a piece of gear, by a digest of all that is known of it, and how it is set.
type setGear struct {
	Digest string
	At     map[plan.Key]plan.Value
}

// digests are those of pieces of gear, each made once.
type digests struct{ of sync.Map }

func (d *digests) digest(g *plan.Gear) string {
	if known, ok := d.of.Load(g); ok {
		return known.(string)
	}
	data, err := json.Marshal(g)
	if err != nil {
		panic(fmt.Sprint("signal: ", err)) // gear is read from JSON and kept as JSON
	}
	digest := fmt.Sprintf("%x", sha256.Sum256(data))
	d.of.Store(g, digest)
	return digest
}

// identity tells a setting of the rig from all else that can be rendered; "" where it has none.
func (r *rendering) identity(s Setting) string {
	l := r.line(s)
	r.trims(l, s)
	return r.identityOf(l, s)
}

// identityOf is that of a line that was read from a setting.
func (r *rendering) identityOf(l line, s Setting) string {
	gear := map[plan.ID]setGear{}
	data, err := json.Marshal([]any{r.identified(l, gear), gear})
	if err != nil {
		return "" // a figure that is no number: it is metered every time
	}
	return r.source(s).name() + "\x00" + string(data)
}

// identified is what the links of a line do. The gear of those that are on is noted.
func (r *rendering) identified(l line, gear map[plan.ID]setGear) []any {
	out := []any{}
	for _, x := range l {
		if f := x.fork; f != nil {
			id := forkIdentity{
				Key: f.key, Name: f.name, Kind: f.kind, Join: f.join, Sides: f.sides, Names: f.names, Heard: f.heard,
				Muted: f.muted,
			}
			for _, lane := range f.lanes {
				id.Lanes = append(id.Lanes, r.identified(lane, gear))
			}
			out = append(out, id)
			continue
		}
		out = append(out, x.stage.identified(r.digests, gear))
	}
	return out
}

func (s *stage) identified(d *digests, gear map[plan.ID]setGear) stageIdentity {
	id := stageIdentity{
		Key: s.key, Hears: s.hears, Name: s.name, Effect: s.effect, Amp: s.amp, On: s.on, Solved: s.solved, Sum: s.sum,
		Narrow: s.narrow, Sums: s.sums, Turns: s.turns, DelayMS: s.delayMS, Trim: s.trim,
	}
	if s.run != nil {
		id.Run = fmt.Sprint(s.run.first, " ", s.run.name)
		return id
	}
	if !s.on { // it does nothing, whatever it is
		return id
	}
	id.Block = plan.Key(s.set.block.ID)
	if _, has := s.set.gear.FindBlock(s.set.block.ID); !has {
		id.Own = s.set.block
	}
	if _, noted := gear[s.set.gear.ID]; !noted {
		gear[s.set.gear.ID] = s.set.whole(d)
	}
	return id
}

// whole is the gear of a block as it is set.
func (s settings) whole(d *digests) setGear {
	out := setGear{d.digest(s.gear), map[plan.Key]plan.Value{}}
	for _, v := range s.gear.Variables() {
		out.At[v.Key] = s.at(v.Key)
	}
	return out
}

// identity tells a block by itself, as it is set, from every other.
func (s settings) identity() string {
	data, err := json.Marshal([]any{s.whole(&digests{}), s.block})
	if err != nil {
		return ""
	}
	return strings.Join([]string{"alone", string(data)}, " ")
}
