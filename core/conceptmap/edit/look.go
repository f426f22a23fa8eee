package edit

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/shade"
	"slices"
)

// SetLook changes the look of the map: what is nil stays as it is. Plain first
// takes everything back to the plain look.
type SetLook struct {
	Plain   bool           `json:"plain,omitempty"`
	Theme   *cm.Theme      `json:"dress,omitempty"`
	Own     *cm.OwnColours `json:"own,omitempty"` // with ThemeOwn
	Paper   *cm.Paper      `json:"paper,omitempty"`
	Picture *cm.Backdrop   `json:"picture,omitempty"`
	Line    *cm.Line       `json:"line,omitempty"`
	Large   *bool          `json:"large,omitempty"`
	By      *cm.ColourBy   `json:"by,omitempty"`
}

func (op *SetLook) apply(d *editing) error {
	next := d.Map.Look
	if op.Plain {
		next = cm.Look{}
	}
	set(&next.Theme, op.Theme)
	set(&next.Paper, op.Paper)
	if op.Picture != nil {
		next.Picture = op.Picture
	}
	if next.Paper != cm.PaperPicture {
		next.Picture = nil
	}
	if op.Own != nil {
		next.Theme, next.Own = cm.ThemeOwn, op.Own
	}
	if next.Theme != cm.ThemeOwn {
		next.Own = nil
	}
	if err := d.correctInk(&next); err != nil {
		return err
	}
	set(&next.Line, op.Line)
	set(&next.Large, op.Large)
	set(&next.By, op.By)
	if !next.Valid() {
		return cm.Refusef("There is no such look.")
	}
	d.Map.Look = next
	d.TouchHeader()
	return nil
}

// correctInk moves the ink of colours of one's own until it can be read.
func (d *editing) correctInk(l *cm.Look) error {
	if l.Own == nil {
		return nil
	}
	if !l.Own.Valid() {
		return cm.Refusef("A colour is written as six digits behind a hash, from #000000 to #ffffff.")
	}
	next, ok := l.Own.Corrected(l.Paper == cm.PaperPicture)
	if !ok {
		return cm.Refusef("No ink can be read on this paper and on these slips alike. Choose them more alike, or lighter, or darker.")
	}
	if next.Ink != l.Own.Ink {
		d.Notice(map[bool]string{true: "The ink was made darker, so that words can be read: %s.", false: "The ink was made lighter, so that words can be read: %s."}[shade.Luminance(next.Ink) < shade.Luminance(l.Own.Ink)], next.Ink)
	}
	l.Own = &next
	return nil
}

// SetPaint changes how concepts look for themselves: what is nil stays as it is.
// Clear first takes back all of it: they look as their kind again.
type SetPaint struct {
	Concepts []cm.ID     `json:"concepts"`
	Clear    bool        `json:"clear,omitempty"`
	Words    *cm.Colour  `json:"words,omitempty"`
	Fill     *cm.Colour  `json:"fill,omitempty"`
	Border   *cm.Colour  `json:"border,omitempty"`
	Outline  *cm.Outline `json:"outline,omitempty"`
	// Below lets what hangs from a concept follow it, but for what had been set apart:
	// what looked otherwise than the concept did.
	Below bool `json:"below,omitempty"`
}

func (op *SetPaint) apply(d *editing) error {
	follow := map[cm.ID]bool{} // what looked so before, and hangs from one of the concepts
	for _, id := range op.Concepts {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if op.Below {
			for below, was := range d.Map.Concepts {
				if below != id && d.Under(below, id) && samePaint(was.Paint, c.Paint) {
					follow[below] = true
				}
			}
		}
	}
	for _, id := range slices.Concat(op.Concepts, cm.SortedIDs(follow)) {
		c, err := d.Concept(id)
		if err != nil {
			return err
		}
		if err := op.paint(c); err != nil {
			return err
		}
		d.Put(c)
	}
	return nil
}

func (op *SetPaint) paint(c *cm.Concept) error {
	next := cm.Paint{}
	if c.Paint != nil && !op.Clear {
		next = *c.Paint
	}
	set(&next.Words, op.Words)
	set(&next.Fill, op.Fill)
	set(&next.Border, op.Border)
	if op.Outline != nil {
		next.Outline = op.Outline
	}
	if c.Paint = &next; next == (cm.Paint{}) {
		c.Paint = nil
	}
	if !c.Paint.Valid() {
		return cm.Refusef("There is no such colour or outline.")
	}
	return nil
}

func samePaint(a, b *cm.Paint) bool {
	if a == nil || b == nil {
		return a == b
	}
	outline := func(p *cm.Paint) cm.Outline {
		if p.Outline == nil {
			return "as its kind"
		}
		return *p.Outline
	}
	return a.Words == b.Words && a.Fill == b.Fill && a.Border == b.Border && outline(a) == outline(b)
}
