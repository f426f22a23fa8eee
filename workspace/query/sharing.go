package query

import (
	"context"

	"mevrin/store"
	"mevrin/workspace"
)

// SharedLink is a link to a map, as whoever shares it sees it.
type SharedLink struct {
	ID      string
	Says    string // what it lets one do
	Address string // its path
	Made    string
}

// Links gives all links to the map that still lead there.
func (s Reading) Links(ctx context.Context, w *workspace.Workspace, who workspace.Person) ([]SharedLink, error) {
	grants, err := w.Store.For(who.Scope).Grants(ctx, s.Map.ID)
	if err != nil {
		return nil, err
	}
	all := make([]SharedLink, len(grants))
	for i, gr := range grants {
		one := SharedLink{ID: gr.ID, Made: gr.Created.Local().Format("2 January 2006")}
		switch gr.Allows {
		case store.AllowsWalk:
			one.Says, one.Address = s.t("walk a route"), "/walk/"+gr.Token
			if r := s.Map.Routes[gr.Route]; r != nil {
				one.Says = s.t("walk the route “%s”", s.Map.Words(r.Title))
			}
		case store.AllowsHand:
			one.Says, one.Address = s.t("add to the map, with simple tools"), "/hand/"+gr.Token
		case store.AllowsJudge:
			one.Says, one.Address = s.t("judge its propositions"), "/judge/"+gr.Token
		case store.AllowsPicture:
			one.Says, one.Address = s.t("see its picture"), "/picture/"+gr.Token+"/map.svg"
		}
		all[i] = one
	}
	return all, nil
}
