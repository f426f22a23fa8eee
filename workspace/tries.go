package workspace

import (
	"errors"
	"sync"
	"time"

	"golang.org/x/time/rate"
)

// ErrTooOften tells that something was got wrong too often for now.
var ErrTooOften = errors.New("tried too often")

// Tries counts what was got wrong, by whom or of what: so many times at once, and one more in so much time.
type Tries struct {
	Once  int
	Again time.Duration

	mu sync.Mutex
	by map[string]*rate.Limiter
}

// maxTriers bounds for how many it is remembered.
const maxTriers = 10_000

// TooOften tells whether somebody has to wait.
func (t *Tries) TooOften(key string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	limiter := t.by[key]
	return limiter != nil && limiter.Tokens() < 1
}

// Failed counts a wrong try.
func (t *Tries) Failed(key string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.by) >= maxTriers || t.by == nil {
		t.by = map[string]*rate.Limiter{}
	}
	limiter := t.by[key]
	if limiter == nil {
		limiter = rate.NewLimiter(rate.Every(t.Again), t.Once)
		t.by[key] = limiter
	}
	limiter.Allow()
}
