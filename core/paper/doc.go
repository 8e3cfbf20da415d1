// Package paper derives the sheets that leave the machine: what is plugged into what, what is pressed
// when, what is carried. A sheet is data, tables of cells with plain words around them; how it is
// written, as CSV or Markdown, is apart from what it says. Nothing on a sheet is kept anywhere:
// it follows from the plan.
package paper
