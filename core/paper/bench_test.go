package paper

import (
	"fmt"
	"testing"

	"envex/core/plan"
	"envex/demo"
)

// BenchmarkSheets makes every sheet of a show of forty songs.
func BenchmarkSheets(b *testing.B) {
	p := demo.Plan()
	l := &p.SetLists[0]
	own := l.Entries
	for n := 0; len(l.Entries) < 40; n++ {
		e := own[n%len(own)]
		e.ID = plan.ID(fmt.Sprintf("again-%d", n))
		l.Entries = append(l.Entries, e)
	}
	for _, rig := range []plan.ID{"long", "switched"} {
		p.Shows[0].Rig = rig
		for _, kind := range Kinds() {
			b.Run(fmt.Sprintf("%s/%s", rig, kind), func(b *testing.B) {
				for b.Loop() {
					if _, err := Make(p, p.Shows[0].ID, kind); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}
