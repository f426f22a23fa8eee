// Package work lets long computations be broken off. The core has no clock: who asks
// for something says when it should end.
package work

// Limit is asked now and then whether work should go on. Nil, and the zero value,
// never end anything. One Limit serves one computation at a time.
type Limit struct {
	// Over says whether the work should end now; it is called often, and must be
	// quick.
	Over func() bool
	left int
}

// Within gives a limit that ends after so many steps, or where this one does.
func (l *Limit) Within(steps int) *Limit {
	return &Limit{Over: func() bool {
		steps -= each
		return steps < 0 || l != nil && l.Over != nil && l.Over()
	}}
}

// ended is what Tick panics with. Done recovers it: the work in between is thrown
// away whole, and leaves nothing half done.
type ended struct{}

// each is after how many steps Over is called.
const each = 512

// Tick counts a small step of work, and ends the work where that is wished.
func (l *Limit) Tick() { l.TickBy(1) }

// TickBy counts several steps.
func (l *Limit) TickBy(n int) {
	if l == nil || l.Over == nil {
		return
	}
	if l.left -= n; l.left <= 0 {
		l.left = each
		if l.Over() {
			panic(ended{})
		}
	}
}

// Done does work, and tells whether it came to its end.
func Done(do func()) (done bool) {
	defer func() {
		if fault := recover(); fault != nil {
			if _, is := fault.(ended); !is {
				panic(fault)
			}
			done = false
		}
	}()
	do()
	return true
}
