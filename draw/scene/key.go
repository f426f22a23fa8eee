package scene

import (
	"strconv"

	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/face"
)

// Key is the key of a map on its paper: what its colours, outlines, lines and
// tags mean.
type Key struct {
	Box    Rect
	Folded bool
	Rows   []KeyRow
}

// KeyRow is a line of the key.
type KeyRow struct {
	ID    cm.ID
	Y     float64 // of its middle, from the upper edge of the key
	Words string
	Count int // of the concepts or links of that kind
	// One of these is what it looks like: a kind, a tag, an icon, or else a colour alone.
	Kind   *cm.Kind
	Tag    *cm.Tag
	Icon   cm.Icon
	Colour cm.Colour // of a kind none where colours stand for something else
}

// The measures of a key, in pixels: of its rows, of what they look like, and of
// its heading. KeyType is the size of its words.
const (
	KeyType   = 13.5
	KeyHead   = 30.0
	KeyRowH   = 27.0
	KeySample = 44.0
	keyPad    = 12.0
	keyBelow  = 48.0 // the map
	keyApart  = 20.0 // from what is drawn
	keyFolded = 84.0
)

// keyOf draws the key where the author put it, or else below the map at the left;
// nil where the map has none or it is not on the paper.
func keyOf(m *cm.Map, s *structure.Structure, sc *Scene, v View) *Key {
	place := cm.KeyPlace{}
	if m.KeyPlace != nil {
		place = *m.KeyPlace
	}
	if place.Away {
		return nil
	}
	k := keyIn(m, s, v, place.Folded, false)
	switch {
	case k == nil:
	case place.At != nil:
		k.Box.X, k.Box.Y = place.At.X, place.At.Y
	default:
		sc.settleKey(k)
	}
	return k
}

// KeyAlone draws the key for those who only look at a map: unfolded, with what is on the map
// and nothing else; nil where there is nothing to tell.
func KeyAlone(m *cm.Map, s *structure.Structure, v View) *Key {
	if k := keyIn(m, s, v, false, true); k != nil && len(k.Rows) > 0 {
		return k
	}
	return nil
}

// keyIn draws the key at the origin; with used, without rows that stand for nothing on the map.
func keyIn(m *cm.Map, s *structure.Structure, v View, folded, used bool) *Key {
	degrees := degreesOn(m)
	if len(m.Kinds)+len(m.Tags)+len(degrees) == 0 && m.Look.By == cm.ByKind {
		return nil
	}
	count := map[cm.ID]int{}
	for _, c := range m.Concepts {
		count[c.Kind]++
		for t := range c.Tags {
			count[t]++
		}
	}
	for _, l := range m.Links {
		count[l.Kind]++
	}
	k := &Key{Folded: folded, Box: Rect{W: keyFolded, H: KeyHead}}
	row := func(r KeyRow) {
		if r.Count == 0 {
			r.Count = count[r.ID]
		}
		if !k.Folded && (!used || r.Count > 0) {
			r.Y = k.Box.H + KeyRowH/2
			k.Box.H += KeyRowH
			wide := face.Measure(face.Noun, KeyType, r.Words).Px + face.Measure(face.Noun, KeyType, strconv.Itoa(r.Count)).Px
			k.Box.W = max(k.Box.W, 2*keyPad+KeySample+10+wide+14)
			k.Rows = append(k.Rows, r)
		}
	}
	for _, r := range coloursMean(m, s, v) {
		row(r)
	}
	for _, kind := range m.Key() {
		r := KeyRow{ID: kind.ID, Words: kind.Name.For(v.Lang, m.Language), Kind: kind}
		if m.Look.By == cm.ByKind || kind.Links {
			r.Colour = kind.Colour
		}
		row(r)
	}
	for _, tag := range m.TagList() {
		row(KeyRow{ID: tag.ID, Words: tag.Name.For(v.Lang, m.Language), Tag: tag})
	}
	for _, r := range degrees {
		row(r)
	}
	if !k.Folded {
		k.Box.H += keyPad / 2
	}
	return k
}

// degreesOn gives the rows of the key for the degrees of scales that stand on slips.
func degreesOn(m *cm.Map) []KeyRow {
	count := map[cm.Icon]int{}
	for _, c := range m.Concepts {
		for _, i := range c.Icons {
			count[i]++
		}
	}
	var rows []KeyRow
	for _, s := range cm.Scales {
		for _, d := range s.Degrees {
			if n := count[d.Icon]; n > 0 {
				rows = append(rows, KeyRow{Words: t(d.Means), Icon: d.Icon, Count: n})
			}
		}
	}
	return rows
}

// settleKey puts the key into a corner of the drawing that is free, or else below
// it at the left.
func (sc *Scene) settleKey(k *Key) {
	whole := sc.Bounds()
	right, low := whole.X+whole.W-k.Box.W, whole.Y+whole.H-k.Box.H
	for _, at := range []Point{{X: whole.X, Y: low}, {X: right, Y: low}, {X: whole.X, Y: whole.Y}, {X: right, Y: whole.Y}} {
		k.Box.X, k.Box.Y = at.X, at.Y
		if sc.free(k.Box.Grown(keyApart, keyApart)) {
			return
		}
	}
	k.Box.X, k.Box.Y = whole.X, whole.Y+whole.H+keyBelow
}

// free tells whether nothing is drawn within a box.
func (sc *Scene) free(box Rect) bool {
	for _, s := range sc.Slips {
		if s.Box.Meets(box) {
			return false
		}
	}
	for _, r := range sc.Regions {
		for _, part := range r.Parts {
			for _, p := range part {
				if box.Holds(p) {
					return false
				}
			}
		}
	}
	for _, l := range sc.Links {
		if l.Gap.Meets(box) {
			return false
		}
		for _, leg := range l.Legs {
			for i := range 25 {
				if box.Holds(leg.Path.At(float64(i) / 24 * float64(len(leg.Path)))) {
					return false
				}
			}
		}
	}
	return true
}

// Pad is the room within the edges of the key.
func (k *Key) Pad() float64 { return keyPad }
