package markdown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"mevrin/markdown"
)

func TestHTML(t *testing.T) {
	for in, want := range map[string]string{
		"# The rim\n\nThe *sound bow* is **thick**.": "<h3>The rim</h3>\n<p>The <em>sound bow</em> is <strong>thick</strong>.</p>\n",
		"- hum\n- prime\n\n3. tierce":                "<ul>\n<li>hum</li>\n<li>prime</li>\n</ul>\n<ol start=\"3\">\n<li>tierce</li>\n</ol>\n",
		"|tone|\n|---|\n|hum|":                       "<table>\n<thead>\n<tr>\n<th>tone</th>\n</tr>\n</thead>\n<tbody>\n<tr>\n<td>hum</td>\n</tr>\n</tbody>\n</table>\n",
		"see https://hollin.example/bells":           `<p>see <a href="https://hollin.example/bells" rel="nofollow noreferrer noopener" target="_blank">https://hollin.example/bells</a></p>` + "\n",
		"it is $f = 1/T$, $5 or $6":                  "<p>it is <math><mrow><mi>f</mi><mo>=</mo><mfrac><mn>1</mn><mi>T</mi></mfrac></mrow></math>, $5 or $6</p>\n",
		"2 < 3 & 4":                                  "<p>2 &lt; 3 &amp; 4</p>\n",
	} {
		assert.Equal(t, want, markdown.HTML(in))
	}
}

// hostile tells what a page must never be given.
func hostile(t require.TestingT, out string) {
	doc, err := html.Parse(strings.NewReader(out))
	require.NoError(t, err)
	var walk func(*html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode {
			require.NotContains(t, []string{"script", "style", "iframe", "object", "embed", "svg", "form", "input", "base", "meta", "link", "img", "video"}, n.Data)
			for _, a := range n.Attr {
				require.False(t, strings.HasPrefix(a.Key, "on") || a.Key == "style" || a.Key == "src" || a.Key == "id" || strings.HasPrefix(a.Key, "data-") || strings.HasPrefix(a.Key, "hx-"), "%s in %s", a.Key, out)
				if a.Key == "href" {
					scheme, _, _ := strings.Cut(a.Val, ":")
					require.Contains(t, []string{"http", "https", "mailto"}, strings.ToLower(scheme), out)
				}
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(doc)
}

var attacks = []string{
	"$<script>alert(1)</script>$", "$</mi><img src=x onerror=alert(1)>$", "<math><mi><img src=x onerror=alert(1)></mi></math>", "<script>alert(1)</script>", "<img src=x onerror=alert(1)>", "[x](javascript:alert(1))", "[x](JaVa\nScript:alert(1))", "[x](&#106;avascript:alert(1))",
	"<javascript:alert(1)>", "[x](data:text/html;base64,PHNjcmlwdD4=)", "[x](vbscript:x)", "![x](https://hollin.example/a.png)", "<svg onload=alert(1)>",
	"<a href=\"https://x\" onclick=\"alert(1)\">x</a>", "<div data-do=remove>x</div>", "<iframe srcdoc='<script>'>", "<style>*{display:none}</style>",
	"[x]( \x01javascript:alert(1))", "<p id=desk>", "[x](//hollin.example)", "[x](/maps)", "`<script>`", "&lt;script&gt;alert(1)&lt;/script&gt;",
	strings.Repeat(">", 20000), strings.Repeat("- ", 10000) + "x", strings.Repeat("[", 20000), strings.Repeat("*a **a ", 3000), strings.Repeat("    ", 5000) + "x",
}

func TestHostileTextComesToNothing(t *testing.T) {
	for _, a := range attacks {
		hostile(t, markdown.HTML(a))
		hostile(t, markdown.HTML("# "+a+"\n\n- "+a))
	}
}

func FuzzHTML(f *testing.F) {
	for _, a := range attacks[:20] {
		f.Add(a)
	}
	f.Fuzz(func(t *testing.T, words string) { hostile(t, markdown.HTML(words)) })
}

// The words alone, in one line: for small cards.
func TestPlain(t *testing.T) {
	for in, want := range map[string]string{
		"":                            "",
		"**The** *rim* is\nthick.":    "The rim is thick.",
		"# Head\n\n- one\n- two\n":    "Head one two",
		"a [bell](https://x.example)": "a bell",
		"| part | of |\n| --- | --- |\n| rim | bronze |": "part of rim bronze",
		"see https://hollin.example now":                 "see https://hollin.example now",
		"<script>alert(1)</script>\n\nafter <b>that</b>": "after that",
		"code `a < b` and\n\n    more":                   "code a < b and more",
		strings.Repeat("> ", 50) + "too deep to read":    strings.TrimSpace(strings.Repeat("> ", 50)) + " too deep to read",
	} {
		assert.Equal(t, want, markdown.Plain(in), in)
	}
}
