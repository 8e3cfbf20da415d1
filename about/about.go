// Package about says which Envex this is.
package about

import (
	"runtime"
	"runtime/debug"
)

// version is set when a release is linked.
var version = ""

// Build is which program this is, and what it was built from.
type Build struct {
	Version string `json:"version" doc:"Of a release; development for any other build."`
	Commit  string `json:"commit,omitempty" doc:"What it was built from; absent where that is not known."`
	Changed bool   `json:"changed,omitempty" doc:"Something was changed since that commit."`
	Go      string `json:"go" doc:"The compiler."`
	System  string `json:"system" doc:"Operating system and processor it was built for."`
}

// This is the program that runs.
func This() Build {
	p := Build{Version: version, Go: runtime.Version(), System: runtime.GOOS + "/" + runtime.GOARCH}
	if p.Version == "" {
		p.Version = "development"
	}
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			switch s.Key {
			case "vcs.revision":
				p.Commit = s.Value
			case "vcs.modified":
				p.Changed = s.Value == "true"
			}
		}
	}
	return p
}

// String is the program in one line.
func (p Build) String() string {
	line := "envex " + p.Version
	if len(p.Commit) >= 12 {
		line += ", commit " + p.Commit[:12]
	}
	if p.Changed {
		line += " with changes"
	}
	return line + ", " + p.Go + ", " + p.System
}
