package conceptmap

import "strings"

// What one map may hold, whichever way it comes onto it: by edits, by a file, pasted.
// A map of this size, opened and drawn, takes some 100 MB. Texts are bounded in
// text.go, the smaller lists beside their types.
const (
	MaxConcepts = 10_000
	MaxLinks    = 20_000
	MaxStops    = 10_000
	// MaxStrands bounds the ways through all links from an end to an end: a link of
	// 100 ends on either side has 10,000.
	MaxStrands = 20_000
	// MaxLines bounds the lines of a label: a slip is no page.
	MaxLines = 24
	// MaxTableCells bounds the cells of tables in a note or a card; a row has as many
	// as the first.
	MaxTableCells = 2000
)

// Strands counts the ways through all links.
func (m *Map) Strands() int {
	n := 0
	for _, l := range m.Links {
		n += len(l.From) * len(l.To)
	}
	return n
}

// TableCells counts the cells that the tables in a text would have, at most: what
// stands in it as one line of a table and those below, with as many cells in each row
// as the widest line has.
func TableCells(words string) int {
	cells, wide, rows := 0, 0, 0
	for line := range strings.SplitSeq(words, "\n") {
		if strings.TrimSpace(line) == "" {
			cells, wide, rows = cells+wide*rows, 0, 0
			continue
		}
		if rows++; strings.Contains(line, "|") {
			wide = max(wide, strings.Count(line, "|")+1)
		}
	}
	return cells + wide*rows
}

// CleanNote cleans a text that is laid out: a note, a card.
func CleanNote(words, what string) (string, error) {
	words, err := Clean(words, MaxNote, what)
	if err == nil && strings.Contains(words, "|") && TableCells(words) > MaxTableCells {
		err = Refusef("The tables in %s are too large: at most %d cells fit. A spreadsheet can be attached as a file.", strings.ToLower(what[:1])+what[1:], MaxTableCells)
	}
	return words, err
}

// CleanLabel cleans the label of a concept.
func CleanLabel(words string) (string, error) {
	words, err := Clean(words, MaxLabel, "The label of a concept")
	if err == nil && strings.Count(words, "\n") >= MaxLines {
		err = Refusef("The label of a concept can have at most %d lines. What is longer has its place in the note.", MaxLines)
	}
	return words, err
}

// Shortened gives as many whole words as a limit has room for, with a sign that there are
// more. Lengths are in characters.
func Shortened(words string, limit int) string {
	letters := []rune(words)
	if len(letters) <= limit {
		return words
	}
	cut := string(letters[:limit-1])
	if end := strings.LastIndexByte(cut, ' '); end > len(cut)/2 {
		cut = cut[:end]
	}
	return strings.TrimRight(cut, " \n") + "…"
}

// Limits are the bounds that members of entities name in their tags.
var Limits = map[string]int{
	"label": MaxLabel, "phrase": MaxPhrase, "title": MaxTitle, "question": MaxQuestion, "note": MaxNote, "name": MaxKindName, "remark": MaxRemark,
	"comment": MaxCommentWords, "speaker": MaxName,
	"concepts": MaxConcepts, "tags": MaxTags, "icons": MaxIcons, "sources": MaxSources, "votes": MaxVotes, "refs": MaxRefs, "mends": MaxMends, "choices": MaxChoices, "conditions": MaxConditions, "rules": MaxRulesOff, "apart": MaxApart,
}

// Forms are what members of entities can be asked for in their tags, beside fitting
// their types.
var Forms = map[string]func(value any) bool{
	"rank":     func(v any) bool { return ValidRank(v.(string)) },
	"time":     func(v any) bool { when, err := CleanWhen(v.(string)); return err == nil && when == v },
	"moment":   func(v any) bool { return SoundMoment(v.(string)) },
	"duration": func(v any) bool { return v.(*Amount).sound(true) },
	// A ballot is a set of which each member may say yes or no.
	"ballot": func(any) bool { return true },
}

// MaxApart bounds the concepts to which one is not to be linked.
const MaxApart = 1000

// MaxRulesOff bounds how many rules a map can switch off.
const MaxRulesOff = 200

// MaxRuleLeast bounds from how much on a rule may be told to speak.
const MaxRuleLeast = 10_000
