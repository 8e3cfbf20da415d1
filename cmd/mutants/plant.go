package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"strconv"
	"strings"
)

// mutant is one mistake in one file: some bytes replaced by others.
type mutant struct {
	file     string
	from, to int // in the file
	old, new string
	at       string // file and line
	died     bool
}

// opposites are the operators that a hand may take for each other.
var opposites = map[token.Token]token.Token{
	token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR,
	token.EQL: token.NEQ, token.NEQ: token.EQL, token.LAND: token.LOR, token.LOR: token.LAND,
	token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL,
	token.ADD_ASSIGN: token.SUB_ASSIGN, token.SUB_ASSIGN: token.ADD_ASSIGN,
	token.INC: token.DEC, token.DEC: token.INC,
}

// mistakes are all that could be planted in the Go files of a folder, tests left out.
func mistakes(folder string) ([]mutant, error) {
	files, err := filepath.Glob(filepath.Join(folder, "*.go"))
	if err != nil {
		return nil, err
	}
	var all []mutant
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		src, err := os.ReadFile(name)
		if err != nil {
			return nil, err
		}
		in, err := mistakesIn(name, src)
		if err != nil {
			return nil, err
		}
		all = append(all, in...)
	}
	return all, nil
}

func mistakesIn(name string, src []byte) ([]mutant, error) {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, name, src, parser.SkipObjectResolution)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", name, err)
	}
	var all []mutant
	swap := func(pos token.Pos, old, new string) {
		p := set.Position(pos)
		if strings.HasPrefix(string(src[p.Offset:]), old) {
			all = append(
				all,
				mutant{
					file: name, from: p.Offset, to: p.Offset + len(old), old: old, new: new, at: fmt.Sprintf("%s:%d", name, p.Line),
				},
			)
		}
	}
	ast.Inspect(file, func(n ast.Node) bool {
		switch x := n.(type) {
		case *ast.GenDecl:
			return x.Tok != token.IMPORT && x.Tok != token.TYPE
		case *ast.BinaryExpr:
			if o, ok := opposites[x.Op]; ok && (x.Op != token.ADD || !isText(x.X) && !isText(x.Y)) {
				swap(x.OpPos, x.Op.String(), o.String())
			}
		case *ast.AssignStmt:
			if o, ok := opposites[x.Tok]; ok {
				swap(x.TokPos, x.Tok.String(), o.String())
			}
		case *ast.IncDecStmt:
			swap(x.TokPos, x.Tok.String(), opposites[x.Tok].String())
		case *ast.UnaryExpr:
			if x.Op == token.NOT {
				swap(x.OpPos, "!", "")
			}
		case *ast.Ident:
			if other := map[string]string{"true": "false", "false": "true"}[x.Name]; other != "" {
				swap(x.Pos(), x.Name, other)
			}
		case *ast.BasicLit:
			if v, err := strconv.Atoi(x.Value); x.Kind == token.INT && err == nil {
				swap(x.Pos(), x.Value, strconv.Itoa(v+1))
			}
		case *ast.BranchStmt:
			if x.Label == nil && x.Tok == token.CONTINUE {
				swap(x.Pos(), "continue", "break")
			}
		}
		return true
	})
	return all, nil
}

// isText reports whether an expression is plainly a text: those are put together, and cannot be taken apart.
func isText(x ast.Expr) bool {
	l, ok := x.(*ast.BasicLit)
	return ok && l.Kind == token.STRING
}
