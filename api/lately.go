package api

import (
	"encoding/json"
	"hash/maphash"
	"strconv"
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"
	"github.com/tidwall/gjson"
)

// ChangedPart is what one field of an answer became, or one element of a list in it. Of a large plan little of an
// answer changes with an edit, and the whole of it takes longer to send, read and compare than to compute.
type ChangedPart struct {
	Field string          `json:"field"`
	Index *int            `json:"index,omitempty" doc:"Of an element; the whole field where it is absent."`
	To    json.RawMessage `json:"to"`
}

// How much of what was told is remembered: some megabytes for the largest plans.
const (
	keptAnswers = 32
	shortAnswer = 4096 // bytes under which an answer is sent whole: there is nothing to gain
)

// lately remembers the last answers that went out with writes. It is a help: what it has forgotten is sent whole.
type lately struct {
	sync.Mutex
	seed    maphash.Seed
	answers *simplelru.LRU[string, parts] // by question
}

// parts are the fields of an answer, and the elements of those that are lists. Its tag is made of the answer itself and
// not of the state it was computed from: while one is computed, something else may be written.
type parts struct {
	tag    string
	fields map[string]field
}

type field struct {
	raw      string
	elements []string // nil where it is no list
}

func newLately() *lately {
	answers, _ := simplelru.NewLRU[string, parts](keptAnswers, nil) // it fails on a size of 0 only
	return &lately{seed: maphash.MakeSeed(), answers: answers}
}

// shorter is an answer as what became different from the one that a tag names, where that is known and shorter.
func (l *lately) shorter(a Answer, since string) Answer {
	if len(a.Body) < shortAnswer || !gjson.ParseBytes(a.Body).IsObject() {
		return a
	}
	now := parts{tag: strconv.FormatUint(maphash.Bytes(l.seed, a.Body), 36), fields: fieldsOf(a.Body)}
	a.Tag = now.tag
	l.Lock()
	before, known := l.answers.Get(a.Question)
	l.answers.Add(a.Question, now)
	l.Unlock()
	if !known || before.tag != since {
		return a
	}
	list, size, ok := differences(before, now)
	if !ok || size > len(a.Body)/2 {
		return a
	}
	return Answer{Question: a.Question, At: a.At, Tag: a.Tag, Since: since, Changed: list}
}

// fieldsOf takes an answer apart.
func fieldsOf(body []byte) map[string]field {
	fields := map[string]field{}
	gjson.ParseBytes(body).ForEach(func(key, value gjson.Result) bool {
		f := field{raw: value.Raw}
		if value.IsArray() {
			f.elements = []string{}
			value.ForEach(func(_, element gjson.Result) bool {
				f.elements = append(f.elements, element.Raw)
				return true
			})
		}
		fields[key.String()] = f
		return true
	})
	return fields
}

// differences turn one answer into another, with the number of their bytes; not ok where fields came or went.
func differences(before, now parts) (list []ChangedPart, size int, ok bool) {
	if len(before.fields) != len(now.fields) {
		return nil, 0, false
	}
	for name, f := range now.fields {
		was, there := before.fields[name]
		if !there {
			return nil, 0, false
		}
		if was.raw == f.raw {
			continue
		}
		if f.elements == nil || len(was.elements) != len(f.elements) {
			list, size = append(list, ChangedPart{Field: name, To: json.RawMessage(f.raw)}), size+len(f.raw)
			continue
		}
		for i, e := range f.elements {
			if was.elements[i] != e {
				list, size = append(list, ChangedPart{Field: name, Index: &i, To: json.RawMessage(e)}), size+len(e)
			}
		}
	}
	return list, size, true
}
