// Package calendar writes the tasks and days of a map as iCalendar (RFC 5545).
package calendar

import (
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	cm "mevrin/core/conceptmap"
	"mevrin/format/content"
)

// Write gives an event for each concept that has a day and for each task that has one; now is when the
// file is written. Times that are no days (a year, a span of centuries) are not in it.
func Write(e *content.Export, now time.Time) []byte {
	cal := ics.NewCalendarFor("Mevrin")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(e.Title())
	for _, id := range e.Structure.Order {
		c := e.Map.Concepts[id]
		label := e.Line(c.Label)
		if from, to, ok := days(c.When); ok {
			event := cal.AddEvent(string(e.Map.ID) + "-" + string(id) + "@mevrin")
			event.SetDtStampTime(now)
			event.SetSummary(label)
			event.SetAllDayStartAt(from)
			event.SetAllDayEndAt(to)
			if note := e.Words(c.Note); note != "" && e.Options.Notes {
				event.SetDescription(note)
			}
		}
		if t := c.Task; t != nil {
			todo := cal.AddTodo(string(e.Map.ID) + "-task-" + string(id) + "@mevrin")
			todo.SetDtStampTime(now)
			said := label
			if t.What != "" {
				said = t.What + " (" + label + ")"
			}
			todo.SetSummary(said)
			if from, to, ok := days(t.When); ok {
				todo.SetAllDayStartAt(from)
				todo.SetAllDayDueAt(to)
			}
			if t.Who != "" {
				todo.SetDescription(t.Who)
			}
			if t.Done {
				todo.SetStatus(ics.ObjectStatusCompleted)
			}
		}
	}
	return []byte(cal.Serialize())
}

// Has tells whether there is anything on a map for a calendar.
func Has(m *cm.Map) bool {
	for _, c := range m.Concepts {
		if _, _, ok := days(c.When); ok || c.Task != nil {
			return true
		}
	}
	return false
}

// days reads a day or a span of days: from the first to the day after the last.
func days(when string) (from, to time.Time, ok bool) {
	first, last, span := strings.Cut(when, "/")
	if !span {
		last = first
	}
	from, err := time.Parse("2006-01-02", first)
	if err != nil {
		return from, to, false
	}
	to, err = time.Parse("2006-01-02", last)
	return from, to.AddDate(0, 0, 1), err == nil
}
