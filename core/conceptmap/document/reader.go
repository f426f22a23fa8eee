package document

import (
	"encoding/json"
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"reflect"
)

// reader puts the entities of a document on a map and keeps the first fault.
type reader struct {
	*draft.Draft
	err error
}

func (r *reader) fail(err error) {
	if r.err == nil && err != nil {
		r.err = err
	}
}

// entity reads one entity of a sort and puts it on the map.
func (r *reader) entity(d *cm.Description, raw json.RawMessage) {
	if r.err != nil {
		return
	}
	entity := d.New()
	if err := cm.DecodeStrictly(raw, entity); err != nil {
		r.fail(unsound(err))
		return
	}
	id := d.IDOf(entity)
	if err := r.Free(id); err != nil {
		r.fail(cm.Refusef("Two things on this map have the id “%.40s”, or it is no id: a %s.", id, d.Kind))
		return
	}
	if l, is := entity.(*cm.Link); is {
		l.From, l.To = cm.SortEnds(l.From), cm.SortEnds(l.To)
	}
	if r.fail(Check(d, id, entity)); r.err == nil {
		r.Put(entity)
	}
}

// Check cleans the texts of an entity, rounds its places, and says what of it is not
// sound. What it needs on a map is another question.
func Check(d *cm.Description, id cm.ID, entity any) error {
	which := "The " + string(d.Kind)
	if id != "" {
		which += " “" + string(id) + "”"
	}
	for i := range d.Members {
		f := &d.Members[i]
		v := f.Of(entity)
		if f.Absent(v) {
			continue
		}
		if err := checkMember(f, v, "The "+f.Words()+" of a "+string(d.Kind)); err != nil {
			return err
		}
		if !soundMember(f, v) {
			return cm.Refusef("%s has a %s that can be none, or that this version does not know.", which, f.Words())
		}
	}
	if own, is := entity.(interface{ Sound() error }); is {
		if err := own.Sound(); err != nil {
			return cm.Refusef("%s is not sound. %s", which, err)
		}
	}
	return nil
}

// references looks whether everything is there that something needs.
func (r *reader) references() {
	for _, d := range cm.Entities {
		for _, id := range d.IDs(r.Map) {
			for _, need := range d.Needs(d.Get(r.Map, id)) {
				if r.err == nil && !r.Map.Has(need) {
					r.fail(cm.Refusef("The %s “%.40s” needs the %s “%.40s”, which is not on the map.", d.Kind, id, need.Kind, need.ID))
				}
			}
		}
	}
	for _, c := range r.Map.Comments {
		if first := r.Map.Comments[c.Answers]; first != nil && first.Answers != "" {
			r.fail(cm.Refusef("The comment “%.40s” answers one that is itself an answer.", c.ID))
		}
	}
}

// checkMember cleans the texts in a value of a member, however deep, and rounds places.
func checkMember(f *cm.Member, v reflect.Value, what string) error {
	switch at := v.Addr().Interface().(type) {
	case *cm.Text:
		clean, err := cleanText(*at, f.Limit, what)
		*at = clean
		return err
	case *cm.Point:
		clean, err := cm.CleanPoint(*at)
		*at = clean
		return err
	}
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			return checkMember(f, v.Elem(), what)
		}
	case reflect.Slice:
		for i := range v.Len() {
			if err := checkMember(f, v.Index(i), what); err != nil {
				return err
			}
		}
	case reflect.Map:
		for entry := v.MapRange(); entry.Next(); {
			if entry.Value().Kind() == reflect.Slice { // bends
				own := entry.Value()
				for i := range own.Len() {
					if err := checkMember(f, own.Index(i), what); err != nil {
						return err
					}
				}
			}
		}
	case reflect.Struct:
		for _, own := range cm.MembersOf(v.Type()) {
			if err := checkMember(&own, own.In(v), what); err != nil {
				return err
			}
		}
	}
	return nil
}

// soundMember tells whether a value of a member is one that can be: in its form, within
// its limit, and by what its type says itself.
func soundMember(f *cm.Member, v reflect.Value) bool {
	if f.Form != "" && !cm.Forms[f.Form](v.Interface()) {
		return false
	}
	if own, is := v.Interface().(interface{ Valid() bool }); is && !own.Valid() {
		return false
	}
	switch v.Kind() {
	case reflect.String:
		if f.Limit == 0 {
			return true
		}
		clean, err := cm.Clean(v.String(), f.Limit, "")
		return err == nil && clean == v.String()
	case reflect.Slice:
		for i := range v.Len() {
			if !soundMember(&cm.Member{Type: f.Type.Elem()}, v.Index(i)) {
				return false
			}
		}
		return f.Limit == 0 || v.Len() <= f.Limit
	case reflect.Map:
		if v.Type() == cm.TextType {
			return true
		}
		for entry := v.MapRange(); entry.Next(); {
			own := entry.Value()
			if !cm.ID(entry.Key().String()).Valid() || own.Kind() == reflect.Bool && !own.Bool() && f.Form != "ballot" || !soundMember(&cm.Member{Type: f.Type.Elem()}, own) {
				return false
			}
		}
		return f.Limit == 0 || v.Len() <= f.Limit
	case reflect.Struct:
		for _, own := range cm.MembersOf(v.Type()) {
			if inner := own.In(v); !own.Absent(inner) && !soundMember(&own, inner) {
				return false
			}
		}
	case reflect.Pointer:
		return v.IsNil() || soundMember(&cm.Member{Type: f.Type.Elem()}, v.Elem())
	}
	return true
}

// cleanText cleans a text in all of its languages.
func cleanText(t cm.Text, most int, what string) (cm.Text, error) {
	var clean cm.Text
	for lang, words := range t {
		if !lang.Valid() {
			return nil, cm.Refusef("%s is given in “%.40s”, which is no language.", what, lang)
		}
		words, err := cm.Clean(words, most, what)
		if err != nil {
			return nil, err
		}
		clean = clean.With(lang, words)
	}
	return clean, nil
}
