package edit

import (
	"regexp"
	"strings"
	"unicode/utf8"

	cm "mevrin/core/conceptmap"
)

// TakeText takes up text from outside for a concept: addresses in it become its sources; what
// is left is linked from it as an idea where it is short, and is quoted in its note where it is
// long. It says where the text went.
type TakeText struct {
	On    cm.ID   `json:"on"`
	Words string  `json:"words"`
	Lang  cm.Lang `json:"lang,omitempty"`
	// Quote takes it into the note, however short it is.
	Quote bool `json:"quote,omitempty"`
	// Source begins the names of the sources; the others are those of AddIdea.
	Source  cm.ID    `json:"source"`
	Concept cm.ID    `json:"concept"`
	Link    cm.ID    `json:"link"`
	Own     cm.ID    `json:"own"`
	Above   cm.ID    `json:"above"`
	At      cm.Point `json:"at"`
}

// What is longer than an idea, in characters, is a passage; of addresses no more than maxTaken
// are attached.
const (
	maxIdeaTaken = 80
	maxTaken     = 4
)

var addressIn = regexp.MustCompile(`(?i)(?:https?://|www\.)[^\s<>"]+[^\s<>".,;:!?)\]']`)

var afterSpace = regexp.MustCompile(`\s+[.,;:!?)\]]+$`)

func (op *TakeText) apply(d *editing) error {
	c, err := d.Concept(op.On)
	if err != nil {
		return err
	}
	name := d.Map.Words(c.Label)
	found := addressIn.FindAllString(op.Words, -1)
	rest := strings.TrimSpace(addressIn.ReplaceAllString(op.Words, ""))
	if len(found) > 0 { // what led to an address, and closed it
		rest = strings.TrimRight(afterSpace.ReplaceAllString(rest, ""), " \t\n:–—-")
	}
	if rest == "" && len(found) == 0 {
		return cm.Refusef("There is nothing on the clipboard that could go on a map.")
	}
	if err := op.attach(d, name, found); err != nil {
		return err
	}
	switch {
	case rest == "":
	case op.Quote || utf8.RuneCountInString(rest) > maxIdeaTaken || strings.Contains(rest, "\n"):
		if err := op.quote(d); err != nil {
			return err
		}
		d.Notice("The passage is in the note of “%s”.", name)
	default:
		idea := AddIdea{Concept: op.Concept, Words: rest, Lang: op.Lang, At: op.At, Under: op.On, Link: op.Link, Own: op.Own, Above: op.Above}
		if err := idea.apply(d); err != nil {
			return err
		}
		d.Notice("What you pasted is linked below “%s”.", name)
	}
	return nil
}

// attach makes addresses sources of the concept, but for those that it has.
func (op *TakeText) attach(d *editing, name string, found []string) error {
	attached := 0
	for _, address := range found {
		address, err := cm.CleanAddress(address)
		if err != nil || attached == maxTaken {
			continue
		}
		c, err := d.Concept(op.On)
		if err != nil {
			return err
		}
		known := false
		for _, s := range c.Sources {
			known = known || s.URL == address
		}
		if known {
			continue
		}
		id := op.Source
		if attached > 0 {
			id += cm.ID("-" + string(rune('0'+attached)))
		}
		add := AttachSource{On: cm.Key{Kind: cm.EntityConcept, ID: op.On}, ID: id, Source: cm.Source{URL: address}}
		if err := add.apply(d); err != nil {
			return err
		}
		attached++
	}
	switch {
	case len(found) > 0 && attached == 0:
		d.Notice("“%s” has that address already.", name)
	case attached > 0:
		d.Notice("The address is a source of “%s” now.", name)
	}
	return nil
}

// quote sets the passage off in the note; addresses in it lead somewhere there.
func (op *TakeText) quote(d *editing) error {
	passage := addressIn.ReplaceAllStringFunc(strings.TrimSpace(op.Words), func(found string) string {
		if address, err := cm.CleanAddress(found); err == nil {
			return "<" + address + ">"
		}
		return found
	})
	var note strings.Builder
	for line := range strings.Lines(strings.ReplaceAll(passage, "\r", "")) {
		note.WriteString(strings.TrimRight("> "+strings.TrimSpace(line), " ") + "\n")
	}
	set := SetNote{On: cm.Key{Kind: cm.EntityConcept, ID: op.On}, Lang: op.Lang, Note: strings.TrimSpace(note.String()), Append: true}
	return set.apply(d)
}
