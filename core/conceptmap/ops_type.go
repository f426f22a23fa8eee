package conceptmap

import (
	"maps"
	"net/url"
	"strings"
)

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
	LeastSize  = -2
	MostSize   = 4
	LeastWidth = 40
	MostWidth  = 900
)

// setSoundly tells whether the label's setting is one that there is.
func (c *Concept) setSoundly() bool {
	return c.Size >= LeastSize && c.Size <= MostSize &&
		(c.Align == AlignCentre || c.Align == AlignLeft || c.Align == AlignRight) &&
		(c.Width == 0 || c.Width >= LeastWidth && c.Width <= MostWidth)
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

func (op *SetType) apply(d *draft) error {
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
		if !c.setSoundly() {
			return refusef("A label cannot be set that way.")
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

// MostSources bounds the sources of one concept, MostAddress the characters of
// an address.
const (
	MostSources = 100
	MostAddress = 2000
)

// cleanAddress gives a web address as it is stored: http or https, with a
// host, without spaces around it and without a name or password in it.
func cleanAddress(address string) (string, error) {
	address = strings.TrimSpace(address)
	if len(address) > MostAddress {
		return "", refusef("That web address is too long: at most %d characters fit.", MostAddress)
	}
	at, err := url.Parse(address)
	if err != nil || at.Scheme != "http" && at.Scheme != "https" || at.Hostname() == "" || at.User != nil || strings.ContainsAny(address, " \t\n\"<>") {
		return "", refusef("That is no web address. One begins with http:// or https://.")
	}
	return address, nil
}

// attach adds a source; an address that is there already is not doubled. The
// concept must be a copy.
func (c *Concept) attach(id ID, address string) error {
	for _, s := range c.Sources {
		if s.URL == address {
			return nil
		}
	}
	if _, taken := c.Sources[id]; taken || len(c.Sources) >= MostSources {
		return refusef("A concept can have at most %d sources, each with a name of its own.", MostSources)
	}
	next := maps.Clone(c.Sources)
	if next == nil {
		next = map[ID]Source{}
	}
	next[id] = Source{address}
	c.Sources = next
	return nil
}

// AttachSource attaches a web address to a concept.
type AttachSource struct {
	Concept ID     `json:"concept"`
	ID      ID     `json:"id"`
	URL     string `json:"url"`
}

func (op *AttachSource) apply(d *draft) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	if !op.ID.Valid() {
		return refusef("The new source came without a proper name of its own. Please reload the page.")
	}
	address, err := cleanAddress(op.URL)
	if err != nil {
		return err
	}
	for _, s := range c.Sources {
		if s.URL == address {
			return refusef("That address is attached to it already.")
		}
	}
	if err := c.attach(op.ID, address); err != nil {
		return err
	}
	d.putConcept(c)
	return nil
}

// DetachSource takes a source off a concept.
type DetachSource struct {
	Concept ID `json:"concept"`
	ID      ID `json:"id"`
}

func (op *DetachSource) apply(d *draft) error {
	c, err := d.concept(op.Concept)
	if err != nil {
		return err
	}
	if _, there := c.Sources[op.ID]; !there {
		return refusef("That source is gone already.")
	}
	c.Sources = maps.Clone(c.Sources)
	delete(c.Sources, op.ID)
	if len(c.Sources) == 0 {
		c.Sources = nil
	}
	d.putConcept(c)
	return nil
}
