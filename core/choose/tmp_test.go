package choose_test
import ("testing";"context";"fmt";"time";"math/rand/v2";"os";"strconv";"envex/core/choose";"envex/core/signal";"envex/core/plan";"envex/core/catalog")
func TestTmp(t *testing.T){
	n,_:=strconv.Atoi(os.Getenv("N")); if n==0 {n=6}
	total:=time.Duration(0)
	one,_:=strconv.Atoi(os.Getenv("ONE"))
	for seed:=range n { if one>0 && seed!=one {continue}
	rnd:=rand.New(rand.NewPCG(uint64(seed),7))
	var gains, others []string
	for _,k:=range catalog.All() { if k.Gear.Kind!=plan.Pedal {continue}
		g:=false; un:=true
		for _,b:=range k.Gear.Blocks { if b.Effect.IsGain()||b.Effect.Traits().Pushes {g=true}; if !b.Effect.Traits().Unheard {un=false} }
		if un {continue}
		if g {gains=append(gains,k.ID)} else {others=append(others,k.ID)} }
	rnd.Shuffle(len(gains),func(i,j int){gains[i],gains[j]=gains[j],gains[i]})
	rnd.Shuffle(len(others),func(i,j int){others[i],others[j]=others[j],others[i]})
	ng:=4+seed%5
	kinds:=append(append([]string{},gains[:ng]...), others[:min(16-ng,len(others))]...)
	p := tenSoundsBy(t, kinds, rnd)
	start:=time.Now(); fmt.Println(kinds)
	r,err:=choose.For(context.Background(), p, choose.Options{SetList:"night",Kept:signal.NewKept(), Progress: func(x float64){ if os.Getenv("PH")!="" {fmt.Printf("   %.2f %v\n",x,time.Since(start).Round(10*time.Millisecond))}}})
	if err!=nil { fmt.Println(seed,err); continue }
	d:=time.Since(start); total+=d
	fmt.Printf("seed %d gains %d: %v tried %d bound %v:", seed, ng, d.Round(10*time.Millisecond), r.Tried, r.Bound)
	for _,s:=range r.Sets { fmt.Printf(" %d/%d", len(s.Covers), len(s.Boxes)) }
	fmt.Println(" proven", len(r.Sets)>0&&r.Sets[0].Proven, r.Assumed, r.Partial)
	}
	fmt.Println("total", total)
}
func tenSoundsBy(t *testing.T, kinds []string, random *rand.Rand) *plan.Plan {
	p := quay(t, kinds...)
	effects := []plan.Effect{plan.EffectTremolo, plan.EffectChorus, plan.EffectDelay, plan.EffectReverb, plan.EffectPhaser}
	song, _ := p.FindSong("tide")
	for i := range 7 {
		id := plan.ID(fmt.Sprintf("sound-%d", i))
		low := float64(random.IntN(50))
		targets := plan.Targets{
			DirtMin: ptr(low), DirtMax: ptr(low + 20), LoudnessLU: ptr(float64(random.IntN(4))), ToleranceLU: ptr(1.0),
		}
		if i%2 == 0 {
			targets.Effects = []plan.Heard{{Effect: effects[random.IntN(len(effects))]}}
		}
		p.Put(plan.Sound{ID: id, Name: string(id), Short: fmt.Sprint("S", i), Tape: "bone", Role: "rhythm", Targets: targets})
		section := song.Sections[0]
		section.ID, section.Label, section.Sound = id, string(id), id
		song.Sections = append(song.Sections, section)
	}
	return p
}
