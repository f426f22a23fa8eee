package prose

import (
	"strings"
	"unicode"
)

// token is a word of a sentence.
type token struct {
	word  string // as it was written, without marks around it
	low   string
	first bool // it begins the sentence
	comma bool // one follows
}

const marks = ".,;:!?\"'()[]«»„“”‘’…–—"

func tokens(sentence string) (all []token) {
	for i, w := range strings.Fields(sentence) {
		bare := strings.Trim(w, marks)
		comma := strings.HasSuffix(w, ",") || strings.HasSuffix(w, ":") || strings.HasSuffix(w, "),")
		if bare == "" {
			if len(all) > 0 { // a dash
				all[len(all)-1].comma = true
			}
			continue
		}
		all = append(all, token{bare, strings.ToLower(bare), i == 0, comma})
	}
	return all
}

func joined(words []token) string {
	all := make([]string, len(words))
	for i, t := range words {
		if all[i] = t.word; t.first {
			all[i] = t.low
		}
	}
	return strings.Join(all, " ")
}

// concept gives the words of a concept; the first word of a sentence is written small, unless it is written large
// throughout.
func concept(words []token) string {
	all := make([]string, len(words))
	for i, t := range words {
		if all[i] = t.word; t.first && !(len(t.word) > 1 && t.word == strings.ToUpper(t.word)) {
			r := []rune(t.word)
			all[i] = string(unicode.ToLower(r[0])) + string(r[1:])
		}
	}
	return strings.Join(all, " ")
}

func set(words string) map[string]bool {
	all := map[string]bool{}
	for w := range strings.FieldsSeq(words) {
		all[w] = true
	}
	return all
}

// The words by which sentences are read.
var (
	articles = set("a an the this that these those its their his her our your my some any each every der die das den dem des ein eine einen einem einer eines")
	pronouns = set("it they this these that he she es sie er dies")
	meant    = set("it they them he him she itself themselves er ihn ihm") // whom, only the text tells
	joins    = set("and or und oder sowie")
	copulas  = set("is are was were has have had can may must will ist sind war waren hat haben wird werden kann können")
	// turns begin what is said of something else, or why, when and how.
	turns    = set("which who that because since while when where if although though but whereas so unless until before after weil da während wenn obwohl aber sodass damit bevor nachdem")
	relative = set("which who that")
	// leads lead over from the sentence before.
	leads = set("however therefore thus then so also but and moreover furthermore first second finally next later here there now usually often daher deshalb dann auch aber und außerdem zuerst schließlich hier dort nun meist oft")
	// binds come before a noun: what follows is no verb.
	binds = set("a an the this that these those its their his her our your my some any each every no of in on at by for from to with without between into through over under about as than der die das den dem des ein eine einen einem einer eines von in auf an bei für aus zu mit ohne zwischen durch über unter")

	particles    = set("out up off down away back together")
	prepositions = set("of in on at by for from to with without between into onto through over under about around as than against along across within upon like near toward towards among von aus in im auf an am bei für zu zum zur mit ohne zwischen durch über unter als gegen um nach")

	verbs = set(`absorb accept act add affect aim allow appear apply arise attach attract balance bear beat become begin belong bend bind block
		boil bounce break bring build burn carry cast catch cause change charge come combine compare compete complete compress conduct
		connect consist consume contain continue control convert cool cost cover create cross cut damp decide decrease define deliver demand
		depend describe destroy determine develop differ dig digest direct discover divide drain draw drive drop eat emit enable encourage end
		enter exchange excite exist expand explain express extend fall feed feel fight fill fit fix flow follow force form found freeze gain
		gather generate give go govern grow guard guide hang happen harden heal hear heat help hit hold improve include increase influence
		inform inhibit involve join keep kill know lack last lead learn leave lend let lie lift limit link live lower make mark mean measure
		meet melt mix move need obey occur open oppose organise organize owe own pass pay play point pour press prevent produce promote
		protect provide pull pump push put radiate raise reach react read receive record reduce reflect regulate release rely remain remove
		repair replace represent require resist result retain return reveal ring rise rotate rule run save see sell send separate serve set
		shake shape share shift shine show shrink sing sink sit slow soften speak spend spin split spread stand start stay stop store
		strengthen strike study suffer suggest supply support surround swing take teach tell test think thrive tie touch trade train transfer
		transform transmit transport trap travel tune turn understand unite use vary vibrate wash waste watch weaken wear weigh win work write
		besteht enthält gehört verursacht führt bewirkt verhindert braucht hängt ermöglicht beginnt endet umgibt verbindet bewegt dient hilft
		entspricht stützt macht gibt nimmt trägt hält zeigt bildet erzeugt schwingt klingt`)
)
