// Package demo carries the made-up act that Envex shows itself with: the Kelp Street Nine,
// a nine-piece surf-cumbia dance band on a tour of ferry quays. It is an ordinary file.
package demo

import _ "embed" // for the file below

// File is the demo plan in the file format.
//
//go:embed kelp-street-nine.envex.json
var File []byte
