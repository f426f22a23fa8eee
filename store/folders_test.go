package store_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	cm "mevrin/core/conceptmap"
	"mevrin/core/people"
	"mevrin/store"
	"mevrin/store/storetest"
)

// Whatever is filed, shared, moved and taken away: what somebody may do with a map is the most of what it and
// the folders in which it is allow, and they are listed and reach exactly the maps on which they may anything.
func TestRightsComeDownThroughFolders(t *testing.T) {
	s := storetest.Open(t)
	ctx, n := context.Background(), 0
	rapid.Check(t, func(r *rapid.T) {
		n++
		adaID, joryID := fmt.Sprint("ada", n), fmt.Sprint("jory", n)
		for _, id := range []string{adaID, joryID} {
			require.NoError(r, s.AddPerson(ctx, people.Person{ID: id, Name: id, Mail: id + "@hollin.example", Role: people.RoleAuthor}, "none"))
		}
		ada, jory := s.For(store.Scope{Person: adaID}), s.For(store.Scope{Person: joryID})
		parent, in := map[string]string{}, map[cm.ID]string{}
		byMap, byFolder, open := map[cm.ID]people.Right{}, map[string]people.Right{}, map[cm.ID]people.Right{}
		var folders []string
		for i := range 4 {
			id := cm.ID(fmt.Sprint("m", n, "-", i))
			_, err := ada.Create(ctx, id, "en")
			require.NoError(r, err)
			in[id] = ""
		}
		right := func() people.Right {
			return rapid.SampledFrom([]people.Right{people.RightNone, people.RightLook, people.RightComment, people.RightEdit, people.RightOwn}).Draw(r, "right")
		}
		folder := func() string { return rapid.SampledFrom(append([]string{""}, folders...)).Draw(r, "folder") }
		mapID := func() cm.ID { return cm.ID(fmt.Sprint("m", n, "-", rapid.IntRange(0, 3).Draw(r, "map"))) }
		depth := func(f string) (up int) {
			for ; f != "" && up < 50; f = parent[f] {
				up++
			}
			return up
		}
		for step := range rapid.IntRange(1, 25).Draw(r, "steps") {
			switch rapid.IntRange(0, 6).Draw(r, "what") {
			case 0:
				id, at := fmt.Sprint("f", n, "-", step), folder()
				if ada.AddFolder(ctx, id, at, id) == nil {
					folders = append(folders, id)
					parent[id] = at
				}
			case 1:
				id, to := mapID(), folder()
				require.NoError(r, ada.File(ctx, to, id))
				in[id] = to
			case 2:
				if f := folder(); f != "" {
					to := folder()
					was := parent[f]
					parent[f] = to
					deepest := 0
					for _, one := range folders {
						deepest = max(deepest, depth(one))
					}
					err := ada.MoveFolder(ctx, f, to)
					assert.Equal(r, deepest > store.MaxFolderDepth, err != nil, "in itself, or too deep: %v", err)
					if err != nil {
						parent[f] = was
					}
				}
			case 3:
				id, to := mapID(), right()
				require.NoError(r, ada.ShareWith(ctx, id, joryID, to))
				byMap[id] = to
			case 4:
				if f := folder(); f != "" {
					to := right()
					require.NoError(r, ada.ShareFolder(ctx, f, joryID, to))
					byFolder[f] = to
					assert.Error(r, jory.MoveFolder(ctx, f, ""), "only whose it is moves it")
				}
			case 5:
				id, to := mapID(), rapid.SampledFrom([]people.Right{people.RightNone, people.RightLook}).Draw(r, "open")
				require.NoError(r, ada.SetOpen(ctx, id, to))
				open[id] = to
			case 6:
				if f := folder(); f != "" {
					require.NoError(r, ada.RemoveFolder(ctx, f))
					for id, at := range in {
						if at == f {
							in[id] = parent[f]
						}
					}
					for id, at := range parent {
						if at == f {
							parent[id] = parent[f]
						}
					}
					delete(byFolder, f)
					kept := folders[:0]
					for _, one := range folders {
						if one != f {
							kept = append(kept, one)
						}
					}
					folders = kept
				}
			}
		}
		shared, _, err := jory.ListOf(ctx, store.Listing{Section: store.SectionShared})
		require.NoError(r, err)
		listed := map[cm.ID]people.Right{}
		for _, m := range shared {
			listed[m.ID] = m.Allows
			assert.Equal(r, adaID, m.Owner)
		}
		for id, at := range in {
			mine := byMap[id]
			for f := at; f != ""; f = parent[f] {
				mine = people.Greater(mine, byFolder[f])
			}
			is, err := s.RightOn(ctx, joryID, id)
			require.NoError(r, err)
			assert.Equal(r, people.Greater(mine, open[id]), is, id)
			if mine == people.RightNone {
				assert.NotContains(r, listed, id)
				_, _, err = jory.Load(ctx, id)
				assert.ErrorIs(r, err, store.ErrNoMap, "by themselves they reach what is shared with them alone")
			} else {
				assert.Equal(r, people.Greater(mine, open[id]), listed[id])
			}
			own, err := s.RightOn(ctx, adaID, id)
			require.NoError(r, err)
			assert.Equal(r, people.RightOwn, own)
			if at != "" {
				inside, _, err := ada.ListOf(ctx, store.Listing{Section: store.SectionOwn, Folder: at})
				require.NoError(r, err)
				assert.True(r, func() bool {
					for _, m := range inside {
						if m.ID == id {
							return true
						}
					}
					return false
				}())
			}
		}
	})
}
