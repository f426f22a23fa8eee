package people

// Right is what somebody may do with a map that is not theirs.
type Right string

// The rights, each with all that those before it allow.
const (
	RightNone    Right = ""
	RightLook    Right = "look"    // see it, and walk it
	RightCopy    Right = "copy"    // take a copy of it, and export it
	RightJudge   Right = "judge"   // say of its propositions whether they hold
	RightComment Right = "comment" // comment, vote, and propose changes
	RightGuide   Right = "guide"   // lead a room through it
	RightEdit    Right = "edit"    // alter it
	RightOwn     Right = "own"     // share it, and put it into the bin
)

// Rights lists them, the least first, with what they are called.
var Rights = []struct {
	ID    Right
	Title string
}{
	{RightLook, "look at it"}, {RightCopy, "look at it and copy it"}, {RightJudge, "judge its propositions, too"}, {RightComment, "comment and suggest changes, too"},
	{RightGuide, "lead a room through it, too"}, {RightEdit, "work on it"}, {RightOwn, "share and delete it, too"},
}

// ForLinks are the rights that a link to a map can give: whose bearers are unknown lead no rooms and own nothing.
var ForLinks = []Right{RightLook, RightCopy, RightComment, RightEdit}

// ForAll are the rights that everybody can be given.
var ForAll = []Right{RightLook, RightCopy}

// Greater gives the one of two rights that allows more.
func Greater(a, b Right) Right {
	if a.rank() >= b.rank() {
		return a
	}
	return b
}

// Valid tells whether it is a right that can be given.
func (r Right) Valid() bool { return r.rank() > 0 }

// Allows tells whether whoever has a right has another one with it.
func (r Right) Allows(other Right) bool { return r.rank() >= other.rank() }

func (r Right) rank() int {
	for i, one := range Rights {
		if one.ID == r {
			return i + 1
		}
	}
	return 0
}
