package query

import (
	"context"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/core/joining"
	"mevrin/core/work"
	"mevrin/workspace"
)

// JoinOne is a pair of a round of joining: two concepts that nothing joins yet.
type JoinOne struct {
	MapID    cm.ID
	Key      string
	A, B     cm.ID
	WordsA   string
	WordsB   string
	Elements string
	Reasons  []string
	// NoteA and NoteB are their notes.
	NoteA, NoteB string
}

// JoinRound is a round of joining.
type JoinRound struct {
	Keys []string
	One  JoinOne
}

func joinKey(a, b cm.ID) string { return string(a) + "/" + string(b) }

// Joining gives the pairs that may deserve a link, in the order in which one goes through them.
func (s Reading) Joining(ctx context.Context) (r JoinRound, err error) {
	pairs, err := s.pairs(ctx)
	for _, p := range pairs {
		r.Keys = append(r.Keys, joinKey(p.A, p.B))
	}
	if len(pairs) > 0 {
		r.One = s.joinOne(pairs[0])
	}
	return r, err
}

func (s Reading) pairs(ctx context.Context) (pairs []joining.Pair, err error) {
	err = workspace.Working(ctx, func(limit *work.Limit) error {
		pairs = joining.Pairs(s.Map, s.Structure, limit)
		return nil
	})
	return pairs, err
}

// JoinOne gives one pair by its key; known is false where it is linked by now, kept apart, or gone.
func (s Reading) JoinOne(ctx context.Context, key string) (one JoinOne, known bool, err error) {
	pairs, err := s.pairs(ctx)
	at := slices.IndexFunc(pairs, func(p joining.Pair) bool { return joinKey(p.A, p.B) == key })
	if err != nil || at < 0 {
		return one, false, err
	}
	return s.joinOne(pairs[at]), true, nil
}

// maxReasons bounds the reasons that are told.
const maxReasons = 3

func (s Reading) joinOne(p joining.Pair) JoinOne {
	words := func(id cm.ID) string { return s.wordsOf(cm.Key{Kind: cm.EntityConcept, ID: id}) }
	one := JoinOne{MapID: s.Map.ID, Key: joinKey(p.A, p.B), A: p.A, B: p.B, WordsA: words(p.A), WordsB: words(p.B), Elements: "c-" + string(p.A) + " c-" + string(p.B),
		NoteA: s.Map.Words(s.Map.Concepts[p.A].Note), NoteB: s.Map.Words(s.Map.Concepts[p.B].Note)}
	for _, r := range p.Reasons[:min(len(p.Reasons), maxReasons)] {
		switch r.Why {
		case joining.SameNeighbour:
			one.Reasons = append(one.Reasons, s.t("both are linked with “%s”", words(cm.ID(r.Share))))
		case joining.SameWord:
			one.Reasons = append(one.Reasons, s.t("both are called “%s”", r.Share))
		case joining.SameNoteWord:
			one.Reasons = append(one.Reasons, s.t("the notes of both speak of “%s”", r.Share))
		case joining.Mentioned:
			one.Reasons = append(one.Reasons, s.t("a note names “%s”", words(cm.ID(r.Share))))
		case joining.SameTag:
			one.Reasons = append(one.Reasons, s.t("both have the tag “%s”", s.Map.Words(s.Map.Tags[cm.ID(r.Share)].Name)))
		case joining.SameSource:
			one.Reasons = append(one.Reasons, s.t("both have the source “%s”", s.sharedSource(p.A, p.B)))
		}
	}
	return one
}

// sharedSource names a source that two concepts have.
func (s Reading) sharedSource(a, b cm.ID) string {
	for _, id := range cm.SortedIDs(s.Map.Concepts[a].Sources) {
		name := s.Map.Concepts[a].Sources[id].Name()
		for _, other := range s.Map.Concepts[b].Sources {
			if other.Name() == name {
				return strings.TrimSpace(name)
			}
		}
	}
	return ""
}
