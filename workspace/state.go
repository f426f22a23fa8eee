package workspace

import (
	"context"
	"slices"
	"sync"
	"sync/atomic"

	"mevrin/core/brief"
	"mevrin/core/check"
	cm "mevrin/core/conceptmap"
	"mevrin/core/structure"
	"mevrin/draw/scene"
)

// State is a map at one revision with what derives from it. It is never
// altered, so a page can be made from it while the next edit goes on; drawings
// for other views than the whole map are made when they are first asked for.
type State struct {
	Map       *cm.Map
	Revision  int
	Structure *structure.Structure
	Scene     *scene.Scene // of the whole map

	found    sync.Mutex
	findings map[string][]check.Finding // by the settings of whoever asks
	counted  sync.Once
	briefed  []brief.Result
	missing  func(hash string) bool // tells that a file is not kept any more; nil where nobody asks

	mu     sync.Mutex
	views  []*drawn // the most recently asked for last
	former []*drawn // of the state before
}

// drawn is the drawing for a view, made by whoever asks for it first.
type drawn struct {
	view  scene.View
	once  sync.Once
	scene atomic.Pointer[scene.Scene]
}

// Seen gives the drawing for a view.
func (s *State) Seen(v scene.View) *scene.Scene {
	if v == (scene.View{}) {
		return s.Scene
	}
	d, prev := s.drawnFor(v)
	d.once.Do(func() { d.scene.Store(scene.Build(s.Map, s.Structure, v, prev)) })
	return d.scene.Load()
}

// drawnFor gives the place of the drawing for a view, and a drawing that is much
// like it.
func (s *State) drawnFor(v scene.View) (*drawn, *scene.Scene) {
	s.mu.Lock()
	defer s.mu.Unlock()
	is := func(d *drawn) bool { return d.view == v }
	if i := slices.IndexFunc(s.views, is); i >= 0 {
		d := s.views[i]
		s.views = append(slices.Delete(s.views, i, i+1), d)
		return d, s.Scene
	}
	prev := s.Scene
	if i := slices.IndexFunc(s.former, is); i >= 0 {
		if before := s.former[i].scene.Load(); before != nil {
			prev = before
		}
	}
	d := &drawn{view: v}
	most := min(maxViews, max(1, int(maxViewed/(s.weigh()/4))))
	if s.views = append(s.views, d); len(s.views) > most {
		s.views = slices.Delete(s.views, 0, len(s.views)-most)
	}
	return d, prev
}

func newState(m *cm.Map, revision int, before *State) *State {
	var prev *scene.Scene
	var shape *structure.Structure
	var former []*drawn
	if before != nil {
		prev, shape = before.Scene, before.Structure
		before.mu.Lock()
		former = slices.Clone(before.views)
		before.mu.Unlock()
	}
	st := structure.Next(shape, m)
	next := &State{Map: m, Revision: revision, Structure: st, Scene: scene.Build(m, st, scene.View{}, prev), former: former}
	if before != nil {
		next.missing = before.missing
	}
	return next
}

// maxSettings bounds the settings for which findings are kept.
const maxSettings = 8

// Findings gives what the rules notice on the map as an author wants them, found by whoever asks
// for it first.
func (s *State) Findings(author check.Settings) []check.Finding {
	s.found.Lock()
	defer s.found.Unlock()
	key := author.Key()
	if found, known := s.findings[key]; known {
		return found
	}
	if s.findings == nil || len(s.findings) >= maxSettings {
		s.findings = map[string][]check.Finding{}
	}
	found := check.FindAmong(s.Map, s.Structure, check.Surroundings{Missing: s.missing, Author: author})
	s.findings[key] = found
	return found
}

// Briefed gives how far the map meets its brief, counted by whoever asks first.
func (s *State) Briefed() []brief.Result {
	s.counted.Do(func() {
		if b := brief.Of(s.Map); b != nil {
			s.briefed = b.Check(s.Map, s.Structure)
		}
	})
	return s.briefed
}

// heavy is what a map weighs, in bytes, from which on few at a time are drawn.
const heavy = 4 << 20

// rendering is held while something is made of a heavy map.
var rendering = make(chan struct{}, 2)

// Turn waits until something can be made of a map, and gives what ends it.
func (s *State) Turn(ctx context.Context) (done func()) {
	if s.weigh() < heavy {
		return func() {}
	}
	select {
	case rendering <- struct{}{}:
		return func() { <-rendering }
	case <-ctx.Done():
		return func() {} // nobody waits for it
	}
}
