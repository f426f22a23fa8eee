package formats

import (
	"slices"

	"mevrin/format/office"
)

var textParts = []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartSources}

var documents = []*Format{
	{ID: "docx", Ending: ".docx", Type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document", Use: UseWrite, Title: "Text document (DOCX)", Hint: "For word processors: headings, notes, the picture, sentences and sources, each if wished.", Holds: textParts, Back: []Part{PartConcepts}, Wants: []string{"drawing", "list", "numbered", "argument", "notes", "sentences", "sources"}, Write: office.WriteDOCX, Read: office.ReadDOCX},
	{ID: "odt", Ending: ".odt", Type: "application/vnd.oasis.opendocument.text", Use: UseWrite, Title: "Text document (ODT)", Hint: "The same for word processors that prefer open documents.", Holds: textParts, Back: []Part{PartConcepts}, Wants: []string{"drawing", "list", "numbered", "argument", "notes", "sentences", "sources"}, Write: office.WriteODT, Read: office.ReadODT},
}

var slides = []*Format{
	{ID: "pptx", Ending: ".pptx", Type: "application/vnd.openxmlformats-officedocument.presentationml.presentation", Use: UseShow, Title: "Slides (PPTX)", Hint: "A slide for each stop of a route, or for each branch; the map in shapes that can be edited, guide notes for the speaker.", Holds: append(slices.Clone(drawnParts), PartRoutes, PartNotes), Wants: []string{"route"}, Write: office.WritePPTX},
	{ID: "odp", Ending: ".odp", Type: "application/vnd.oasis.opendocument.presentation", Use: UseShow, Title: "Slides (ODP)", Hint: "The same as an open document.", Holds: append(slices.Clone(drawnParts), PartRoutes, PartNotes), Wants: []string{"route"}, Write: office.WriteODP},
}

var pages []*Format
