package work_test

import (
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"

	"mevrin/core/work"
)

func TestEachEndsWhereItsLimitDoes(t *testing.T) {
	var done [40]int
	assert.True(t, work.Done(func() {
		(&work.Limit{}).Each(len(done), func(i int, _ *work.Limit) { done[i]++ })
	}))
	for i, n := range done {
		assert.Equal(t, 1, n, "computation %d", i)
	}
	var asked atomic.Int64
	limit := &work.Limit{Over: func() bool { return asked.Add(1) > 20 }}
	assert.False(t, work.Done(func() {
		limit.Each(4, func(_ int, own *work.Limit) {
			for {
				own.Tick() // forever, but for the limit
			}
		})
	}))
	defer func() { assert.Contains(t, recover(), "a fault") }()
	func() {
		(*work.Limit)(nil).Each(3, func(i int, own *work.Limit) {
			if i == 1 {
				panic("a fault")
			}
			for i == 2 { // ends since another has
				own.Tick()
				if own == nil { // on one processor one comes after the other
					return
				}
			}
		})
	}()
}
