// Package licences says under which licences what Envex ships with is given: modules, scripts and fonts.
package licences

import (
	_ "embed"
	"encoding/json"
	"fmt"
)

// Part is something that ships with Envex and was made by others.
type Part struct {
	Name    string `json:"name"`
	Version string `json:"version"`
	Licence string `json:"licence" doc:"By its SPDX identifier."`
	Text    int    `json:"text" doc:"Which of the texts it is given under."`
}

// List is everything that ships with Envex, and the texts of its licences, each once.
type List struct {
	Parts []Part   `json:"parts"`
	Texts []string `json:"texts"`
}

// Made by `make licences`, from what the program is linked from and what its pages are made of.
//
//go:embed licences.json
var gathered []byte

// Gathered is everything that ships with Envex.
func Gathered() (List, error) {
	var list List
	if err := json.Unmarshal(gathered, &list); err != nil {
		return list, fmt.Errorf("licences: %w", err)
	}
	return list, nil
}
