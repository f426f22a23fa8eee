package store

import (
	"context"
	"encoding/json"
	"io"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/history"
)

// Version is a state of a map that somebody gave a name.
type Version struct {
	Revision int
	Name     string
	Person   string // who named it, as the log has it
	At       time.Time
}

type versionRow struct {
	MapID    cm.ID `gorm:"primaryKey"`
	Revision int   `gorm:"primaryKey"`
	Name     string
	Person   string
	At       time.Time
}

func (versionRow) TableName() string { return "versions" }

// MaxVersions bounds the named states of a map.
const MaxVersions = 200

// NameVersion gives a state of a map a name, instead of the one that it had; without a name it has none any
// more.
func (s *Reach) NameVersion(ctx context.Context, id cm.ID, v Version) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if v.Name == "" {
			return tx.Where("map_id = ? AND revision = ?", id, v.Revision).Delete(&versionRow{}).Error
		}
		var n int64
		if err := tx.Model(&versionRow{}).Where("map_id = ? AND revision <> ?", id, v.Revision).Count(&n).Error; err != nil {
			return err
		}
		if n >= MaxVersions {
			return cm.Refusef("At most %d states of a map can have names. Take the name off some first.", MaxVersions)
		}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&versionRow{id, v.Revision, v.Name, v.Person, s.Now().UTC()}).Error
	})
}

// Versions gives the named states of a map, the latest first.
func (s *Reach) Versions(ctx context.Context, id cm.ID) ([]Version, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var rows []versionRow
	if err := s.db.WithContext(ctx).Where("map_id = ?", id).Order("revision DESC").Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]Version, len(rows))
	for i, r := range rows {
		all[i] = Version{r.Revision, r.Name, r.Person, r.At.UTC()}
	}
	return all, nil
}

// Sitting is a stretch of entries of one author, with no long pause between them.
type Sitting struct {
	Author      string
	First, Last int // revisions
	From, To    time.Time
}

// pause is how long somebody does nothing until what they do next is another sitting.
const pause = 30 * time.Minute

// maxSat bounds how many entries are looked through for sittings.
const maxSat = 20_000

// Head says of an entry whose it is and when it was made.
type Head struct {
	Revision int
	Author   string
	At       time.Time
}

// Heads gives the heads of a map's latest entries, the latest first.
func (s *Reach) Heads(ctx context.Context, id cm.ID) (all []Head, err error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	err = s.db.WithContext(ctx).Model(&entryRow{}).Select("revision", "author", "at").Where("map_id = ?", id).Order("revision DESC").Limit(maxSat).Find(&all).Error
	for i := range all {
		all[i].At = all[i].At.UTC()
	}
	return all, err
}

// SittingsOf parts entries, which are given the latest first, into sittings.
func SittingsOf(heads []Head) (all []Sitting) {
	for _, h := range heads {
		if n := len(all) - 1; n >= 0 && all[n].Author == h.Author && all[n].From.Sub(h.At) < pause {
			all[n].First, all[n].From = h.Revision, h.At
			continue
		}
		all = append(all, Sitting{h.Author, h.Revision, h.Revision, h.At, h.At})
	}
	return all
}

// Deeds is what one entry put on a map, and whose it was.
type Deeds struct {
	Revision int
	Author   string
	Made     []cm.Key
}

// DeedsOn gives what each of the latest entries of a map put there, the oldest first.
func (s *Reach) DeedsOn(ctx context.Context, id cm.ID) ([]Deeds, error) {
	if err := s.reaches(id); err != nil {
		return nil, err
	}
	var rows []entryRow
	if err := s.db.WithContext(ctx).Select("revision", "author", "changes").Where("map_id = ?", id).Order("revision DESC").Limit(maxDeedsOn).Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]Deeds, len(rows))
	for i, r := range rows {
		one := Deeds{Revision: r.Revision, Author: r.Author}
		for _, c := range r.Changes {
			if c.Made() && (c.Kind == cm.EntityConcept || c.Kind == cm.EntityLink) {
				one.Made = append(one.Made, c.Key)
			}
		}
		all[len(rows)-1-i] = one
	}
	return all, nil
}

// maxDeedsOn bounds how many entries are read for that.
const maxDeedsOn = 5000

// logLine is an entry of the log as it leaves, one line of JSON.
type logLine struct {
	Revision int              `json:"revision"`
	Entry    cm.ID            `json:"entry"`
	At       time.Time        `json:"at"`
	Author   string           `json:"author"`
	Undoes   cm.ID            `json:"undoes,omitempty"`
	Changes  []history.Change `json:"changes"`
}

// WriteLog writes the log of a map as JSON Lines (jsonlines.org), the oldest entry first. Named gives the name
// by which an author leaves.
func (s *Reach) WriteLog(ctx context.Context, id cm.ID, named func(author string) string, to io.Writer) error {
	if err := s.reaches(id); err != nil {
		return err
	}
	out := json.NewEncoder(to)
	for after := 0; ; {
		var rows []entryRow
		if err := s.db.WithContext(ctx).Where("map_id = ? AND revision > ?", id, after).Order("revision").Limit(200).Find(&rows).Error; err != nil {
			return err
		}
		if len(rows) == 0 {
			return nil
		}
		for _, r := range rows {
			after = r.Revision
			if err := out.Encode(logLine{r.Revision, r.ID, r.At.UTC(), named(r.Author), r.Undoes, r.Changes}); err != nil {
				return err
			}
		}
	}
}
