package edit

import (
	"cmp"
	"encoding/json"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/document"
)

// Paste puts down a part of another map, or of this one as it was: concepts with all
// that was said of them, the links wholly between them, and the kinds and tags that they
// bear. Kinds and tags that this map has by name are used; others are added to it.
type Paste struct {
	// Document is the part, as the document of a map of its own (see Part).
	Document json.RawMessage `json:"document"`
	// As names what is made of each thing in the part.
	As map[cm.ID]cm.ID `json:"as"`
	By cm.Point        `json:"by"` // how far from where they stood they are wished
}

// Part gives concepts of a map, with all that Paste puts down with them, as a map of
// their own. It fails where none of them is on the map.
func Part(m *cm.Map, concepts []cm.ID) (*cm.Map, error) {
	part := partOf(m, concepts)
	for id, c := range part.Concepts {
		if c.Main != nil && part.Links[c.Main.Link] == nil {
			next := *c
			next.Main = nil // it hangs from what does not come along
			part.Concepts[id] = &next
		}
	}
	if len(part.Concepts) == 0 {
		return nil, cm.Refusef("What was copied is not on its map any more.")
	}
	return part, nil
}

func (op *Paste) apply(d *editing) error {
	whole, err := document.Read(op.Document)
	if err != nil {
		return err
	}
	// Whatever else the document holds does not come along.
	part := partOf(whole, cm.SortedIDs(whole.Concepts))
	here, err := op.key(d, part)
	if err != nil {
		return err
	}
	for id, c := range part.Concepts {
		next := *c
		next.Kind, next.Tags = here[c.Kind], nil
		for tag := range c.Tags {
			next.Tags = cm.WithMember(next.Tags, here[tag], true)
		}
		next.Label, next.Note, next.Remark = op.said(d, part, c.Label), op.said(d, part, c.Note), op.said(d, part, c.Remark)
		part.Concepts[id] = &next
	}
	for id, l := range part.Links {
		next := *l
		next.Kind = here[l.Kind]
		next.Phrase, next.Note = op.said(d, part, l.Phrase), op.said(d, part, l.Note)
		part.Links[id] = &next
	}
	return (&copying{d, part, op.As, op.By}).do()
}

// said lets words be read on a map of another language, too.
func (op *Paste) said(d *editing, part *cm.Map, words cm.Text) cm.Text {
	if words.Empty() || words[d.Map.Language] != "" {
		return words
	}
	return words.With(d.Map.Language, part.Words(words))
}

// key finds or makes the kinds and tags of the part, and gives by which each of them goes
// on this map.
func (op *Paste) key(d *editing, part *cm.Map) (map[cm.ID]cm.ID, error) {
	here := map[cm.ID]cm.ID{}
	take := func(id cm.ID, add Operation) error {
		if err := add.apply(d); err != nil {
			return err
		}
		here[id] = cmp.Or(d.meant[op.As[id]], op.As[id])
		return nil
	}
	for _, k := range part.Key() {
		err := take(k.ID, &AddKind{ID: op.As[k.ID], Name: part.Words(k.Name), Colour: k.Colour, Outline: k.Outline, Icon: k.Icon, Links: k.Links, Stroke: k.Stroke, Meaning: part.Words(k.Meaning), Role: k.Role, Reuse: true})
		if err != nil {
			return nil, err
		}
	}
	for _, t := range part.TagList() {
		if err := take(t.ID, &AddTag{ID: op.As[t.ID], Name: part.Words(t.Name), Colour: t.Colour, Reuse: true}); err != nil {
			return nil, err
		}
	}
	return here, nil
}
