//go:build !answerearly

package store

// commit runs a transaction and reports how it ended. It is a seam: the test
// that kills the process builds a binary in which the answer comes before the
// transaction (commit_answerearly.go), and must find the entries it loses.
func commit(transaction func() error) error { return transaction() }
