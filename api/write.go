package api

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"hash"
	"io"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"envex/core/plan"
	"envex/store"
)

// Writing is what every write may say besides itself.
type Writing struct {
	Request string `header:"Idempotency-Key" maxLength:"100" doc:"A write sent again under the same key happens once."`
	Since   string `header:"Envex-Since" maxLength:"100" doc:"The state of the plan that is known, as an earlier answer named it: this answer carries what is new since."`
	Shown   string `header:"Envex-Shown" doc:"Questions about the plan alone, such as /api/reach?rig=r&set_list=s, parted by spaces: their answers come with what is new. After a # may stand the tag of the answer that the client has: then what is different from that may come instead."`
	From    string `header:"Envex-Computed-From" maxLength:"100" doc:"The state of the plan that what is taken up here was computed from: refused when that has changed."`
}

// stateHeader names the state of the plan that an answer was computed from, or an earlier one.
const stateHeader = "Envex-Plan"

// stateOf names a state of the plan of this server: it means nothing to another one.
func (s *Server) stateOf(seq int64) string { return s.epoch + "." + strconv.FormatInt(seq, 10) }

// seqOf is the state that a name stands for; false when it is of another server, or no name.
func (s *Server) seqOf(name string) (int64, bool) {
	epoch, number, ok := strings.Cut(name, ".")
	seq, err := strconv.ParseInt(number, 10, 64)
	return seq, ok && err == nil && epoch == s.epoch && seq >= 0
}

// named says in every answer which state of the plan it is of. It is read before the answer is
// computed: an answer may be newer than it says, and never older.
func (s *Server) named() gin.HandlerFunc {
	return func(c *gin.Context) {
		if strings.HasPrefix(c.Request.URL.Path, "/api/") && s.store != nil {
			c.Header(stateHeader, s.stateOf(s.store.State().Seq))
		}
		c.Next()
	}
}

// MovedError says that what a write takes up was computed from a plan that has changed since.
type MovedError struct{ Names []string }

// Error names what has changed.
func (e *MovedError) Error() string {
	if len(e.Names) == 0 {
		return "this was worked out before Envex was started anew: look again"
	}
	have := "has"
	if len(e.Names) > 1 {
		have = "have"
	}
	return fmt.Sprintf("%s %s changed since this was worked out: look again", strings.Join(e.Names, ", "), have)
}

// Words is what a person reads of it: see [reason.Of].
func (e *MovedError) Words() string { return e.Error() }

// maxNames is how many names a refusal lists.
const maxNames = 4

// current fails with a [*MovedError] when anything that an answer about some aggregates depends on has
// changed since the state that is named. No name is no claim.
func (s *Server) current(now store.State, from string, about ...plan.ID) error {
	if from == "" {
		return nil
	}
	seq, ok := s.seqOf(from)
	if !ok {
		return &MovedError{}
	}
	var names []string
	for _, a := range dependsOn(now.Plan, about) {
		if now.ChangedSince(a.AggregateID(), seq) && len(names) < maxNames {
			names = append(names, a.Label())
		}
	}
	if len(names) > 0 {
		return &MovedError{Names: names}
	}
	return nil
}

// dependsOn are the aggregates that an answer about some may depend on: what they refer to, and all
// music, for the set that was judged. Shows are only written down.
func dependsOn(p *plan.Plan, about []plan.ID) []plan.Aggregate {
	in := map[plan.ID]bool{}
	for _, id := range about {
		bundle, err := p.Bundle(id)
		if err != nil {
			continue // it is not there, and the write will say so
		}
		for _, a := range bundle.All() {
			in[a.AggregateID()] = true
		}
	}
	var list []plan.Aggregate
	for _, a := range p.All() {
		switch a.AggregateKind() {
		case plan.KindSound, plan.KindSong, plan.KindBand, plan.KindSetList:
			list = append(list, a)
		case plan.KindGear, plan.KindRig:
			if in[a.AggregateID()] {
				list = append(list, a)
			}
		}
	}
	return list
}

type askedKey struct{}

// digested makes a digest of what a request asks, as its body is read.
func digested(r *http.Request) *http.Request {
	sum := sha256.New()
	fmt.Fprintf(sum, "%s %s\n", r.Method, r.URL.RequestURI())
	r.Body = struct {
		io.Reader
		io.Closer
	}{io.TeeReader(r.Body, sum), r.Body}
	return r.WithContext(context.WithValue(r.Context(), askedKey{}, hash.Hash(sum)))
}

// asked is what a write is asked under, once its body has been read.
func asked(ctx context.Context, key string) store.Request {
	request := store.Request{Key: key}
	if sum, ok := ctx.Value(askedKey{}).(hash.Hash); ok {
		request.Asked = hex.EncodeToString(sum.Sum(nil))
	}
	return request
}

// change is [store.Store.Change] for a request: what it takes up must still hold, about the aggregates
// that are named.
func (s *Server) change(
	ctx context.Context, w Writing, about []plan.ID, work func(store.State) (string, []store.Edit, error),
) (store.Done, error) {
	return s.store.Change(ctx, asked(ctx, w.Request), func(now store.State) (string, []store.Edit, error) {
		if err := s.current(now, w.From, about...); err != nil {
			return "", nil, err
		}
		return work(now)
	})
}

// Written is the answer to a write.
type Written struct {
	Transaction int64      `json:"transaction" doc:"0 when there was nothing to change."`
	ID          plan.ID    `json:"id,omitempty" doc:"What was written, where it is one thing."`
	Version     int        `json:"version,omitempty"`
	Changed     []plan.ID  `json:"changed" doc:"Everything that was written."`
	Plan        *WholePlan `json:"plan,omitempty" doc:"What is new in the plan since the state that the request knew."`
}

type writeOutput struct{ Body Written }

// written answers a write: with what is new where the request said what it knows.
func (s *Server) written(ctx context.Context, w Writing, id plan.ID, done store.Done, err error) (*writeOutput, error) {
	if err != nil {
		return nil, s.problem(err, "")
	}
	out := &writeOutput{
		Body: Written{Transaction: done.Tx, ID: id, Version: done.Versions[id], Changed: plan.SortedKeys(done.Versions)},
	}
	out.Body.Plan, err = s.news(ctx, w)
	return out, err
}

// news is what is new in the plan since the state that a write knew; nil where it named none.
func (s *Server) news(ctx context.Context, w Writing) (*WholePlan, error) {
	if w.Since == "" {
		return nil, nil
	}
	news, err := s.since(ctx, w.Since)
	if err == nil {
		news.Answers = s.shown(ctx, w.Shown)
	}
	return news, err
}

// since is the plan as it stands: whole, or where the state that is named is one of this server's,
// what was written since.
func (s *Server) since(ctx context.Context, known string) (*WholePlan, error) {
	now := s.store.State()
	undo, redo, err := s.store.Ends(ctx)
	if err != nil {
		return nil, s.problem(err, "")
	}
	seq, partial := s.seqOf(known)
	if !partial {
		seq = -1
	}
	p := now.Plan
	w := &WholePlan{
		At: s.stateOf(now.Seq), Partial: partial,
		Gear: versioned(p.Gear, now, seq), Sounds: versioned(p.Sounds, now, seq), Songs: versioned(p.Songs, now, seq),
		Bands: versioned(p.Bands, now, seq), SetLists: versioned(p.SetLists, now, seq), Rigs: versioned(p.Rigs, now, seq), Shows: versioned(p.Shows, now, seq),
		Undo: undo, Redo: redo, Keys: []VariableInfo{}, Tapes: plan.Tapes(),
	}
	for i := range w.Gear {
		for _, v := range w.Gear[i].Value.Variables() {
			w.Keys = append(w.Keys, info(v))
		}
	}
	if partial {
		w.Order = &PlanOrder{
			Gear: idsOf(p.Gear), Sounds: idsOf(p.Sounds), Songs: idsOf(p.Songs),
			Bands: idsOf(p.Bands), SetLists: idsOf(p.SetLists), Rigs: idsOf(p.Rigs), Shows: idsOf(p.Shows),
		}
	}
	return w, nil
}

// versioned are the aggregates that were written after a moment, with their versions; all of them
// after -1.
func versioned[T plan.Aggregate](list []T, now store.State, seq int64) []Versioned[T] {
	out := []Versioned[T]{}
	for _, x := range list {
		if id := x.AggregateID(); seq < 0 || now.ChangedSince(id, seq) {
			out = append(out, Versioned[T]{Version: now.Versions[id], Value: x})
		}
	}
	return out
}

func idsOf[T plan.Aggregate](list []T) []plan.ID {
	ids := make([]plan.ID, len(list))
	for i, x := range list {
		ids[i] = x.AggregateID()
	}
	return ids
}
