package work

import (
	"fmt"
	"runtime"
	"runtime/debug"
	"sync"
	"sync/atomic"
)

// Each does n computations that do not depend on each other, as many at a time as there are
// processors, each with a limit of its own. It returns when all are done. Where this limit
// ends one of them it ends all; a panic of one is one of the caller, with
// the words and the stack of the first.
func (l *Limit) Each(n int, do func(i int, own *Limit)) {
	workers := min(n, runtime.GOMAXPROCS(0))
	if workers < 2 {
		for i := range n {
			do(i, l)
		}
		return
	}
	var (
		next   atomic.Int64
		lock   sync.Mutex // Over is asked by one at a time
		over   bool
		broken any // what the first that panicked did so with
		all    sync.WaitGroup
	)
	ask := func() bool {
		lock.Lock()
		defer lock.Unlock()
		over = over || l != nil && l.Over != nil && l.Over()
		return over
	}
	for range workers {
		all.Go(func() {
			defer func() {
				if fault := recover(); fault != nil {
					lock.Lock()
					defer lock.Unlock()
					if over = true; broken != nil {
						return
					}
					if broken = fault; fault != any(ended{}) {
						broken = fmt.Sprintf("%v\n\n%s", fault, debug.Stack()) // of this one, which the caller has not
					}
				}
			}()
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				do(i, &Limit{Over: ask})
			}
		})
	}
	all.Wait()
	if broken != nil {
		panic(broken)
	}
}
