package edit

import (
	"bytes"
	"encoding/json"
	"errors"
	"maps"
	"reflect"
	"slices"

	cm "mevrin/core/conceptmap"
)

// Operations are those of one entry as they travel: read once, with what was sent kept
// beside them for the record.
type Operations struct {
	List []Operation
	Sent json.RawMessage
}

// UnmarshalJSON reads a list of operations. Whatever does not have the form of one
// refuses all of them, with a *conceptmap.Refusal.
func (o *Operations) UnmarshalJSON(raw []byte) (err error) {
	o.Sent = bytes.Clone(raw)
	o.List, err = ReadOperations(raw)
	return err
}

// MarshalJSON writes the operations as they were sent.
func (o Operations) MarshalJSON() ([]byte, error) {
	if o.Sent == nil {
		return MarshalOperations(o.List)
	}
	return o.Sent, nil
}

// Sent gives operations that are made here as if they had been sent.
func Sent(ops ...Operation) (Operations, error) {
	raw, err := MarshalOperations(ops)
	return Operations{ops, raw}, err
}

// wire is how operations of one kind are read and written: a struct with the name in
// "do" and, beside it, all that the operation holds.
type wire struct {
	name   string
	op     reflect.Type
	form   reflect.Type
	fields [][]int // of the operation, for those of the form from the second on
}

var wiresByName, wiresByType = func() (map[string]*wire, map[reflect.Type]*wire) {
	byName, byType := map[string]*wire{}, map[reflect.Type]*wire{}
	for name, op := range operations {
		w := &wire{name: name, op: reflect.TypeOf(op).Elem()}
		form := []reflect.StructField{{Name: "Do", Type: reflect.TypeFor[string](), Tag: `json:"do"`}}
		for _, f := range reflect.VisibleFields(w.op) {
			if f.Anonymous || !f.IsExported() {
				continue
			}
			w.fields = append(w.fields, f.Index)
			form = append(form, reflect.StructField{Name: f.Name, Type: f.Type, Tag: f.Tag})
		}
		w.form = reflect.StructOf(form)
		byName[name], byType[reflect.TypeOf(op)] = w, w
	}
	return byName, byType
}()

// ReadOperations reads a JSON list of operations. Whatever does not have the
// form of one is refused whole.
func ReadOperations(raw []byte) ([]Operation, error) {
	var parts []json.RawMessage
	if err := json.Unmarshal(raw, &parts); err != nil {
		return nil, cm.Refusef("This change did not arrive in a form that can be read. Please reload the page and try again.")
	}
	if len(parts) > MaxOperations {
		return nil, cm.Refusef("That is too much at once: at most %d steps fit into one change.", MaxOperations)
	}
	ops := make([]Operation, len(parts))
	for i, part := range parts {
		op, err := readOperation(part)
		if err != nil {
			return nil, err
		}
		ops[i] = op
	}
	return ops, nil
}

func readOperation(part json.RawMessage) (Operation, error) {
	var named struct {
		Do string `json:"do"`
	}
	broken := cm.Refusef("This change did not arrive whole. Please reload the page and try again.")
	if err := json.Unmarshal(part, &named); err != nil {
		return nil, errors.Join(broken, err)
	}
	w, known := wiresByName[named.Do]
	if !known {
		return nil, cm.Refusef("This change asks for something that this version does not know. Please reload the page.")
	}
	form := reflect.New(w.form)
	if err := cm.DecodeStrictly(part, form.Interface()); err != nil {
		return nil, errors.Join(broken, err)
	}
	op := reflect.New(w.op)
	for i, index := range w.fields {
		op.Elem().FieldByIndex(index).Set(form.Elem().Field(i + 1))
	}
	return op.Interface().(Operation), nil
}

// MarshalOperations writes operations as ReadOperations reads them.
func MarshalOperations(ops []Operation) (json.RawMessage, error) {
	forms := make([]any, len(ops))
	for i, op := range ops {
		w := wiresByType[reflect.TypeOf(op)]
		form := reflect.New(w.form).Elem()
		form.Field(0).SetString(w.name)
		for i, index := range w.fields {
			form.Field(i + 1).Set(reflect.ValueOf(op).Elem().FieldByIndex(index))
		}
		forms[i] = form.Interface()
	}
	return json.Marshal(forms)
}

// Forms gives, by its name, the struct that each kind of operation travels as: the name
// in "do", and beside it all that the operation holds.
func Forms() (names []string, forms map[string]reflect.Type) {
	forms = map[string]reflect.Type{}
	for name, w := range wiresByName {
		forms[name] = w.form
	}
	return slices.Sorted(maps.Keys(forms)), forms
}
