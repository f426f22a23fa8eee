package post_test

import (
	"bufio"
	"net"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"mevrin/standin/post"
)

// server takes letters as RFC 5321 has it, and gives what came; it refuses recipients whose address begins with "no".
func server(t *testing.T) (address string, letters chan string) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	letters = make(chan string, 10)
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go func() {
				defer func() { _ = c.Close() }()
				in := bufio.NewReader(c)
				say := func(line string) { _, _ = c.Write([]byte(line + "\r\n")) }
				say("220 hollin.example")
				for {
					line, err := in.ReadString('\n')
					if err != nil {
						return
					}
					switch verb := strings.ToUpper(strings.Fields(line + " x")[0]); {
					case verb == "EHLO" || verb == "HELO":
						say("250 hollin.example")
					case verb == "RCPT" && strings.Contains(line, "<no"):
						say("550 nobody of that name")
					case verb == "DATA":
						say("354 go on")
						var body strings.Builder
						for {
							line, err := in.ReadString('\n')
							if err != nil || line == ".\r\n" {
								break
							}
							body.WriteString(line)
						}
						letters <- body.String()
						say("250 taken")
					case verb == "QUIT":
						say("221 bye")
						return
					default:
						say("250 ok")
					}
				}
			}()
		}
	}()
	return l.Addr().String(), letters
}

func TestLettersAreHandedToTheServer(t *testing.T) {
	address, letters := server(t)
	s := post.SMTP{Server: address, From: "mevrin@hollin.example", Plain: true}
	require.NoError(t, s.Send(t.Context(), post.Letter{To: "fern@hollin.example", Subject: "Ines invites you", Body: "Hello,\n\ncome in.\n"}))
	got := <-letters
	for _, line := range []string{"Subject: Ines invites you", "To: <fern@hollin.example>", "From: <mevrin@hollin.example>", "come in."} {
		assert.Contains(t, got, line)
	}
	assert.Error(t, s.Send(t.Context(), post.Letter{To: "nobody@hollin.example", Subject: "x"}))
	assert.Error(t, s.Send(t.Context(), post.Letter{To: "fern@hollin.example\r\nBcc: all@hollin.example", Subject: "x"}))
	require.NoError(t, s.Send(t.Context(), post.Letter{To: "fern@hollin.example", Subject: "x\r\nBcc: all@hollin.example", Body: "y"}))
	assert.NotContains(t, <-letters, "\r\nBcc:")
	s.Plain = false
	assert.Error(t, s.Send(t.Context(), post.Letter{To: "fern@hollin.example", Subject: "x"}), "without TLS nothing goes unless that is asked for")
	assert.Error(t, post.SMTP{Server: "nowhere", From: "a@b.example"}.Send(t.Context(), post.Letter{To: "a@b.example"}))
}
