package graphs

import (
	"fmt"
	"html"
	"regexp"
	"strings"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
	"mevrin/format/safe"
)

// WriteMermaid gives a map as a flowchart in Mermaid text.
func WriteMermaid(e *content.Export) []byte {
	var b strings.Builder
	fmt.Fprintf(&b, "---\ntitle: %s\n---\n%%%% %s\nflowchart TD\n", yaml(e.Title()), comment(e))
	names := map[string]string{}
	for i, id := range e.Structure.Order {
		names[string(id)] = fmt.Sprintf("c%d", i+1)
		fmt.Fprintf(&b, "    c%d[\"%s\"]\n", i+1, told(e.Words(e.Map.Concepts[id].Label)))
	}
	for _, one := range edges(e) {
		arrow := "-->"
		switch {
		case one.plain:
			arrow = "---"
		case one.both:
			arrow = "<-->"
		}
		phrase := ""
		if one.phrase != "" {
			phrase = "|\"" + told(one.phrase) + "\"|"
		}
		fmt.Fprintf(&b, "    %s %s%s %s\n", names[one.from], arrow, phrase, names[one.to])
	}
	return []byte(b.String())
}

func yaml(words string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(words) + `"`
}

// told writes words as Mermaid shows them.
func told(words string) string {
	return strings.NewReplacer("#", "#35;", `"`, "#quot;", "<", "#lt;", ">", "#gt;", "\n", "<br>", "`", "#96;", "|", "#124;").Replace(words)
}

var (
	mermaidEdge = regexp.MustCompile(`^(.+?)\s*(<?(?:--+>|---+|-\.-+>?|==+>|===+))\s*(?:\|([^|]*)\|)?\s*(.+)$`)
	mermaidText = regexp.MustCompile(`^(.+?)\s*(<?)(?:--|==|-\.)\s+([^|>]+?)\s+(?:--+(>?)|==+(>?)|\.-+(>?))\s*(.+)$`)
	mermaidNode = regexp.MustCompile(`^([\w.-]+)\s*(?:(?:\(\[|\[\[|\[\(|\(\(\(?|\{\{|\[[/\\]?|\(|\{|>)\s*"?(.*?)"?\s*(?:\]\)|\]\]|\)\]|\)\)\)?|\}\}|[/\\]?\]|\)|\}))?(?::::\w+)?$`)
	entity      = regexp.MustCompile(`#(\w+);`)
)

// ReadMermaid reads a flowchart in Mermaid text: nodes, and edges with their words.
func ReadMermaid(raw []byte) (*content.Draft, error) {
	d := &content.Draft{}
	seen := map[string]int{}
	known, head := false, false
	node := func(text string) (string, error) {
		m := mermaidNode.FindStringSubmatch(strings.TrimSpace(text))
		if m == nil {
			return "", nil
		}
		at, there := seen[m[1]]
		if !there {
			at = len(d.Concepts)
			seen[m[1]] = at
			if err := d.Add(content.Concept{Key: m[1]}); err != nil {
				return "", err
			}
		}
		if m[2] != "" {
			d.Concepts[at].Label = understood(m[2])
		}
		return m[1], nil
	}
	for i, line := range strings.Split(safe.Text(raw), "\n") {
		line = strings.TrimSuffix(strings.TrimSpace(line), ";")
		first := strings.ToLower(strings.SplitN(line+" ", " ", 2)[0])
		switch {
		case line == "---":
			head = !head
			continue
		case head:
			if title, is := strings.CutPrefix(line, "title:"); is {
				d.Title = words(strings.NewReplacer(`\"`, `"`, `\\`, `\`).Replace(strings.Trim(strings.TrimSpace(title), `"`)))
			}
			continue
		case line == "" || strings.HasPrefix(line, "%%"):
			continue
		case first == "flowchart" || first == "graph":
			known = true
			continue
		case first == "subgraph" || first == "end" || first == "direction" || first == "style" || first == "classdef" || first == "class" || first == "linkstyle" || first == "click":
			if first == "subgraph" {
				d.Tell(i+1, "A group of nodes; its nodes are read.")
			}
			continue
		}
		from, phrase, to, arrow := "", "", "", ""
		if m := mermaidEdge.FindStringSubmatch(line); m != nil && !strings.ContainsAny(bare(m[1]), `"`) {
			from, arrow, phrase, to = m[1], m[2], m[3], m[4]
		} else if m := mermaidText.FindStringSubmatch(line); m != nil {
			from, arrow, phrase, to = m[1], m[2]+"--"+m[4]+m[5]+m[6], m[3], m[7]
		}
		if from == "" {
			if name, err := node(line); err != nil {
				return nil, err
			} else if name == "" {
				d.Tell(i+1, "A line that is no node and no edge.")
			}
			continue
		}
		a, err := node(from)
		if err != nil {
			return nil, err
		}
		b, err := node(to)
		if err != nil {
			return nil, err
		}
		if a == "" || b == "" {
			d.Tell(i+1, "An edge whose ends were not understood.")
			continue
		}
		l := content.Link{From: a, To: b, Phrase: words(understood(strings.Trim(strings.TrimSpace(phrase), `"`))), Plain: !strings.Contains(arrow, ">"), Both: strings.HasPrefix(arrow, "<")}
		if err := d.Join(l); err != nil {
			return nil, err
		}
	}
	if !known {
		return nil, cm.Refusef("This is no flowchart in Mermaid text.")
	}
	for i := range d.Concepts {
		d.Concepts[i] = labelled(d.Concepts[i])
	}
	return finish(d)
}

// bare takes what stands in brackets off a node.
func bare(text string) string {
	if i := strings.IndexAny(text, "[({>"); i >= 0 && strings.HasSuffix(strings.TrimSpace(text), "]") || i >= 0 && strings.HasSuffix(strings.TrimSpace(text), ")") || i >= 0 && strings.HasSuffix(strings.TrimSpace(text), "}") {
		return text[:i]
	}
	return text
}

func understood(words string) string {
	words = strings.NewReplacer("<br>", "\n", "<br/>", "\n", "<br />", "\n").Replace(words)
	return html.UnescapeString(entity.ReplaceAllStringFunc(words, func(e string) string {
		name := e[1 : len(e)-1]
		if strings.Trim(name, "0123456789") == "" {
			return "&#" + name + ";"
		}
		return "&" + name + ";"
	}))
}
