package edit

import (
	"cmp"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/draft"
	"mevrin/core/conceptmap/history"
)

// Placer finds places on the paper. It is asked where an operation leaves the
// place to Mevrin, since only the drawing knows how large words are.
type Placer interface {
	// Free gives the place nearest to the concept's own at which its slip
	// covers no other slip.
	Free(m *cm.Map, c *cm.Concept) cm.Point
	// FreeTogether gives how far new concepts are to be moved, all alike, so that
	// the slip of none covers one of the map's.
	FreeTogether(m *cm.Map, fresh []*cm.Concept) cm.Point
	// Size gives the extent of a concept's slip, in pixels.
	Size(m *cm.Map, c *cm.Concept) (w, h float64)
	// Arrange puts a part of the map in order.
	Arrange(m *cm.Map, s Scope) (Arrangement, error)
	// Row gives the children of a concept's parent in the order in which they stand
	// on the paper, and whether the concept stands among them, as their pattern has
	// them: in their row, not somewhere else.
	Row(m *cm.Map, id cm.ID) (order []cm.ID, among bool)
	// Settle finds room for what was made or has grown since the map was as it was, and
	// leads the lines that this concerns; fresh are concepts that may stand elsewhere.
	Settle(was, m *cm.Map, fresh []cm.ID) Arrangement
	// Clear gives new places to what stands on, or too near to, other slips. The
	// concepts named stay, and so does what is pinned.
	Clear(m *cm.Map, stay []cm.ID) map[cm.ID]cm.Point
}

// editing is an entry in the making.
type editing struct {
	*draft.Draft
	placer Placer
	// meant says which concept, kind or tag stands for an id that was given for a new
	// one, where the map had such a one already.
	meant map[cm.ID]cm.ID
	// fresh are the concepts that were made where there is room.
	fresh []cm.ID
}

func edit(m *cm.Map, placer Placer) *editing {
	return &editing{Draft: draft.New(m), placer: placer, meant: map[cm.ID]cm.ID{}}
}

// Apply performs the operations of one entry, in order, all or none. Placer may
// be nil: then things stay where they were put. An error is a *Refusal where
// the operation cannot be done.
func Apply(m *cm.Map, ops []Operation, placer Placer) (history.Outcome, error) {
	d := edit(m, placer)
	for _, op := range ops {
		if err := op.apply(d); err != nil {
			return history.Outcome{}, err
		}
	}
	if err := d.Fits(); err != nil {
		return history.Outcome{}, err
	}
	d.carryJudgements(m)
	d.MendHierarchy()
	if err := d.keepTidy(ops); err != nil {
		return history.Outcome{}, err
	}
	if err := d.settle(ops); err != nil {
		return history.Outcome{}, err
	}
	return history.OutcomeOf(d.Draft), nil
}

// lang gives the language meant: the map's own where none is named.
func (d *editing) lang(l cm.Lang) (cm.Lang, error) {
	if l == "" {
		return d.Map.Language, nil
	}
	if !l.Valid() {
		return "", cm.Refusef("That is not the name of a language.")
	}
	return l, nil
}

func set[V any](field *V, to *V) {
	if to != nil {
		*field = *to
	}
}

// AdditiveOnly refuses what takes anything off a map or alters it as a whole. What
// it lets pass adds, joins, names, moves and colours: the plain hand. Words that
// stand on the map are changed by whoever put the thing there, which own tells,
// and by nobody emptied.
func AdditiveOnly(m *cm.Map, ops []Operation, own func(cm.Key) (bool, error)) error {
	for _, op := range ops {
		key, was, next := cm.Key{}, "", ""
		switch op := op.(type) {
		case *NameConcept:
			key, next = cm.Key{Kind: cm.EntityConcept, ID: op.Concept}, op.Label
			if c := m.Concepts[op.Concept]; c != nil {
				was = c.Label[cmp.Or(op.Lang, m.Language)]
			}
		case *NameLink:
			key, next = cm.Key{Kind: cm.EntityLink, ID: op.Link}, op.Phrase
			if l := m.Links[op.Link]; l != nil {
				was = l.Phrase[cmp.Or(op.Lang, m.Language)]
			}
		case *AddConcept, *Move, *Shift, *AddLink, *AddEnd, *AddProposition, *AddKind, *AssignKind, *SetHeads, *ReverseLink, *RankConcept, *StepRank,
			*AddComment, *ChangeComment, *SettleComment, *Vote: // one's own words, which are no part of the map
			continue
		default:
			return cm.Refusef("That cannot be done with the simple tools. Nothing was changed.")
		}
		next = strings.TrimSpace(next)
		switch {
		case was == "" || next == was:
			continue
		case next == "":
			return cm.Refusef("“%s” stays: words can be changed here, but not emptied.", was)
		}
		if mine, err := own(key); err != nil {
			return err
		} else if !mine {
			return cm.Refusef("“%s” was written by somebody else. You can add what you think beside it, or write a comment.", was)
		}
	}
	return nil
}

// Operation is what a person meant. Each is a plain struct whose JSON carries
// its name in the member "do".
type Operation interface {
	// apply performs the operation on a draft, or says in plain words why it
	// cannot be; the draft is then thrown away.
	apply(d *editing) error
}

// MaxOperations bounds the operations of one entry.
const MaxOperations = 5000

// operations lists every kind of operation by its name.
var operations = map[string]Operation{
	"add-concept":        &AddConcept{},
	"name-concept":       &NameConcept{},
	"move":               &Move{},
	"shift":              &Shift{},
	"remove":             &Remove{},
	"merge-concepts":     &MergeConcepts{},
	"split-concept":      &SplitConcept{},
	"set-type":           &SetType{},
	"attach-source":      &AttachSource{},
	"set-source":         &SetSource{},
	"set-look":           &SetLook{},
	"colour-level":       &ColourLevel{},
	"set-paint":          &SetPaint{},
	"place-source":       &PlaceSource{},
	"set-table":          &SetTable{},
	"detach-source":      &DetachSource{},
	"rank-concept":       &RankConcept{},
	"step-rank":          &StepRank{},
	"shift-level":        &ShiftLevel{},
	"hang":               &Reparent{},
	"add-sibling":        &AddSibling{},
	"duplicate":          &Duplicate{},
	"paste":              &Paste{},
	"set-order":          &SetOrder{},
	"keep-order":         &KeepOrder{},
	"set-focus":          &SetFocus{},
	"set-main":           &SetMain{},
	"set-note":           &SetNote{},
	"add-link":           &AddLink{},
	"say":                &AddProposition{},
	"jot":                &AddIdea{},
	"take-text":          &TakeText{},
	"name-link":          &NameLink{},
	"set-heads":          &SetHeads{},
	"reverse-link":       &ReverseLink{},
	"add-end":            &AddEnd{},
	"remove-end":         &RemoveEnd{},
	"split-end":          &SplitEnd{},
	"move-end":           &MoveEnd{},
	"merge-links":        &MergeLinks{},
	"second-link":        &SecondLink{},
	"insert-concept":     &InsertConcept{},
	"set-line":           &SetLine{},
	"bend":               &Bend{},
	"place-phrase":       &PlacePhrase{},
	"free-lines":         &FreeLines{},
	"add-kind":           &AddKind{},
	"set-kind":           &SetKind{},
	"merge-kinds":        &MergeKinds{},
	"order-kinds":        &OrderKinds{},
	"place-key":          &PlaceKey{},
	"add-tag":            &AddTag{},
	"set-tag":            &SetTag{},
	"remove-tag":         &RemoveTag{},
	"assign-tag":         &AssignTag{},
	"add-region":         &AddRegion{},
	"set-region":         &SetRegion{},
	"put-in-region":      &PutInRegion{},
	"remove-region":      &RemoveRegion{},
	"save-filter":        &SaveFilter{},
	"remove-filter":      &RemoveFilter{},
	"set-amount":         &SetAmount{},
	"set-duration":       &SetDuration{},
	"number-steps":       &NumberSteps{},
	"set-icons":          &SetIcons{},
	"add-icon":           &AddIcon{},
	"set-note-card":      &SetNoteCard{},
	"set-remark":         &SetRemark{},
	"set-task":           &SetTask{},
	"add-comment":        &AddComment{},
	"judge":              &Judge{},
	"forget-speaker":     &ForgetSpeaker{},
	"dismiss-finding":    &DismissFinding{},
	"recall-finding":     &RecallFinding{},
	"set-rule-least":     &SetRuleLeast{},
	"keep-apart":         &KeepApart{},
	"drop-rater":         &DropRater{},
	"set-judging":        &SetJudging{},
	"write-brief":        &WriteBrief{},
	"set-rubric":         &SetRubric{},
	"grade":              &GiveGrade{},
	"plan-route":         &PlanRoute{},
	"plan-stop":          &PlanStop{},
	"copy-stop":          &CopyStop{},
	"lead-on":            &LeadOn{},
	"offer-choice":       &OfferChoice{},
	"rehearsed":          &Rehearsed{},
	"note-mend":          &NoteMend{},
	"tick-mend":          &TickMend{},
	"drop-mend":          &DropMend{},
	"take-brief":         &TakeBrief{},
	"add-requirement":    &AddRequirement{},
	"change-requirement": &ChangeRequirement{},
	"move-requirement":   &MoveRequirement{},
	"remove-requirement": &RemoveRequirement{},
	"change-comment":     &ChangeComment{},
	"settle-comment":     &SettleComment{},
	"vote":               &Vote{},
	"remove-kind":        &RemoveKind{},
	"assign-kind":        &AssignKind{},
	"tidy":               &Tidy{},
	"keep-tidy":          &KeepTidy{},
	"pin":                &Pin{},
	"set-when":           &SetWhen{},
	"line-up":            &LineUp{},
	"stretch":            &Stretch{},
	"make-room":          &MakeRoom{},
	"set-hand":           &SetHand{},
	"name-map":           &NameMap{},
	"ask":                &Ask{},
	"set-language":       &SetLanguage{},
	"set-rule":           &SetRule{},
	"set-opening":        &SetOpening{},
	"add-route":          &AddRoute{},
	"name-route":         &NameRoute{},
	"remove-route":       &RemoveRoute{},
	"add-stop":           &AddStop{},
	"write-stop":         &WriteStop{},
	"show-at-stop":       &ShowAtStop{},
	"move-stop":          &MoveStop{},
	"remove-stop":        &RemoveStop{},
}
