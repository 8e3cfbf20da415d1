package plan

import (
	"fmt"
	"strings"
)

// Problem is one thing wrong with a plan or a file: where, and a sentence that says what.
type Problem struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

// String is the problem on one line.
func (p Problem) String() string {
	if p.Path == "" {
		return p.Message
	}
	return p.Path + ": " + p.Message
}

// Problems is everything wrong at once. It is an error when there is any.
type Problems []Problem

// Error lists every problem, one a line.
func (ps Problems) Error() string {
	lines := make([]string, len(ps))
	for i, p := range ps {
		lines[i] = p.String()
	}
	return strings.Join(lines, "\n")
}

// Err is ps as an error, nil when there is no problem.
func (ps Problems) Err() error {
	if len(ps) == 0 {
		return nil
	}
	return ps
}

// mostProblems is how many problems are told: who has more than that has another.
const mostProblems = 200

func (ps *Problems) add(path, format string, args ...any) {
	if len(*ps) >= mostProblems {
		return
	}
	*ps = append(*ps, Problem{Path: path, Message: fmt.Sprintf(format, args...)})
}

// at joins a path and an index: at("songs", 3) is songs[3].
func at(path string, i int) string { return fmt.Sprintf("%s[%d]", path, i) }

// in joins a path and a map key: in("base", "amber/drive") is base["amber/drive"].
func in[K ~string](path string, key K) string { return fmt.Sprintf("%s[%q]", path, string(key)) }

// dot joins a path and a field.
func dot(path, field string) string {
	if path == "" {
		return field
	}
	return path + "." + field
}
