package main

import (
	"fmt"
	"net"
	"net/http"
	"time"

	"github.com/spf13/cobra"

	"mevrin/demo"
	"mevrin/standin/identity"
)

// identityCommand serves a stand-in for a school's identity, to try out how people sign in by one. It keeps nothing, and
// lets anybody in as anyone.
func identityCommand() *cobra.Command {
	var addr string
	c := &cobra.Command{Use: "stand-in-identity", Short: "Serve a stand-in for a school's identity, to try it out", Hidden: true, Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
		l, err := net.Listen("tcp", addr)
		if err != nil {
			return err
		}
		p := &identity.Provider{Issuer: "http://" + l.Addr().String(), Client: "mevrin", Secret: ""}
		for _, one := range demo.People {
			p.People = append(p.People, identity.Person{Subject: one.ID, Name: one.Name, Mail: one.Mail})
		}
		p.People = append(p.People, identity.Person{Subject: "fern", Name: "Fern Moss", Mail: "fern.moss@hollin.example"})
		fmt.Fprintf(c.OutOrStdout(), "The stand-in is ready at %s\n", p.Issuer)
		server := &http.Server{Handler: p.Handler(), ReadHeaderTimeout: 10 * time.Second}
		go func() { <-c.Context().Done(); _ = server.Close() }()
		if err := server.Serve(l); err != http.ErrServerClosed {
			return err
		}
		return nil
	}}
	c.Flags().StringVar(&addr, "addr", "127.0.0.1:8241", "address to serve at")
	return c
}
