package drive

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// Thing is a node of the accessibility tree: what someone hears who does not
// see the page.
type Thing struct {
	Role, Name string
	Value      string
	Focused    bool
	Pressed    bool // or checked, or selected
}

// Tree gives the accessibility tree in its order, without what is ignored.
func (p *Page) Tree() []Thing {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	tree, err := chromedp.Call(ctx, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
	if err != nil {
		p.t.Fatalf("reading the accessibility tree: %v", err)
	}
	return things(tree.Nodes)
}

func things(nodes []*accessibility.Node) []Thing {
	var all []Thing
	for _, n := range nodes {
		if n.Ignored {
			continue
		}
		thing := Thing{Role: said(n.Role), Name: said(n.Name), Value: said(n.Value)}
		for _, property := range n.Properties {
			switch on := said(property.Value) == "true"; string(property.Name) {
			case "focused":
				thing.Focused = on
			case "pressed", "checked", "selected":
				thing.Pressed = thing.Pressed || on
			}
		}
		all = append(all, thing)
	}
	return all
}

func said(v *accessibility.Value) string {
	if v == nil {
		return ""
	}
	var words any
	_ = json.Unmarshal(v.Value, &words)
	return fmt.Sprint(words)
}

// Focused gives the thing that has the keyboard, as the tree tells of it.
func (p *Page) Focused() Thing {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	at, err := chromedp.Call(ctx, runtime.Evaluate, runtime.EvaluateParams{Expression: "document.activeElement", ObjectGroup: "focused"})
	if err != nil || at.Result == nil {
		p.t.Fatalf("asking what has the keyboard: %v", err)
	}
	tree, err := chromedp.Call(ctx, accessibility.GetPartialAXTree, accessibility.GetPartialAXTreeParams{ObjectID: at.Result.ObjectID, FetchRelatives: new(bool)})
	if err != nil {
		p.t.Fatalf("reading the accessibility tree: %v", err)
	}
	for _, thing := range things(tree.Nodes) {
		if thing.Focused && thing.Role != "RootWebArea" {
			return thing
		}
	}
	return Thing{}
}

// TabTo presses Tab until a thing of a role, whose name begins with some
// words, has the keyboard; back presses Shift+Tab.
func (p *Page) TabTo(role, name string, back ...bool) Thing {
	p.t.Helper()
	var met []string
	for range 80 {
		if len(back) > 0 && back[0] {
			p.key([]rune(kb.Tab)[0], kb.ModifierShift)
		} else {
			p.key([]rune(kb.Tab)[0], 0)
		}
		now := p.Focused()
		if now.Role == role && strings.HasPrefix(now.Name, name) {
			return now
		}
		met = append(met, now.Role+" "+now.Name)
	}
	p.t.Fatalf("the keyboard does not come to the %s %q, but to:\n%s", role, name, strings.Join(met, "\n"))
	return Thing{}
}

// Hears tells whether the tree has a thing of a role with some words in its
// name.
func (p *Page) Hears(role, words string) bool {
	p.t.Helper()
	for _, thing := range p.Tree() {
		if thing.Role == role && strings.Contains(thing.Name, words) {
			return true
		}
	}
	return false
}
