package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSectionsAreMarkedByName(t *testing.T) {
	eight, four := 8.0, 4.0
	p := &Plan{
		Songs: []Song{
			{ID: "one", Sections: []Section{
				{ID: "a", Label: "Verse", Bars: &eight}, {ID: "b", Label: "verse 2", Bars: &eight}, {ID: "c", Label: "Solo"},
			}},
			{ID: "two", Sections: []Section{{ID: "d", Label: "Verse", Bars: &four, Singing: true}, {ID: "e", Label: "12"}}},
			{ID: "out", Sections: []Section{{ID: "f", Label: "Verse", Rest: 2}}},
		},
		SetLists: []SetList{{ID: "set", Entries: []SetEntry{{Song: "one"}, {Song: "two"}, {Song: "one"}}}},
	}
	zero := 0.0
	groups := p.SectionGroups("set")
	assert.Equal(t, []SectionGroup{
		{Label: "Verse", Sections: 3, Songs: 2, Singing: 1, Rest: &zero},
		{Label: "Solo", Sections: 1, Songs: 1, Rest: &zero, Open: 1},
		{Label: "12", Sections: 1, Songs: 1, Rest: &zero, Open: 1},
	}, groups)
	assert.Equal(t, 4, p.SectionGroups("")[0].Sections, "all songs")
	assert.Nil(t, p.SectionGroups("")[0].Rest, "they differ")
	assert.Equal(t, &eight, (&Plan{Songs: p.Songs[:1]}).SectionGroups("")[0].Bars)

	yes, no, two := true, false, 2.0
	changed := p.MarkSections("set", "VERSE 3", Marking{Singing: &yes, Rest: &two})
	require.Len(t, changed, 2)
	for i, want := range []bool{true, true, false} {
		assert.Equal(t, want, changed[0].Sections[i].Singing, i)
	}
	assert.Equal(t, 2.0, changed[1].Sections[0].Rest)
	assert.False(t, p.Songs[0].Sections[0].Singing, "the plan stays as it is")
	require.Len(t, p.MarkSections("set", "verse", Marking{Singing: &yes}), 1, "the other sings already")
	assert.Empty(t, p.MarkSections("set", "verse", Marking{}))
	assert.Empty(t, p.MarkSections("set", "bridge", Marking{Singing: &no}))
	open := p.MarkSections("", "verse", Marking{Bars: &zero})
	require.Len(t, open, 2, "the third is open")
	assert.Nil(t, open[1].Sections[0].Bars)
	same := p.MarkSections("", "solo", Marking{Bars: &eight})
	assert.Equal(t, &eight, same[0].Sections[2].Bars)
}
