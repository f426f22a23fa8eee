package language

// What must be seen of another language before it is thought of, and how many words before one
// may say that a text is in none that is known.
const (
	enoughHits  = 4
	enoughWords = 40
	looked      = 600 // words, of long texts
)

// Guess gives the language in which texts are written: that of the tag, unless their small words are
// clearly those of another one that is known. It is nil where they are clearly of none: then rules
// about words would be wrong about every phrase.
func Guess(tag string, texts []string) *Tongue {
	own := Of(tag)
	hits, words := map[*Tongue]int{}, 0
	for _, text := range texts {
		if words > looked {
			break
		}
		for _, w := range Of("en").Split(text) {
			words++
			for _, t := range tongues {
				if t.articles[w] || t.copulas[w] || t.prepositions[w] || t.having[w] || t.conjunctions[w] || t.auxiliaries[w] {
					hits[t]++
				}
			}
		}
	}
	if own == nil {
		return nil // it says of itself that it is in another language
	}
	best := own
	for _, name := range Names() {
		if t := Of(name); hits[t] >= enoughHits && hits[t] > 2*hits[own] && hits[t] > hits[best] {
			best = t
		}
	}
	if words >= enoughWords && hits[best]*40 < words {
		return nil
	}
	return best
}
