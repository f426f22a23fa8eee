package web

import (
	"encoding/json"
	"fmt"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/workspace"
)

// limits are what fields of the page may hold, as the core has it: characters of
// words, and how many of other things. Templates ask for one by its name; scripts
// import them from limits.js, which is made of this list (make assets).
var limits = map[string]int{
	"label": cm.MaxLabel, "phrase": cm.MaxPhrase, "title": cm.MaxTitle, "question": cm.MaxQuestion, "note": cm.MaxNote, "remark": cm.MaxRemark,
	"kindName": cm.MaxKindName, "comment": cm.MaxCommentWords, "speaker": cm.MaxName, "address": cm.MaxAddress, "sourceName": cm.MaxSourceName, "sourceSays": cm.MaxSourceSays,
	"taskWords": cm.MaxTaskWords, "who": cm.MaxWho, "filterValue": cm.MaxValue, "cell": cm.MaxCell, "rows": cm.MaxRows, "columns": cm.MaxColumns,
	"fileBytes":  maxFile,
	"personName": people.MaxName, "mail": people.MaxMail, "password": people.MaxPassword, "passwordLeast": people.MinPassword, "seats": people.MaxSeats, "version": workspace.MaxVersionName, "folderName": people.MaxFolderName,
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
	heads, err := json.Marshal(cm.AllHeads)
	if err != nil {
		panic("web: words can be written: " + err.Error())
	}
	return "// @ts-check\n// What fields may hold. Made of web/limits.go by `make assets`; change it there.\n\nexport const limits = " + string(raw) +
		";\n\n/** The arrowheads that a link can have, in the order in which one follows the other.\n * @type {Wire.Heads[]} */\nexport const heads = " + string(heads) + ";\n\n/** The phrase that a line holds before its concept, and the concept. */\nexport const phraseBefore = /" + edit.PhraseBefore + "/;\n"
}
