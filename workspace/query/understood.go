package query

import (
	"context"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/workspace"
)

// The orders in which one goes through concepts: all of them, or those that are unclear.
const (
	OrderUnderstand = "understand"
	OrderUnclear    = "unclear"
)

// Understood is what somebody marked for themselves, a view of theirs and no part of the map.
type Understood struct {
	MapID                cm.ID
	Concepts             int
	Clear, Unclear, Open int
	Elements             string // what is unclear, on the paper
	Keys                 []string
	At                   int
	One                  UnderstoodOne
}

// UnderstoodOne is a concept that one marks.
type UnderstoodOne struct {
	MapID     cm.ID
	Key       string
	Words     string
	Elements  string
	Sentences []string
	Marked    bool
	Clear     bool
}

// Understood gives what a person marked, and the concepts in the order asked for, from the first
// that is not marked on.
func (s Reading) Understood(ctx context.Context, w *workspace.Workspace, who workspace.Person, order string) (Understood, error) {
	v := Understood{MapID: s.Map.ID, At: -1}
	marks, err := w.Store.For(who.Scope).Understood(ctx, s.Map.ID, who.ID)
	if err != nil {
		return v, err
	}
	var unclear []string
	for _, id := range s.Structure.Order {
		clear, marked := marks[id]
		v.Concepts++
		switch {
		case !marked:
			v.Open++
		case clear:
			v.Clear++
		default:
			v.Unclear++
			unclear = append(unclear, "c-"+string(id))
		}
		if order == OrderUnclear && (!marked || clear) {
			continue
		}
		if !marked && v.At < 0 {
			v.At = len(v.Keys)
		}
		v.Keys = append(v.Keys, string(id))
	}
	v.At = max(v.At, 0)
	if v.Elements = strings.Join(unclear, " "); len(v.Keys) > 0 {
		v.One = s.understoodOne(cm.ID(v.Keys[v.At]), marks)
	}
	return v, nil
}

// UnderstoodOne gives one concept; known is false where it is no longer there.
func (s Reading) UnderstoodOne(ctx context.Context, w *workspace.Workspace, who workspace.Person, key string) (one UnderstoodOne, known bool, err error) {
	if s.Map.Concepts[cm.ID(key)] == nil {
		return one, false, nil
	}
	marks, err := w.Store.For(who.Scope).Understood(ctx, s.Map.ID, who.ID)
	return s.understoodOne(cm.ID(key), marks), true, err
}

// maxUnderstood bounds the sentences that stand below a concept.
const maxUnderstood = 8

func (s Reading) understoodOne(id cm.ID, marks map[cm.ID]bool) UnderstoodOne {
	one := UnderstoodOne{MapID: s.Map.ID, Key: string(id), Words: s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}), Elements: "c-" + string(id)}
	one.Clear, one.Marked = marks[id]
	for _, p := range s.Structure.Propositions() {
		if !p.Open && (p.Subject == id || p.Object == id) && len(one.Sentences) < maxUnderstood {
			said := s.sentenceOf(p)
			one.Sentences = append(one.Sentences, said.Noun1+" "+said.Verb+" "+said.Noun2)
			one.Elements += " l-" + string(p.Strand.Link)
		}
	}
	return one
}

// UnclearText lists what is unclear to a person, as plain text.
func (s Reading) UnclearText(ctx context.Context, w *workspace.Workspace, who workspace.Person) (string, error) {
	v, err := s.Understood(ctx, w, who, OrderUnclear)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	out.WriteString(s.Map.Name() + "\n" + s.t("What is unclear to me: %d of %d concepts", v.Unclear, v.Concepts) + "\n")
	for _, key := range v.Keys {
		one := s.understoodOne(cm.ID(key), nil)
		out.WriteString("\n" + one.Words + "\n")
		for _, sentence := range slices.Compact(one.Sentences) {
			out.WriteString("  " + sentence + "\n")
		}
	}
	return out.String(), nil
}
