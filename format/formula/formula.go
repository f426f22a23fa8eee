// Package formula turns short formulae as people type them ("f = v / lambda",
// "E_0 = sqrt(a^2 + b^2)") into MathML Core (W3C, 2023). Only presentation
// elements come of it, and every character that is typed is text in them.
package formula

import (
	"html"
	"strings"
	"unicode"
)

// MaxCharacters bounds a formula, deepest how far its brackets nest.
const (
	MaxCharacters = 300
	deepest       = 24
)

// names are what can be written by name: letters, signs and functions.
var names = map[string]string{
	"alpha": "α", "beta": "β", "gamma": "γ", "delta": "δ", "Delta": "Δ", "epsilon": "ε", "eta": "η", "theta": "θ", "kappa": "κ", "lambda": "λ", "mu": "μ", "nu": "ν", "pi": "π",
	"rho": "ρ", "sigma": "σ", "Sigma": "Σ", "tau": "τ", "phi": "φ", "psi": "ψ", "omega": "ω", "Omega": "Ω", "inf": "∞", "infinity": "∞",
}

var signs = map[string]string{"<=": "≤", ">=": "≥", "!=": "≠", "->": "→", "+-": "±", "~~": "≈", "*": "·", "-": "−"}

// MathML writes a formula; ok is false where it is too long or nests too deep.
func MathML(words string) (markup string, ok bool) {
	if len([]rune(words)) > MaxCharacters {
		return "", false
	}
	p := &parser{in: []rune(words)}
	body := p.row(0, 0)
	if p.deep || p.at < len(p.in) {
		return "", false
	}
	return "<math>" + body + "</math>", true
}

type parser struct {
	in   []rune
	at   int
	deep bool
}

func (p *parser) space() {
	for p.at < len(p.in) && unicode.IsSpace(p.in[p.at]) {
		p.at++
	}
}

func (p *parser) peek() rune {
	p.space()
	if p.at < len(p.in) {
		return p.in[p.at]
	}
	return 0
}

// row reads parts until a closing bracket or the end.
func (p *parser) row(until rune, depth int) string {
	if depth > deepest {
		p.deep = true
		return ""
	}
	var out strings.Builder
	out.WriteString("<mrow>")
	for {
		next := p.peek()
		if next == 0 || next == until {
			break
		}
		if sign, ok := p.sign(); ok {
			out.WriteString("<mo>" + html.EscapeString(sign) + "</mo>")
			continue
		}
		part, bare := p.scripted(depth)
		if p.peek() == '/' {
			p.at++
			_, below := p.scripted(depth)
			part = "<mfrac>" + bare + below + "</mfrac>"
		}
		out.WriteString(part)
	}
	out.WriteString("</mrow>")
	return out.String()
}

// sign reads an operator that stands between parts.
func (p *parser) sign() (string, bool) {
	for _, n := range []int{2, 1} {
		if p.at+n <= len(p.in) {
			if s, ok := signs[string(p.in[p.at:p.at+n])]; ok {
				p.at += n
				return s, true
			}
		}
	}
	if r := p.in[p.at]; strings.ContainsRune("+=<>,;:!|·×≤≥≠≈→±%°'", r) {
		p.at++
		return string(r), true
	}
	return "", false
}

// scripted reads a part with what is written low and high at it; bare is it
// without brackets around it.
func (p *parser) scripted(depth int) (part, bare string) {
	part, bare = p.part(depth)
	for {
		mark := p.peek()
		if mark != '_' && mark != '^' {
			return part, bare
		}
		p.at++
		_, script := p.part(depth)
		tag := "msup"
		if mark == '_' {
			tag = "msub"
		}
		part = "<" + tag + ">" + part + script + "</" + tag + ">"
		bare = part
	}
}

func (p *parser) part(depth int) (part, bare string) {
	next := p.peek()
	begin := p.at
	switch {
	case next == 0:
		return "<mrow></mrow>", "<mrow></mrow>"
	case next == '(' || next == '[' || next == '{':
		end := map[rune]rune{'(': ')', '[': ']', '{': '}'}[next]
		p.at++
		inner := p.row(end, depth+1)
		if p.peek() == end {
			p.at++
		}
		if next == '{' {
			return inner, inner
		}
		return "<mrow><mo>" + string(next) + "</mo>" + inner + "<mo>" + string(end) + "</mo></mrow>", inner
	case unicode.IsDigit(next):
		for p.at < len(p.in) && (unicode.IsDigit(p.in[p.at]) || (p.in[p.at] == '.' || p.in[p.at] == ',') && p.at+1 < len(p.in) && unicode.IsDigit(p.in[p.at+1])) {
			p.at++
		}
		part = "<mn>" + string(p.in[begin:p.at]) + "</mn>"
	case unicode.IsLetter(next):
		for p.at < len(p.in) && unicode.IsLetter(p.in[p.at]) {
			p.at++
		}
		word := string(p.in[begin:p.at])
		if word == "sqrt" {
			_, inner := p.part(depth + 1)
			part = "<msqrt>" + inner + "</msqrt>"
			break
		}
		if letter, ok := names[word]; ok {
			word = letter
		}
		part = "<mi>" + html.EscapeString(word) + "</mi>"
	default:
		p.at++
		part = "<mo>" + html.EscapeString(string(next)) + "</mo>"
	}
	return part, part
}
