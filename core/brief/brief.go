// Package brief counts how far a map meets a list of requirements. A brief is data; docs/briefs.md
// describes its form.
package brief

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	cm "mevrin/core/conceptmap"
)

// Brief is a list of requirements, as a document of its own.
type Brief struct {
	Version int `json:"brief"` // 1
	cm.BriefHead
	Lines []Line `json:"lines"`
}

// Line is one requirement.
type Line struct {
	ID cm.ID `json:"id"`
	cm.Demand
}

// Of gives the brief of a map; nil where it has none.
func Of(m *cm.Map) *Brief {
	if len(m.Requirements) == 0 && m.Brief.Empty() {
		return nil
	}
	b := &Brief{Version: 1, BriefHead: m.Brief, Lines: []Line{}}
	for _, r := range m.RequirementsInOrder() {
		b.Lines = append(b.Lines, Line{r.ID, r.Demand})
	}
	return b
}

// Read reads a brief. Errors say in plain words what is wrong, and where.
func Read(raw []byte) (*Brief, error) {
	from := json.NewDecoder(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))))
	from.DisallowUnknownFields()
	var b Brief
	if err := from.Decode(&b); err != nil {
		return nil, fmt.Errorf("this is no sound brief: %w", plainly(err))
	}
	if from.More() {
		return nil, errors.New("this is no sound brief: something stands behind it")
	}
	if err := b.sound(); err != nil {
		return nil, fmt.Errorf("this is no sound brief: %w", err)
	}
	return &b, nil
}

// plainly says what a decoder found in words without the names of Go's types.
func plainly(err error) error {
	var wrong *json.UnmarshalTypeError
	var broken *json.SyntaxError
	switch {
	case errors.As(err, &wrong):
		return fmt.Errorf("“%s” does not hold what belongs there", wrong.Field)
	case errors.As(err, &broken):
		return fmt.Errorf("it is not JSON from byte %d on", broken.Offset)
	case strings.Contains(err.Error(), "unknown field"):
		return fmt.Errorf("it has a member that no brief has: %s", strings.TrimPrefix(err.Error(), "json: unknown field "))
	}
	return errors.New("it is not JSON")
}

func (b *Brief) sound() error {
	if b.Version != 1 {
		return errors.New("“brief” must be 1, or it is of a newer version")
	}
	if len(b.Lines) > cm.MaxRequirements {
		return fmt.Errorf("it has more than %d lines", cm.MaxRequirements)
	}
	if err := b.BriefHead.Sound(); err != nil {
		return err
	}
	seen := map[cm.ID]bool{}
	for i, l := range b.Lines {
		if !l.ID.Valid() {
			return fmt.Errorf("line %d: it needs an id of letters, digits, hyphens and underscores", i+1)
		}
		if err := l.Sound(); err != nil {
			return fmt.Errorf("line %d: %w", i+1, err)
		}
		if l.Words != nil && l.Words.List != "" && Lists[l.Words.List] == nil {
			return fmt.Errorf("line %d: there is no list “%s”", i+1, l.Words.List)
		}
		if seen[l.ID] {
			return fmt.Errorf("line %d: its id “%s” is taken", i+1, l.ID)
		}
		seen[l.ID] = true
	}
	return nil
}
