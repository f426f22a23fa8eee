package query

import (
	"context"
	"slices"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/workspace"
)

// SharedLink is a link to a map, as whoever shares it sees it.
type SharedLink struct {
	ID      string
	Says    string // what it lets one do
	Address string // its path
	Made    string
	Until   string // the last day, as YYYY-MM-DD; empty where it does not end by itself
	Ended   bool
	Locked  bool // it asks for a password
	Most    int  // for how many it is good; 0 for any number
	Used    int
	Frame   *store.Frame // of a frame; nil for others
	Code    string       // what is pasted to show a frame
	Counts  bool         // who opens it can be counted, and asked for a password
}

// Links gives all links to the map that lead there, and then those that ended by themselves.
func (s Reading) Links(ctx context.Context, w *workspace.Workspace, who workspace.Person) ([]SharedLink, error) {
	grants, err := w.Store.For(who.Scope).Grants(ctx, s.Map.ID)
	if err != nil {
		return nil, err
	}
	ended, err := w.Store.For(who.Scope).Ended(ctx, s.Map.ID)
	if err != nil {
		return nil, err
	}
	all := make([]SharedLink, len(grants)+len(ended))
	for i, gr := range append(grants, ended...) {
		one := SharedLink{ID: gr.ID, Locked: gr.Secret != "", Most: gr.Most, Used: gr.Used, Ended: i >= len(grants), Counts: gr.Allows != store.AllowsPicture && gr.Allows != store.AllowsFrame, Made: gr.Created.Local().Format("2 January 2006")}
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
		case store.AllowsFrame:
			one.Says, one.Address, one.Frame = s.t("read it in a frame on other pages"), "/frame/"+gr.Token, gr.Frame
			if r := s.Map.Routes[gr.Route]; r != nil {
				one.Says = s.t("walk the route “%s” in a frame on other pages", s.Map.Words(r.Title))
			}
		case store.AllowsPicture:
			one.Says, one.Address = s.t("see its picture"), "/picture/"+gr.Token+"/map.svg"
		default:
			one.Address = "/link/" + gr.Token
			for _, r := range people.Rights {
				if r.ID == gr.Allows.Right() {
					one.Says = s.t(r.Title)
				}
			}
		}
		if !gr.Until.IsZero() {
			one.Until = gr.Until.Add(-time.Second).Local().Format(time.DateOnly)
		}
		all[i] = one
	}
	return all, nil
}

// RightChoices gives what a new link to the map as a whole could let its bearers do.
func (s Reading) RightChoices() (all []Choice) {
	for _, r := range people.Rights {
		if slices.Contains(people.ForLinks, r.ID) {
			all = append(all, Choice{string(r.ID), s.t(r.Title), ""})
		}
	}
	return all
}

// LinkChoices gives what a new link could be for.
func (s Reading) LinkChoices() (all []Choice) {
	for _, id := range cm.SortedIDs(s.Map.Routes) {
		all = append(all, Choice{string(store.AllowsWalk) + " " + string(id), s.t("walk the route “%s”", s.Map.Words(s.Map.Routes[id].Title)), ""})
	}
	return append(all, Choice{string(store.AllowsHand), s.t("add to the map, with simple tools"), ""},
		Choice{string(store.AllowsJudge), s.t("judge its propositions"), ""}, Choice{string(store.AllowsPicture), s.t("see its picture"), ""})
}
