package conceptmap

import (
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Time is written as in ISO 8601: a year (negative before year 0, of any length
// and with a fraction, so that it may count anything), a month (2026-11), a day
// (2026-11-24), or a span of two of these with a slash between them.
var (
	numberForm = regexp.MustCompile(`^-?\d{1,12}(\.\d{1,6})?$`)
	dateForm   = regexp.MustCompile(`^(-?\d{4,6})-(\d{2})(?:-(\d{2}))?$`)
	spanForm   = regexp.MustCompile(`^(\S+?)\s*(?:/|–|—|\bto\b)\s*(\S+)$`)
	wordSpan   = regexp.MustCompile(`^(\S+)\s+(?:to|until|bis)\s+(\S+)$`)
)

// CleanWhen gives a time as it is stored: what people type for a span ("1760 –
// 1764", "1760 to 1764") with a slash, without spaces. It refuses what is no
// time, and a span that ends before it begins.
func CleanWhen(words string) (string, error) {
	words = strings.TrimSpace(strings.ReplaceAll(words, "−", "-"))
	if words == "" {
		return "", nil
	}
	parts := []string{words}
	if m := wordSpan.FindStringSubmatch(words); m != nil {
		parts = m[1:]
	} else if m := spanForm.FindStringSubmatch(words); m != nil {
		parts = m[1:]
	}
	var at [2]float64
	for i, part := range parts {
		from, to, ok := moment(part)
		if !ok {
			return "", Refusef("“%.40s” is no time that can be read. Write a year (1762), a month (2026-11), a day (2026-11-24), a number, or a span of two of these (1760/1764).", words)
		}
		if at[i] = from; i == 1 {
			at[i] = to
		}
	}
	if len(parts) == 2 && at[1] < at[0] {
		return "", Refusef("The span “%.40s” ends before it begins.", words)
	}
	return strings.Join(parts, "/"), nil
}

// moment reads one end of a time: the years at which it begins and ends.
func moment(words string) (from, to float64, ok bool) {
	if numberForm.MatchString(words) {
		v, err := strconv.ParseFloat(words, 64)
		return v, v, err == nil
	}
	m := dateForm.FindStringSubmatch(words)
	if m == nil {
		return 0, 0, false
	}
	year, _ := strconv.Atoi(m[1])
	month, _ := strconv.Atoi(m[2])
	if month < 1 || month > 12 {
		return 0, 0, false
	}
	days := [...]int{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}
	whole := 365.0
	if year%4 == 0 && (year%100 != 0 || year%400 == 0) {
		days[1], whole = 29, 366
	}
	before := 0
	for _, d := range days[:month-1] {
		before += d
	}
	if m[3] == "" {
		return float64(year) + float64(before)/whole, float64(year) + float64(before+days[month-1])/whole, true
	}
	day, _ := strconv.Atoi(m[3])
	if day < 1 || day > days[month-1] {
		return 0, 0, false
	}
	return float64(year) + float64(before+day-1)/whole, float64(year) + float64(before+day)/whole, true
}

// Span gives the time of a concept, or else of its task, in years (or whatever its numbers count): its
// beginning and its end, which are the same for a single number. Ok is false
// where it has none.
func (c *Concept) Span() (from, to float64, ok bool) {
	when := c.EffectiveTime()
	first, last, span := strings.Cut(when, "/")
	if when == "" {
		return 0, 0, false
	}
	from, to, ok = moment(first)
	if span && ok {
		_, to, ok = moment(last)
	}
	return from, math.Max(from, to), ok
}
