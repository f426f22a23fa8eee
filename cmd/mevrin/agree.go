package main

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"mevrin/core/agree"
	"mevrin/format/ratings"
)

func agreeCommand() *cobra.Command {
	var asJSON bool
	var scale, notSure string
	var samples int
	c := &cobra.Command{
		Use: "agree FILE.csv", Short: "Say how far raters agree",
		Long: "Reads a table with the columns unit, rater, value, and prints percent agreement, Cohen's kappa\n" +
			"(plain and weighted), Fleiss' kappa and Krippendorff's alpha, each with the interval that holds\n" +
			"95 % of a bootstrap over units. Values are holds, in-part, does-not-hold and not-sure, or whole\n" +
			"numbers; an empty one is missing. docs/figures.md has the formulas.\n" +
			"Ends with status 2 where a line cannot be read.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, files []string) error {
			if scale != "nominal" && scale != "ordinal" {
				return fmt.Errorf("--scale is nominal or ordinal, not “%s”", scale)
			}
			if notSure != "missing" && notSure != "value" {
				return fmt.Errorf("--not-sure is missing or value, not “%s”", notSure)
			}
			const most = 100_000
			if samples < 0 || samples > most {
				return fmt.Errorf("--samples is a number from 0 to %d", most)
			}
			data, err := readBounded(files[0])
			if err != nil {
				return err
			}
			table, err := ratings.Read(data, ratings.Options{Nominal: scale == "nominal", NotSureIsAValue: notSure == "value"})
			if err != nil {
				return fmt.Errorf("%s, %w", files[0], err)
			}
			f := agree.Of(table, samples)
			if asJSON {
				return writeJSON(c.OutOrStdout(), agreementOf(f))
			}
			return printAgreement(c.OutOrStdout(), f)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON, for other programs")
	c.Flags().StringVar(&scale, "scale", "ordinal", "nominal leaves the order of values aside")
	c.Flags().StringVar(&notSure, "not-sure", "missing", "how not-sure counts: missing, or value for a value of its own")
	c.Flags().IntVar(&samples, "samples", agree.Samples, "how many samples the bootstrap draws; 0 for no intervals")
	return c
}

// agreement is what is printed of a table as JSON. What is not defined is null, and Why tells why.
type agreement struct {
	Units    int               `json:"units"`
	Raters   int               `json:"raters"`
	Values   int               `json:"values"`
	Percent  *float64          `json:"percent"`
	Cohen    *cohen[*float64]  `json:"cohen"`
	Fleiss   *float64          `json:"fleiss"`
	Alpha    alpha[*float64]   `json:"alpha"`
	Interval intervals         `json:"interval"`
	Why      map[string]string `json:"why,omitempty"`
}

type cohen[T any] struct {
	Kappa     T `json:"kappa"`
	Linear    T `json:"linear"`
	Quadratic T `json:"quadratic"`
}

type alpha[T any] struct {
	Nominal T `json:"nominal"`
	Ordinal T `json:"ordinal"`
}

// bounds are the lower and the upper bound of an interval, or null.
type bounds *[2]float64

type intervals struct {
	Percent bounds         `json:"percent"`
	Cohen   *cohen[bounds] `json:"cohen"`
	Fleiss  bounds         `json:"fleiss"`
	Alpha   alpha[bounds]  `json:"alpha"`
}

func agreementOf(f agree.Figures) agreement {
	of := func(f agree.Figure) bounds {
		if f.Low == nil {
			return nil
		}
		return &[2]float64{*f.Low, *f.High}
	}
	a := agreement{Units: f.Units, Raters: f.Raters, Values: f.Values, Percent: f.Percent.Value, Fleiss: f.Fleiss.Value,
		Alpha:    alpha[*float64]{f.Nominal.Value, f.Ordinal.Value},
		Interval: intervals{Percent: of(f.Percent), Fleiss: of(f.Fleiss), Alpha: alpha[bounds]{of(f.Nominal), of(f.Ordinal)}},
		Why:      map[string]string{}}
	if f.Raters == 2 {
		a.Cohen = &cohen[*float64]{f.Kappa.Value, f.Linear.Value, f.Quadratic.Value}
		a.Interval.Cohen = &cohen[bounds]{of(f.Kappa), of(f.Linear), of(f.Quadratic)}
	}
	for _, line := range lines(f) {
		if line.figure.Value == nil {
			a.Why[line.key] = line.figure.Why
		}
	}
	return a
}

// line is one measure in words.
type line struct {
	key, name string
	figure    agree.Figure
}

func lines(f agree.Figures) []line {
	var all []line
	for _, m := range agree.Measures {
		name := m.Name
		if strings.HasPrefix(name, "with ") { // of the one before
			name = "  " + name
		}
		all = append(all, line{m.Key, name, *m.Of(&f)})
	}
	return all
}

func printAgreement(out io.Writer, f agree.Figures) error {
	fmt.Fprintf(out, "%d units, %d raters, %d values\n", f.Units, f.Raters, f.Values)
	to := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	for _, line := range lines(f) {
		unit := ""
		if line.key == "percent" {
			unit = " %"
		}
		switch {
		case line.figure.Value == nil:
			fmt.Fprintf(to, "%s\t–\t%s\n", line.name, line.figure.Why)
		case line.figure.Low == nil:
			fmt.Fprintf(to, "%s\t%.3f%s\t\n", line.name, *line.figure.Value, unit)
		default:
			fmt.Fprintf(to, "%s\t%.3f%s\t[%.3f, %.3f]\n", line.name, *line.figure.Value, unit, *line.figure.Low, *line.figure.High)
		}
	}
	return to.Flush()
}

func writeJSON(out io.Writer, what any) error {
	to := json.NewEncoder(out)
	to.SetEscapeHTML(false)
	to.SetIndent("", "  ")
	return to.Encode(what)
}
