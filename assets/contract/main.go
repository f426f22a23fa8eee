// Command contract writes what is made of Go for others: the types of what page and
// server tell each other, what fields may hold, and the schema of map documents. Each is
// written below the folder given, where the repository has it.
package main

import (
	"fmt"
	"os"
	"path/filepath"

	"mevrin/core/conceptmap/document"
	"mevrin/web"
)

func main() {
	schema, err := document.Schema()
	if err != nil {
		fail(err)
	}
	texts, err := catalogue(".")
	if err != nil {
		fail(err)
	}
	for file, content := range map[string]string{
		"core/message/catalogue.json": texts,
		"docs/map-format.schema.json": string(schema),
		"web/js/sync/limits.js":       web.LimitsModule(),
		"assets/contract.d.ts":        types(),
	} {
		path := filepath.Join(os.Args[1], file)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			fail(err)
		}
		if err := os.WriteFile(path, []byte(content), 0o644); err != nil {
			fail(err)
		}
	}
}

func fail(err error) {
	fmt.Fprintln(os.Stderr, err)
	os.Exit(1)
}
