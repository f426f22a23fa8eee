package web

import (
	"context"
	"runtime"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/layout"
	"mevrin/core/work"
	"mevrin/draw/scene"
)

// What a request may send and cause is bounded here, so that nobody's request makes
// the process take more than 300 MB or lets somebody else wait. What a map may hold
// is bounded in core/conceptmap/budget.go.
const (
	maxBody   = 4 << 20  // bytes of a body, but for the two that follow
	maxUpload = 40 << 20 // of an uploaded map: more than the largest
	maxFile   = 25 << 20 // of a file that is attached; the page says so before

	maxAsked   = 5000 // concepts that one wish for a view names
	maxChosen  = 50   // elements that are told of a selection
	maxViewers = 1000 // windows that listen to one map
	maxPeople  = 2000 // people whose views are held of one map

	// maxSessions bounds the maps kept in memory, in bytes as they are weighed.
	maxSessions = 64 << 20
	// maxViews bounds the drawings of one state for other views than the whole map,
	// and maxViewed what they take, in bytes.
	maxViews  = 8
	maxViewed = 24 << 20
	// maxRecent is how many entries a window may have missed and still be brought up
	// to date piece by piece; maxRemembered bounds what is kept for that, in bytes,
	// and maxAnswers what the answers take of it.
	maxRecent     = 300
	maxRemembered = 8 << 20
	maxAnswers    = 2 << 20

	maxReplaced = 500 // places that are shown and replaced at once
	maxSpoken   = 500 // sentences that are read in one go

	// maxWork is how long one request may compute.
	maxWork = 20 * time.Second
	// large is from how many concepts on computing is done by few at a time, so that
	// a processor stays free for all others.
	large = 400
)

// computing is held by those who compute something large.
var computing = make(chan struct{}, max(1, runtime.GOMAXPROCS(0)-1))

// tooLong refuses what did not come to its end.
var tooLong = &cm.Refusal{Words: "That takes too long on a map as large as this, and was broken off. Nothing was changed. Try it with one branch, or with fewer concepts."}

// working computes something about a map of so many concepts: not longer than it
// may, not after nobody waits for it any more, and what is large not beside too much
// else.
func working(ctx context.Context, concepts int, do func(*work.Limit) error) error {
	ctx, cancel := context.WithTimeout(ctx, maxWork)
	defer cancel()
	if concepts >= large {
		select {
		case computing <- struct{}{}:
			defer func() { <-computing }()
		case <-ctx.Done():
			return tooLong
		}
	}
	var err error
	if !work.Done(func() { err = do(&work.Limit{Over: func() bool { return ctx.Err() != nil }}) }) {
		return tooLong
	}
	return err
}

// apply performs operations on a map as working does.
func apply(ctx context.Context, m *cm.Map, ops []cm.Operation) (out cm.Outcome, err error) {
	err = working(ctx, len(m.Concepts), func(limit *work.Limit) error {
		out, err = cm.Apply(m, ops, layout.Placer{Measurer: scene.Measurer{}, Stop: limit})
		return err
	})
	return out, err
}
