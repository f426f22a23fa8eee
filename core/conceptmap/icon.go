package conceptmap

import (
	"slices"
	"strconv"
	"strings"
)

// MaxStep is the greatest number of a step.
const MaxStep = 99

// StepIcon gives the number of a step as an icon: it is shown as a plain numeral.
func StepIcon(n int) Icon { return Icon("step-" + strconv.Itoa(n)) }

// Step gives the number that an icon stands for; ok is false for a picture.
func (i Icon) Step() (n int, ok bool) {
	digits, is := strings.CutPrefix(string(i), "step-")
	n, err := strconv.Atoi(digits)
	return n, is && err == nil && n >= 1 && n <= MaxStep && StepIcon(n) == i
}

// Degree is an icon with a meaning of its own, as one of several degrees of a thing.
type Degree struct {
	Icon Icon
	// Means is its meaning in words: the key of a text.
	Means string
}

// Scale is a set of degrees, of which a concept carries one at most.
type Scale struct {
	Name    string // the key of a text
	Degrees []Degree
}

// Scales are all of them. What they mean is fixed, so that everybody reads them the same.
var Scales = []Scale{
	{"priority", []Degree{{"priority-high", "high priority"}, {"priority-middle", "middle priority"}, {"priority-low", "low priority"}}},
	{"progress", []Degree{{"progress-none", "not begun"}, {"progress-quarter", "a quarter done"}, {"progress-half", "half done"}, {"progress-most", "three quarters done"}, {"progress-done", "all done"}}},
}

// Scale gives the set that an icon belongs to, numbers of steps being one, too; empty for a
// mere picture.
func (i Icon) Scale() string {
	if _, is := i.Step(); is {
		return "step"
	}
	for _, s := range Scales {
		if slices.ContainsFunc(s.Degrees, func(d Degree) bool { return d.Icon == i }) {
			return s.Name
		}
	}
	return ""
}

// Means gives the key of the text that says what an icon means; empty for a mere picture and
// for the number of a step.
func (i Icon) Means() string {
	for _, s := range Scales {
		for _, d := range s.Degrees {
			if d.Icon == i {
				return d.Means
			}
		}
	}
	return ""
}

// MaxIcons is how many icons stand beside one label at most.
const MaxIcons = 4
