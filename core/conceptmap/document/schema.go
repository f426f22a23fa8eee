package document

import (
	"encoding/json"
	"fmt"
	"maps"
	cm "mevrin/core/conceptmap"
	"reflect"
	"slices"
	"strings"
)

// Schema gives the JSON Schema (draft 2020-12) of the map document. It is read off the
// types of the entities and their tags; what those cannot say stands in refinements.
func Schema() ([]byte, error) {
	s := schemaWriter{defs: object{}}
	members := object{
		"mevrin": object{"const": DocumentVersion, "description": "the version of this format"},
		"id":     s.of(reflect.TypeFor[cm.ID](), nil),
	}
	top := cm.Describe(cm.EntityMap)
	s.members(top.Members, members)
	for _, d := range cm.Entities {
		if d.List != "" {
			members[d.List] = object{"type": "array", "maxItems": d.Max, "items": s.of(d.Type, nil)}
		}
	}
	out := object{
		"$schema":              "https://json-schema.org/draft/2020-12/schema",
		"title":                "Mevrin map document, version 1",
		"description":          "One concept map. See map-format.md for what the members mean and for what a schema cannot say.",
		"type":                 "object",
		"additionalProperties": false,
		"required":             []string{"id", "language", "mevrin"},
		"properties":           members,
		"$defs":                s.defs,
	}
	raw, err := json.MarshalIndent(out, "", "  ")
	return append(raw, '\n'), err
}

type object = map[string]any

// MemberSchemas gives the schemas of the members of a sort of entity, by their names.
func MemberSchemas(d *cm.Description) map[string]any {
	members := object{}
	(&schemaWriter{defs: object{}}).members(d.Members, members)
	return members
}

// schemaWriter gathers the definitions of named types.
type schemaWriter struct{ defs object }

// of gives the schema of a type, as a member has it.
func (s *schemaWriter) of(t reflect.Type, f *cm.Member) any {
	if f != nil && f.Form != "" && forms[f.Form] != nil {
		return forms[f.Form]
	}
	if t == cm.TextType {
		text := object{"type": "object", "propertyNames": s.of(reflect.TypeFor[cm.Lang](), nil), "additionalProperties": object{"type": "string"}}
		if f != nil && f.Limit > 0 {
			text["description"] = fmt.Sprintf("at most %d characters in each language", f.Limit)
		}
		return text
	}
	switch t.Kind() {
	case reflect.Pointer:
		return s.of(t.Elem(), f)
	case reflect.Struct:
		return s.named(t, func() any {
			members := object{}
			if field, has := t.FieldByName("ID"); has && field.Tag.Get("json") == "id" {
				members["id"] = s.of(field.Type, nil)
			}
			required := s.members(cm.MembersOf(t), members)
			whole := object{"type": "object", "additionalProperties": false, "properties": members}
			if _, has := members["id"]; has {
				required = append(required, "id")
			}
			if len(required) > 0 {
				slices.Sort(required)
				whole["required"] = required
			}
			return whole
		})
	case reflect.Map:
		values := s.of(t.Elem(), &cm.Member{Type: t.Elem()})
		if t.Elem().Kind() == reflect.Bool && (f == nil || f.Form != "ballot") {
			values = object{"const": true}
		}
		all := object{"type": "object", "propertyNames": s.of(reflect.TypeFor[cm.ID](), nil), "additionalProperties": values}
		if f != nil && f.Limit > 0 {
			all["maxProperties"] = f.Limit
		}
		return all
	case reflect.Slice:
		all := object{"type": "array", "items": s.of(t.Elem(), &cm.Member{Type: t.Elem()})}
		if f != nil && f.Limit > 0 {
			all["maxItems"] = f.Limit
		}
		return all
	case reflect.Bool:
		return object{"type": "boolean"}
	case reflect.Int, reflect.Int64:
		return object{"type": "integer"}
	case reflect.Float64:
		return object{"type": "number"}
	}
	if t.PkgPath() != "" {
		if f != nil && f.Optional() {
			return object{"anyOf": []any{object{"const": ""}, s.named(t, func() any { return object{"type": "string"} })}}
		}
		return s.named(t, func() any { return object{"type": "string"} })
	}
	words := object{"type": "string"}
	if f != nil && f.Limit > 0 {
		words["maxLength"] = f.Limit
	}
	return words
}

// members adds the schemas of members, and gives the names of those that must be there:
// the empty value of which means nothing.
func (s *schemaWriter) members(all []cm.Member, into object) (required []string) {
	for i := range all {
		f := &all[i]
		into[f.Name] = s.of(f.Type, f)
		if k := f.Type.Kind(); !f.Optional() && (k == reflect.String || k == reflect.Slice) {
			required = append(required, f.Name)
		}
	}
	return required
}

// named gives a reference to the definition of a type, which is made once.
func (s *schemaWriter) named(t reflect.Type, write func() any) any {
	name := strings.ToLower(t.Name()[:1]) + t.Name()[1:]
	if t.Name() == "ID" {
		name = "id"
	}
	if _, done := s.defs[name]; !done {
		s.defs[name] = object{}
		def := write().(object)
		s.defs[name] = refine(def, refinements[name])
	}
	return object{"$ref": "#/$defs/" + name}
}

// instead takes the place of what a type says; other refinements are put over it.
type instead object

// refine puts what a type cannot say over what it says.
func refine(def, more object) object {
	def = maps.Clone(def)
	for name, value := range more {
		if own, is := value.(instead); is {
			value = object(own)
		} else if inner, is := value.(object); is {
			if had, both := def[name].(object); both && had["$ref"] == nil {
				value = refine(had, inner)
			} else if both { // what the definition has does not suffice
				value = object{"allOf": []any{had, inner}}
			}
		}
		def[name] = value
	}
	return def
}

// Values gives what a type of words can be, where that is a list; nil where it is not.
func Values(t reflect.Type) []string {
	def := refinements[strings.ToLower(t.Name()[:1])+t.Name()[1:]]
	list := reflect.ValueOf(def["enum"])
	if t.PkgPath() != reflect.TypeFor[cm.ID]().PkgPath() || !list.IsValid() {
		return nil
	}
	values := make([]string, list.Len())
	for i := range values {
		values[i] = list.Index(i).String()
	}
	return values
}
