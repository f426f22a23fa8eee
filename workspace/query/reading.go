package query

import "mevrin/workspace"

// Reading is a state of a map as people read it: what pages, the column, the margin and
// lenses say of it. It asks nobody and changes nothing.
type Reading struct{ *workspace.State }
