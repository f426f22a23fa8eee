package conceptmap_test

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
)

// A field that somebody adds to a concept takes one line: here it is added by
// reflection, and everything that treats entities alike finds it.
func TestANewFieldIsFoundEverywhere(t *testing.T) {
	var fields []reflect.StructField
	for f := range reflect.TypeFor[cm.Concept]().Fields() {
		fields = append(fields, f)
	}
	fields = append(fields,
		reflect.StructField{Name: "Motto", Type: reflect.TypeFor[cm.Text](), Tag: `json:"wallMotto,omitempty" mevrin:"limit=title"`},
		reflect.StructField{Name: "Weight", Type: reflect.TypeFor[float64](), Tag: `json:"weight,omitempty"`},
		reflect.StructField{Name: "Marks", Type: reflect.TypeFor[map[cm.ID]bool](), Tag: `json:"marks,omitempty" mevrin:"limit=icons"`},
		reflect.StructField{Name: "Tone", Type: reflect.TypeFor[cm.Colour](), Tag: `json:"tone,omitempty"`},
	)
	d := cm.DescribeType(cm.EntityConcept, reflect.StructOf(fields))
	require.Len(t, d.Members, len(cm.Describe(cm.EntityConcept).Members)+4)
	bell := d.New()
	read := func(into any, raw string) error { return json.Unmarshal([]byte(raw), into) }
	require.NoError(t, read(bell, `{"id":"bell","label":{"en":"bell"},"at":{"x":1,"y":2},"wallMotto":{"en":"  ring  ","de":"läute"},"weight":2.5,"marks":{"a":true,"b":true},"tone":"sea"}`))

	// Reading a document cleans texts and holds to limits.
	require.NoError(t, document.Check(d, "bell", bell))
	assert.Equal(t, "ring", d.Member("wallMotto").Of(bell).Interface().(cm.Text)["en"])
	for bad, says := range map[string]string{
		`{"wallMotto":{"en":"` + strings.Repeat("x", cm.MaxTitle+1) + `"}}`: "wall motto of a concept is too long",
		`{"wallMotto":{"EN":"x"}}`:                                 "no language",
		`{"marks":{"a":false}}`:                                    "has a marks",
		`{"marks":{"a":true,"b":true,"c":true,"d":true,"e":true}}`: "has a marks",
		`{"tone":"beige"}`:                                         "has a tone",
	} {
		other := d.New()
		require.NoError(t, read(other, bad))
		assert.ErrorContains(t, document.Check(d, "bell", other), says)
	}
	// The schema has them.
	schemas := document.MemberSchemas(d)
	for _, name := range []string{"wallMotto", "weight", "marks", "tone"} {
		assert.Contains(t, schemas, name)
	}
	// Changes hold them apart: a text by language, a set by member.
	next := d.Copy(bell)
	motto := d.Member("wallMotto").Of(next).Addr().Interface().(*cm.Text)
	*motto = motto.With("de", "")
	before, after := history.Compare(d, bell, next)
	assert.Equal(t, history.Fields{"wallMotto/de": json.RawMessage(`"läute"`)}, before)
	assert.Empty(t, after)
	all := history.Encode(d, bell)
	assert.Subset(t, slices.Collect(keysOf(all)), []string{"wallMotto/en", "wallMotto/de", "weight", "marks/a", "marks/b", "tone"})
	again := d.New()
	require.NoError(t, history.Decode(d, "bell", all, again))
	assert.Equal(t, bell, again)
	// A language, a search and a row find them too.
	assert.Len(t, d.Texts(bell), len(cm.Describe(cm.EntityConcept).Texts(&cm.Concept{}))+1)
	row, err := json.Marshal(bell)
	require.NoError(t, err)
	assert.Contains(t, string(row), `"weight":2.5`)
}

func keysOf(f history.Fields) func(yield func(string) bool) {
	return func(yield func(string) bool) {
		for name := range f {
			if !yield(name) {
				return
			}
		}
	}
}

// Every member of every sort of entity, whichever there are, is carried by changes, by
// their reverse and by documents, and has its schema.
func TestEveryMemberIsCarried(t *testing.T) {
	raw, err := document.Schema()
	require.NoError(t, err)
	for _, d := range cm.Entities {
		m := tower(t)
		id := cm.ID("new")
		entity := d.New()
		if d.Kind == cm.EntityMap {
			id, entity = m.ID, d.Copy(&m.Header)
		}
		d.SetID(entity, id)
		bare := m.Clone()
		d.Put(bare, id, entity)
		for i := range d.Members {
			f := &d.Members[i]
			what := fmt.Sprint(d.Kind, " ", f.Name)
			assert.Contains(t, string(raw), `"`+f.Name+`": {`, what)
			full := d.Copy(entity)
			fill(f.Of(full), 0)
			after := bare.Clone()
			d.Put(after, id, full)
			change := history.Difference(bare, after, cm.Key{Kind: d.Kind, ID: id})
			require.False(t, change.Nothing(), what)
			for _, name := range change.FieldNames() {
				head, _, _ := strings.Cut(name, "/")
				assert.Equal(t, f.Name, head)
			}
			replayed, err := history.Replay(bare, []history.Change{change})
			require.NoError(t, err, what)
			assert.Equal(t, doc(t, after), doc(t, replayed), what)
			back, err := history.Replay(after, history.Reversed([]history.Change{change}))
			require.NoError(t, err, what)
			assert.Equal(t, doc(t, bare), doc(t, back), what)
			if f.Type == reflect.TypeFor[cm.Text]() {
				out, err := edit.Apply(after, []edit.Operation{&edit.SetLanguage{Language: "de"}}, nil)
				require.NoError(t, err)
				assert.Equal(t, "filled", f.Of(d.Get(out.Map, id)).Interface().(cm.Text)["de"], what)
			}
		}
	}
}

// fill puts something into a value, whatever its type.
func fill(v reflect.Value, deep int) {
	if t, is := v.Addr().Interface().(*cm.Text); is {
		*t = cm.Text{"en": "filled"}
		return
	}
	switch v.Kind() {
	case reflect.String:
		v.SetString("filled")
	case reflect.Bool:
		v.SetBool(!v.Bool())
	case reflect.Int, reflect.Int64:
		v.SetInt(v.Int() + 1)
	case reflect.Float64:
		v.SetFloat(v.Float() + 1.5)
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem(), deep+1)
	case reflect.Slice:
		one := reflect.New(v.Type().Elem()).Elem()
		fill(one, deep+1)
		v.Set(reflect.Append(v, one))
	case reflect.Map:
		one := reflect.New(v.Type().Elem()).Elem()
		fill(one, deep+1)
		v.Set(reflect.MakeMap(v.Type()))
		v.SetMapIndex(reflect.ValueOf("filled").Convert(v.Type().Key()), one)
	case reflect.Struct:
		for i := range v.NumField() {
			fill(v.Field(i), deep+1)
		}
	}
}
