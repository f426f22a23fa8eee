package formats

var documents, slides, pages []*Format
