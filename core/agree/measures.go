package agree

// Measure says how a figure is called, and how it is worked out.
type Measure struct {
	Key, Name string
	Formula   string
	Means     string
	Source    string
	Of        func(*Figures) *Figure
	// Two tells that it is one of two raters.
	Two bool
}

// Measures are those of Figures, in the order in which they are shown. docs/figures.md tells more.
var Measures = []Measure{
	{"percent", "Percent agreement", "100 · Σ equal pairs / Σ pairs", "The share of pairs of judgements of one sentence that are equal. It does not ask how much of that is chance.", "", func(f *Figures) *Figure { return &f.Percent }, false},
	{"cohen.kappa", "Cohen’s kappa", "κ = (P − E) / (1 − E)", "How far two raters agree beyond chance: P is the share of equal judgements, E the share to be expected if each judged as often as they do, but at random.", "Cohen 1960", func(f *Figures) *Figure { return &f.Kappa }, true},
	{"cohen.linear", "with linear weights", "κ = 1 − Σ p(a, b) |a − b| / Σ p(a, ·) p(·, b) |a − b|", "As Cohen’s kappa, but what lies two steps apart counts twice as much as what lies one step apart.", "Cohen 1968", func(f *Figures) *Figure { return &f.Linear }, true},
	{"cohen.quadratic", "with quadratic weights", "κ = 1 − Σ p(a, b) (a − b)² / Σ p(a, ·) p(·, b) (a − b)²", "As Cohen’s kappa, but what lies two steps apart counts four times as much as what lies one step apart.", "Cohen 1968", func(f *Figures) *Figure { return &f.Quadratic }, true},
	{"fleiss", "Fleiss’ kappa", "κ = (P − E) / (1 − E)", "How far any number of raters agree beyond chance, over the sentences that two or more judged: E comes from how often all of them together gave each judgement.", "Fleiss 1971", func(f *Figures) *Figure { return &f.Fleiss }, false},
	{"alpha.nominal", "Krippendorff’s alpha, nominal", "α = 1 − observed / expected disagreement", "As the kappas, for any number of raters and with judgements missing; every difference counts alike.", "Krippendorff 2011", func(f *Figures) *Figure { return &f.Nominal }, false},
	{"alpha.ordinal", "Krippendorff’s alpha, ordinal", "α = 1 − observed / expected disagreement", "As before, but a difference counts by how many judgements lie between the two in their order.", "Krippendorff 2011", func(f *Figures) *Figure { return &f.Ordinal }, false},
}
