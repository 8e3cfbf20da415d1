package exchange_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"gitlab.com/gomidi/midi/v2/smf"

	"envex/core/exchange"
	"envex/core/plan"
	"envex/golden"
)

// The sets of the demo and of strangers as they are written, and as they are read again.
func TestWhatIsWrittenOfSets(t *testing.T) {
	var b strings.Builder
	for _, file := range golden.Plans(t) {
		p, err := plan.Decode(file.Data)
		require.NoError(t, err)
		for _, l := range p.SetLists {
			var csv bytes.Buffer
			require.NoError(t, exchange.WriteCSV(&csv, p, l.ID))
			read, err := exchange.ReadCSV(csv.Bytes(), "set.csv")
			require.NoError(t, err)
			fmt.Fprintf(&b, "# %s %s\n%s%s", file.Name, l.ID, csv.String(), golden.Lines(t, read))
			before := ""
			for _, r := range p.Rigs {
				var events bytes.Buffer
				left, err := exchange.WriteSMF(&events, p, r.ID, l.ID, "")
				require.NoError(t, err)
				read, err := exchange.ReadSMF(events.Bytes(), "set.mid")
				require.NoError(t, err)
				written := eventsOf(t, events.Bytes()) + golden.Lines(t, read)
				if written == before {
					written = "as on the rig before\n"
				} else {
					before = written
				}
				fmt.Fprintf(&b, "events on %s, %s\n%s", r.ID, strings.Join(left, " "), written)
			}
		}
	}
	golden.Hold(t, "testdata/sets.txt", b.String())
}

// eventsOf are the events of a file in words, a track after another.
func eventsOf(t *testing.T, data []byte) string {
	t.Helper()
	f, err := smf.ReadFrom(bytes.NewReader(data))
	require.NoError(t, err)
	var b strings.Builder
	for i, track := range f.Tracks {
		for _, e := range track {
			fmt.Fprintf(&b, " %d +%d %s\n", i, e.Delta, e.Message)
		}
	}
	return b.String()
}
