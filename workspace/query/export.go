package query

import (
	"errors"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/message"
	"mevrin/format/content"
	"mevrin/format/formats"
)

// Exporting is the page from which a map leaves.
type Exporting struct {
	MapID              cm.ID
	Title              string
	Uses               []Choice
	Use                string
	Formats            []*formats.Format
	Format             *formats.Format
	What               string
	Chosen             string   // the concepts that were selected, parted by commas
	Whats              []Choice // parts of the map
	Options            content.Options
	Loses              []string
	Sheets             []string
	Name               string // of the file
	Drawn              bool   // the preview is the drawing
	Text               string // or how the file begins
	Prose              bool   // which is CommonMark, to be shown as it reads
	None               string // why there is nothing to write
	Links              []Link // addresses at which the picture stays current
	Origin             string // where this Mevrin is reached
	Outline            bool   // an outline is wanted in a PDF
	Judged, WithJudged bool   // there are judgements, and they are wanted
	Talk, WithTalk     bool   // something was said of the map, and it is wanted
	File, Preview      string // the addresses of the file and of its preview
}

// previewLength is how many characters of a file are shown before it is taken.
const previewLength = 3000

// Exporting says what can be made of a map, and how a file would look; chosen are the concepts that are
// selected on its page.
func (s Reading) Exporting(e *content.Export, f *formats.Format, use, what string, chosen []cm.ID) Exporting {
	v := Exporting{MapID: s.Map.ID, Title: s.Map.Name(), Use: use, Format: f, What: what, Options: e.Options, Sheets: formats.Sheets()}
	for _, u := range formats.Uses {
		v.Uses = append(v.Uses, Choice{string(u.ID), u.Title, ""})
	}
	for _, one := range formats.All {
		if string(one.Use) == use {
			v.Formats = append(v.Formats, one)
		}
	}
	v.Whats = append(v.Whats, Choice{"", s.t("the whole map"), ""})
	if len(chosen) > 0 {
		var ids []string
		for _, id := range chosen {
			ids = append(ids, string(id))
		}
		v.Chosen = strings.Join(ids, ",")
		v.Whats = append(v.Whats, Choice{"only " + v.Chosen, s.t("what is selected"), ""})
		if len(chosen) == 1 {
			v.Whats = append(v.Whats, Choice{"branch " + ids[0], s.t("the branch of “%s”", s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: chosen[0]})), ""})
		}
	}
	for _, id := range cm.SortedIDs(s.Map.Regions) {
		v.Whats = append(v.Whats, Choice{"region " + string(id), s.t("the region “%s”", s.Map.Words(s.Map.Regions[id].Title)), ""})
	}
	for _, id := range cm.SortedIDs(s.Map.Routes) {
		v.Whats = append(v.Whats, Choice{"route " + string(id), s.t("the route “%s”", s.Map.Words(s.Map.Routes[id].Title)), ""})
	}
	if what != "" && !slices.ContainsFunc(v.Whats, func(c Choice) bool { return c.Value == what }) {
		v.Whats = append(v.Whats, Choice{what, s.t("what was chosen"), ""})
	}
	for _, part := range f.Loses() {
		v.Loses = append(v.Loses, s.t(string(part)))
	}
	v.Judged, v.Talk = len(s.Map.Judgements) > 0, s.Map.Discussed()
	if f.Needs != nil {
		if err := f.Needs(e); err != nil {
			v.refused(err, s.Say)
			return v
		}
	}
	v.Drawn = f.Use == formats.UsePrint || f.Use == formats.UseShow || f.Use == formats.UseTeach
	if v.Drawn {
		return v
	}
	as := f.ReadableAs()
	if as == nil {
		return v
	}
	v.Prose = as != f && as.ID == "md"
	raw, err := as.Write(e)
	if err != nil {
		v.refused(err, s.Say)
		return v
	}
	v.Text = cm.Shortened(strings.TrimPrefix(string(raw[:min(len(raw), 4*previewLength)]), "\ufeff"), previewLength)
	return v
}

// refused says why there is nothing to write.
func (v *Exporting) refused(err error, say *message.Printer) {
	var refusal *cm.Refusal
	if errors.As(err, &refusal) {
		v.None = refusal.In(say)
	}
}

// Wants tells whether an option concerns the format.
func (v Exporting) Wants(option string) bool { return slices.Contains(v.Format.Wants, option) }
