package ratings

import "strings"

// Harmless keeps a spreadsheet from taking the words of a cell for a formula.
func Harmless(words string) string {
	if words != "" && strings.ContainsRune("=+-@\t\r", rune(words[0])) {
		return "'" + words
	}
	return words
}
