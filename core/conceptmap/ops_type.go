package conceptmap

// Align says at which side the lines of a label begin or end.
type Align string

// The three ways to align a label.
const (
	AlignCentre Align = ""
	AlignLeft   Align = "left"
	AlignRight  Align = "right"
)

// The bounds of a label's setting: steps of size, and width in pixels.
const (
	MinSize  = -2
	MaxSize  = 4
	MinWidth = 40
	MaxWidth = 900
)

// Sound tells what is wrong with how a concept's label is set.
func (c *Concept) Sound() error {
	if c.Size >= MinSize && c.Size <= MaxSize &&
		(c.Align == AlignCentre || c.Align == AlignLeft || c.Align == AlignRight) &&
		(c.Width == 0 || c.Width >= MinWidth && c.Width <= MaxWidth) {
		return nil
	}
	return Refusef("A label cannot be set that way.")
}

// SetType sets the labels of concepts: what is nil stays as it is.
type SetType struct {
	Concepts []ID     `json:"concepts"`
	Size     *int     `json:"size,omitempty"`
	Bold     *bool    `json:"bold,omitempty"`
	Italic   *bool    `json:"italic,omitempty"`
	Align    *Align   `json:"align,omitempty"`
	Width    *float64 `json:"width,omitempty"`
}

func (op *SetType) apply(d *editing) error {
	for _, id := range op.Concepts {
		c, err := d.concept(id)
		if err != nil {
			return err
		}
		set(&c.Size, op.Size)
		set(&c.Bold, op.Bold)
		set(&c.Italic, op.Italic)
		set(&c.Align, op.Align)
		set(&c.Width, op.Width)
		if err := c.Sound(); err != nil {
			return err
		}
		d.putConcept(c)
	}
	return nil
}

func set[V any](field *V, to *V) {
	if to != nil {
		*field = *to
	}
}
