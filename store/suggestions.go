package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/suggestion"
)

// ErrNoSuggestion tells that there is no such suggestion on the map, or none that waits.
var ErrNoSuggestion = errors.New("there is no such suggestion")

// SuggestionState says what became of a suggestion.
type SuggestionState string

// What can become of one.
const (
	SuggestionWaits   SuggestionState = "waits"
	SuggestionTaken   SuggestionState = "taken"
	SuggestionRefused SuggestionState = "refused"
	SuggestionBack    SuggestionState = "back" // by whoever made it
)

// Suggestion is a change that somebody would make to a map.
type Suggestion struct {
	ID         string
	MapID      cm.ID
	Person     string // who made it, as the log knows them; sent to nobody
	Name       string // what they call themselves
	At         time.Time
	Operations json.RawMessage `gorm:"serializer:json"`
	Reason     string
	State      SuggestionState
	Decided    *time.Time // nil while it waits
	Decider    string
	Answers    []SuggestionAnswer `gorm:"-"`
}

// TableName is where suggestions are.
func (Suggestion) TableName() string { return "suggestions" }

// SuggestionAnswer is what somebody says of a suggestion.
type SuggestionAnswer struct {
	Suggestion string `gorm:"primaryKey"`
	N          int    `gorm:"primaryKey"`
	Person     string
	Name       string
	At         time.Time
	Words      string
}

// TableName is where answers are.
func (SuggestionAnswer) TableName() string { return "suggestion_answers" }

// shownDecided is how many suggestions are shown that wait no more.
const shownDecided = 30

// AddSuggestion keeps a suggestion. The store sets when it was made, and that it waits.
func (s *Reach) AddSuggestion(ctx context.Context, one Suggestion) error {
	if err := s.reaches(one.MapID); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		var n int64
		if err := tx.Model(&Suggestion{}).Where("map_id = ? AND state = ?", one.MapID, SuggestionWaits).Count(&n).Error; err != nil {
			return err
		}
		if n >= suggestion.MaxWaiting {
			return cm.Refusef("%d suggestions wait on this map already. Its author has to look at some first.", suggestion.MaxWaiting)
		}
		one.At, one.State = s.Now().UTC(), SuggestionWaits
		return tx.Create(&one).Error
	})
}

// Suggestions gives those that wait on a map, the oldest first, and then the latest that wait no more.
func (s *Reach) Suggestions(ctx context.Context, id cm.ID) ([]Suggestion, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var all, decided []Suggestion
	db := s.db.WithContext(ctx)
	if err := db.Where("map_id = ? AND state = ?", id, SuggestionWaits).Order("at, id").Find(&all).Error; err != nil {
		return nil, err
	}
	if err := db.Where("map_id = ? AND state <> ?", id, SuggestionWaits).Order("decided DESC, id").Limit(shownDecided).Find(&decided).Error; err != nil {
		return nil, err
	}
	all = append(all, decided...)
	ids, at := make([]string, len(all)), map[string]int{}
	for i, one := range all {
		ids[i], at[one.ID] = one.ID, i
	}
	var answers []SuggestionAnswer
	if err := db.Where("suggestion IN ?", ids).Order("suggestion, n").Find(&answers).Error; err != nil {
		return nil, err
	}
	for _, a := range answers {
		i := at[a.Suggestion]
		all[i].Answers = append(all[i].Answers, a)
	}
	return all, nil
}

// CountSuggestions gives how many wait on a map.
func (s *Reach) CountSuggestions(ctx context.Context, id cm.ID) (int, error) {
	if err := s.reaches(id); err != nil {
		return 0, err
	}
	var n int64
	err := s.db.WithContext(ctx).Model(&Suggestion{}).Where("map_id = ? AND state = ?", id, SuggestionWaits).Count(&n).Error
	return int(n), err
}

// Suggestion gives one of a map.
func (s *Reach) Suggestion(ctx context.Context, id cm.ID, which string) (one Suggestion, err error) {
	if err := s.reaches(id); err != nil {
		return one, err
	}
	err = s.db.WithContext(ctx).Take(&one, "map_id = ? AND id = ?", id, which).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = ErrNoSuggestion
	}
	return one, err
}

// Decide says what became of a suggestion that was in a state; ErrNoSuggestion where it is in another one.
func (s *Reach) Decide(ctx context.Context, id cm.ID, which string, was, next SuggestionState, decider string) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&Suggestion{}).Where("map_id = ? AND id = ? AND state = ?", id, which, was).
			Updates(map[string]any{"state": next, "decided": s.Now().UTC(), "decider": decider}), ErrNoSuggestion)
	})
}

// AnswerSuggestion keeps what somebody says of a suggestion.
func (s *Reach) AnswerSuggestion(ctx context.Context, id cm.ID, a SuggestionAnswer) error {
	if _, err := s.Suggestion(ctx, id, a.Suggestion); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		var n int64
		if err := tx.Model(&SuggestionAnswer{}).Where("suggestion = ?", a.Suggestion).Count(&n).Error; err != nil {
			return err
		}
		if n >= suggestion.MaxAnswers {
			return cm.Refusef("A suggestion has at most %d answers.", suggestion.MaxAnswers)
		}
		a.N, a.At = int(n)+1, s.Now().UTC()
		return tx.Create(&a).Error
	})
}
