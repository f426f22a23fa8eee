package maptest

import (
	"strings"

	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// kinds draws operations on the key and the hand.
func (a *Author) kinds(t *rapid.T, m *cm.Map, concept cm.ID, lang cm.Lang, words string) edit.Operation {
	kind, link := pick(t, m.Kinds), pick(t, m.Links)
	colour, outline := rapid.SampledFrom(cm.Colours).Draw(t, "colour"), rapid.SampledFrom(cm.Outlines).Draw(t, "outline")
	stroke, icon := rapid.SampledFrom(cm.Strokes).Draw(t, "stroke"), rapid.SampledFrom([]cm.Icon{"", "bell", "flask-conical"}).Draw(t, "icon")
	role := rapid.SampledFrom([]cm.Role{"", "argument.claim", "argument.evidence"}).Draw(t, "role")
	if len(m.Kinds) == 0 || rapid.IntRange(0, 2).Draw(t, "more") == 0 {
		if rapid.IntRange(0, 2).Draw(t, "of links") == 0 {
			return &edit.AddKind{ID: a.id("k"), Lang: lang, Name: words, Colour: colour, Links: true, Stroke: stroke}
		}
		return &edit.AddKind{ID: a.id("k"), Lang: lang, Name: words, Colour: colour, Outline: outline, Icon: icon}
	}
	yes := rapid.Bool().Draw(t, "yes")
	return rapid.SampledFrom([]edit.Operation{
		&edit.SetKind{Kind: kind, Lang: lang, Name: &words, Meaning: &words, Colour: &colour, Outline: &outline, Icon: &icon, Role: &role},
		&edit.SetKind{Kind: kind, Stroke: &stroke},
		&edit.AssignKind{Concepts: []cm.ID{concept}, Kind: kind}, &edit.AssignKind{Concepts: cm.SortedIDs(m.Concepts), Kind: kind},
		&edit.AssignKind{Links: []cm.ID{link}, Kind: kind}, &edit.AssignKind{Concepts: []cm.ID{concept}}, &edit.RemoveKind{Kind: kind},
		&edit.MergeKinds{Keep: kind, Gone: pick(t, m.Kinds)}, &edit.OrderKinds{Order: []cm.ID{kind}},
		&edit.PlaceKey{At: &cm.Point{X: 40, Y: -60}, Folded: &yes, Away: &yes},
		&edit.SetLook{Theme: rapid.SampledFrom([]*cm.Theme{nil, &cm.Themes[1], &cm.Themes[0]}).Draw(t, "dress"), Large: &yes, By: &cm.ColouredBy[rapid.IntRange(0, 3).Draw(t, "by")], Plain: yes},
		&edit.SetLook{Paper: rapid.SampledFrom([]*cm.Paper{&cm.Papers[4], &cm.Papers[1], nil}).Draw(t, "paper"), Picture: rapid.SampledFrom([]*cm.Backdrop{{File: *aPicture, At: cm.Point{X: -40, Y: 12}, Wide: 900}, nil}).Draw(t, "backdrop")},
		&edit.TakeText{On: concept, Words: words + rapid.SampledFrom([]string{"", " https://hollin.example/a", strings.Repeat(" and so on", 12)}).Draw(t, "taken"), Source: a.id("s"), Concept: a.id("c"), Link: a.id("l"), Own: a.id("e"), Above: a.id("e")},
		&edit.ColourLevel{Level: rapid.IntRange(0, 8).Draw(t, "level"), Colour: cm.Colours[3]},
		&edit.SetLook{Own: rapid.SampledFrom([]*cm.OwnColours{{Paper: "#fff0e0", Slip: "#ffffff", Ink: "#887766"}, {Paper: "#102030", Slip: "#203040", Ink: "#f0f0e0"}}).Draw(t, "own colours")},
		&edit.SetPaint{Concepts: []cm.ID{concept}, Fill: &colour, Words: &colour, Outline: rapid.SampledFrom([]*cm.Outline{nil, &outline}).Draw(t, "own"), Clear: yes},
		&edit.SetHand{Hand: rapid.SampledFrom([]cm.Hand{cm.HandFull, cm.HandPlain}).Draw(t, "hand")},
	}).Draw(t, "kind")
}

// meaning draws operations on tags, regions, filters, amounts and icons.
func (a *Author) meaning(t *rapid.T, m *cm.Map, concept cm.ID, lang cm.Lang, words string) edit.Operation {
	colour, yes := rapid.SampledFrom(cm.Colours).Draw(t, "colour"), rapid.Bool().Draw(t, "yes")
	stroke := rapid.SampledFrom(cm.Strokes).Draw(t, "stroke")
	tag, region, filter := pick(t, m.Tags), pick(t, m.Regions), pick(t, m.Filters)
	some := func(entity any) bool { return rapid.IntRange(0, 2).Draw(t, "more") == 0 }
	if len(m.Tags) == 0 || some(tag) {
		return &edit.AddTag{ID: a.id("t"), Lang: lang, Name: words, Colour: colour, Reuse: yes}
	}
	if len(m.Regions) == 0 || some(region) {
		return &edit.AddRegion{ID: a.id("g"), Lang: lang, Title: words, Concepts: []cm.ID{concept, pick(t, m.Concepts)}, Colour: colour, Stroke: stroke, Filled: yes}
	}
	save := &edit.SaveFilter{ID: a.id("f"), Lang: lang, Name: words, Match: rapid.SampledFrom([]cm.Match{cm.MatchAll, cm.MatchAny}).Draw(t, "match"), Hide: yes,
		Conditions: []cm.Condition{{About: cm.AboutTag, Value: string(tag)}, {About: cm.AboutWords, Value: "bell", Not: yes}}}
	if len(m.Filters) == 0 || some(filter) {
		return save
	}
	if yes {
		save.ID = filter
	}
	return rapid.SampledFrom([]edit.Operation{
		&edit.SetTag{Tag: tag, Lang: lang, Name: &words, Colour: &colour}, &edit.RemoveTag{Tag: tag},
		&edit.AssignTag{Concepts: []cm.ID{concept}, Tag: tag, On: true}, &edit.AssignTag{Concepts: cm.SortedIDs(m.Concepts), Tag: tag, On: yes},
		&edit.SetRegion{Region: region, Lang: lang, Title: &words, Note: &words, Colour: &colour, Stroke: &stroke, Filled: &yes},
		&edit.PutInRegion{Region: region, Concepts: []cm.ID{concept}, In: yes}, &edit.PutInRegion{Region: region, Branches: []cm.ID{concept}, In: yes},
		&edit.RemoveRegion{Region: region}, save, &edit.RemoveFilter{Filter: filter},
		&edit.SetAmount{Concept: concept, Amount: rapid.SampledFrom([]string{"", "340 m/s", "-1,5", "12"}).Draw(t, "amount")},
		&edit.SetDuration{Concept: concept, Lasts: rapid.SampledFrom([]string{"", "20 min", "1.5 h", "3 days"}).Draw(t, "lasts")},
		&edit.SetIcons{Concepts: []cm.ID{concept}, Icons: []cm.Icon{"bell", "ear"}}, &edit.AddIcon{Concepts: []cm.ID{concept}, Icon: rapid.SampledFrom([]cm.Icon{"wind", "step-3"}).Draw(t, "icon")}, &edit.NumberSteps{Concepts: []cm.ID{concept}, From: rapid.IntRange(0, 3).Draw(t, "step")},
		&edit.SetNote{On: cm.Key{Kind: cm.EntityRegion, ID: region}, Lang: lang, Note: words}, &edit.SetNote{On: cm.Key{Kind: cm.EntityMap, ID: m.ID}, Lang: lang, Note: words},
	}).Draw(t, "meaning")
}

var aPicture = &cm.File{Hash: strings.Repeat("0a", 32), Type: "image/png", Size: 4000, W: 300, H: 200}

// source draws an operation on sources and tables.
func (a *Author) source(t *rapid.T, m *cm.Map, concept, link cm.ID) edit.Operation {
	on := cm.Key{Kind: cm.EntityConcept, ID: concept}
	if rapid.IntRange(0, 3).Draw(t, "on a link") == 0 {
		on = cm.Key{Kind: cm.EntityLink, ID: link}
	} else if rapid.IntRange(0, 5).Draw(t, "on a stop") == 0 {
		on = cm.Key{Kind: cm.EntityStop, ID: pick(t, m.Stops)}
	}
	attach := rapid.SampledFrom([]cm.Source{
		{URL: "https://hollin.example/bells?" + string(concept)}, {File: aPicture, Title: "a bell", Says: "a bell hangs", Wide: 120},
		{File: &cm.File{Hash: strings.Repeat("0b", 32), Type: "audio/wav", Size: 90}}, {Cite: &cm.Citation{Author: "B. Hollin", Year: "1902", Title: "On bells"}},
	}).Draw(t, "source")
	var own cm.ID
	if c := m.Concepts[concept]; c != nil && len(c.Sources) > 0 {
		own = pick(t, c.Sources)
	}
	words, wide := "the bell", float64(rapid.IntRange(0, 700).Draw(t, "wide"))
	if rapid.IntRange(0, 5).Draw(t, "in the tray") == 0 {
		tray := cm.Key{Kind: cm.EntityMap, ID: m.ID}
		if len(m.Tray) == 0 {
			return &edit.AttachSource{On: tray, ID: a.id("s"), Source: attach}
		}
		return &edit.PlaceSource{From: tray, ID: pick(t, m.Tray), To: on}
	}
	ops := []edit.Operation{&edit.AttachSource{On: on, ID: a.id("s"), Source: attach}}
	if own != "" {
		ops = append(ops, &edit.SetSource{On: on, ID: own, Title: &words, Says: &words}, &edit.SetSource{On: on, ID: own, Wide: &wide}, &edit.DetachSource{On: on, ID: own})
	}
	ops = append(ops, &edit.SetTable{Concept: concept, Table: rapid.SampledFrom([]*cm.Table{nil, {Head: true, Rows: [][]string{{"part", "stuff"}, {"clapper", "iron"}}}, {Rows: [][]string{{"1"}}}}).Draw(t, "table")})
	return rapid.SampledFrom(ops).Draw(t, "source op")
}

// strandOf gives the first way through a link.
func strandOf(m *cm.Map, link cm.ID) cm.Strand {
	l := m.Links[link]
	if l == nil {
		return cm.Strand{}
	}
	return cm.Strand{Link: link, From: l.From[0].ID, To: l.To[0].ID}
}

// planned draws what is planned for a route.
func planned(t *rapid.T, m *cm.Map, words string) edit.Operation {
	minutes := rapid.IntRange(-1, 40).Draw(t, "planned")
	lang, yes := rapid.SampledFrom([]cm.Lang{"", "de", "en", "no language"}).Draw(t, "language"), rapid.Bool().Draw(t, "together")
	if yes {
		return &edit.PlanRoute{Route: pick(t, m.Routes), Language: &lang, Together: &yes, Around: &yes}
	}
	return &edit.PlanRoute{Route: pick(t, m.Routes), Purpose: &words, Audience: &words, Minutes: &minutes}
}

// rehearsed draws operations on how stops are planned, and on what a rehearsal leaves.
func rehearsed(t *rapid.T, a *Author, m *cm.Map, words string) edit.Operation {
	stop, yes, n := pick(t, m.Stops), rapid.Bool().Draw(t, "yes"), rapid.IntRange(-1, 9).Draw(t, "number")
	other := pick(t, m.Stops)
	mend, layout := a.id("m"), rapid.SampledFrom(cm.Layouts).Draw(t, "layout")
	distance := rapid.SampledFrom(append(cm.Distances, "far")).Draw(t, "distance")
	if s := m.Stops[stop]; s != nil && len(s.Mends) > 0 {
		mend = cm.SortedIDs(s.Mends)[0]
	}
	return rapid.SampledFrom([]edit.Operation{
		&edit.PlanStop{Stop: stop, Minutes: &n}, &edit.PlanStop{Stop: stop, OneByOne: &yes, Skipped: &yes, Branches: &yes, Layout: &layout}, &edit.PlanStop{Stop: stop, FromMap: &yes, Fades: &yes, Distance: &distance}, &edit.CopyStop{Stop: stop, ID: a.id("s")},
		&edit.LeadOn{Stop: stop, Then: pick(t, m.Stops)}, &edit.OfferChoice{Stop: stop, ID: "way", Words: &words, To: &other}, &edit.OfferChoice{Stop: stop, ID: "way", To: new(cm.ID)},
		&edit.Rehearsed{Route: pick(t, m.Routes), Took: map[cm.ID]int{stop: n}}, &edit.NoteMend{Stop: stop, ID: a.id("m"), Words: words},
		&edit.TickMend{Stop: stop, ID: mend, Done: yes}, &edit.DropMend{Stop: stop, ID: mend},
	}).Draw(t, "rehearsal")
}

// briefed draws operations on the brief of the map.
func briefed(t *rapid.T, a *Author, m *cm.Map, words string) edit.Operation {
	one, most := 1, 4
	line := rapid.SampledFrom([]cm.Demand{
		{Of: cm.CountConcepts, AtLeast: &one, AtMost: &most, Says: words}, {Of: cm.CountNotes, Kind: "living being", Step: cm.StepFurther, Points: 2},
		{Of: cm.CountRequired, Must: []cm.Must{{Concept: "bell", Or: []string{"chime"}}, {Concept: "bell", Phrase: "is cast of", To: "bronze"}}}, {Of: cm.CountLevels, Where: &cm.Where{Branch: "bell"}},
		{Of: cm.CountPropositions, Words: &cm.Words{Begins: []string{"is"}}},
	}).Draw(t, "line")
	which := pick(t, m.Requirements)
	return rapid.SampledFrom([]edit.Operation{
		&edit.AddRequirement{ID: a.id("q"), Demand: line}, &edit.AddRequirement{ID: a.id("q"), Demand: line}, &edit.ChangeRequirement{Requirement: which, Demand: line},
		&edit.MoveRequirement{Requirement: which, After: rapid.SampledFrom([]cm.ID{"", pick(t, m.Requirements)}).Draw(t, "after")}, &edit.RemoveRequirement{Requirement: which},
		&edit.WriteBrief{Title: &words, Before: &[]cm.Known{{Words: "what a bell is", Address: "https://hollin.example"}}}, &edit.TakeBrief{ID: a.id("b"), Task: words, Lines: []cm.Demand{line, line}}, &edit.TakeBrief{ID: a.id("b")},
	}).Draw(t, "brief")
}

// talk draws operations on comments, votes, tasks, remarks and how notes lie.
func (a *Author) talk(t *rapid.T, m *cm.Map, concept, link cm.ID, lang cm.Lang, words string) edit.Operation {
	yes, colour := rapid.Bool().Draw(t, "yes"), rapid.SampledFrom(cm.Colours).Draw(t, "colour")
	on := rapid.SampledFrom([]cm.Key{{Kind: cm.EntityConcept, ID: concept}, {Kind: cm.EntityLink, ID: link}, {Kind: cm.EntityRegion, ID: pick(t, m.Regions)}, {Kind: cm.EntityMap, ID: m.ID}}).Draw(t, "about")
	comment := pick(t, m.Comments)
	when, lasts := rapid.SampledFrom([]string{"", "2026-12", "2026-12-04/2026-12-11"}).Draw(t, "when"), rapid.SampledFrom([]string{"", "40 min", "2 days"}).Draw(t, "lasts")
	return rapid.SampledFrom([]edit.Operation{
		&edit.AddComment{ID: a.id("m"), On: on, Name: words, Words: "Is that so? " + words}, &edit.AddComment{ID: a.id("m"), Answers: comment, Words: "It is. " + words},
		&edit.AddComment{ID: a.id("m"), On: on, Words: "Where from?"}, &edit.AddComment{ID: a.id("m"), Answers: comment, Words: "Look it up."},
		&edit.ChangeComment{Comment: comment, Words: words}, &edit.ChangeComment{Comment: comment}, &edit.SettleComment{Comment: comment, Settled: yes},
		&edit.Judge{ID: a.id("j"), Strand: strandOf(m, link), Verdict: rapid.SampledFrom(append([]cm.Verdict{""}, cm.Verdicts...)).Draw(t, "verdict"), Reason: words, Settled: yes, Points: rapid.SampledFrom([]*int{nil, new(int)}).Draw(t, "points")},
		&edit.DismissFinding{ID: a.id("d"), Rule: "hub", On: []cm.Key{{Kind: cm.EntityConcept, ID: concept}}, Reason: words}, &edit.RecallFinding{Dismissal: pick(t, m.Dismissals)},
		&edit.DropRater{Rater: cm.ID("p" + a.Name)}, briefed(t, a, m, words), &edit.GiveGrade{ID: a.id("g"), Criterion: "depth", Level: rapid.SampledFrom([]*int{nil, new(int)}).Draw(t, "level"), Reason: words},
		&edit.SetRubric{Rubric: cm.Rubric{Title: words, Weights: map[cm.Earns]float64{cm.EarnsLevel: 5}, Criteria: []cm.Criterion{{ID: "depth", Title: "depth", Levels: []cm.Attained{{Words: "none"}, {Points: 3, Words: "deep"}}}}}},
		&edit.Vote{Concept: concept, For: rapid.SampledFrom([]*bool{&yes, nil}).Draw(t, "vote")},
		&edit.SetTask{Concept: concept, Who: &words, When: &when, Lasts: &lasts, Done: &yes}, &edit.SetTask{Concept: concept, What: &words}, &edit.SetTask{Concept: concept, None: true},
		&edit.SetRemark{Concept: concept, Lang: lang, Remark: words},
		&edit.SetNoteCard{On: on, Colour: &colour, Off: rapid.SampledFrom([]*cm.Point{{X: 120.1, Y: -30}, nil}).Draw(t, "off")}, &edit.SetNoteCard{On: on, Free: yes},
	}).Draw(t, "talk")
}
