package history

import (
	"encoding/json"
	"fmt"
	cm "mevrin/core/conceptmap"
	"reflect"
	"strings"
)

func mustMarshal(v any) json.RawMessage {
	raw, err := json.Marshal(v)
	must(err)
	return raw
}

func must(err error) {
	if err != nil {
		panic("conceptmap: " + err.Error())
	}
}

// Encode gives the fields of an entity, a pointer to a struct of the sort. Entities
// always marshal, so an error here is a fault of the program.
func Encode(d *cm.Description, entity any) Fields {
	parts := make(Fields, len(d.Members))
	for i := range d.Members {
		f := &d.Members[i]
		encodeMember(parts, f, f.Of(entity))
	}
	return parts
}

func encodeMember(parts Fields, f *cm.Member, v reflect.Value) {
	if f.Absent(v) {
		return
	}
	switch f.Apart {
	case cm.ByMember:
		for entry := v.MapRange(); entry.Next(); {
			parts[f.Name+"/"+entry.Key().String()] = mustMarshal(entry.Value().Interface())
		}
	case cm.ByEnd:
		for _, e := range v.Interface().([]cm.End) {
			parts[f.Name+"/"+string(e.ID)] = mustMarshal(e.Concept)
		}
	default:
		parts[f.Name] = mustMarshal(v.Interface())
	}
}

// Decode is the inverse of Encode: it fills an entity from fields. A field that the
// sort does not have is an error.
func Decode(d *cm.Description, id cm.ID, parts Fields, entity any) error {
	d.SetID(entity, id)
	for name, raw := range parts {
		head, own, apart := strings.Cut(name, "/")
		f := d.Member(head)
		if f == nil || apart != (f.Apart != cm.Whole) {
			return fmt.Errorf("field %q belongs to no %s", name, d.Kind)
		}
		into := f.Of(entity)
		switch f.Apart {
		case cm.ByMember:
			value := reflect.New(f.Type.Elem())
			if err := cm.DecodeStrictly(raw, value.Interface()); err != nil {
				return fmt.Errorf("field %q: %w", name, err)
			}
			if into.IsNil() {
				into.Set(reflect.MakeMap(f.Type))
			}
			into.SetMapIndex(reflect.ValueOf(own).Convert(f.Type.Key()), value.Elem())
		case cm.ByEnd:
			end := cm.End{ID: cm.ID(own)}
			if err := cm.DecodeStrictly(raw, &end.Concept); err != nil {
				return fmt.Errorf("field %q: %w", name, err)
			}
			into.Set(reflect.ValueOf(cm.SortEnds(append(into.Interface().([]cm.End), end))))
		default:
			if err := cm.DecodeStrictly(raw, into.Addr().Interface()); err != nil {
				return fmt.Errorf("field %q: %w", name, err)
			}
		}
	}
	return nil
}
