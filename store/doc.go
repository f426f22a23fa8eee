// Package store keeps maps and their logs in SQLite, through GORM.
//
// A map is kept twice in one transaction: as typed rows that hold its present
// state, and as the log of changes that led there. Replaying the log gives
// exactly the rows; a test holds that. What Append has returned from without
// an error is on disk and survives the loss of the process and of power
// (write-ahead log, synchronous FULL).
package store
