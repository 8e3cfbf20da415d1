// Package page writes the paper of a show as files that need nothing else, no server and no network:
// sheets as HTML for screen and print, the chain and the floor as SVG, and a page for the night that
// steps through the set.
//
// What stands on a sheet is worked out in core/paper; here it only gets its form. Text of the plan
// reaches HTML through html/template alone, and SVG through an XML escaper.
package page

import (
	"embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"strings"
)

//go:embed faces/*.woff2 sheet.css gig.css gig.js sheet.html gig.html board.html
var files embed.FS

// faces are the type a file carries, as the styles of a page name it.
var faces = []struct {
	family string
	weight int
	file   string
}{
	{"Barlow Condensed", 600, "barlow-condensed-latin-600-normal.woff2"},
	{"Atkinson Hyperlegible Next", 400, "atkinson-hyperlegible-next-latin-400-normal.woff2"},
	{"Atkinson Hyperlegible Next", 600, "atkinson-hyperlegible-next-latin-600-normal.woff2"},
	{"Atkinson Hyperlegible Mono", 400, "atkinson-hyperlegible-mono-latin-400-normal.woff2"},
}

// faceCSS is the faces as data, so that a file needs no other.
func faceCSS() (template.CSS, error) {
	var b strings.Builder
	for _, f := range faces {
		data, err := files.ReadFile("faces/" + f.file)
		if err != nil {
			return "", fmt.Errorf("page: %w", err)
		}
		fmt.Fprintf(
			&b, "@font-face{font-family:'%s';font-weight:%d;src:url(data:font/woff2;base64,%s) format('woff2')}\n", f.family,
			f.weight, base64.StdEncoding.EncodeToString(data),
		)
	}
	return template.CSS(b.String()), nil //nolint:gosec // our own files
}

// styles are the faces and one of our own style sheets.
func styles(name string) (template.CSS, error) {
	own, err := files.ReadFile(name)
	if err != nil {
		return "", fmt.Errorf("page: %w", err)
	}
	face, err := faceCSS()
	if err != nil {
		return "", err
	}
	return face + template.CSS(own), nil
}

// tapes are the colours of the tapes, those of the screens.
var tapes = map[string]string{
	"bone": "#d9d4c5", "yellow": "#f2d94e", "sky": "#7be0ff", "violet": "#bd93f0", "teal": "#6fd0b4", "pink": "#f29ac0",
	"periwinkle": "#93a2f5", "lime": "#b6e05a", "sand": "#d8b384", "moss": "#93b07a", "lilac": "#d9b8ea", "ice": "#bfe3e6",
}

// colour is the colour of a tape; bone for one nobody knows.
func colour(tape string) template.CSS {
	c, ok := tapes[tape]
	if !ok {
		c = tapes["bone"]
	}
	return template.CSS(c)
}
