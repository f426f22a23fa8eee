package main

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"mevrin/core/agree"
	"mevrin/core/brief"
	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/differences"
	"mevrin/core/guide"
	"mevrin/core/kinds"
	"mevrin/core/message"
	"mevrin/core/people"
	"mevrin/core/phrases"
	"mevrin/core/score"
	"mevrin/core/starters"
	"mevrin/core/structure"
	"mevrin/format/formats"
	"mevrin/web"
	"mevrin/workspace/query"
)

// catalogue gives the catalogue of messages of a tree of sources: the key of every text,
// with the plural forms that it has in the one before.
func catalogue(root string) (string, error) {
	before := map[string]message.Text{}
	raw, err := os.ReadFile(filepath.Join(root, "core/message/catalogue.json"))
	if err == nil {
		err = json.Unmarshal(raw, &before)
	}
	if err != nil {
		return "", err
	}
	keys, err := Keys(root)
	if err != nil {
		return "", err
	}
	all := map[string]message.Text{}
	for _, key := range keys {
		all[key] = message.Text{Forms: before[key].Forms}
	}
	var out strings.Builder
	to := json.NewEncoder(&out)
	to.SetEscapeHTML(false)
	to.SetIndent("", "  ")
	err = to.Encode(all)
	return out.String(), err
}

// Keys gives the keys of all texts, wherever they are: in Go, in pages, in scripts, and in
// the tables of rules, figures, keys and phrases.
func Keys(root string) ([]string, error) {
	seen := map[string]bool{}
	add := func(key string) {
		if key = strings.TrimSpace(key); key != "" {
			seen[key] = true
		}
	}
	for _, key := range web.TemplateTexts() {
		add(key)
	}
	for _, table := range []any{check.Rules, structure.Measures, kinds.Shipped, phrases.Shipped, query.Tables(), cm.Scales, agree.Measures, agree.Reasons, brief.Starters, brief.Lists, score.Shipped, guide.Orders, guide.Sortings, differences.Sorts} {
		words(reflect.ValueOf(table), add)
	}
	for _, key := range append(formats.Texts(), starters.Texts()...) {
		add(key)
	}
	for _, r := range people.Rights {
		add(r.Title)
	}
	for _, r := range people.Roles {
		add(r.Title)
	}
	for _, house := range []string{"core", "draw", "format", "standin", "store", "workspace", "web"} {
		err := eachFile(filepath.Join(root, house), ".go", func(path string) error { return inGo(path, add) })
		if err != nil {
			return nil, err
		}
	}
	err := eachFile(filepath.Join(root, "web/js"), ".js", func(path string) error {
		raw, err := os.ReadFile(path)
		for _, m := range inScript.FindAllStringSubmatch(string(raw), -1) {
			add(strings.NewReplacer(`\'`, `'`, `\n`, "\n", `\\`, `\`).Replace(m[1]))
		}
		return err
	})
	return slices.Sorted(maps.Keys(seen)), err
}

var inScript = regexp.MustCompile(`\bt\('((?:[^'\\]|\\.)+)'`)

func eachFile(root, ending string, do func(path string) error) error {
	return filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ending) || strings.HasSuffix(path, "_test.go") {
			return err
		}
		return do(path)
	})
}

// sayers are the functions whose first words are a key, by the place of those among their
// arguments.
var sayers = map[string]int{"Refusef": 0, "Notice": 0, "Of": 0, "t": 0, "Sprintf": 0, "Says": 0, "fail": 2, "Word": 0, "Clean": 2, "cleanNote": 1, "CleanNote": 1, "says": 0, "readJSON": 2, "linkRemedy": 1, "Tell": 1}

func inGo(path string, add func(string)) error {
	files := token.NewFileSet()
	file, err := parser.ParseFile(files, path, nil, 0)
	if err != nil {
		return err
	}
	text := func(e ast.Expr) {
		ast.Inspect(e, func(n ast.Node) bool {
			if l, is := n.(*ast.BasicLit); is && l.Kind == token.STRING {
				if s, err := strconv.Unquote(l.Value); err == nil && strings.ContainsFunc(s, isLetter) {
					add(s)
				}
			}
			return true
		})
	}
	inCheck := strings.Contains(filepath.ToSlash(path), "core/check/") // its tables are texts
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.BasicLit:
			if s, _ := strconv.Unquote(n.Value); inCheck && n.Kind == token.STRING && titled.MatchString(s) {
				add(s)
			}
		case *ast.CallExpr:
			name := ""
			switch f := n.Fun.(type) {
			case *ast.Ident:
				name = f.Name
			case *ast.SelectorExpr:
				name = f.Sel.Name
				if x, is := f.X.(*ast.Ident); is && x.Name == "fmt" {
					return true
				}
			}
			if at, says := sayers[name]; says && at < len(n.Args) {
				text(n.Args[at])
			}
		case *ast.KeyValueExpr:
			if key, is := n.Key.(*ast.Ident); is && key.Name == "Title" {
				text(n.Value)
			}
		case *ast.ValueSpec: // tables of texts, marked by their type or name
			for i, name := range n.Names {
				if strings.HasSuffix(name.Name, "Texts") && i < len(n.Values) {
					text(n.Values[i])
				}
			}
		}
		return true
	})
	return nil
}

// titled is what reads like the title or the reason of a rule.
var titled = regexp.MustCompile(`^[A-Z“][^%]* [^%]*$`)

func isLetter(r rune) bool { return r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' }

// words gives the texts of a table: its members that are called so.
func words(v reflect.Value, add func(string)) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			words(v.Elem(), add)
		}
	case reflect.Slice:
		for i := range v.Len() {
			words(v.Index(i), add)
		}
	case reflect.Map:
		for entry := v.MapRange(); entry.Next(); {
			if entry.Value().Kind() == reflect.String {
				add(entry.Value().String())
			} else {
				words(entry.Value(), add)
			}
		}
	case reflect.Struct:
		for i := range v.NumField() {
			field := v.Type().Field(i)
			switch field.Name {
			case "Title", "Why", "Looks", "Means", "Name", "Task", "Says":
				if field.Type.Kind() == reflect.String {
					add(v.Field(i).String())
				}
			case "Kinds", "Links", "Phrases", "Names", "Words": // words of maps, not of the page
			default:
				if field.IsExported() {
					words(v.Field(i), add)
				}
			}
		}
	}
}
