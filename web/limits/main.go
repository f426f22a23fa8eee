// Command limits writes the script that tells the page what fields may hold.
package main

import (
	"fmt"
	"os"

	"mevrin/web"
)

func main() {
	if err := os.WriteFile(os.Args[1], []byte(web.LimitsModule()), 0o644); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}
