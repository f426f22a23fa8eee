package conceptmap

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"sync"
	"unicode"
)

// Apart says how a member is taken apart into what can be written independently.
type Apart int

// The ways in which members are taken apart.
const (
	Whole    Apart = iota
	ByMember       // by its own members: a text by language; sets, sources, bends by ids
	ByEnd          // by the ends of a link
)

// Member is one member of an entity.
type Member struct {
	Name  string // in documents and changes
	Type  reflect.Type
	Apart Apart
	// Limit is how many characters (of a text, in each language), or own members it
	// may have at most; 0 where its type says that.
	Limit int
	// Needs is the sort of entity that its id names, which must be on the map.
	Needs Entity
	// Form is what a string or an amount must be beside fitting its type: see Forms.
	Form string

	index []int
	omit  omission
}

// Words gives the name of the member as it is read: "guide notes" for guideNotes.
func (f *Member) Words() string {
	var out strings.Builder
	for _, r := range f.Name {
		if unicode.IsUpper(r) {
			out.WriteByte(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return out.String()
}

// Of gives the value of the member in an entity.
func (f *Member) Of(entity any) reflect.Value {
	return f.In(reflect.ValueOf(entity).Elem())
}

// In gives the value of the member in a struct.
func (f *Member) In(v reflect.Value) reflect.Value { return v.FieldByIndex(f.index) }

// Absent tells whether a value of the member stands for nothing, so that it is not
// written.
func (f *Member) Absent(v reflect.Value) bool { return f.omit.absent(v) }

// Optional tells whether the member may be absent.
func (f *Member) Optional() bool { return f.omit != omitNever }

type omission int

const (
	omitNever omission = iota
	omitEmpty
	omitZero
)

// absent follows the options of encoding/json.
func (o omission) absent(v reflect.Value) bool {
	switch {
	case o == omitZero:
		return v.IsZero()
	case o == omitNever:
		return false
	}
	switch v.Kind() {
	case reflect.Map, reflect.Slice, reflect.String:
		return v.Len() == 0
	case reflect.Struct:
		return false
	}
	return v.IsZero()
}

var (
	TextType = reflect.TypeFor[Text]()
	refType  = reflect.TypeFor[Ref]()
	refsType = reflect.TypeFor[[]Ref]()
)

// MembersOf reads the members of a struct off its type and tags:
//
//   - json:"name,omitempty" as in encoding/json;
//   - mevrin:"limit=label" bounds it by one of Limits;
//   - mevrin:"needs=route" says that its id names what must be there;
//   - mevrin:"form=rank" asks for one of Forms.
//
// The id of an entity is no member of it.
func MembersOf(t reflect.Type) []Member {
	if known, is := members.Load(t); is {
		return known.([]Member)
	}
	all := readMembers(t)
	members.Store(t, all)
	return all
}

var members sync.Map // of []Member, by reflect.Type

func readMembers(t reflect.Type) []Member {
	var all []Member
	for field := range t.Fields() {
		name, options, _ := strings.Cut(field.Tag.Get("json"), ",")
		if field.Anonymous && name == "" { // encoding/json takes its members as the struct's own
			for _, inner := range MembersOf(field.Type) {
				inner.index = slices.Concat(field.Index, inner.index)
				all = append(all, inner)
			}
			continue
		}
		if name == "" || name == "-" || name == "id" && field.Name == "ID" && field.Type == reflect.TypeFor[ID]() {
			continue
		}
		m := Member{Name: name, Type: field.Type, index: field.Index}
		for option := range strings.SplitSeq(options, ",") {
			switch option {
			case "omitempty":
				m.omit = omitEmpty
			case "omitzero":
				m.omit = omitZero
			}
		}
		for option := range strings.SplitSeq(field.Tag.Get("mevrin"), ",") {
			key, value, _ := strings.Cut(option, "=")
			switch key {
			case "":
			case "limit":
				m.Limit = Limits[value]
			case "needs":
				m.Needs = Entity(value)
			case "form":
				m.Form = value
			default:
				panic("conceptmap: no tag is called " + key)
			}
		}
		switch {
		case field.Type.Kind() == reflect.Map:
			m.Apart = ByMember
		case field.Type == reflect.TypeFor[[]End]():
			m.Apart = ByEnd
		}
		all = append(all, m)
	}
	return all
}

// DecodeStrictly reads JSON and refuses members that the value does not have.
func DecodeStrictly(raw json.RawMessage, into any) error {
	from := json.NewDecoder(bytes.NewReader(raw))
	from.DisallowUnknownFields()
	return from.Decode(into)
}
