package conceptmap

import (
	"math"
	"slices"
	"unicode/utf8"
)

// Rubric says what a map earns points for. Package score works them out.
type Rubric struct {
	Title string `json:"title,omitempty"`
	// Source is where it comes from in the literature.
	Source string `json:"source,omitempty"`
	// Weights hold the points for one of each; what is not named earns none.
	Weights map[Earns]float64 `json:"weights,omitempty"`
	// Criteria are what people grade, as they see the whole.
	Criteria []Criterion `json:"criteria,omitempty"`
}

// Earns is what a map can earn points for by itself, or by what its propositions were judged to be.
type Earns string

// All that earns points.
const (
	EarnsProposition Earns = "proposition" // that nobody judged not to hold
	EarnsLevel       Earns = "level"
	EarnsCrossLink   Earns = "cross-link"
	EarnsExample     Earns = "example"
	EarnsHolds       Earns = "holds" // a proposition by its judgement
	EarnsInPart      Earns = "in-part"
	EarnsNotSure     Earns = "not-sure"
	EarnsNot         Earns = "does-not-hold"
	EarnsPoint       Earns = "point" // given with a judgement, in place of what its verdict earns
)

// Earning lists them, in the order in which they are shown.
var Earning = []Earns{EarnsProposition, EarnsLevel, EarnsCrossLink, EarnsExample, EarnsHolds, EarnsInPart, EarnsNotSure, EarnsNot, EarnsPoint}

// Criterion is one aspect of the whole, with its levels.
type Criterion struct {
	ID     ID         `json:"id"`
	Title  string     `json:"title"`
	Levels []Attained `json:"levels"`
}

// Attained is a level of a criterion: its points, and what it looks like.
type Attained struct {
	Points float64 `json:"points"`
	Words  string  `json:"words"`
}

// The bounds of rubrics: of criteria, of levels, of a title and of a description in characters, and
// of points.
const (
	MaxCriteria     = 40
	MaxAttained     = 12
	MaxRubricTitle  = 300
	MaxRubricWords  = 2000
	MaxRubricPoints = 10_000
)

// Empty tells that there is no rubric.
func (r Rubric) Empty() bool {
	return r.Title == "" && r.Source == "" && len(r.Weights) == 0 && len(r.Criteria) == 0
}

// Valid tells whether a rubric is sound.
func (r Rubric) Valid() bool { return r.Sound() == nil }

// Sound tells what is wrong with a rubric.
func (r Rubric) Sound() error {
	long := func(words string, most int) bool { return utf8.RuneCountInString(words) > most }
	points := func(p float64) bool { return !math.IsNaN(p) && p >= -MaxRubricPoints && p <= MaxRubricPoints }
	if long(r.Title, MaxRubricTitle) || long(r.Source, MaxRubricWords) {
		return Refusef("The title of the rubric is too long.")
	}
	for what, p := range r.Weights {
		if !slices.Contains(Earning, what) {
			return Refusef("“%s” earns no points.", Shortened(string(what), 40))
		}
		if !points(p) {
			return Refusef("Points are numbers up to %d.", MaxRubricPoints)
		}
	}
	if len(r.Criteria) > MaxCriteria {
		return Refusef("A rubric has at most %d criteria.", MaxCriteria)
	}
	seen := map[ID]bool{}
	for _, c := range r.Criteria {
		if !c.ID.Valid() || seen[c.ID] {
			return Refusef("Each criterion needs a name of its own, of letters, digits, hyphens and underscores.")
		}
		seen[c.ID] = true
		if c.Title == "" || long(c.Title, MaxRubricTitle) || len(c.Levels) < 2 || len(c.Levels) > MaxAttained {
			return Refusef("A criterion has a title and from 2 to %d levels.", MaxAttained)
		}
		for _, l := range c.Levels {
			if !points(l.Points) || l.Words == "" || long(l.Words, MaxRubricWords) {
				return Refusef("A level of a criterion says what it looks like, and has points.")
			}
		}
	}
	return nil
}

// Grade is the level of a criterion that somebody found a map to attain.
type Grade struct {
	ID        ID     `json:"id"`
	Criterion ID     `json:"criterion"`
	Level     int    `json:"level"` // counted from 0, as the rubric lists them
	Reason    string `json:"reason,omitempty" mevrin:"limit=comment"`
	By        ID     `json:"by"`
	At        string `json:"at" mevrin:"form=moment"`
}

// MaxGrades bounds the grades of one map.
const MaxGrades = 2000

// Sound tells what is wrong with a grade as a whole.
func (g *Grade) Sound() error {
	if !g.Criterion.Valid() || !g.By.Valid() || g.Level < 0 || g.Level >= MaxAttained {
		return Refusef("A grade says which level of which criterion, and who thinks so.")
	}
	return nil
}
