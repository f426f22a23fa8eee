// Command attack sends to a server of its own, on this machine alone, what could
// stop it for everyone: requests, files and maps that are cheap to send and dear to
// serve. For each it prints the status, the most memory that the process took, and
// how long somebody at work on another map waited meanwhile. It ends with status 1
// where a bound does not hold.
package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"io"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"mevrin/e2e/drive"
)

// What may not be passed: the process's memory, and how long somebody else waits at
// the 95th percentile.
const (
	maxMemory = 300 << 20
	maxWait   = 250 * time.Millisecond
)

func main() {
	binary := flag.String("binary", "bin/mevrin", "the server")
	only := flag.String("only", "", "an expression for the names of the cases to run")
	flag.Parse()
	chosen, err := regexp.Compile(*only)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	fmt.Println("| case | status | peak memory | other client p95 | longest | took |")
	fmt.Println("| --- | --- | --- | --- | --- | --- |")
	bad := 0
	for _, c := range cases() {
		if chosen.MatchString(c.name) && !run(*binary, c) {
			bad++
		}
	}
	if bad > 0 {
		fmt.Printf("%d cases passed a bound (* where)\n", bad)
		os.Exit(1)
	}
}

// attacked is a server under attack.
type attacked struct {
	*drive.App
	program *drive.Program
	folder  string
	client  *http.Client
	said    string // why the last upload was refused
}

// attackCase is one attack. Prepare makes what it needs; attack does it and gives
// the statuses that it was answered with.
type attackCase struct {
	name    string
	want    string // an expression for the statuses
	prepare func(*attacked)
	attack  func(*attacked) []int
}

func run(binary string, c attackCase) bool {
	program := &drive.Program{}
	defer program.End()
	folder, err := os.MkdirTemp("", "attack-")
	check(err)
	defer func() { _ = os.RemoveAll(folder) }()
	a := &attacked{program: program, folder: folder, client: &http.Client{Timeout: 3 * time.Minute}}
	a.App = drive.Start(program, binary, "serve", folder)
	// Somebody else works on a map that is large, but not unusual.
	other, status := a.upload(document(1000, 500, ""))
	if other == "" {
		check(fmt.Errorf("the other map could not be made: %d %s", status, a.said))
	}
	a.get(other)
	if c.prepare != nil {
		c.prepare(a)
	}
	check(os.WriteFile(fmt.Sprintf("/proc/%d/clear_refs", a.PID()), []byte("5"), 0)) // the peak begins anew
	ctx, stop := context.WithCancel(context.Background())
	var waits []time.Duration
	var watching sync.WaitGroup
	watching.Go(func() { waits = a.watch(ctx, other) })
	begun := time.Now()
	statuses := c.attack(a)
	took := time.Since(begun)
	time.Sleep(300 * time.Millisecond)
	stop()
	watching.Wait()
	peak := a.peak()
	p95, longest := percentile(waits, 95), percentile(waits, 100)
	words := strings.Join(strings.Fields(strings.Trim(fmt.Sprint(slices.Compact(statuses)), "[]")), " ")
	mark := func(bad bool) string {
		if bad {
			return "*"
		}
		return ""
	}
	refused := !regexp.MustCompile("^(" + c.want + ")$").MatchString(words)
	fmt.Printf("| %s | %s%s | %d MB%s | %d ms%s (of %d) | %d ms | %.1f s |\n", c.name, words, mark(refused), peak>>20, mark(peak > maxMemory), p95.Milliseconds(), mark(p95 > maxWait), len(waits), longest.Milliseconds(), took.Seconds())
	return !refused && peak <= maxMemory && p95 <= maxWait
}

func check(err error) {
	if err != nil {
		fmt.Fprintln(os.Stderr, "attack:", err)
		os.Exit(2)
	}
}

// watch works on another map as somebody would, and gives how long each request
// took.
func (a *attacked) watch(ctx context.Context, address string) []time.Duration {
	var waits []time.Duration
	for i := 0; ctx.Err() == nil; i++ {
		begun := time.Now()
		if i%2 == 0 {
			if status := a.edit(address, fmt.Sprint("watch", i), fmt.Sprintf(`[{"do":"name-concept","concept":"c%d","label":"renamed %d"}]`, i%1000, i)); status != http.StatusOK {
				check(fmt.Errorf("the edit of somebody else was answered with %d", status))
			}
		} else {
			a.get(address + "/margin")
		}
		waits = append(waits, time.Since(begun))
		time.Sleep(15 * time.Millisecond)
	}
	return waits
}

func percentile(all []time.Duration, p int) time.Duration {
	if len(all) == 0 {
		return 0
	}
	slices.Sort(all)
	return all[min(len(all)-1, len(all)*p/100)]
}

// peak gives the most memory that the process held since it was last asked to
// begin counting.
func (a *attacked) peak() int64 {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", a.PID()))
	if err != nil {
		return 1 << 62 // it is gone
	}
	var kb int64
	if at := bytes.Index(raw, []byte("VmHWM:")); at >= 0 {
		_, _ = fmt.Sscan(string(raw[at+6:]), &kb)
	}
	return kb << 10
}

// send asks for something and gives the status, 0 where there was no answer.
func (a *attacked) send(method, path, kind string, body io.Reader) (int, string) {
	request, err := http.NewRequest(method, a.URL+path, body)
	check(err)
	if kind != "" {
		request.Header.Set("Content-Type", kind)
	}
	request.Header.Set("Accept", "application/json")
	response, err := a.client.Do(request)
	if err != nil {
		return 0, ""
	}
	defer func() { _ = response.Body.Close() }()
	var head bytes.Buffer
	_, _ = io.Copy(&head, io.LimitReader(response.Body, 1<<20))
	_, _ = io.Copy(io.Discard, response.Body)
	return response.StatusCode, head.String()
}

func (a *attacked) get(path string) int { status, _ := a.send("GET", path, "", nil); return status }

func (a *attacked) post(path, kind string, body []byte) int {
	status, _ := a.send("POST", path, kind, bytes.NewReader(body))
	return status
}

// edit sends operations as one entry.
func (a *attacked) edit(address, id, operations string) int {
	return a.post(address+"/entries", "application/json", fmt.Appendf(nil, `{"id":%q,"window":"a","seen":1,"operations":%s}`, id, operations))
}

// upload makes a map of a document and gives its address, or the status where it
// was refused.
func (a *attacked) upload(document []byte) (address string, status int) {
	var body bytes.Buffer
	fmt.Fprint(&body, "--b\r\nContent-Disposition: form-data; name=\"file\"; filename=\"m.json\"\r\n\r\n")
	body.Write(document)
	fmt.Fprint(&body, "\r\n--b--\r\n")
	request, err := http.NewRequest("POST", a.URL+"/upload", &body)
	check(err)
	request.Header.Set("Content-Type", "multipart/form-data; boundary=b")
	client := *a.client
	client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	response, err := client.Do(request)
	if err != nil {
		return "", 0
	}
	defer func() { _ = response.Body.Close() }()
	page, _ := io.ReadAll(io.LimitReader(response.Body, 1<<20))
	if said := fault.FindSubmatch(page); said != nil {
		a.said = string(said[1])
	}
	return response.Header.Get("Location"), response.StatusCode
}

// fault finds what a page says of why something was refused.
var fault = regexp.MustCompile(`(?s)class="banner fault"[^>]*>(.*?)</`)

// empty makes a map with one concept and gives its address.
func (a *attacked) empty(name string) string {
	address, status := a.upload([]byte(`{"mevrin":1,"id":"m","language":"en","question":{"en":"` + name + `"},"focus":"a","concepts":[{"id":"a","label":{"en":"bell"},"at":{"x":0,"y":0}}],"links":[],"routes":[],"stops":[]}`))
	if status != http.StatusSeeOther {
		check(fmt.Errorf("a map could not be made: %d %s", status, a.said))
	}
	return address
}
