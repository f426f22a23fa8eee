package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"net/url"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	cm "mevrin/core/conceptmap"
)

// bring sends a file as the page does.
func (s *served) bring(mapID, name string, raw []byte) (int, map[string]any) {
	response, err := http.Post(s.URL+"/maps/"+mapID+"/files?name="+url.QueryEscape(name), "application/octet-stream", bytes.NewReader(raw))
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	var answer map[string]any
	require.NoError(s.t, json.NewDecoder(response.Body).Decode(&answer))
	return response.StatusCode, answer
}

func (s *served) head(path string) (*http.Response, string) {
	response, err := http.Get(s.URL + path)
	require.NoError(s.t, err)
	defer func() { _ = response.Body.Close() }()
	raw, err := io.ReadAll(response.Body)
	require.NoError(s.t, err)
	return response, string(raw)
}

// What a file is, is told by its content; what could run is sent so that it
// cannot; what is too large is refused in words and nothing has changed.
func TestFilesAreKeptAndHeldStill(t *testing.T) {
	s := serve(t, t.TempDir())
	hostile := `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" onload="alert(1)"><script>alert(1)</script></svg>`
	page := `<!doctype html><html><body><script>alert(1)</script></body></html>`
	hashes := map[string]string{}
	for _, c := range []struct{ name, raw, kind, mediaType, way string }{
		{"drawing.png", hostile, "picture", "image/svg+xml", "inline"},
		{"note.txt", page, "file", "application/octet-stream", "attachment"},
		{`..\..\secret.pdf`, "%PDF-1.4\n%%EOF", "file", "application/pdf", "inline"},
		{"broken.png", "\x89PNG\r\n\x1a\nnothing more", "file", "application/octet-stream", "attachment"},
		{"a.bin", "just words", "file", "application/octet-stream", "attachment"},
	} {
		status, answer := s.bring("m", c.name, []byte(c.raw))
		require.Equal(t, http.StatusOK, status, answer)
		assert.Equal(t, c.kind, answer["kind"], c.name)
		assert.NotContains(t, answer["title"], `\`)
		hash := answer["file"].(map[string]any)["hash"].(string)
		hashes[c.name] = hash
		response, body := s.head("/maps/m/files/" + hash)
		assert.Equal(t, c.raw, body)
		assert.Equal(t, c.mediaType, response.Header.Get("Content-Type"), c.name)
		assert.Equal(t, "nosniff", response.Header.Get("X-Content-Type-Options"))
		assert.True(t, strings.HasPrefix(response.Header.Get("Content-Disposition"), c.way), c.name)
		policy := response.Header.Get("Content-Security-Policy")
		assert.Contains(t, policy, "default-src 'none'")
		if c.mediaType != "application/pdf" {
			assert.Contains(t, policy, "sandbox", c.name)
		}
		assert.NotContains(t, policy, "script-src")
	}
	small, _ := s.head("/maps/m/files/" + hashes["drawing.png"] + "/small")
	assert.Contains(t, small.Header.Get("Content-Security-Policy"), "sandbox")

	status, answer := s.bring("m", "huge.wav", make([]byte, 26<<20))
	assert.Equal(t, http.StatusRequestEntityTooLarge, status)
	assert.Contains(t, answer["error"], "at most 25.0 MB")
	status, answer = s.bring("m", "empty.png", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, answer["error"], "empty")
	status, _ = s.bring("nowhere", "a.txt", []byte("a"))
	assert.Equal(t, http.StatusNotFound, status)

	// Another map has none of it until its author uses it there again, and a copy
	// has all.
	require.NoError(t, func() error { _, err := s.store.All().Create(t.Context(), "n", "en"); return err }())
	other, _ := s.head("/maps/n/files/" + hashes["a.bin"])
	assert.Equal(t, http.StatusNotFound, other.StatusCode)
	_, list := s.get("/maps/n/files")
	assert.Contains(t, list, hashes["a.bin"])
	status, _ = s.post("/maps/n/files/"+hashes["a.bin"]+"/use", "")
	assert.Equal(t, http.StatusNoContent, status)
	other, _ = s.head("/maps/n/files/" + hashes["a.bin"])
	assert.Equal(t, http.StatusOK, other.StatusCode)
	for _, path := range []string{"/maps/m/files/../../mevrin.db", "/maps/m/files/" + strings.Repeat("0", 64), "/maps/m/files/x"} {
		response, _ := s.head(path)
		assert.Equal(t, http.StatusNotFound, response.StatusCode, path)
	}

	// A picture that cannot be decoded is tried once, and shown as it is.
	var photo bytes.Buffer
	require.NoError(t, jpeg.Encode(&photo, image.NewGray(image.Rect(0, 0, 1500, 1500)), nil))
	cut := photo.Bytes()[:photo.Len()/2]
	response, err := http.Post(s.URL+"/maps/m/files?name=cut.jpg", "image/jpeg", bytes.NewReader(cut))
	require.NoError(t, err)
	var broken struct{ File cm.File }
	require.NoError(t, json.NewDecoder(response.Body).Decode(&broken))
	_, path, err := s.store.All().FileOf(t.Context(), "m", broken.File.Hash)
	require.NoError(t, err)
	info, err := os.Stat(path + ".small")
	require.NoError(t, err, "that it cannot be made smaller is remembered")
	assert.Zero(t, info.Size())
	small, body := s.head("/maps/m/files/" + broken.File.Hash + "/small")
	assert.Equal(t, http.StatusOK, small.StatusCode)
	assert.Len(t, body, len(cut))

	// So has a document that comes back here.
	s.do("doc", 1, op{"do": "attach-source", "on": op{"kind": "concept", "id": "c00001"}, "id": "s", "file": op{"hash": hashes["drawing.png"], "type": "image/svg+xml", "size": 9, "w": 40, "h": 20}, "wide": 40})
	_, document := s.get("/maps/m/document")
	_, at, _ := s.upload("m.json", []byte(document))
	back, _ := s.head(at + "/files/" + hashes["drawing.png"])
	assert.Equal(t, http.StatusOK, back.StatusCode)

	// What only the destroyed map had is gone from the folder; the rest stays.
	_, _, _ = s.form("/maps/m/discard", nil)
	_, _, _ = s.form("/maps/m/destroy", nil)
	_, path, err = s.store.All().FileOf(t.Context(), "n", hashes["a.bin"])
	require.NoError(t, err)
	assert.FileExists(t, path)
	assert.NoFileExists(t, strings.ReplaceAll(path, hashes["a.bin"], hashes["note.txt"]))
}

// A walk shows the pictures of what it shows, and no others.
func TestAWalkShowsItsPicturesAlone(t *testing.T) {
	s := serve(t, t.TempDir())
	picture := func(colour string) string {
		_, answer := s.bring("m", "p.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9" fill="`+colour+`"/></svg>`))
		return answer["file"].(map[string]any)["hash"].(string)
	}
	shown, hidden := picture("red"), picture("blue")
	file := func(hash string) string {
		return fmt.Sprintf(`{"hash":"%s","type":"image/svg+xml","size":90,"w":9,"h":9}`, hash)
	}
	status, body := s.post("/maps/m/entries", entry("pictures", "w", 1, `[{"do":"add-concept","id":"p","label":"shown"},{"do":"add-concept","id":"q","label":"hidden","at":{"x":400,"y":400}},
		{"do":"attach-source","on":{"kind":"concept","id":"p"},"id":"s1","file":`+file(shown)+`,"wide":80},
		{"do":"attach-source","on":{"kind":"concept","id":"q"},"id":"s2","file":`+file(hidden)+`,"wide":80},
		{"do":"add-route","id":"r","title":"way"},{"do":"add-stop","id":"t","route":"r","refs":[{"kind":"concept","id":"p"}]}]`))
	require.Equal(t, http.StatusOK, status, body)
	_, _, body = s.form("/maps/m/grants", url.Values{"route": {"r"}})
	_, after, found := strings.Cut(body, "/walk/")
	require.True(t, found, body)
	token := after[:22]
	_, page := s.get("/walk/" + token)
	assert.Contains(t, page, `href="/walk/`+token+`/files/`+shown+`/small"`)
	assert.NotContains(t, page, hidden)
	response, _ := s.head("/walk/" + token + "/files/" + shown + "/small")
	assert.Equal(t, http.StatusOK, response.StatusCode)
	response, _ = s.head("/walk/" + token + "/files/" + hidden + "/small")
	assert.Equal(t, http.StatusNotFound, response.StatusCode)
}
