package demo

import (
	"fmt"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// doubt is what one rater says of a sentence where it is not simply that it holds.
type doubt struct {
	verdict cm.Verdict
	reason  string
}

// bellDoubts are those of the two who judge the map of the sound, by the phrase and the concept to
// which it leads.
var bellDoubts = map[string]map[[2]string]doubt{
	"Jory": {
		{"is made of", "iron"}:      {cm.HoldsInPart, "some have a clapper of bronze"},
		{"is known by the", "size"}: {cm.HoldsNot, "two bells of one size can sound quite different"},
		{"is softened by", "pad"}:   {cm.NotSure, "not in our tower"},
		{"dies away by", "damping"}: {cm.HoldsInPart, ""},
		{"spreads at", "speed"}:     {cm.HoldsInPart, "a speed, but which?"},
		{"lessens", "damping"}:      {cm.NotSure, ""},
		{"guides", "ringer"}:        {cm.HoldsNot, "the eye does, too"},
		{"decides on", "amplitude"}: {cm.Holds, "seen on the film"},
	},
	"Ines": {
		{"is made of", "iron"}:      {cm.HoldsInPart, "in most towers"},
		{"is known by the", "size"}: {cm.HoldsInPart, "with its shape"},
		{"is softened by", "pad"}:   {cm.Holds, ""},
		{"lessens", "damping"}:      {cm.Holds, "bronze rings longer than copper"},
		{"is heard as", "pitch"}:    {cm.HoldsInPart, "of several tones at once one hears one"},
		{"guides", "ringer"}:        {cm.Holds, ""},
		{"leaves at rest", "nodes"}: {cm.HoldsNot, "at rest are the lines, whatever moves"},
		{"is a row of", "thin"}:     {cm.HoldsInPart, ""},
	},
}

// judged lets two raters go through all sentences of the map, each under a link of their own. One
// has not seen the last ones yet.
func (m *maker) judged(links []link) {
	at := time.Date(2026, 11, 20, 14, 0, 0, 0, time.UTC)
	n := 0
	for _, who := range []string{"Jory", "Ines"} {
		var ops []edit.Operation
		for i, l := range links {
			if who == "Ines" && i >= len(links)-3 {
				break
			}
			for e, to := range l.to {
				d, doubted := bellDoubts[who][[2]string{l.phrase, to}]
				if !doubted {
					d.verdict = cm.Holds
				}
				n++
				ops = append(ops, &edit.Judge{ID: cm.ID(fmt.Sprintf("judged%03d", n)), Strand: cm.Strand{Link: linkID(i + 1), From: "f1", To: cm.ID(fmt.Sprintf("t%d", e+1))}, Verdict: d.verdict, Reason: d.reason, Name: who})
			}
		}
		at = at.Add(time.Hour)
		edit.Sign(ops, edit.Speaker{ID: cm.ID("vdemo-" + who), At: at.Format(cm.MomentForm), AdditiveOnly: true})
		m.do(ops...)
	}
}
