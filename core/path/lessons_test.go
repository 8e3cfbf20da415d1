package path

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
	"envex/demo"
)

func TestEveryRuleHasAReasonAndAQuestionToTheEar(t *testing.T) {
	seen := map[string]bool{}
	for _, q := range append([]Question{{}}, Questions()...) {
		for _, s := range append([]Side{{}}, q.Sides...) {
			r := &plan.Rig{Schools: []plan.School{{Question: q.ID, Side: s.ID}}}
			for _, x := range rules(sides(r), true) {
				seen[x.name] = true
				assert.NotEmpty(t, x.reason, x.name)
				assert.NotEmpty(t, listenFor[x.name], x.name)
			}
		}
	}
	for rule := range listenFor {
		assert.True(t, seen[rule], "%s is no rule", rule)
	}
}

func TestLessonsAreAboutTheBoxesOfTheRig(t *testing.T) {
	p := demo.Plan()
	list, err := Lessons(p, "long", "", nil)
	require.NoError(t, err)
	about := map[string]Lesson{}
	last := 0
	for _, l := range list {
		about[l.Rule] = l
		assert.GreaterOrEqual(t, rank(l), last, "what is broken first, then what is kept, then the rest")
		last = rank(l)
		for _, x := range l.Pairs {
			if len(x.Path) > 0 {
				assert.Empty(t, p.PathProblems(x.Path))
				assert.Len(t, x.Path, len(p.Rigs[0].Path))
				assert.NotEqual(t, p.Rigs[0].Path, x.Path)
			}
		}
	}
	// Slap stands before Echo and Echo before Room: that is kept; and good players disagree on it.
	rooms := about["delay-before-reverb"]
	require.NotEmpty(t, rooms.Pairs)
	assert.True(t, rooms.Pairs[0].Kept)
	require.NotNil(t, rooms.Question)
	assert.Len(t, rooms.Question.Sides, 2)
	assert.Empty(t, about["gate-after-gain"].Pairs, "there is no gate")

	// Exchanged, it is broken, and comes first among them.
	r, _ := p.FindRig("long")
	turned := *r
	for _, x := range rooms.Pairs {
		if len(x.Path) > 0 {
			turned.Path = x.Path
			break
		}
	}
	p.Put(turned)
	list, err = Lessons(p, "long", "", nil)
	require.NoError(t, err)
	for _, l := range list {
		if l.Rule == "delay-before-reverb" {
			assert.False(t, l.Pairs[0].Kept)
		}
	}
	_, err = Lessons(p, "none", "", nil)
	assert.Error(t, err)
	_, err = Lessons(p, "long", "none", nil)
	assert.Error(t, err)
}
