package about_test

import (
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"

	"envex/about"
)

func TestTheProgramSaysWhatItIs(t *testing.T) {
	p := about.This()
	assert.Equal(t, "development", p.Version)
	assert.Equal(t, runtime.GOOS+"/"+runtime.GOARCH, p.System)
	assert.Contains(t, p.String(), "envex development")
	assert.Equal(t, "envex 1.2, commit 0123456789ab with changes, go1, x/y",
		about.Build{Version: "1.2", Commit: "0123456789abcdef", Changed: true, Go: "go1", System: "x/y"}.String())
}
