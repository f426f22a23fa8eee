package people

// Right is what somebody may do with a map that is not theirs.
type Right string

// The rights, each with all that those before it allow.
const (
	RightNone Right = ""
	RightLook Right = "look" // see it, walk it, take a copy
	RightEdit Right = "edit" // alter it, and lead others through it
	RightOwn  Right = "own"  // share it, and put it into the bin
)

// Rights lists them, the least first, with what they are called.
var Rights = []struct {
	ID    Right
	Title string
}{{RightLook, "look at it and copy it"}, {RightEdit, "work on it"}, {RightOwn, "share and delete it, too"}}

// Valid tells whether it is a right that can be given.
func (r Right) Valid() bool { return r == RightLook || r == RightEdit || r == RightOwn }

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
