// Package reason makes the errors that a person can do something about: why something cannot be done with what was
// given. What went wrong inside the program is no reason, and is worded to nobody.
//
// A reason is data, a format and its arguments, and is put into words in one place. On its way up it may be wrapped
// as any error is, with the names of what it passes through: those are for logs, and no part of its words.
package reason

import (
	"errors"
	"fmt"
	"slices"
	"strings"
)

// Error is a reason. Format is a phrase without a capital and a full stop, Args are what stands in it.
type Error struct {
	Format string
	Args   []any

	cause error
}

// Errorf is a reason by its format and arguments, as of [fmt.Errorf]. Of an error that is wrapped by %w only the
// reason is put into words, where it has one.
func Errorf(format string, args ...any) error {
	return &Error{format, args, fmt.Errorf(format, args...)}
}

// Error is the reason as a phrase.
func (e *Error) Error() string { return e.Words() }

// Unwrap leads to all that the reason wraps.
func (e *Error) Unwrap() error { return e.cause }

// Words is the reason as a phrase.
func (e *Error) Words() string {
	args := slices.Clone(e.Args)
	for i, x := range args {
		if err, ok := x.(error); ok {
			if words, ok := Of(err); ok {
				args[i] = words
			}
		}
	}
	return fmt.Sprintf(strings.ReplaceAll(e.Format, "%w", "%v"), args...)
}

// Of is the reason in an error, as a phrase: that of the outermost error in its chain which has a method Words. It is
// false where there is none.
func Of(err error) (string, bool) {
	var r interface{ Words() string }
	if !errors.As(err, &r) {
		return "", false
	}
	return r.Words(), true
}

// Sentence is the reason in an error, with a capital and a full stop; it is false where there is none.
func Sentence(err error) (string, bool) {
	words, ok := Of(err)
	if !ok || words == "" {
		return "", false
	}
	if first := words[0]; first >= 'a' && first <= 'z' {
		words = string(first-'a'+'A') + words[1:]
	}
	if !strings.HasSuffix(words, ".") {
		words += "."
	}
	return words, true
}
