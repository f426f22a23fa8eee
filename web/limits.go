package web

import (
	"encoding/json"
	"fmt"

	cm "mevrin/core/conceptmap"
)

// limits are what fields of the page may hold, as the core has it: characters of
// words, and how many of other things. Templates ask for one by its name; scripts
// import them from limits.js, which is made of this list (make assets).
var limits = map[string]int{
	"label": cm.MostLabel, "phrase": cm.MostPhrase, "title": cm.MostTitle, "question": cm.MostQuestion, "note": cm.MostNote, "remark": cm.MostRemark,
	"kindName": cm.MostKindName, "comment": cm.MostCommentWords, "speaker": cm.MostName, "address": cm.MostAddress, "sourceName": cm.MostSourceName, "sourceSays": cm.MostSourceSays,
	"taskWords": cm.MostTaskWords, "who": cm.MostWho, "filterValue": cm.MostValue, "cell": cm.MostCell, "rows": cm.MostRows, "columns": cm.MostColumns,
}

func limit(name string) (int, error) {
	if n, known := limits[name]; known {
		return n, nil
	}
	return 0, fmt.Errorf("there is no limit %q", name)
}

// LimitsModule gives the script that tells the page what fields may hold.
func LimitsModule() string {
	raw, err := json.MarshalIndent(limits, "", "  ")
	if err != nil {
		panic("web: numbers can be written: " + err.Error())
	}
	return "// @ts-check\n// What fields may hold. Made of web/limits.go by `make assets`; change it there.\n\nexport const limits = " + string(raw) + ";\n"
}
