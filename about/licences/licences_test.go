package licences_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"envex/about/licences"
)

// Licences under which something may ship with Envex: they ask for no more than to be named, or for changes to the part
// itself.
var allowed = []string{"MIT", "BSD-2-Clause", "BSD-3-Clause", "BSD-0-Clause", "ISC", "Apache-2.0", "OFL-1.1", "MPL-2.0"}

func TestEverythingThatShipsHasALicenceThatIsAllowed(t *testing.T) {
	list, err := licences.Gathered()
	require.NoError(t, err)
	require.NotEmpty(t, list.Parts)
	for _, p := range list.Parts {
		assert.Contains(t, allowed, p.Licence, p.Name)
		assert.NotEmpty(t, p.Version, p.Name)
		require.Less(t, p.Text, len(list.Texts), p.Name)
		assert.NotEmpty(t, list.Texts[p.Text], p.Name)
	}
}
