package edit

import (
	"maps"

	cm "mevrin/core/conceptmap"
)

// CopyStop puts a copy of a stop behind it, with its texts and what it shows.
type CopyStop struct {
	Stop cm.ID `json:"stop"`
	ID   cm.ID `json:"id"`
}

func (op *CopyStop) apply(d *editing) error {
	if err := d.Free(op.ID); err != nil {
		return err
	}
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	next := *s
	next.ID, next.Opens, next.Took, next.Mends = op.ID, nil, 0, nil
	return d.rankStop(&next, op.Stop)
}

// Rehearsed says how many seconds the stops of a route took when it was rehearsed. Stops that are
// gone by now are passed over.
type Rehearsed struct {
	Route cm.ID         `json:"route"`
	Took  map[cm.ID]int `json:"took"`
}

func (op *Rehearsed) apply(d *editing) error {
	if _, err := d.route(op.Route); err != nil {
		return err
	}
	for _, s := range d.Map.StopsOf(op.Route) {
		took, walked := op.Took[s.ID]
		if !walked {
			continue
		}
		next := *s
		next.Took = took
		if err := next.Sound(); err != nil {
			return err
		}
		d.Put(&next)
	}
	return nil
}

// NoteMend notes at a stop what is to be mended.
type NoteMend struct {
	Stop  cm.ID  `json:"stop"`
	ID    cm.ID  `json:"id"` // of the note, among those of its stop
	Words string `json:"words,omitempty"`
}

func (op *NoteMend) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	if _, used := s.Mends[op.ID]; used || !op.ID.Valid() {
		return cm.Refusef("This note is there already.")
	}
	if len(s.Mends) >= cm.MaxMends {
		return cm.Refusef("A stop can have at most %d notes of what is to be mended.", cm.MaxMends)
	}
	words, err := cm.Clean(op.Words, cm.MaxRemark, "A note of what is to be mended")
	if err != nil {
		return err
	}
	return d.mend(s, op.ID, &cm.Mend{Words: words})
}

// TickMend says whether what was noted at a stop is mended.
type TickMend struct {
	Stop cm.ID `json:"stop"`
	ID   cm.ID `json:"id"`
	Done bool  `json:"done"`
}

func (op *TickMend) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	was, there := s.Mends[op.ID]
	if !there {
		return cm.Refusef("This note is gone already.")
	}
	was.Done = op.Done
	return d.mend(s, op.ID, &was)
}

// DropMend takes a note of what is to be mended away.
type DropMend struct {
	Stop cm.ID `json:"stop"`
	ID   cm.ID `json:"id"`
}

func (op *DropMend) apply(d *editing) error {
	s, err := d.stop(op.Stop)
	if err != nil {
		return err
	}
	if _, there := s.Mends[op.ID]; !there {
		return cm.Refusef("This note is gone already.")
	}
	return d.mend(s, op.ID, nil)
}

func (d *editing) mend(s *cm.Stop, id cm.ID, mend *cm.Mend) error {
	next := *s
	next.Mends = maps.Clone(s.Mends)
	if mend == nil {
		delete(next.Mends, id)
	} else {
		if next.Mends == nil {
			next.Mends = map[cm.ID]cm.Mend{}
		}
		next.Mends[id] = *mend
	}
	d.Put(&next)
	return nil
}
