package measured

import (
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/layout"
)

// Order says how a graph is put in order.
type Order struct {
	Pattern cm.Pattern
	// Freely lets siblings change places, as a new map does.
	Freely bool
	// Again is where everything stood before; nil for a map that was never in order. What
	// the graph has and Again has not is added to a map that is kept in order; where there
	// is no such thing the map is put in order again.
	Again *Positions
}

// Arrange puts a graph in order as the application does with a map: it makes a map of it,
// and performs on that the operation that a user chooses. The time is that of the operation.
func (f *File) Arrange(o Order) (Positions, error) {
	placer := layout.Placer{Measurer: f.Sizes()}
	m, ops := (*cm.Map)(nil), []edit.Operation{&edit.Tidy{Pattern: o.Pattern, Freely: o.Freely}}
	var err error
	if o.Again == nil {
		m, err = f.Map("m")
	} else {
		var since []edit.Operation
		m, since, err = f.MapFrom("m", o.Again)
		if err == nil {
			m.Pattern, m.Freely = o.Pattern, o.Freely
			if len(since) > 0 {
				m.KeepTidy, ops = true, since
			}
		}
	}
	if err != nil {
		return Positions{}, err
	}
	begun := time.Now()
	out, err := edit.Apply(m, ops, placer)
	if err != nil {
		return Positions{}, err
	}
	return f.Placed(out.Map, float64(time.Since(begun).Microseconds())/1000), nil
}
