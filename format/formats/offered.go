package formats

import (
	"slices"

	"mevrin/format/content"
	"mevrin/format/office"
	"mevrin/format/quiz"
)

var textParts = []Part{PartConcepts, PartPhrases, PartCross, PartOrder, PartNotes, PartSources}

var documents = []*Format{
	{ID: "docx", Ending: ".docx", Type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document", Use: UseWrite, Title: "Text document (DOCX)", Hint: "For word processors: headings, notes, the picture, sentences and sources, each if wished.", Holds: textParts, Back: []Part{PartConcepts}, Wants: []string{"drawing", "list", "numbered", "argument", "notes", "sentences", "sources"}, Shown: "md", Write: office.WriteDOCX, Read: office.ReadDOCX},
	{ID: "odt", Ending: ".odt", Type: "application/vnd.oasis.opendocument.text", Use: UseWrite, Title: "Text document (ODT)", Hint: "The same for word processors that prefer open documents.", Holds: textParts, Back: []Part{PartConcepts}, Wants: []string{"drawing", "list", "numbered", "argument", "notes", "sentences", "sources"}, Shown: "md", Write: office.WriteODT, Read: office.ReadODT},
}

var slides = []*Format{
	{ID: "pptx", Ending: ".pptx", Type: "application/vnd.openxmlformats-officedocument.presentationml.presentation", Use: UseShow, Title: "Slides (PPTX)", Hint: "A slide for each stop of a route, or for each branch; the map in shapes that can be edited, guide notes for the speaker.", Holds: append(slices.Clone(drawnParts), PartRoutes, PartNotes), Write: office.WritePPTX},
	{ID: "odp", Ending: ".odp", Type: "application/vnd.oasis.opendocument.presentation", Use: UseShow, Title: "Slides (ODP)", Hint: "The same as an open document.", Holds: append(slices.Clone(drawnParts), PartRoutes, PartNotes), Write: office.WriteODP},
}

// WriteSite writes the walk along a map as pages without a server, of one kind: html, zip, scorm12,
// scorm2004, cmi5 or imscc. The house of the pages sets it; nil where that is not part of a program.
var WriteSite func(e *content.Export, kind string) ([]byte, error)

func walk(kind string) func(e *content.Export) ([]byte, error) {
	return func(e *content.Export) ([]byte, error) { return WriteSite(e, kind) }
}

var walkParts = append(slices.Clone(drawnParts), PartSources, PartFiles, PartRoutes)

var pages = []*Format{
	{ID: "html", Ending: ".html", Type: "text/html; charset=utf-8", Use: UseTeach, Title: "A page that walks (HTML)", Hint: "One file that leads along a route in any browser, without a server and without a network.", Holds: walkParts, Write: walk("html")},
	{ID: "zip", Ending: ".zip", Type: "application/zip", Use: UseTeach, Title: "Pages for a web site (ZIP)", Hint: "The same with its pictures and sounds beside it.", Holds: walkParts, Write: walk("zip")},
	{ID: "scorm12", Ending: ".zip", Type: "application/zip", Use: UseTeach, Title: "Package for a learning platform (SCORM 1.2)", Hint: "Tells the platform how far each learner came. Most platforms take it.", Holds: walkParts, Write: walk("scorm12")},
	{ID: "scorm2004", Ending: ".zip", Type: "application/zip", Use: UseTeach, Title: "Package for a learning platform (SCORM 2004)", Hint: "The same for platforms that ask for the 4th edition.", Holds: walkParts, Write: walk("scorm2004")},
	{ID: "cmi5", Ending: ".zip", Type: "application/zip", Use: UseTeach, Title: "Package for a learning record store (cmi5)", Hint: "For platforms that keep statements of what was learnt.", Holds: walkParts, Write: walk("cmi5")},
	{ID: "imscc", Ending: ".imscc", Type: "application/zip", Use: UseTeach, Title: "Part of a course (Common Cartridge)", Hint: "For platforms that import courses.", Holds: walkParts, Write: walk("imscc")},
	{ID: "qti", Ending: ".zip", Type: "application/zip", Use: UseTeach, Title: "Questions of a route (QTI 3)", Hint: "For programs in which learners answer and teachers mark.", Holds: []Part{PartRoutes}, Write: quiz.WriteQTI, Needs: quiz.Needs},
}
