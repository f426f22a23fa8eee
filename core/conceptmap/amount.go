package conceptmap

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Amount is a number with the unit in which it is counted, which may be none.
type Amount struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit,omitempty"`
}

// Units of duration, the short before the long. Minutes and hours add up, and so
// do days and weeks; a day is a date on the calendar, not so many hours of work.
const (
	UnitMinutes = "min"
	UnitHours   = "h"
	UnitDays    = "d"
	UnitWeeks   = "wk"
)

// MaxUnit is how many characters a unit has at most.
const MaxUnit = 20

var amountForm = regexp.MustCompile(`^([-+]?\d{1,12}(?:[.,]\d{1,6})?)\s*(\S{0,20}|\S{1,9} \S{1,9})$`)

// ReadAmount reads a number with its unit as people write it ("340 m/s", "1,5").
func ReadAmount(words string) (*Amount, error) {
	words = strings.Join(strings.Fields(strings.ReplaceAll(words, "−", "-")), " ")
	if words == "" {
		return nil, nil
	}
	m := amountForm.FindStringSubmatch(words)
	if m == nil {
		return nil, Refusef("“%.40s” is no number with a unit. Write, for example, 340 m/s.", words)
	}
	unit, err := Clean(m[2], MaxUnit, "A unit")
	if err != nil {
		return nil, err
	}
	v, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", "."), 64)
	if err != nil || math.IsInf(v, 0) {
		return nil, Refusef("“%.40s” is no number with a unit.", words)
	}
	return &Amount{v, unit}, nil
}

// unitWords are the words by which people call the units of duration.
var unitWords = map[string]string{
	"m": UnitMinutes, "min": UnitMinutes, "mins": UnitMinutes, "minute": UnitMinutes, "minutes": UnitMinutes, "minuten": UnitMinutes, "": UnitMinutes,
	"h": UnitHours, "hr": UnitHours, "hour": UnitHours, "hours": UnitHours, "std": UnitHours, "stunde": UnitHours, "stunden": UnitHours,
	"d": UnitDays, "day": UnitDays, "days": UnitDays, "tag": UnitDays, "tage": UnitDays,
	"wk": UnitWeeks, "w": UnitWeeks, "week": UnitWeeks, "weeks": UnitWeeks, "woche": UnitWeeks, "wochen": UnitWeeks,
}

// ReadDuration reads how long something lasts ("20 min", "1.5 h", "3 days");
// minutes where no unit is given.
func ReadDuration(words string) (*Amount, error) {
	a, err := ReadAmount(words)
	if a == nil && err == nil {
		return nil, nil
	}
	unit, known := "", false
	if err == nil {
		unit, known = unitWords[strings.TrimSuffix(strings.ToLower(a.Unit), ".")]
	}
	if !known || a.Value < 0 {
		return nil, Refusef("“%.40s” is no duration. Write, for example, 20 min, 1.5 h, 3 days or 2 weeks.", words)
	}
	return &Amount{a.Value, unit}, nil
}

func (a *Amount) sound(duration bool) bool {
	switch {
	case a == nil:
		return true
	case math.IsNaN(a.Value) || math.Abs(a.Value) >= 1e12:
		return false
	case duration:
		return a.Value >= 0 && slices.Contains([]string{UnitMinutes, UnitHours, UnitDays, UnitWeeks}, a.Unit)
	}
	clean, err := Clean(a.Unit, MaxUnit, "A unit")
	return err == nil && clean == a.Unit
}

// Words gives the amount as it is read.
func (a *Amount) Words() string {
	if a == nil {
		return ""
	}
	words := strconv.FormatFloat(math.Round(a.Value*1e6)/1e6, 'f', -1, 64)
	unit := a.Unit
	switch {
	case unit == UnitDays && a.Value == 1:
		unit = "day"
	case unit == UnitDays:
		unit = "days"
	case unit == UnitWeeks && a.Value == 1:
		unit = "week"
	case unit == UnitWeeks:
		unit = "weeks"
	}
	if unit == "" {
		return words
	}
	return words + " " + unit
}

// Lasting is what durations come to: minutes and days, which are not added to
// each other.
type Lasting struct{ Minutes, Days float64 }

// Add gives the sum with one more duration.
func (l Lasting) Add(a *Amount) Lasting {
	if a == nil {
		return l
	}
	switch a.Unit {
	case UnitMinutes:
		l.Minutes += a.Value
	case UnitHours:
		l.Minutes += 60 * a.Value
	case UnitDays:
		l.Days += a.Value
	case UnitWeeks:
		l.Days += 7 * a.Value
	}
	return l
}

// Words gives the sum as it is read: "3 days and 1 h 20 min".
func (l Lasting) Words() string {
	var parts []string
	if l.Days > 0 {
		parts = append(parts, (&Amount{l.Days, UnitDays}).Words())
	}
	if l.Minutes > 0 {
		hours, rest := math.Floor(l.Minutes/60), math.Mod(l.Minutes, 60)
		var words []string
		if hours > 0 {
			words = append(words, (&Amount{hours, UnitHours}).Words())
		}
		if rest > 0 {
			words = append(words, (&Amount{rest, UnitMinutes}).Words())
		}
		parts = append(parts, strings.Join(words, " "))
	}
	return strings.Join(parts, " and ")
}
