package store_test

import (
	"flag"
	"os"
	"testing"
)

// Every step of the model test waits for the disk, so it plays fewer games than is usual,
// unless the caller says how many.
func TestMain(m *testing.M) {
	flag.Parse()
	said := false
	flag.Visit(func(f *flag.Flag) { said = said || f.Name == "rapid.checks" })
	if !said {
		if err := flag.Set("rapid.checks", "30"); err != nil {
			panic(err)
		}
	}
	os.Exit(m.Run())
}
