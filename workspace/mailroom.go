package workspace

import (
	"context"
	"time"

	cm "mevrin/core/conceptmap"
	"mevrin/standin/post"
	"mevrin/store"
)

// Mailroom keeps letters for the owner to see, and sends them where there is something that does.
type Mailroom struct {
	Store *store.Store
	Post  post.Sender // nil where letters are passed on by hand

	wake chan struct{}
}

// NewMailroom gives the mailroom of a folder.
func NewMailroom(s *store.Store, sender post.Sender) *Mailroom {
	return &Mailroom{Store: s, Post: sender, wake: make(chan struct{}, 1)}
}

// Put keeps a letter, and lets it be sent soon.
func (m *Mailroom) Put(ctx context.Context, l store.Letter) error {
	err := m.Store.AddLetter(ctx, l)
	select {
	case m.wake <- struct{}{}:
	default: // it is about to look
	}
	return err
}

// How long sending one letter may take, and how long it is until those that were not taken are tried again.
const (
	postPatience = 30 * time.Second
	postAgain    = 5 * time.Minute
)

// Run sends what waits until the context ends.
func (m *Mailroom) Run(ctx context.Context) {
	if m.Post == nil {
		return
	}
	again := time.NewTicker(postAgain)
	defer again.Stop()
	for {
		m.sendAll(ctx)
		select {
		case <-m.wake:
		case <-again.C:
		case <-ctx.Done():
			return
		}
	}
}

func (m *Mailroom) sendAll(ctx context.Context) {
	all, err := m.Store.Unsent(ctx)
	if err != nil {
		return // it is looked again soon
	}
	for _, l := range all {
		if ctx.Err() != nil {
			return
		}
		one, cancel := context.WithTimeout(ctx, postPatience)
		fault := ""
		if err := m.Post.Send(one, post.Letter{To: l.Recipient, Subject: l.Subject, Body: l.Body}); err != nil {
			fault = cm.Shortened(err.Error(), 300)
		}
		cancel()
		_ = m.Store.Posted(context.WithoutCancel(ctx), l.ID, fault) // at worst it is sent twice
	}
}
