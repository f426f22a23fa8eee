// Command load lets made-up people work on a Mevrin of its own, as a school would: fifty each on a map of their own and
// twenty together on one, through real connections; it ends the process amid that as often as it is told, and says how
// long edits took and whether any was lost or doubled. Then three hundred come to look and go, and it says what that
// leaves in memory.
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
	"mevrin/core/people"
	"mevrin/store"
)

// author is somebody who works on a map.
type author struct {
	id, token string
	mapID     cm.ID
	answered  []string
	lasted    []time.Duration
	doubted   int          // asked again, since no answer came
	seen      atomic.Int64 // the last revision that its window heard of, as a page tells
}

var (
	binary   = flag.String("binary", "bin/mevrin", "the application")
	lasts    = flag.Duration("for", 5*time.Minute, "how long they work")
	kills    = flag.Int("kills", 0, "how often the process is ended amid that")
	pace     = flag.Duration("pace", 3*time.Second, "how long somebody takes for an edit, about")
	alone    = flag.Int("alone", 50, "authors on maps of their own")
	together = flag.Int("together", 20, "authors on one map")
	viewers  = flag.Int("viewers", 300, "who come to look, and go")
)

func main() {
	flag.Parse()
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "load:", err)
		os.Exit(1)
	}
}

func run() error {
	data, err := os.MkdirTemp("", "mevrin-load")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(data) }()
	authors, err := fill(data)
	if err != nil {
		return err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	a := &app{binary: *binary, data: data, addr: l.Addr().String()}
	_ = l.Close()
	if err := a.start(); err != nil {
		return err
	}
	defer a.kill()
	ctx, cancel := context.WithTimeout(context.Background(), *lasts)
	defer cancel()
	var all sync.WaitGroup
	lags := &figures{}
	for i := range authors {
		all.Go(func() { authors[i].work(ctx, a.addr) })
		all.Go(func() { authors[i].listen(ctx, a.addr, lags) })
	}
	for i := range *kills {
		time.Sleep(*lasts / time.Duration(*kills+1))
		a.kill()
		if err := a.start(); err != nil {
			return fmt.Errorf("start %d: %w", i+1, err)
		}
	}
	all.Wait()
	if err := report(authors, a.addr, lags); err != nil {
		return err
	}
	return look(a, authors[len(authors)-1])
}

// figures are times that several measure.
type figures struct {
	mu  sync.Mutex
	all []time.Duration
	// made says when which revision of the map that is shared was answered.
	made map[int]time.Time
}

// fill makes the folder: people who are signed in, and their maps, of 100 concepts each.
func fill(data string) ([]*author, error) {
	s, err := store.Open(data)
	if err != nil {
		return nil, err
	}
	defer func() { _ = s.Close() }()
	ctx := context.Background()
	var authors []*author
	for i := range *alone + *together {
		one := &author{id: fmt.Sprintf("p%03d", i), mapID: cm.ID(fmt.Sprintf("m%03d", i))}
		role := people.RoleAuthor
		if i == 0 {
			role = people.RoleOwner
		}
		if err := s.AddPerson(ctx, people.Person{ID: one.id, Name: "Person " + strconv.Itoa(i), Mail: one.id + "@hollin.example", Role: role}, "none"); err != nil {
			return nil, err
		}
		if one.token, err = s.SignIn(ctx, one.id, "load"); err != nil {
			return nil, err
		}
		authors = append(authors, one)
		if i > *alone {
			one.mapID = authors[*alone].mapID
			if err := s.All().ShareWith(ctx, one.mapID, one.id, people.RightEdit); err != nil {
				return nil, err
			}
			continue
		}
		// As a new map is: it keeps itself in order.
		freely := true
		ops := []edit.Operation{&edit.KeepTidy{On: true, Pattern: cm.PatternLevels, Freely: &freely}}
		for c := range begun {
			ops = append(ops, &edit.AddConcept{ID: cm.ID(fmt.Sprintf("c%d", c)), Label: fmt.Sprintf("idea %d", c), At: cm.Point{X: float64(c%10) * 220, Y: float64(c/10) * 120}})
			if c == 0 {
				ops = append(ops, &edit.SetFocus{Concept: "c0"})
			}
			if c > 0 {
				ops = append(ops, &edit.AddLink{ID: cm.ID(fmt.Sprintf("l%d", c)), Phrase: "leads to", From: []cm.End{{ID: "f", Concept: cm.ID(fmt.Sprintf("c%d", (c-1)/3))}}, To: []cm.End{{ID: "t", Concept: cm.ID(fmt.Sprintf("c%d", c))}}})
			}
		}
		if err := s.For(store.Scope{Person: one.id}).Import(ctx, one.mapID, "en", [][]edit.Operation{ops}); err != nil {
			return nil, err
		}
	}
	return authors, nil
}

// begun is how many concepts each map has when the work begins.
const begun = 60

// work edits as a busy hand does, about one edit in so many seconds, until the context ends: mostly words, now and then
// another idea or a slip that is put somewhere near.
func (a *author) work(ctx context.Context, addr string) {
	client := &http.Client{Timeout: 20 * time.Second}
	for n := 0; ctx.Err() == nil; n++ {
		time.Sleep(time.Duration((0.5 + rand.Float64()) * float64(*pace)))
		id, c := fmt.Sprintf("%s-%d", a.id, n), rand.IntN(begun)
		ops := fmt.Sprintf(`[{"do":"name-concept","concept":"c%d","label":"idea %s"}]`, c, id)
		switch i := n % 30; {
		case i%5 == 1:
			ops = fmt.Sprintf(`[{"do":"name-link","link":"l%d","phrase":"leads %s"}]`, 1+rand.IntN(begun-1), id)
		case i == 2: // what a hand placed stays, and the map flows around it
			ops = fmt.Sprintf(`[{"do":"shift","concepts":["c%d"],"by":{"x":%d,"y":%d}}]`, c, rand.IntN(60)-30, rand.IntN(60)-30)
		case i%10 == 3:
			ops = fmt.Sprintf(`[{"do":"add-concept","id":"n-%s","label":"new %s","at":{"x":0,"y":0}},{"do":"add-link","id":"k-%s","phrase":"has","from":[{"id":"f","concept":"c%d"}],"to":[{"id":"t","concept":"n-%s"}]}]`, id, id, id, c, id)
		}
		body := fmt.Sprintf(`{"id":%q,"window":%q,"seen":%d,"operations":%s}`, id, a.id, max(1, a.seen.Load()), ops)
		begun := time.Now()
		for tries := 0; ; tries++ {
			request, err := http.NewRequest("POST", "http://"+addr+"/maps/"+string(a.mapID)+"/entries", strings.NewReader(body))
			if err != nil {
				panic(err) // of an address that is fixed
			}
			request.Header.Set("Content-Type", "application/json")
			request.Header.Set("Cookie", "mevrin-person="+a.token)
			response, err := client.Do(request)
			if err == nil {
				_, err = io.Copy(io.Discard, response.Body)
				_ = response.Body.Close()
				if err == nil && response.StatusCode == http.StatusOK {
					a.answered = append(a.answered, id)
					if tries == 0 {
						a.lasted = append(a.lasted, time.Since(begun))
					}
					break
				}
				if err == nil && response.StatusCode < 500 {
					fmt.Fprintln(os.Stderr, "load: refused:", response.StatusCode, ops)
					break
				}
			}
			a.doubted++
			time.Sleep(50 * time.Millisecond)
			if tries > 400 {
				fmt.Fprintln(os.Stderr, "load: no answer:", id)
				return
			}
		}
	}
}

// listen hears what happens on the map, as the page does.
func (a *author) listen(ctx context.Context, addr string, lags *figures) {
	for ctx.Err() == nil {
		conn, _, err := websocket.Dial(ctx, "ws://"+addr+"/maps/"+string(a.mapID)+"/live?window="+a.id, &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {"mevrin-person=" + a.token}}})
		if err != nil {
			time.Sleep(200 * time.Millisecond)
			continue
		}
		for {
			var e struct {
				Revision int
				Window   string
			}
			if wsjson.Read(ctx, conn, &e) != nil {
				break
			}
			a.seen.Store(int64(e.Revision))
			lags.heard(string(a.mapID), e.Revision)
		}
		_ = conn.CloseNow()
	}
}

// heard takes the time from when the first window heard of a revision to when each other one did.
func (f *figures) heard(mapID string, revision int) {
	if mapID != fmt.Sprintf("m%03d", *alone) || revision < 2 {
		return
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.made == nil {
		f.made = map[int]time.Time{}
	}
	first, known := f.made[revision]
	if !known {
		f.made[revision] = time.Now()
		return
	}
	f.all = append(f.all, time.Since(first))
}

func quantile(all []time.Duration, q float64) time.Duration {
	if len(all) == 0 {
		return 0
	}
	slices.Sort(all)
	return all[min(len(all)-1, int(float64(len(all))*q))].Round(100 * time.Microsecond)
}

// report says how long edits took, and compares what was answered with the logs.
func report(authors []*author, addr string, lags *figures) error {
	var apart, joint []time.Duration
	want, doubted := map[cm.ID][]string{}, 0
	for i, a := range authors {
		if i < *alone {
			apart = append(apart, a.lasted...)
		} else {
			joint = append(joint, a.lasted...)
		}
		want[a.mapID] = append(want[a.mapID], a.answered...)
		doubted += a.doubted
	}
	fmt.Printf("edits on maps of one's own: %d, median %v, p95 %v\n", len(apart), quantile(apart, 0.5), quantile(apart, 0.95))
	fmt.Printf("edits of %d on one map: %d, median %v, p95 %v; from the first window that heard to the others: p95 %v\n", *together, len(joint), quantile(joint, 0.5), quantile(joint, 0.95), quantile(lags.all, 0.95))
	lost, doubled, logged := 0, 0, 0
	for id, entries := range want {
		owner := authors[slices.IndexFunc(authors, func(a *author) bool { return a.mapID == id })]
		count := map[string]int{}
		request, err := http.NewRequest("GET", "http://"+addr+"/maps/"+string(id)+"/log", nil)
		if err != nil {
			return err
		}
		request.Header.Set("Cookie", "mevrin-person="+owner.token)
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			return err
		}
		lines := json.NewDecoder(response.Body)
		for {
			var e struct{ Entry string }
			if err := lines.Decode(&e); err != nil {
				break
			}
			count[e.Entry]++
			logged++
		}
		_ = response.Body.Close()
		for _, e := range entries {
			if count[e] == 0 {
				lost++
			}
		}
		for _, n := range count {
			doubled += n - 1
		}
	}
	fmt.Printf("entries in the logs: %d; asked again: %d; lost: %d; doubled: %d\n", logged, doubted, lost, doubled)
	if lost+doubled > 0 {
		return fmt.Errorf("%d edits were lost, %d doubled", lost, doubled)
	}
	return nil
}

// look lets many come to look at one map at the same time, and go.
func look(a *app, as *author) error {
	settle := func() int {
		least := 1 << 30
		for range 25 {
			time.Sleep(time.Second)
			least = min(least, a.resident())
		}
		return least
	}
	before := settle()
	ctx, cancel := context.WithCancel(context.Background())
	var conns sync.WaitGroup
	for i := range *viewers {
		conns.Go(func() {
			conn, _, err := websocket.Dial(ctx, fmt.Sprintf("ws://%s/maps/%s/live?window=v%d", a.addr, as.mapID, i), &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {"mevrin-person=" + as.token}}})
			if err != nil {
				return
			}
			defer func() { _ = conn.CloseNow() }()
			for {
				if _, _, err := conn.Read(ctx); err != nil {
					return
				}
			}
		})
	}
	time.Sleep(5 * time.Second)
	during := a.resident()
	cancel()
	conns.Wait()
	after := settle()
	fmt.Printf("memory: %d MB before %d came to look, %d MB with them, %d MB after they went\n", before, *viewers, during, after)
	if after > before+20 {
		return fmt.Errorf("%d MB stayed", after-before)
	}
	return nil
}
