// Command licences gathers the licences of all that ships with Envex and writes them as JSON: of the Go modules that
// the program is linked from, and of the packages that its pages are made of. It is run in the root of the repository,
// when everything is fetched.
package main

import (
	"encoding/json"
	"fmt"
	"os"
)

func main() {
	list, err := gather(".")
	if err == nil {
		out := json.NewEncoder(os.Stdout)
		out.SetIndent("", " ")
		err = out.Encode(list)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}
