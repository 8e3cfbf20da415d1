package night

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/core/plan"
)

// Sent cue by cue, what it says and has not been sent before, the devices stand after the night where the plan has them.
func TestDevicesStandWhereThePlanHasThem(t *testing.T) {
	p := theDemo(t)
	for _, rig := range []plan.ID{"long", "switched", "carry"} {
		base, err := On(p, show, rig, nil)
		require.NoError(t, err)
		e, err := On(p, show, rig, []Event{event(in(base, 2, 1), "c", 1, Called, Event{Song: base.Order[9].Song})})
		require.NoError(t, err)
		cues, err := e.Cues()
		require.NoError(t, err)
		require.Len(t, cues, len(e.Steps))
		desk, err := e.Desk()
		require.NoError(t, err)
		sent := map[plan.Key]string{}
		messages := 0
		for i, c := range cues {
			arrives := e.courses[i].Arrives(e.at[i])
			for k, s := range slices.Concat(c.Sends, c.Ready) {
				if k == len(c.Sends) { // what is made ready comes after all has arrived
					for _, x := range c.Sends {
						assert.Equal(
							t,
							arrives[x.Moves],
							desk.At(x.Moves),
							"%s arriving in %s",
							x.Moves,
							e.Steps[i].Label,
						)
					}
				}
				if sent[s.Moves] == s.Bytes {
					continue
				}
				sent[s.Moves] = s.Bytes
				messages++
				heard := desk.Receive(s.Message.Bytes())
				require.Len(t, heard, 1)
				assert.NotEmpty(t, heard[0].Words, "somebody listens to %s", s.Words)
			}
			for _, s := range c.Sends {
				assert.Equal(t, e.Stands(i)[s.Moves], desk.At(s.Moves), "%s in %s", s.Moves, e.Steps[i].Label)
			}
		}
		if rig != "carry" {
			assert.Positive(t, messages, "%s has devices that listen", rig)
		}
	}
}
