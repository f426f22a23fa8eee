package web

// What a request may send is bounded here; what it may cause and leave in memory, in
// package workspace.
const (
	maxBody   = 4 << 20  // bytes of a body, but for the two that follow
	maxUpload = 40 << 20 // of an uploaded map: more than the largest
	maxFile   = 25 << 20 // of a file that is attached; the page has it from limits.js and says so before
)
