package edit

import (
	"maps"
	"math"
	"slices"

	cm "mevrin/core/conceptmap"
	"mevrin/core/shade"
)

// SetHand says with which hand the map opens.
type SetHand struct {
	Hand cm.Hand `json:"hand"`
}

func (op *SetHand) apply(d *editing) error {
	if !op.Hand.Valid() {
		return cm.Refusef("There is no such hand.")
	}
	d.Map.Hand = op.Hand
	d.TouchHeader()
	return nil
}

// SetLanguage says in which language the author's words are. Words that stood
// under the former language stand under the new one then, unless the map has a
// translation there already.
type SetLanguage struct {
	Language cm.Lang `json:"language"`
}

func (op *SetLanguage) apply(d *editing) error {
	if !op.Language.Valid() {
		return cm.Refusef("That is not the name of a language.")
	}
	was := d.Map.Language
	if was == op.Language {
		return nil
	}
	d.Map.Language = op.Language
	d.TouchHeader()
	for _, sort := range cm.Entities {
		for _, id := range sort.IDs(d.Map) {
			next := sort.Copy(sort.Get(d.Map, id))
			followed := false
			for _, t := range sort.Texts(next) {
				if words := (*t)[was]; words != "" && (*t)[op.Language] == "" {
					*t = t.With(was, "").With(op.Language, words)
					followed = true
				}
			}
			if followed {
				d.Put(next)
			}
		}
	}
	return nil
}

// NameMap gives the map its title in one language.
type NameMap struct {
	Lang  cm.Lang `json:"lang,omitempty"`
	Title string  `json:"title"`
}

func (op *NameMap) apply(d *editing) error {
	title, err := cm.Clean(op.Title, cm.MaxTitle, "The title of a map")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.Map.Title = d.Map.Title.With(lang, title)
	d.TouchHeader()
	return nil
}

// Ask sets the focus question that the map answers; empty words remove it.
type Ask struct {
	Lang     cm.Lang `json:"lang,omitempty"`
	Question string  `json:"question"`
}

func (op *Ask) apply(d *editing) error {
	question, err := cm.Clean(op.Question, cm.MaxQuestion, "The focus question")
	if err != nil {
		return err
	}
	lang, err := d.lang(op.Lang)
	if err != nil {
		return err
	}
	d.Map.Question = d.Map.Question.With(lang, question)
	d.TouchHeader()
	return nil
}

// SetOpening says which branches are tucked away when somebody opens the map
// for the first time; none lets it open whole.
type SetOpening struct {
	Tucked []cm.ID `json:"tucked"`
}

func (op *SetOpening) apply(d *editing) error {
	next := map[cm.ID]bool{}
	for _, id := range op.Tucked {
		if _, err := d.Concept(id); err != nil {
			return err
		}
		next[id] = true
	}
	d.SetTucked(next)
	return nil
}

// SetRule says whether a rule of package check speaks on this map.
type SetRule struct {
	Rule string `json:"rule"`
	On   bool   `json:"on"`
}

func (op *SetRule) apply(d *editing) error { return setRule(d, op.Rule, op.On) }

func setRule(d *editing, rule string, on bool) error {
	if !cm.ID(rule).Valid() {
		return cm.Refusef("There is no rule of that name.")
	}
	next := maps.Clone(d.Map.RulesOff)
	switch {
	case on:
		delete(next, rule)
	case len(next) >= cm.MaxRulesOff:
		return cm.Refusef("At most %d rules can be switched off.", cm.MaxRulesOff)
	case next == nil:
		next = map[string]bool{rule: true}
	default:
		next[rule] = true
	}
	if len(next) == 0 {
		next = nil
	}
	d.Map.RulesOff = next
	d.TouchHeader()
	return nil
}

// SetRuleLeast says from how much on a rule speaks on this map; nil as it comes.
type SetRuleLeast struct {
	Rule  string   `json:"rule"`
	Least *float64 `json:"least"`
}

func (op *SetRuleLeast) apply(d *editing) error {
	if !cm.ID(op.Rule).Valid() {
		return cm.Refusef("There is no rule of that name.")
	}
	next := maps.Clone(d.Map.RuleLeast)
	switch {
	case op.Least == nil:
		delete(next, op.Rule)
	case math.IsNaN(*op.Least) || *op.Least <= 0 || *op.Least > cm.MaxRuleLeast:
		return cm.Refusef("That is a number above 0, and at most %d.", cm.MaxRuleLeast)
	case len(next) >= cm.MaxRulesOff:
		return cm.Refusef("At most %d rules can be set.", cm.MaxRulesOff)
	case next == nil:
		next = map[string]float64{op.Rule: *op.Least}
	default:
		next[op.Rule] = *op.Least
	}
	if len(next) == 0 {
		next = nil
	}
	d.Map.RuleLeast = next
	d.TouchHeader()
	return nil
}

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

// ColourLevel chooses the colour of a level, for where colours stand for levels; without a
// colour it has the usual one again. Levels beyond MaxLevelColours begin anew.
type ColourLevel struct {
	Level  int       `json:"level"` // from 1 to MaxLevelColours
	Colour cm.Colour `json:"colour,omitempty"`
}

func (op *ColourLevel) apply(d *editing) error {
	if op.Level < 1 || op.Level > cm.MaxLevelColours || !op.Colour.Valid() {
		return cm.Refusef("There is no such look.")
	}
	d.Map.Look.Levels[op.Level-1] = op.Colour
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
