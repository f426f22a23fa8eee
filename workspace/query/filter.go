package query

import (
	"encoding/json"
	"slices"

	cm "mevrin/core/conceptmap"
)

// filterWords says what a filter asks for.
func (s Reading) filterWords(f *cm.Filter) string {
	words, join := "", " "+s.t("and")+" "
	if f.Match == cm.MatchAny {
		join = " " + s.t("or") + " "
	}
	for i, c := range f.Conditions {
		if i > 0 {
			words += join
		}
		if c.Not {
			words += s.t("not") + " "
		}
		words += s.conditionWords(c)
	}
	return words
}

func (s Reading) conditionWords(c cm.Condition) string {
	named := func(none, sort string, name cm.Text, there bool) string {
		switch {
		case c.Value == "":
			return s.t(none)
		case !there:
			return s.t("a " + sort + " that is gone")
		}
		return s.Map.Words(name)
	}
	id := cm.ID(c.Value)
	switch c.About {
	case cm.AboutKind:
		k, there := s.Map.Kinds[id]
		if k == nil {
			k = &cm.Kind{}
		}
		return named("without a kind", "kind", k.Name, there)
	case cm.AboutTag:
		t, there := s.Map.Tags[id]
		if t == nil {
			t = &cm.Tag{}
		}
		return named("without a tag", "tag", t.Name, there)
	case cm.AboutRegion:
		r, there := s.Map.Regions[id]
		if r == nil {
			r = &cm.Region{}
		}
		return s.t("in %s", named("no region", "region", r.Title, there))
	case cm.AboutBranch:
		return s.t("below %s", s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}))
	case cm.AboutLevel:
		return s.t("on level %s", c.Value)
	case cm.AboutWords:
		return s.t("says “%s”", c.Value)
	}
	return s.t(hasWords[c.Value])
}

var hasWords = map[string]string{"note": "with a note", "remark": "with a remark", "source": "with a source", "time": "with a time", "task": "with a task", "open-task": "with something to do",
	"comment": "with comments", "vote": "with votes", "holds": "in a sentence judged to hold", "in-part": "in a sentence judged to hold in part", "does-not-hold": "in a sentence judged not to hold",
	"not-sure": "in a sentence of which one was not sure", "not-judged": "in a sentence that nobody judged"}

// filterLens shows what a filter asks for: one that is kept, one in the making, or
// all of one kind or tag.
func (s Reading) filterLens(asked LensAsked) (*Lens, error) {
	f := &cm.Filter{Match: cm.MatchAll}
	title := s.t("Shown")
	switch kept, kind, tag := s.Map.Filters[asked.Filter], s.Map.Kinds[asked.Kind], s.Map.Tags[asked.Tag]; {
	case kept != nil:
		f, title = kept, s.Map.Words(kept.Name)
	case kind != nil && kind.Links:
		return s.linkKindLens(kind), nil
	case kind != nil:
		f.Conditions = []cm.Condition{{About: cm.AboutKind, Value: string(kind.ID)}}
	case tag != nil:
		f.Conditions = []cm.Condition{{About: cm.AboutTag, Value: string(tag.ID)}}
	case slices.Contains(cm.Has, asked.Has):
		f.Conditions = []cm.Condition{{About: cm.AboutHas, Value: asked.Has}}
	default:
		if err := json.Unmarshal([]byte(asked.Conditions), f); err != nil {
			return nil, cm.Refusef("This filter did not arrive whole. Please reload the page.")
		}
		if err := f.Sound(); err != nil {
			return nil, err
		}
	}
	found := s.Structure.Matches(f)
	v := &Lens{Title: title, Says: s.filterWords(f) + ": " + s.t("%d concepts", len(found)), Hide: f.Hide, Keep: []string{}}
	if len(f.Conditions) == 0 {
		v.Says = s.t("%d concepts", len(found))
	}
	for _, id := range cm.SortedIDs(found) {
		v.Keep = append(v.Keep, "c-"+string(id))
	}
	for _, id := range s.Structure.Within(found) {
		v.Keep = append(v.Keep, "l-"+string(id))
	}
	return v, nil
}

func (s Reading) linkKindLens(k *cm.Kind) *Lens {
	v := &Lens{Title: s.Map.Words(k.Name), Keep: []string{}}
	n := 0
	for _, id := range cm.SortedIDs(s.Map.Links) {
		if l := s.Map.Links[id]; l.Kind == k.ID {
			n++
			v.Keep = append(v.Keep, "l-"+string(id))
			for _, e := range l.Ends() {
				v.Keep = append(v.Keep, "c-"+string(e.Concept))
			}
		}
	}
	v.Says = s.t("%d links", n)
	return v
}
