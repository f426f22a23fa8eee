package main

import (
	"context"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/store"
)

// said collects what a command prints, for a reader in another goroutine.
type said struct{ lines chan string }

func (s said) Write(p []byte) (int, error) {
	s.lines <- string(p)
	return len(p), nil
}

func runDemo(t *testing.T, args ...string) (said, chan error, context.CancelFunc) {
	ctx, cancel := context.WithCancel(t.Context())
	out := said{make(chan string, 8)}
	c := demoCommand()
	c.SetOut(out)
	c.SetArgs(args)
	done := make(chan error, 1)
	go func() { done <- c.ExecuteContext(ctx) }()
	return out, done, cancel
}

func TestDemoTakesAFreePortAndKeepsWhatIsThere(t *testing.T) {
	data := filepath.Join(t.TempDir(), "a folder with spaces & signs ?#%")
	for range 2 {
		out, done, stop := runDemo(t, "--addr", "127.0.0.1:0", "--data", data)
		line := <-out.lines
		assert.Regexp(t, `^Mevrin is ready at http://127\.0\.0\.1:[1-9]\d*\n$`, line)
		stop()
		select {
		case err := <-done:
			require.NoError(t, err)
		case <-time.After(20 * time.Second):
			t.Fatal("the server does not stop")
		}
	}
	s, err := store.Open(data)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	maps, err := s.All().List(t.Context())
	require.NoError(t, err)
	require.Len(t, maps, 6, "the second start finds the demo maps there")
	assert.Equal(t, "How does a bell make a sound that we can hear?", maps[5].Question)
	assert.InDelta(t, 40, maps[5].Concepts, 4)
}

func TestWhatHindersAStartIsSaid(t *testing.T) {
	busy, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = busy.Close() }()
	_, done, stop := runDemo(t, "--addr", busy.Addr().String(), "--data", t.TempDir())
	defer stop()
	assert.ErrorContains(t, <-done, "another program is using "+busy.Addr().String()+" already")

	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, done, stop = runDemo(t, "--addr", "127.0.0.1:0", "--data", file)
	defer stop()
	assert.ErrorContains(t, <-done, "data folder")

	_, done, stop = runDemo(t, "--addr", "nowhere", "--data", t.TempDir())
	defer stop()
	assert.ErrorContains(t, <-done, "cannot serve at nowhere")
}

// A server answers to the names of its machine and to those that it was given, on
// whatever address it listens; and the address that it prints is one of them.
func TestOnlyOwnNamesAnswer(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	assert.Equal(t, "localhost 127.0.0.1 ::1 127.0.0.1 maps.example", strings.Join(hosts(l, place{hosts: []string{"maps.example"}}), " "))
	assert.Empty(t, hosts(l, place{any: true}))
	all, err := net.Listen("tcp", "0.0.0.0:0")
	require.NoError(t, err)
	defer func() { _ = all.Close() }()
	shown, _, err := net.SplitHostPort(printed(all))
	require.NoError(t, err)
	assert.Contains(t, hosts(all, place{}), shown)
	assert.NotContains(t, hosts(all, place{}), "evil.example")

	// The owner is led to where people come in.
	_, port, err := net.SplitHostPort(all.Addr().String())
	require.NoError(t, err)
	assert.Equal(t, "http://"+printed(all), reached(all, place{}))
	assert.Equal(t, "http://maps.example:"+port, reached(all, place{hosts: []string{"maps.example", "b.example"}}))
	assert.Equal(t, "https://maps.example", reached(all, place{hosts: []string{"maps.example"}, proxies: []string{"172.17.0.1"}}))
}
