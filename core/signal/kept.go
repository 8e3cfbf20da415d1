package signal

import (
	"crypto/sha256"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Kept is what holds from one question to the next: filters that were designed, phrases as pickups give them, and what
// was metered of chains as they were set. Whoever asks more than once keeps one and passes it in, in [Options] where
// there are any; what is not asked for again makes room. Several may use it at once.
type Kept struct {
	phrases *lru.Cache[string, []float64] // by the source that gives them: each takes as long as a few blocks of a chain
	filters *lru.Cache[string, *filter]   // by the run they are of: the same ones come again with every setting

	// By the chain and what was metered of it: a change of one sound leaves those of all others.
	metered *lru.Cache[[sha256.Size]byte, any]
}

// NewKept has kept nothing yet. It will hold 16 phrases, 256 filters and 8192 figures, some 60 MB in all.
func NewKept() *Kept {
	phrases, _ := lru.New[string, []float64](16) // it fails on a size of 0 only
	filters, _ := lru.New[string, *filter](256)
	figures, _ := lru.New[[sha256.Size]byte, any](8192)
	return &Kept{phrases, filters, figures}
}

// orNew is what is kept, or a store of its own for a question that nobody keeps anything for.
func (k *Kept) orNew() *Kept {
	if k == nil {
		return NewKept()
	}
	return k
}

// once is what was metered of something before, or what is metered now. What is told apart by no name is metered anew.
// The result belongs to everybody who asks: none changes it.
func once[T any](k *Kept, of, what string, meter func() (T, error)) (T, error) {
	if known, ok := before[T](k, of, what); ok {
		return known, nil
	}
	made, err := meter()
	if err == nil {
		k.keep(of, what, made)
	}
	return made, err
}

// before is what was metered of something before, where it was.
func before[T any](k *Kept, of, what string) (known T, ok bool) {
	if of == "" {
		return known, false
	}
	made, ok := k.metered.Get(metering(of, what))
	if ok {
		known = made.(T) // what is metered has one type
	}
	return known, ok
}

// keep keeps what was metered of something.
func (k *Kept) keep(of, what string, made any) {
	if of != "" {
		k.metered.Add(metering(of, what), made)
	}
}

func metering(of, what string) [sha256.Size]byte { return sha256.Sum256([]byte(of + "\x00" + what)) }
