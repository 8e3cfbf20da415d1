package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

func withBand(b plan.Band) *plan.Plan {
	p := &plan.Plan{
		Songs: []plan.Song{{
			ID: "tide", Title: "Low Tide", Tempo: plan.Tempo{BPM: 100}, Meter: plan.Meter{Beats: 4, Unit: 4},
			Sections: []plan.Section{{ID: "a", Label: "Verse", Sound: "home"}},
		}},
		Sounds: []plan.Sound{{ID: "home", Name: "Home", Short: "H", Role: plan.HomeRole, Tape: "bone"}},
		SetLists: []plan.SetList{
			{ID: "set", Name: "Quay", Band: b.ID, Entries: []plan.SetEntry{{ID: "1", Song: "tide"}}},
		},
	}
	p.Put(b)
	return p
}

func band() plan.Band {
	return plan.Band{ID: "nine", Name: "Nine", Parts: []plan.Part{
		{ID: "voice", Name: "Voice", Kind: plan.Voice}, {ID: "organ", Name: "Organ", Kind: plan.Organ},
	}}
}

func TestABandIsPartOfThePlan(t *testing.T) {
	p := withBand(band())
	require.Empty(t, p.Validate())
	data, err := plan.Encode(p)
	require.NoError(t, err)
	again, err := plan.Decode(data)
	require.NoError(t, err)
	assert.Equal(t, p.Bands, again.Bands)
	assert.Equal(t, []plan.Use{{Kind: plan.KindSetList, ID: "set", Name: "Quay", Where: "plays it"}}, p.Uses("nine"))
	bundle, err := p.Bundle("set")
	require.NoError(t, err)
	assert.Len(t, bundle.Bands, 1, "a set brings its band along")
	found, err := p.BandByID("nine")
	require.NoError(t, err)
	assert.Equal(t, "bands[0]", p.PathOf(found.ID))
	any, ok := p.Find("nine")
	assert.True(t, ok)
	assert.Equal(t, "Nine", any.Label())
	p.Drop(plan.KindBand, "nine")
	assert.Empty(t, p.Bands)
	_, err = p.BandByID("nine")
	assert.ErrorContains(t, err, `there is no band "nine"`)
}

// A band that is copied beside another keeps what it says of its own parts, even where a part is called like a thing.
func TestABandIsCopiedWithItsParts(t *testing.T) {
	own := band()
	own.Parts[0].ID = "tide"
	own.Playing = []plan.Playing{{Part: "tide", Song: "tide", Section: "a", Rests: true}}
	p, file := withBand(band()), withBand(own)
	file.Songs[0].Title = "Another"
	m, err := p.Merge(file, map[plan.ID]plan.Resolution{"nine": plan.Copy, "tide": plan.Copy, "set": plan.KeepOwn},
		func() func() plan.ID {
			n := 0
			return func() plan.ID { n++; return plan.ID("new" + string(rune('0'+n))) }
		}())
	require.NoError(t, err)
	for _, a := range m.Added {
		if b, ok := a.(plan.Band); ok {
			assert.Equal(t, plan.ID("tide"), b.Playing[0].Part)
			assert.NotEqual(t, plan.ID("tide"), b.Playing[0].Song)
			assert.Equal(t, plan.ID("a"), b.Playing[0].Section)
			return
		}
	}
	t.Fatal("the band was not added")
}

func TestTheSpectrumOfASoundHasEveryBand(t *testing.T) {
	p := &plan.Plan{Sounds: []plan.Sound{{ID: "s", Name: "S", Short: "S", Tape: "bone", Role: plan.LeadRole}}}
	for path, bands := range map[string][]float64{
		"": make([]float64, 29), "sounds[0].targets.bands_db": make([]float64, 3),
	} {
		p.Sounds[0].Targets.Bands = bands
		problems := p.Validate()
		if path == "" {
			assert.Empty(t, problems)
			continue
		}
		require.Len(t, problems, 1)
		assert.Equal(t, path, problems[0].Path)
	}
}

func TestWhatIsWrongWithABandIsSaid(t *testing.T) {
	for path, change := range map[string]func(*plan.Band){
		"bands[0].name":                 func(b *plan.Band) { b.Name = " " },
		"bands[0].parts[1].id":          func(b *plan.Band) { b.Parts[1].ID = "voice" },
		"bands[0].parts[1].name":        func(b *plan.Band) { b.Parts[1].Name = "" },
		"bands[0].parts[1].kind":        func(b *plan.Band) { b.Parts[1].Kind = "kazoo" },
		"bands[0].parts[1].level_db":    func(b *plan.Band) { b.Parts[1].LevelDB = num(90) },
		"bands[0].parts[1].bands_db":    func(b *plan.Band) { b.Parts[1].Bands = []float64{1, 2} },
		"bands[0].parts[1].bands_db[3]": func(b *plan.Band) { b.Parts[1].Bands = make([]float64, 29); b.Parts[1].Bands[3] = 900 },
		"bands[0].playing[0].part":      func(b *plan.Band) { b.Playing = []plan.Playing{{Part: "tuba", Song: "tide"}} },
		"bands[0].playing[1]": func(b *plan.Band) {
			b.Playing = []plan.Playing{{Part: "voice", Song: "tide"}, {Part: "voice", Song: "tide", Rests: true}}
		},
	} {
		b := band()
		change(&b)
		problems := withBand(b).Validate()
		require.Len(t, problems, 1, path)
		assert.Equal(t, path, problems[0].Path)
	}
	p := withBand(band())
	p.Bands = nil
	problems := p.Validate()
	require.Len(t, problems, 1)
	assert.Equal(t, "set_lists[0].band", problems[0].Path)
	gone := band()
	gone.Playing = []plan.Playing{{Part: "voice", Song: "gone", Section: "gone"}}
	assert.Empty(t, withBand(gone).Validate(), "what is said of a song that is gone says nothing")
}

func num(x float64) *float64 { return &x }

func TestTheSectionGoesBeforeTheSong(t *testing.T) {
	b := band()
	b.Playing = []plan.Playing{
		{Part: "voice", Song: "tide", Rests: true}, {Part: "voice", Song: "tide", Section: "a", LevelDB: num(3)},
	}
	how, said := b.PlayingOf("voice", "tide", "a")
	assert.True(t, said)
	assert.False(t, how.Rests)
	how, said = b.PlayingOf("voice", "tide", "b")
	assert.True(t, said)
	assert.True(t, how.Rests)
	_, said = b.PlayingOf("organ", "tide", "a")
	assert.False(t, said)
}

func TestTheOnlyBandPlaysWhatNamesNone(t *testing.T) {
	p := withBand(band())
	p.SetLists[0].Band = ""
	assert.Equal(t, plan.ID("nine"), p.BandOf(&p.SetLists[0]).ID)
	p.Put(plan.Band{ID: "trio", Name: "Trio"})
	assert.Nil(t, p.BandOf(&p.SetLists[0]), "nobody can say which")
	p.SetLists[0].Band = "trio"
	assert.Equal(t, plan.ID("trio"), p.BandOf(&p.SetLists[0]).ID)
}

func TestKindsOfPartsAreKnownByName(t *testing.T) {
	for _, k := range plan.PartKinds() {
		assert.Equal(t, k, k.Kind.Traits())
		assert.NotEmpty(t, k.Name)
	}
	assert.Equal(t, plan.OtherPart, plan.PartKind("kazoo").Traits().Kind)
}
