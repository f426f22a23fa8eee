package store

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
)

// ErrNoGrant tells that a link leads nowhere, or no longer.
var ErrNoGrant = errors.New("there is no such grant")

// Allows says what a grant is for.
type Allows string

// What a link can allow: to walk a route, to work on the map with the plain hand, to
// judge its propositions, or to see its picture.
const (
	AllowsWalk  Allows = "walk"
	AllowsHand  Allows = "hand"
	AllowsJudge Allows = "judge"

	AllowsPicture Allows = "picture"
	AllowsFrame   Allows = "frame" // stand in a frame on pages of others

	// Otherwise it is one of the rights of people.ForLinks, on the map as a whole.
)

// Right gives the right on the map as a whole that a link allows; RightNone where it is for something else.
func (a Allows) Right() people.Right {
	if r := people.Right(a); slices.Contains(people.ForLinks, r) {
		return r
	}
	return people.RightNone
}

// Frame is how something stands on pages of others.
type Frame struct {
	Origins []string `json:"origins"` // of those pages, see people.CleanOrigins
	Width   int      `json:"width"`   // in pixels; 0 for all that there is
	Height  int      `json:"height"`
	Look    cm.Theme `json:"look,omitempty"` // instead of the map's own
}

// Grant is what a link allows to whoever has it.
type Grant struct {
	ID      string
	MapID   cm.ID
	Allows  Allows
	Route   cm.ID // for a walk
	Created time.Time
	Until   time.Time // zero where it does not end by itself
	Secret  string    // the password that it asks for, as it is kept; empty for none
	Most    int       // how many browsers may open it; 0 for any number
	Used    int       // how many did, where that is counted
	Frame   *Frame    // of a frame; nil for others
	// Token is the unguessable part of the link's address, 128 bits and more in
	// 22 letters. It is made from the grant's id and the folder's secret, so
	// that the author can be shown it again; the database holds its hash only.
	Token string
}

// secretSize is the length of the folder's secret, in bytes.
const secretSize = 32

// readSecret gives the folder's secret, making it the first time. It lies
// beside the database, so that a copy of that alone opens no link.
func readSecret(folder string) ([]byte, error) {
	file := filepath.Join(folder, "secret")
	secret, err := os.ReadFile(file)
	if err == nil && len(secret) == secretSize {
		return secret, nil
	}
	if err == nil || !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("the file %s cannot be used: %w", file, errors.Join(err, errors.New("it should hold 32 bytes")))
	}
	secret = make([]byte, secretSize)
	if _, err := rand.Read(secret); err != nil {
		return nil, err
	}
	// It comes into being whole; of two servers that start at once, the second
	// takes what the first made.
	draft := file + "." + rand.Text()
	defer func() { _ = os.Remove(draft) }()
	if err := os.WriteFile(draft, secret, 0o600); err != nil {
		return nil, err
	}
	if err := os.Link(draft, file); errors.Is(err, fs.ErrExist) {
		return readSecret(folder)
	} else if err != nil {
		return nil, err
	}
	return secret, nil
}

func (s *Store) token(grant string) string {
	mac := hmac.New(sha256.New, s.secret)
	mac.Write([]byte("grant " + grant))
	return base64.RawURLEncoding.EncodeToString(mac.Sum(nil))[:22]
}

func hashOf(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

func (s *Store) grant(row grantRow) Grant {
	g := Grant{ID: row.ID, MapID: row.MapID, Allows: row.Access, Route: row.Route, Created: row.Created.UTC(), Token: s.token(row.ID), Secret: row.Secret, Most: row.Most, Used: row.Used, Frame: row.Frame}
	if row.Until != nil {
		g.Until = row.Until.UTC()
	}
	return g
}

// AddGrant makes a link that allows what the grant says; the store sets when it
// was made, and its token. Until may be zero.
func (s *Reach) AddGrant(ctx context.Context, g Grant) (Grant, error) {
	if err := s.reaches(g.MapID); err != nil {
		return Grant{}, err
	}
	row := grantRow{ID: g.ID, MapID: g.MapID, Access: g.Allows, Route: g.Route, TokenHash: hashOf(s.token(g.ID)), Created: s.Now().UTC(), Secret: g.Secret, Most: g.Most, Frame: g.Frame}
	if !g.Until.IsZero() {
		until := g.Until.UTC()
		row.Until = &until
	}
	if err := s.db.WithContext(ctx).Create(&row).Error; err != nil {
		return Grant{}, fmt.Errorf("making a link to map %s: %w", g.MapID, err)
	}
	return s.grant(row), nil
}

// Grants gives the links to a map that still lead there, the oldest first.
func (s *Reach) Grants(ctx context.Context, mapID cm.ID) ([]Grant, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	var rows []grantRow
	err := s.valid(ctx).Where("map_id = ?", mapID).Order("created, id").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the grants of map %s: %w", mapID, err)
	}
	all := make([]Grant, len(rows))
	for i, row := range rows {
		all[i] = s.grant(row)
	}
	return all, nil
}

func (s *Store) valid(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Where("revoked IS NULL AND (until IS NULL OR until > ?)", s.Now().UTC())
}

// Revoke closes a link for good.
func (s *Reach) Revoke(ctx context.Context, mapID cm.ID, id string) error {
	if err := s.reaches(mapID); err != nil {
		return err
	}
	now := s.Now().UTC()
	return s.one(s.db.WithContext(ctx).Model(&grantRow{}).Where("id = ? AND map_id = ? AND revoked IS NULL", id, mapID).Update("revoked", &now), ErrNoGrant)
}

// Limit sets until when a link leads somewhere, by which password, and for how many: those of the grant,
// instead of what was before. One that ended by itself may lead there again.
func (s *Reach) Limit(ctx context.Context, g Grant) error {
	if err := s.reaches(g.MapID); err != nil {
		return err
	}
	var until *time.Time
	if !g.Until.IsZero() {
		u := g.Until.UTC()
		until = &u
	}
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&grantRow{}).Where("id = ? AND map_id = ? AND revoked IS NULL", g.ID, g.MapID).
			Updates(map[string]any{"until": until, "secret": g.Secret, "most": g.Most}), ErrNoGrant)
	})
}

// TakeSeat counts one who opens a link that is good for some alone; ErrNoGrant where as many did already.
func (s *Store) TakeSeat(ctx context.Context, g Grant) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		return s.one(tx.Model(&grantRow{}).Where("id = ? AND used < most", g.ID).Update("used", gorm.Expr("used + 1")), ErrNoGrant)
	})
}

// Pass is what a browser shows of a link to have been let in: that it knows the password, and was counted.
// It ends when the password changes.
func (s *Store) Pass(g Grant, what string) string {
	mac := hmac.New(sha256.New, s.secret)
	mac.Write([]byte(what + " " + g.ID))
	if what == "password" {
		mac.Write([]byte(" " + g.Secret))
	}
	return base64.RawURLEncoding.EncodeToString(mac.Sum(nil))[:22]
}

// Ended gives the links to a map that ended by themselves and could be renewed, the latest first.
func (s *Reach) Ended(ctx context.Context, mapID cm.ID) ([]Grant, error) {
	if err := s.reaches(mapID); err != nil {
		return nil, err
	}
	var rows []grantRow
	if err := s.db.WithContext(ctx).Where("map_id = ? AND revoked IS NULL AND until <= ?", mapID, s.Now().UTC()).Order("until DESC").Limit(20).Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make([]Grant, len(rows))
	for i, row := range rows {
		all[i] = s.grant(row)
	}
	return all, nil
}

// NewBearer names somebody new who works under a link: who is how they are known
// here, name what their browser shows to be known again. Nobody can make up a name
// for themselves.
func (s *Store) NewBearer(g Grant) (who, name string) {
	who = rand.Text()
	return who, who + "." + s.bearerMark(g, who)
}

// Bearer tells who shows a name, and whether this folder gave it for that link.
func (s *Store) Bearer(g Grant, name string) (who string, known bool) {
	who, mark, _ := strings.Cut(name, ".")
	if who == "" || !hmac.Equal([]byte(mark), []byte(s.bearerMark(g, who))) {
		return "", false
	}
	return who, true
}

func (s *Store) bearerMark(g Grant, who string) string {
	mac := hmac.New(sha256.New, s.secret)
	mac.Write([]byte("bearer " + g.ID + " " + who))
	return base64.RawURLEncoding.EncodeToString(mac.Sum(nil))[:22]
}

// Redeem gives the grant that a token opens. One to a map in the bin opens nothing,
// for as long as it is there.
func (s *Store) Redeem(ctx context.Context, token string) (Grant, error) {
	var row grantRow
	err := s.valid(ctx).Where("map_id IN (SELECT id FROM maps WHERE deleted IS NULL)").Take(&row, "token_hash = ?", hashOf(token)).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Grant{}, ErrNoGrant
	} else if err != nil {
		return Grant{}, fmt.Errorf("redeeming a grant: %w", err)
	}
	return s.grant(row), nil
}
