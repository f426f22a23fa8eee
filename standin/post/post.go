// Package post sends letters: invitations, new passwords, mentions. What sends them is an interface; the shipped
// client speaks SMTP (RFC 5321).
package post

import (
	"context"
	"fmt"
	"net"
	"strconv"

	"github.com/wneessen/go-mail"
)

// Letter is a letter in plain words.
type Letter struct{ To, Subject, Body string }

// Sender sends letters. It gives an error where a letter was not taken; it is then tried again.
type Sender interface {
	Send(ctx context.Context, l Letter) error
}

// SMTP sends by a mail server.
type SMTP struct {
	Server         string // host:port
	From           string // whose letters they are
	User, Password string // empty where it asks for none
	// Plain lets letters go without TLS, as a server on this machine may want it. Passwords are never sent so.
	Plain bool
}

// Send hands a letter to the server.
func (s SMTP) Send(ctx context.Context, l Letter) error {
	m := mail.NewMsg()
	if err := m.From(s.From); err != nil {
		return fmt.Errorf("the address that letters come from: %w", err)
	}
	if err := m.To(l.To); err != nil {
		return fmt.Errorf("the address of a letter: %w", err)
	}
	m.Subject(l.Subject)
	m.SetBodyString(mail.TypeTextPlain, l.Body)
	host, port, err := net.SplitHostPort(s.Server)
	if err != nil {
		return fmt.Errorf("the mail server: %w", err)
	}
	n, err := strconv.Atoi(port)
	if err != nil {
		return fmt.Errorf("the port of the mail server: %w", err)
	}
	options := []mail.Option{mail.WithPort(n), mail.WithTLSPolicy(mail.TLSMandatory)}
	switch {
	case n == 465:
		options = append(options, mail.WithSSL())
	case s.Plain:
		options = append(options, mail.WithTLSPolicy(mail.TLSOpportunistic))
	}
	if s.User != "" {
		options = append(options, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(s.User), mail.WithPassword(s.Password))
	}
	client, err := mail.NewClient(host, options...)
	if err != nil {
		return err
	}
	return client.DialAndSendWithContext(ctx, m)
}
