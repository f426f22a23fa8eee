package people

import (
	"slices"
	"strings"

	"mevrin/core/likeness"
)

// MaxMentions bounds who is let know of one comment.
const MaxMentions = 20

// Mentioned gives those of some people whom words name behind an @: by their whole name, or by their first where no
// other of them has it. Letter case does not matter.
func Mentioned(words string, all []Person) (named []Person) {
	first := func(p Person) string {
		name, _, _ := strings.Cut(likeness.Fold(p.Name), " ")
		return name
	}
	for _, part := range strings.Split(words, "@")[1:] {
		rest := likeness.Fold(part)
		best := -1
		for i, p := range all {
			name := likeness.Fold(p.Name)
			switch {
			case begins(rest, name) && (best < 0 || len(name) > len(likeness.Fold(all[best].Name)) || !begins(rest, likeness.Fold(all[best].Name))):
				best = i
			case best < 0 && begins(rest, first(p)) && !slices.ContainsFunc(all, func(o Person) bool { return o.ID != p.ID && first(o) == first(p) }):
				best = i
			}
		}
		if best >= 0 && len(named) < MaxMentions && !slices.Contains(named, all[best]) {
			named = append(named, all[best])
		}
	}
	return named
}

// begins tells whether words begin with a name that ends where a word does.
func begins(words, name string) bool {
	rest, is := strings.CutPrefix(words, name)
	return is && name != "" && (rest == "" || !isLetter(rest))
}

func isLetter(s string) bool {
	r := []rune(s)[0]
	return r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r > 127
}
