package main

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/workspace"
	"mevrin/workspace/query"
)

// types gives the declarations of what page and server tell each other.
func types() string {
	w := writer{named: map[string]string{}}
	for _, t := range []reflect.Type{
		reflect.TypeFor[workspace.Asked](), reflect.TypeFor[workspace.Answer](), reflect.TypeFor[workspace.Event](), reflect.TypeFor[workspace.AskedView](),
		reflect.TypeFor[query.Lens](), reflect.TypeFor[workspace.Part](), reflect.TypeFor[cm.Filter](), reflect.TypeFor[cm.Table](),
	} {
		w.of(t)
	}
	names, forms := edit.Forms()
	var operations strings.Builder
	for _, name := range names {
		fmt.Fprintf(&operations, "  | %s\n", strings.Replace(w.members(forms[name]), "do: string", "do: '"+name+"'", 1))
	}
	var out strings.Builder
	out.WriteString("// What page and server tell each other. Made of Go by `make assets`; change it there.\n\n")
	out.WriteString("declare namespace Wire {\n/** One thing that a person meant, as it is sent. */\ntype Operation =\n" + strings.TrimSuffix(operations.String(), "\n") + ";\n")
	for _, name := range slices.Sorted(maps.Keys(w.named)) {
		out.WriteString("\n" + w.named[name] + "\n")
	}
	out.WriteString("}\n")
	return out.String()
}

// writer gathers the declarations of named types.
type writer struct{ named map[string]string }

// of gives a type as it is written where it is used.
func (w *writer) of(t reflect.Type) string {
	switch t {
	case reflect.TypeFor[cm.Text]():
		return "Record<string, string>"
	case reflect.TypeFor[edit.Operations]():
		return "Operation[]"
	case reflect.TypeFor[json.RawMessage]():
		return "unknown"
	}
	switch t.Kind() {
	case reflect.Pointer:
		return w.of(t.Elem())
	case reflect.Slice:
		return bracketed(w.of(t.Elem())) + "[]"
	case reflect.Map:
		return "Record<string, " + w.of(t.Elem()) + ">"
	case reflect.Bool:
		return "boolean"
	case reflect.Int, reflect.Int64, reflect.Float64:
		return "number"
	case reflect.String:
		if values := document.Values(t); values != nil {
			quoted := make([]string, len(values))
			for i, v := range values {
				quoted[i] = "'" + v + "'"
			}
			w.named[t.Name()] = "type " + t.Name() + " = " + strings.Join(quoted, " | ") + ";"
			return t.Name()
		}
		return "string"
	case reflect.Struct:
		name := t.Name()
		if name == "" {
			return w.members(t)
		}
		name = strings.ToUpper(name[:1]) + name[1:]
		if _, known := w.named[name]; !known {
			w.named[name] = ""
			w.named[name] = "interface " + name + " " + w.members(t)
		}
		return name
	}
	return "unknown"
}

func bracketed(t string) string {
	if strings.Contains(t, " ") {
		return "(" + t + ")"
	}
	return t
}

// members gives the members of a struct as JSON has them.
func (w *writer) members(t reflect.Type) string {
	var all []string
	for f := range t.Fields() {
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch {
		case name == "-" || !f.IsExported() && !f.Anonymous:
			continue
		case f.Anonymous && name == "":
			if inner := strings.TrimSuffix(strings.TrimPrefix(w.members(f.Type), "{ "), " }"); inner != "{}" {
				all = append(all, inner)
			}
			continue
		}
		of, may := w.of(f.Type), ""
		if strings.Contains(options, "omit") {
			may = "?"
		} else if f.Type.Kind() == reflect.Pointer {
			of += " | null"
		}
		all = append(all, name+may+": "+of)
	}
	if all == nil {
		return "{}"
	}
	return "{ " + strings.Join(all, "; ") + " }"
}
