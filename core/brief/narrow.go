package brief

import (
	"slices"

	cm "mevrin/core/conceptmap"
)

// The ways in which a line can narrow what it counts, as Narrows names them.
const (
	ByKind   = "kind"
	ByTag    = "tag"
	ByRegion = "region"
	ByLevel  = "level"
	BySource = "source"
	ByWords  = "words"
	ByBranch = "branch"
	ByUnder  = "under"
	ByMust   = "must"
)

// Narrows tells in which ways a line that counts this can be narrowed; others would have no effect.
func Narrows(of cm.Countable) []string {
	switch of {
	case cm.CountConcepts, cm.CountNotes, cm.CountPictures, cm.CountExamples:
		return []string{ByKind, ByTag, ByRegion, ByLevel, BySource, ByWords, ByBranch, ByUnder}
	case cm.CountSources:
		return []string{ByKind, ByTag, ByRegion, ByLevel, BySource, ByWords, ByBranch, ByUnder}
	case cm.CountLinks, cm.CountCrossLinks:
		return []string{ByKind, ByWords, ByBranch, ByUnder}
	case cm.CountPropositions, cm.CountHeld:
		return []string{ByWords, ByBranch, ByUnder}
	case cm.CountBranches:
		return []string{ByLevel}
	case cm.CountLevels:
		return []string{ByBranch}
	case cm.CountRequired:
		return []string{ByMust}
	}
	return nil
}

// Narrowed gives a line without what has no effect on what it counts.
func Narrowed(l cm.Demand) cm.Demand {
	can := Narrows(l.Of)
	has := func(way string) bool { return slices.Contains(can, way) }
	for way, field := range map[string]*string{ByKind: &l.Kind, ByTag: &l.Tag, ByRegion: &l.Region, BySource: &l.Source} {
		if !has(way) {
			*field = ""
		}
	}
	if !has(ByLevel) {
		l.Level = 0
	}
	if !has(ByWords) {
		l.Words = nil
	}
	if !has(ByMust) {
		l.Must = nil
	}
	if l.Where != nil && (l.Where.Branch != "" && !has(ByBranch) || l.Where.Under != "" && !has(ByUnder)) {
		l.Where = nil
	}
	return l
}

// Sum is how far a map meets a brief.
type Sum struct{ Met, Lines, Points, OfPoints int }

// Add sums up results.
func Add(all []Result) (s Sum) {
	for _, r := range all {
		s.Lines++
		s.Points, s.OfPoints = s.Points+r.Points, s.OfPoints+r.Line.Points
		if r.Met {
			s.Met++
		}
	}
	return s
}
