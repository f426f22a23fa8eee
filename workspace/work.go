package workspace

import (
	"context"
	"errors"
	"runtime"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/conceptmap/history"
	"mevrin/core/layout"
	"mevrin/core/work"
	"mevrin/draw/scene"
)

// What is caused and left in memory is bounded here, so that nobody's request makes the
// process take more than 300 MB or lets somebody else wait. What a map may hold is bounded
// in core/conceptmap/limits.go.
const (
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
	maxAnswers    = 512 << 10

	MaxReplaced = 500 // places that are shown and replaced at once
	MaxSpoken   = 500 // sentences that are read in one go

	// shortWork is how long a request computes before it takes a turn among those that
	// compute for long; maxTurn how long it waits for that, and maxWork how long it may
	// compute then.
	shortWork = time.Second // a map of 1,000 concepts is put in order in less
	maxTurn   = 30 * time.Second
	maxWork   = 20 * time.Second
)

// Turns is how many may compute for long at a time: a processor stays free for all
// others.
var Turns = max(1, runtime.GOMAXPROCS(0)-1)

var turns = make(chan struct{}, Turns)

// TakeTurn waits for a turn among those who compute for long, and gives what ends it. It
// fails with ErrNoTurn after a while, and when nobody waits for it any more.
func TakeTurn(ctx context.Context) (done func(), err error) {
	wait := time.NewTimer(maxTurn)
	defer wait.Stop()
	select {
	case turns <- struct{}{}:
		return func() { <-turns }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	case <-wait.C:
		return nil, ErrNoTurn
	}
}

// tooLong refuses what did not come to its end; ErrNoTurn tells that it did not come to
// its turn, and can be asked again.
var (
	tooLong   = cm.Refusef("That takes too long on a map as large as this, and was broken off. Nothing was changed. Try it with one branch, or with fewer concepts.")
	ErrNoTurn = errors.New("others are computing")
)

// Working computes something: not longer than it may, and not after nobody waits for it
// any more. What is done soon is done at once, whatever others compute.
func Working(ctx context.Context, do func(*work.Limit) error) error {
	begun := time.Now()
	var mine func()
	var ended error
	over := func() bool {
		switch {
		case ended != nil:
		case ctx.Err() != nil:
			ended = ctx.Err()
		case mine == nil && time.Since(begun) > shortWork:
			mine, ended = TakeTurn(ctx)
			begun = time.Now() // waiting is no work
		case mine != nil && time.Since(begun) > maxWork:
			ended = tooLong
		}
		return ended != nil
	}
	defer func() {
		if mine != nil {
			mine()
		}
	}()
	var err error
	if !work.Done(func() { err = do(&work.Limit{Over: over}) }) {
		return ended
	}
	if err != nil && ended != nil && ended != tooLong {
		return ended // what was broken off inside has words that say it took too long
	}
	return err
}

// apply performs operations on a map as working does; drawn is the map as it is drawn, nil where it is not.
func apply(ctx context.Context, m *cm.Map, drawn *scene.Scene, ops []edit.Operation) (out history.Outcome, err error) {
	err = Working(ctx, func(limit *work.Limit) error {
		out, err = edit.Apply(m, ops, layout.Placer{Measurer: scene.Measurer{Drawn: drawn}, Stop: limit})
		return err
	})
	return out, err
}
