package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// sentence is what reads like something that is said to a person.
var sentence = regexp.MustCompile(`^[A-Z“%][^<>{}=]* [^<>{}=]*[.?!…]$`)

// notSaid are functions whose words go to logs, to programmers, or to a database.
var notSaid = map[string]bool{"Errorf": true, "New": true, "panic": true, "must": true, "Warn": true, "Error": true, "Info": true, "Fprintf": true, "Fprintln": true, "Println": true, "Printf": true}

// No sentence for a person stands in Go or in a script beside the catalogue. (In pages
// everything that is read is a message.)
func TestNoTextStandsOutsideTheCatalogue(t *testing.T) {
	root := "../.."
	keys, err := Keys(root)
	require.NoError(t, err)
	known := map[string]bool{}
	for _, key := range keys {
		known[key] = true
	}
	looked := 0
	for _, house := range []string{"core", "draw", "format", "workspace", "web"} {
		require.NoError(t, eachFile(filepath.Join(root, house), ".go", func(path string) error {
			files := token.NewFileSet()
			file, err := parser.ParseFile(files, path, nil, 0)
			if err != nil || strings.Contains(path, "maptest") {
				return err
			}
			ast.Inspect(file, func(n ast.Node) bool {
				if call, is := n.(*ast.CallExpr); is {
					name := ""
					switch f := call.Fun.(type) {
					case *ast.Ident:
						name = f.Name
					case *ast.SelectorExpr:
						name = f.Sel.Name
					}
					if notSaid[name] {
						return false
					}
				}
				if l, is := n.(*ast.BasicLit); is && l.Kind == token.STRING {
					if s, _ := strconv.Unquote(l.Value); sentence.MatchString(s) {
						looked++
						assert.True(t, known[s] || schemaWords[s], "%s: %q is in no catalogue", files.Position(l.Pos()), s)
					}
				}
				return true
			})
			return nil
		}))
	}
	require.NoError(t, eachFile(filepath.Join(root, "web/js"), ".js", func(path string) error {
		raw, err := os.ReadFile(path)
		code := comments.ReplaceAllString(string(raw), "")
		for _, m := range literal.FindAllStringSubmatchIndex(code, -1) {
			words := code[m[2]:m[3]]
			looked++
			said := strings.HasSuffix(strings.TrimRight(code[:m[0]], " "), "t(") || strings.HasSuffix(code[:m[0]], "new Error(")
			if spoken.MatchString(words) {
				assert.True(t, said, "%s: %q is not said by t()", path, words)
			}
		}
		return err
	}))
	assert.Greater(t, looked, 500)
}

var (
	comments = regexp.MustCompile(`(?m)/\*[\s\S]*?\*/|(^|\s)//.*$`)
	literal  = regexp.MustCompile(`'((?:[^'\\\n]|\\.)*)'`)
	spoken   = regexp.MustCompile(`^[A-Z“%]?[a-z’]* ?[^<>{}\[\]=#]*[a-z]{2} [a-z][^<>{}\[\]=#]*[.?!…]$|^[A-Z][a-z]+ [a-z]+( [a-z]+)*$`)
)

// schemaWords describe the document to programmers, or are part of a text that is put
// together of constants once and is a key as a whole.
var schemaWords = map[string]bool{
	"Labels of more than %d words, or that end like a sentence; where words are written without spaces, of more than %d characters. What is a claim, a reason or another part of an argument is left out.": true,
	"One concept map. See map-format.md for what the members mean and for what a schema cannot say.":                                                                                                       true}
