package page

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"fmt"
	"html/template"
	"strconv"
	"strings"

	"envex/core/paper"
	"envex/core/plan"
	"envex/core/reach"
	"envex/core/reason"
)

// GigPolicy is the content security policy of the page for the night: it runs its own script, which it
// is known by, and loads nothing.
func GigPolicy() (string, error) {
	script, err := files.ReadFile("gig.js")
	if err != nil {
		return "", fmt.Errorf("page: %w", err)
	}
	sum := sha256.Sum256(script)
	return "default-src 'none'; style-src 'unsafe-inline'; font-src data:; script-src 'sha256-" +
		base64.StdEncoding.EncodeToString(sum[:]) + "'", nil
}

// Gig writes the page for the night: every section of the set, one at a time, with what is pressed to come
// into it and what comes next; and every sheet behind it. It is one file that needs no server and no
// network. The plan must be valid. It fails when there is no such show.
func Gig(p *plan.Plan, show plan.ID) ([]byte, error) {
	s, ok := p.FindShow(show)
	if !ok {
		return nil, reason.Errorf("there is no show %q", show)
	}
	steps, songs, err := stepsOf(p, s)
	if err != nil {
		return nil, err
	}
	sheets, err := sheetsOf(context.Background(), p, show, paper.Kinds(), nil) // none of them renders
	if err != nil {
		return nil, err
	}
	css, err := styles("gig.css")
	if err != nil {
		return nil, err
	}
	script, err := files.ReadFile("gig.js")
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	policy, err := GigPolicy()
	if err != nil {
		return nil, err
	}
	t, err := template.New("gig.html").Funcs(functions).ParseFS(files, "gig.html", "sheet.html")
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	var b bytes.Buffer
	err = t.Execute(&b, map[string]any{
		"Show": s, "Policy": policy, "Styles": css, "Script": template.JS(script), "Steps": steps, "Songs": songs,
		"Sheets": sheets, //nolint:gosec // our own file
	})
	if err != nil {
		return nil, fmt.Errorf("page: %w", err)
	}
	return b.Bytes(), nil
}

// step is one section of the set as it is shown on the night.
type step struct {
	Number   int
	Song     string
	Place    string // of the song in the set: 3 of 14
	Facts    string
	Section  string
	Bars     string
	Sound    string
	Short    string
	Tape     string
	Presses  []string
	Hands    []string
	Trouble  string
	Mark     string
	Early    []string
	Next     string
	NextSong bool
	Singing  bool
}

type jump struct {
	Number int
	Title  string
}

func stepsOf(p *plan.Plan, s *plan.Show) ([]step, []jump, error) {
	given, err := p.AtShow(s)
	if err != nil {
		return nil, nil, fmt.Errorf("page: %w", err)
	}
	there, err := given.At(s.Rig, s.Destination)
	if err != nil {
		return nil, nil, fmt.Errorf("page: %w", err)
	}
	report, err := reach.Compute(there, s.Rig, s.SetList)
	if err != nil {
		return nil, nil, fmt.Errorf("page: %w", err)
	}
	l, _ := there.FindSetList(s.SetList)
	var steps []step
	var songs []jump
	at := 0
	for i, e := range l.Entries {
		song, ok := there.FindSong(e.Song)
		if !ok {
			continue
		}
		songs = append(songs, jump{len(steps) + 1, fmt.Sprintf("%d. %s", i+1, song.Title)})
		for k, sec := range song.Sections {
			if at >= len(report.Sections) {
				return nil, nil, reason.Errorf("the set has more sections than were computed")
			}
			x := step{
				Number: len(steps) + 1, Song: song.Title, Place: fmt.Sprintf("%d of %d", i+1, len(l.Entries)),
				Facts:   strings.Join(paper.CountIn(there, song, sec.TempoIn(*song)), ", "),
				Section: sec.Label, Bars: "open", Singing: sec.Singing,
			}
			if sec.Bars != nil {
				x.Bars = strconv.FormatFloat(*sec.Bars, 'f', -1, 64) + " bars"
			}
			if k == 0 && e.Segue && i > 0 {
				x.Facts = "straight on, " + x.Facts
			}
			if sound, ok := there.FindSound(sec.Sound); ok {
				x.Sound, x.Short, x.Tape = sound.Name, sound.Short, sound.Tape
			}
			if at > 0 {
				x.came(there, report.Changes[at-1])
			}
			x.Early = paper.Early(report.Sections[at])
			steps = append(steps, x)
			at++
		}
	}
	for i := range steps[:max(len(steps)-1, 0)] {
		next := &steps[i+1]
		words := []string{next.Section}
		if next.Place != steps[i].Place {
			words[0] = next.Song + ", " + next.Section
			steps[i].NextSong = true
		}
		words = append(words, next.Sound)
		if len(next.Presses) > 0 {
			words = append(words, strings.Join(next.Presses, ", "))
		}
		steps[i].Next = strings.Join(words, " – ")
	}
	return steps, songs, nil
}

// came puts down how the change into a section is made, with the mark of its verdict.
func (x *step) came(p *plan.Plan, c reach.Change) {
	x.Presses = paper.Pressed(c)
	for _, h := range c.Hands {
		x.Hands = append(x.Hands, h.Action)
	}
	switch c.Verdict {
	case reach.Tight:
		x.Mark, x.Trouble = "◇", fmt.Sprintf("Tight: %.2f s in hand", c.SlackS)
	case reach.Late:
		x.Mark, x.Trouble = "▲", fmt.Sprintf("Late by %.2f s", -c.SlackS)
	case reach.NotSet:
		x.Mark, x.Trouble = "○", "Not set yet: "+c.Reason
	case reach.Impossible:
		x.Mark, x.Trouble = "⊗", "Cannot be made: "+c.Reason
	}
}
