//go:build answerearly

package store

import "time"

// queue runs transactions in order, a little late, after their entries have
// been answered. This is the fault that the kill test exists to find; no
// shipped binary is built with it.
var queue = func() chan func() error {
	waiting := make(chan func() error, 1000)
	go func() {
		for transaction := range waiting {
			time.Sleep(20 * time.Millisecond)
			_ = transaction()
		}
	}()
	return waiting
}()

func commit(transaction func() error) error {
	queue <- transaction
	return nil
}
