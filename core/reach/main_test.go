package reach

import (
	"flag"
	"os"
	"testing"
)

// Agreement with brute force is worth more cases than the usual hundred, unless the caller
// says how many.
func TestMain(m *testing.M) {
	flag.Parse()
	said := false
	flag.Visit(func(f *flag.Flag) { said = said || f.Name == "rapid.checks" })
	if !said {
		if err := flag.Set("rapid.checks", "500"); err != nil {
			panic(err)
		}
	}
	os.Exit(m.Run())
}
