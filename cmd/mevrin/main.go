// Command mevrin serves Mevrin and works on its files.
package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"mevrin/demo"
	"mevrin/store"
	"mevrin/web"
)

// version is set when a release is built.
var version = "development"

func main() {
	root := &cobra.Command{Use: "mevrin", Short: "Concept maps that read as sentences and lead learners through them",
		SilenceUsage: true, SilenceErrors: true}
	root.AddCommand(serveCommand(), demoCommand(), checkCommand(), tidyCommand(), convertCommand(), &cobra.Command{
		Use: "version", Short: "Print the version", Args: cobra.NoArgs,
		Run: func(c *cobra.Command, _ []string) { fmt.Fprintln(c.OutOrStdout(), version) },
	})
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	switch err := root.ExecuteContext(ctx); {
	case errors.Is(err, errFound):
		stop()
		os.Exit(1)
	case err != nil:
		fmt.Fprintln(os.Stderr, "mevrin:", err)
		stop()
		os.Exit(2)
	}
}

type place struct {
	addr, data string
	any        bool
	films      []string
}

func (p *place) flags(c *cobra.Command, data string) {
	c.Flags().StringVar(&p.addr, "addr", "127.0.0.1:8240", "address to serve at; port 0 takes any free one")
	c.Flags().StringVar(&p.data, "data", data, "folder that holds all data")
	c.Flags().BoolVar(&p.any, "any-host", false, "answer under any host name, not only this machine's own")
	c.Flags().StringSliceVar(&p.films, "films", nil, "hosts whose films may be played in a frame of the page, separated by commas; none at first")
}

func serveCommand() *cobra.Command {
	var p place
	c := &cobra.Command{Use: "serve", Short: "Serve Mevrin to browsers", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error { return serve(c, p, false) }}
	p.flags(c, "mevrin-data")
	return c
}

func demoCommand() *cobra.Command {
	var p place
	c := &cobra.Command{Use: "demo", Short: "Serve Mevrin with the demo data", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error { return serve(c, p, true) }}
	p.flags(c, "mevrin-demo")
	return c
}

func serve(c *cobra.Command, p place, withDemo bool) error {
	listener, err := net.Listen("tcp", p.addr)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("another program is using %s already; stop it, or choose another address with --addr (127.0.0.1:0 takes any free port)", p.addr)
	} else if err != nil {
		return fmt.Errorf("cannot serve at %s: %w", p.addr, err)
	}
	defer func() { _ = listener.Close() }()
	s, err := store.Open(p.data)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	if withDemo {
		if err := fill(c.Context(), s); err != nil {
			return err
		}
	}
	log := slog.New(slog.NewTextHandler(os.Stderr, nil))
	server := &http.Server{
		Handler:           web.New(web.Config{Store: s, Access: web.OneAuthor{Store: s}, Log: log, Hosts: hosts(listener, p.any), Films: p.films}),
		ReadHeaderTimeout: 10 * time.Second,
		ErrorLog:          slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	fmt.Fprintf(c.OutOrStdout(), "Mevrin is ready at http://%s\n", listener.Addr())
	go func() {
		<-c.Context().Done()
		// Requests under way are finished; live streams end with the process.
		ctx, cancel := context.WithTimeout(context.Background(), 3*time.Second)
		defer cancel()
		_ = server.Shutdown(ctx)
	}()
	if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// hosts lists the names of this machine's own loopback, which is all that a
// server there should be addressed by.
func hosts(l net.Listener, anyHost bool) []string {
	if addr, ok := l.Addr().(*net.TCPAddr); anyHost || !ok || !addr.IP.IsLoopback() {
		return nil
	}
	return []string{"localhost", "127.0.0.1", "::1"}
}

// fill makes the demo maps that are not there yet.
func fill(ctx context.Context, s *store.Store) error {
	for _, d := range demo.Maps() {
		if _, _, err := s.Load(ctx, d.ID); err == nil {
			continue
		} else if !errors.Is(err, store.ErrNoMap) {
			return err
		}
		if err := s.Import(ctx, d.ID, "en", d.Entries); err != nil {
			return err
		}
		for _, f := range d.Files {
			if _, err := s.KeepFile(ctx, d.ID, "author", f.Name, bytes.NewReader(f.Raw), web.Recognise); err != nil {
				return err
			}
		}
	}
	return nil
}
