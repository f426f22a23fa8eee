// Package ratings reads tables of ratings: CSV with the columns unit, rater and value.
package ratings

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"mevrin/core/agree"
)

// What one table may hold.
const (
	maxUnits  = 100_000
	maxRaters = 1_000
	maxValues = 100 // different ones
	maxCell   = 1_000
)

// Words are the values that are words, from the one that says least to the one that says most;
// NotSure is beside that order.
var Words = []string{"does-not-hold", "in-part", "holds"}

// NotSure is the value of a rater who cannot tell.
const NotSure = "not-sure"

// Options say how values are read.
type Options struct {
	// Nominal leaves the order of values aside.
	Nominal bool
	// NotSureIsAValue keeps what a rater was not sure of as a value of its own; otherwise it
	// counts as missing.
	NotSureIsAValue bool
}

// Fault is a line that cannot be read. Lines are counted from 1.
type Fault struct {
	Line int
	What string
}

func (f *Fault) Error() string { return fmt.Sprintf("line %d: %s", f.Line, f.What) }

// columns are those that a table must have.
var columns = []string{"unit", "rater", "value"}

// reading is a table in the making.
type reading struct {
	units, raters map[string]int
	table         agree.Table
	words         bool // whether values are words
	begun         bool // whether any value was given
	numbers       map[int]bool
	cells         map[[2]int]cell
}

// cell is what one rater said of one unit.
type cell struct {
	line, number int
	word         string
	given        bool
}

// Read reads a table, its values parted by commas, semicolons or tabs. A Fault names the first
// line that cannot be read.
func Read(data []byte, o Options) (agree.Table, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if !utf8.Valid(data) {
		return agree.Table{}, &Fault{1, "the file is no text in UTF-8"}
	}
	from := csv.NewReader(bytes.NewReader(data))
	from.Comma, from.FieldsPerRecord, from.ReuseRecord = delimiter(data), -1, true
	r := &reading{units: map[string]int{}, raters: map[string]int{}, numbers: map[int]bool{}, cells: map[[2]int]cell{}}
	var at []int
	for {
		row, err := from.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var fault *csv.ParseError
		if errors.As(err, &fault) {
			return agree.Table{}, &Fault{fault.StartLine, "a quotation mark is opened and not closed, or stands inside a value"}
		} else if err != nil {
			return agree.Table{}, err
		}
		line, _ := from.FieldPos(0)
		if at == nil {
			if at, err = header(row); err != nil {
				return agree.Table{}, &Fault{line, err.Error()}
			}
			continue
		}
		if err := r.add(row, at, line); err != nil {
			return agree.Table{}, &Fault{line, err.Error()}
		}
	}
	if at == nil {
		return agree.Table{}, &Fault{1, "there is no line with the names of the columns: unit,rater,value"}
	}
	return r.finish(o), nil
}

// delimiter gives what parts the names of the columns.
func delimiter(data []byte) rune {
	first, _, _ := bytes.Cut(data, []byte("\n"))
	for _, d := range []rune{';', '\t'} {
		if bytes.ContainsRune(first, d) && !bytes.ContainsRune(first, ',') {
			return d
		}
	}
	return ','
}

// header finds the columns by their names.
func header(row []string) ([]int, error) {
	at := make([]int, len(columns))
	for i, name := range columns {
		at[i] = slices.IndexFunc(row, func(cell string) bool { return strings.EqualFold(strings.TrimSpace(cell), name) })
		if at[i] < 0 {
			return nil, fmt.Errorf("there is no column “%s”; the columns are unit, rater, value", name)
		}
	}
	return at, nil
}

func (r *reading) add(row []string, at []int, line int) error {
	if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
		return nil
	}
	if len(row) <= max(at[0], at[1]) {
		return fmt.Errorf("a value is missing: there are %d, and the columns are %s", len(row), strings.Join(columns, ", "))
	}
	get := func(i int) string {
		if at[i] < len(row) {
			return strings.Clone(strings.TrimSpace(row[at[i]]))
		}
		return ""
	}
	unit, rater, value := get(0), get(1), get(2)
	switch {
	case unit == "":
		return errors.New("the unit has no name")
	case rater == "":
		return errors.New("the rater has no name")
	case len(unit) > maxCell || len(rater) > maxCell || len(value) > maxCell:
		return fmt.Errorf("a name is longer than %d bytes", maxCell)
	}
	u, err := number(r.units, &r.table.Units, unit, maxUnits, "units")
	if err != nil {
		return err
	}
	v, err := number(r.raters, &r.table.Raters, rater, maxRaters, "raters")
	if err != nil {
		return err
	}
	if before, twice := r.cells[[2]int{u, v}]; twice {
		return fmt.Errorf("%s judged %s in line %d already", quoted(rater), quoted(unit), before.line)
	}
	c := cell{line: line}
	if value != "" {
		if err := r.value(&c, value); err != nil {
			return err
		}
	}
	r.cells[[2]int{u, v}] = c
	return nil
}

// value reads a word or a whole number; a table has only one sort of them.
func (r *reading) value(c *cell, value string) error {
	n, err := strconv.Atoi(value)
	word := err != nil
	if word && value != NotSure && !slices.Contains(Words, value) {
		return fmt.Errorf("%s is no value; values are holds, in-part, does-not-hold, not-sure, or whole numbers", quoted(value))
	}
	if value == NotSure {
		c.word, c.given = value, true // stands among numbers, too
		return nil
	}
	if r.begun && word != r.words {
		return fmt.Errorf("%s stands among values of the other sort: all are words, or all are whole numbers", quoted(value))
	}
	r.begun, r.words = true, word
	if word {
		c.word, c.given = value, true
		return nil
	}
	if math.Abs(float64(n)) > 1e9 {
		return fmt.Errorf("%s is too large", quoted(value))
	}
	c.number, c.given = n, true
	if r.numbers[n] = true; len(r.numbers) > maxValues {
		return fmt.Errorf("there are more than %d different values", maxValues)
	}
	return nil
}

func (r *reading) finish(o Options) agree.Table {
	t := r.table
	scale := &t.Scale
	place := map[string]int{}
	add := func(name string, amount float64) {
		place[name] = len(scale.Names)
		scale.Names, scale.Amounts = append(scale.Names, name), append(scale.Amounts, amount)
	}
	if r.begun && !r.words {
		all := make([]int, 0, len(r.numbers))
		for n := range r.numbers {
			all = append(all, n)
		}
		slices.Sort(all)
		for _, n := range all {
			add(strconv.Itoa(n), float64(n))
		}
	} else {
		for i, w := range Words {
			add(w, float64(i))
		}
	}
	if o.NotSureIsAValue {
		add(NotSure, math.NaN())
	}
	if o.Nominal {
		scale.Amounts = nil
	}
	t.Said = make([][]int, len(t.Units))
	for u := range t.Said {
		t.Said[u] = slices.Repeat([]int{agree.Missing}, len(t.Raters))
	}
	for key, c := range r.cells {
		name := c.word
		if name == "" {
			name = strconv.Itoa(c.number)
		}
		if at, is := place[name]; is && c.given {
			t.Said[key[0]][key[1]] = at
		}
	}
	return t
}

// number gives the place of a name, in the order in which they come.
func number(known map[string]int, names *[]string, name string, most int, what string) (int, error) {
	if at, is := known[name]; is {
		return at, nil
	}
	if len(*names) == most {
		return 0, fmt.Errorf("there are more than %d %s", most, what)
	}
	known[name] = len(*names)
	*names = append(*names, name)
	return known[name], nil
}

// quoted gives a value for a message, cut short.
func quoted(s string) string {
	const most = 40
	if short := []rune(s); len(short) > most {
		s = string(short[:most]) + "…"
	}
	return "“" + s + "”"
}
