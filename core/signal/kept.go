package signal

import lru "github.com/hashicorp/golang-lru/v2"

// Kept is what holds from one question to the next: filters that were designed, phrases as pickups give them, and the
// dirt of preamps. Whoever asks more than once keeps one and passes it in, in [Options] where there are any; what is
// not asked for again makes room. Several may use it at once.
type Kept struct {
	phrases *lru.Cache[string, []float64] // by the source that gives them: each takes as long as a few blocks of a chain
	filters *lru.Cache[string, *filter]   // by the run they are of: the same ones come again with every setting
	dirt    *lru.Cache[string, float64]   // by preamp as it was set: moving a stop changes none of them
}

// NewKept has kept nothing yet. It will hold 16 phrases, 256 filters and 256 figures of dirt, some 50 MB in all.
func NewKept() *Kept {
	phrases, _ := lru.New[string, []float64](16) // it fails on a size of 0 only
	filters, _ := lru.New[string, *filter](256)
	dirt, _ := lru.New[string, float64](256)
	return &Kept{phrases, filters, dirt}
}

// orNew is what is kept, or a store of its own for a question that nobody keeps anything for.
func (k *Kept) orNew() *Kept {
	if k == nil {
		return NewKept()
	}
	return k
}
