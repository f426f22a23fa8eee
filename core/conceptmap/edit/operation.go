package edit

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	cm "mevrin/core/conceptmap"
	"strings"
)

// Gentle refuses what takes anything off a map or alters it as a whole. What
// it lets pass adds, joins, names, moves and colours: the plain hand. Words that
// stand on the map are changed by whoever put the thing there, which own tells,
// and by nobody emptied.
func Gentle(m *cm.Map, ops []Operation, own func(cm.Key) (bool, error)) error {
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
			return cm.Refusef("That cannot be done with the plain hand. Nothing was changed.")
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
var operations = map[string]func() Operation{
	"add-concept":    func() Operation { return new(AddConcept) },
	"name-concept":   func() Operation { return new(NameConcept) },
	"move":           func() Operation { return new(Move) },
	"shift":          func() Operation { return new(Shift) },
	"remove":         func() Operation { return new(Remove) },
	"merge-concepts": func() Operation { return new(MergeConcepts) },
	"split-concept":  func() Operation { return new(SplitConcept) },
	"set-type":       func() Operation { return new(SetType) },
	"attach-source":  func() Operation { return new(AttachSource) },
	"set-source":     func() Operation { return new(SetSource) },
	"set-look":       func() Operation { return new(SetLook) },
	"set-paint":      func() Operation { return new(SetPaint) },
	"place-source":   func() Operation { return new(PlaceSource) },
	"set-table":      func() Operation { return new(SetTable) },
	"detach-source":  func() Operation { return new(DetachSource) },
	"rank-concept":   func() Operation { return new(RankConcept) },
	"step-rank":      func() Operation { return new(StepRank) },
	"shift-level":    func() Operation { return new(ShiftLevel) },
	"hang":           func() Operation { return new(Reparent) },
	"set-order":      func() Operation { return new(SetOrder) },
	"set-focus":      func() Operation { return new(SetFocus) },
	"set-main":       func() Operation { return new(SetMain) },
	"set-note":       func() Operation { return new(SetNote) },
	"add-link":       func() Operation { return new(AddLink) },
	"say":            func() Operation { return new(AddProposition) },
	"jot":            func() Operation { return new(AddIdea) },
	"name-link":      func() Operation { return new(NameLink) },
	"set-heads":      func() Operation { return new(SetHeads) },
	"reverse-link":   func() Operation { return new(ReverseLink) },
	"add-end":        func() Operation { return new(AddEnd) },
	"remove-end":     func() Operation { return new(RemoveEnd) },
	"split-end":      func() Operation { return new(SplitEnd) },
	"move-end":       func() Operation { return new(MoveEnd) },
	"merge-links":    func() Operation { return new(MergeLinks) },
	"second-link":    func() Operation { return new(SecondLink) },
	"insert-concept": func() Operation { return new(InsertConcept) },
	"set-line":       func() Operation { return new(SetLine) },
	"bend":           func() Operation { return new(Bend) },
	"place-phrase":   func() Operation { return new(PlacePhrase) },
	"free-lines":     func() Operation { return new(FreeLines) },
	"add-kind":       func() Operation { return new(AddKind) },
	"set-kind":       func() Operation { return new(SetKind) },
	"merge-kinds":    func() Operation { return new(MergeKinds) },
	"order-kinds":    func() Operation { return new(OrderKinds) },
	"place-key":      func() Operation { return new(PlaceKey) },
	"add-tag":        func() Operation { return new(AddTag) },
	"set-tag":        func() Operation { return new(SetTag) },
	"remove-tag":     func() Operation { return new(RemoveTag) },
	"assign-tag":     func() Operation { return new(AssignTag) },
	"add-region":     func() Operation { return new(AddRegion) },
	"set-region":     func() Operation { return new(SetRegion) },
	"put-in-region":  func() Operation { return new(PutInRegion) },
	"remove-region":  func() Operation { return new(RemoveRegion) },
	"save-filter":    func() Operation { return new(SaveFilter) },
	"remove-filter":  func() Operation { return new(RemoveFilter) },
	"set-amount":     func() Operation { return new(SetAmount) },
	"set-duration":   func() Operation { return new(SetDuration) },
	"number-steps":   func() Operation { return new(NumberSteps) },
	"set-icons":      func() Operation { return new(SetIcons) },
	"set-note-card":  func() Operation { return new(SetNoteCard) },
	"set-remark":     func() Operation { return new(SetRemark) },
	"set-task":       func() Operation { return new(SetTask) },
	"add-comment":    func() Operation { return new(AddComment) },
	"change-comment": func() Operation { return new(ChangeComment) },
	"settle-comment": func() Operation { return new(SettleComment) },
	"vote":           func() Operation { return new(Vote) },
	"remove-kind":    func() Operation { return new(RemoveKind) },
	"assign-kind":    func() Operation { return new(AssignKind) },
	"tidy":           func() Operation { return new(Tidy) },
	"keep-tidy":      func() Operation { return new(KeepTidy) },
	"pin":            func() Operation { return new(Pin) },
	"set-when":       func() Operation { return new(SetWhen) },
	"line-up":        func() Operation { return new(LineUp) },
	"stretch":        func() Operation { return new(Stretch) },
	"make-room":      func() Operation { return new(MakeRoom) },
	"set-hand":       func() Operation { return new(SetHand) },
	"name-map":       func() Operation { return new(NameMap) },
	"ask":            func() Operation { return new(Ask) },
	"set-language":   func() Operation { return new(SetLanguage) },
	"set-rule":       func() Operation { return new(SetRule) },
	"set-opening":    func() Operation { return new(SetOpening) },
	"add-route":      func() Operation { return new(AddRoute) },
	"name-route":     func() Operation { return new(NameRoute) },
	"remove-route":   func() Operation { return new(RemoveRoute) },
	"add-stop":       func() Operation { return new(AddStop) },
	"write-stop":     func() Operation { return new(WriteStop) },
	"show-at-stop":   func() Operation { return new(ShowAtStop) },
	"move-stop":      func() Operation { return new(MoveStop) },
	"remove-stop":    func() Operation { return new(RemoveStop) },
}

// ReadOperations reads a JSON list of operations. Whatever does not have the
// form of one is refused whole.
func ReadOperations(raw []byte) ([]Operation, error) {
	var parts []json.RawMessage
	if err := json.Unmarshal(raw, &parts); err != nil {
		return nil, cm.Refusef("This change did not arrive in a form that can be read. Please reload the page and try again.")
	}
	if len(parts) > MaxOperations {
		return nil, cm.Refusef("That is too much at once: at most %d steps fit into one change.", MaxOperations)
	}
	ops := make([]Operation, len(parts))
	for i, part := range parts {
		op, err := readOperation(part)
		if err != nil {
			return nil, err
		}
		ops[i] = op
	}
	return ops, nil
}

func readOperation(part json.RawMessage) (Operation, error) {
	broken := cm.Refusef("This change did not arrive whole. Please reload the page and try again.")
	var members map[string]json.RawMessage
	if err := json.Unmarshal(part, &members); err != nil {
		return nil, errors.Join(broken, err)
	}
	var name string
	_ = json.Unmarshal(members["do"], &name) // what cannot be read is no known name
	make, known := operations[name]
	if !known {
		return nil, cm.Refusef("This change asks for something that this version does not know. Please reload the page.")
	}
	delete(members, "do")
	rest, err := json.Marshal(members)
	if err != nil {
		return nil, errors.Join(broken, err)
	}
	op := make()
	into := json.NewDecoder(bytes.NewReader(rest))
	into.DisallowUnknownFields()
	if err := into.Decode(op); err != nil {
		return nil, errors.Join(broken, err)
	}
	return op, nil
}

// MarshalOperations writes operations as ReadOperations reads them.
func MarshalOperations(ops []Operation) (json.RawMessage, error) {
	parts := make([]json.RawMessage, len(ops))
	for i, op := range ops {
		raw, err := json.Marshal(op)
		if err != nil {
			return nil, err
		}
		head := `{"do":"` + operationName(op) + `"`
		if len(raw) > 2 {
			head += ","
		}
		parts[i] = append([]byte(head), raw[1:]...)
	}
	return json.Marshal(parts)
}

func operationName(op Operation) string {
	for name, make := range operations {
		if sameType(make(), op) {
			return name
		}
	}
	panic("conceptmap: an operation without a name")
}
