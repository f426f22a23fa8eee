package main

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/jpeg"
	"net"
	"strings"
	"sync"
	"time"
)

// document writes a map of n concepts, each below one before it with so many
// children, and links more between any.
func document(n, links int, more string) []byte {
	var out bytes.Buffer
	fmt.Fprintf(&out, `{"mevrin":1,"id":"m","language":"en","focus":"c0"%s,"routes":[],"stops":[],"concepts":[`, more)
	for i := range n {
		if i > 0 {
			out.WriteByte(',')
		}
		fmt.Fprintf(&out, `{"id":"c%d","label":{"en":"idea number %d"},"at":{"x":%d,"y":%d}`, i, i, i%100*190, i/100*120)
		if i > 0 {
			fmt.Fprintf(&out, `,"main":{"link":"l%d","from":"f%d","to":"t%d","rank":"%06d1"}`, i, i, i, i)
		}
		out.WriteByte('}')
	}
	out.WriteString(`],"links":[`)
	for i := 1; i < n; i++ {
		if i > 1 {
			out.WriteByte(',')
		}
		fmt.Fprintf(&out, `{"id":"l%d","phrase":{"en":"has"},"heads":"one","from":[{"id":"f%d","concept":"c%d"}],"to":[{"id":"t%d","concept":"c%d"}]}`, i, i, (i-1)/4, i, i)
	}
	for i := range links {
		fmt.Fprintf(&out, `,{"id":"x%d","phrase":{"en":"meets"},"heads":"one","from":[{"id":"xf%d","concept":"c%d"}],"to":[{"id":"xt%d","concept":"c%d"}]}`, i, i, i*7919%n, i, (i*104729+1)%n)
	}
	out.WriteString(`]}`)
	return out.Bytes()
}

// png writes a picture that says how large it is, with rows of nothing.
func png(w, h uint32, depth, kind, interlaced byte, rows int64) []byte {
	var out bytes.Buffer
	out.WriteString("\x89PNG\r\n\x1a\n")
	chunk := func(name string, data []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(data)))
		part := append([]byte(name), data...)
		out.Write(part)
		_ = binary.Write(&out, binary.BigEndian, crc32.ChecksumIEEE(part))
	}
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, w), h)
	chunk("IHDR", append(head, depth, kind, 0, 0, interlaced))
	var pixels bytes.Buffer
	z := zlib.NewWriter(&pixels)
	for left := rows; left > 0; left -= 1 << 16 {
		_, _ = z.Write(make([]byte, min(left, 1<<16)))
	}
	_ = z.Close()
	chunk("IDAT", pixels.Bytes())
	chunk("IEND", nil)
	return out.Bytes()
}

// photograph is a JPEG of a size.
func photograph(w, h int) []byte {
	img := image.NewYCbCr(image.Rect(0, 0, w, h), image.YCbCrSubsampleRatio420)
	for i := range img.Y {
		img.Y[i] = byte(i * 31)
	}
	var out bytes.Buffer
	check(jpeg.Encode(&out, img, &jpeg.Options{Quality: 60}))
	return out.Bytes()
}

// progressive turns the frame of a JPEG into one that says it comes in passes.
func progressive(raw []byte) []byte {
	at := bytes.Index(raw, []byte{0xff, 0xc0})
	raw = bytes.Clone(raw)
	raw[at+1] = 0xc2
	return raw
}

// picture brings a file to a map, and asks for it as it stands on a slip.
func picture(raw []byte) func(*attacked) []int {
	return func(a *attacked) []int {
		address := a.empty("pictures")
		status, body := a.send("POST", address+"/files?name=p", "application/octet-stream", bytes.NewReader(raw))
		all := []int{status}
		if at := strings.Index(body, `"hash":"`); at >= 0 {
			hash := body[at+8 : at+72]
			for range 5 {
				all = append(all, a.get(address+"/files/"+hash+"/small"))
			}
		}
		return all
	}
}

// big makes the map that a case works on.
type big struct{ address string }

func (b *big) make(doc []byte) func(*attacked) {
	return func(a *attacked) {
		var status int
		if b.address, status = a.upload(doc); b.address == "" {
			check(fmt.Errorf("the map to attack could not be made: %d %s", status, a.said))
		}
		a.get(b.address)
	}
}

// form sends a form with one long field.
func form(path func(*attacked) string, fields string) func(*attacked) []int {
	return func(a *attacked) []int {
		return []int{a.post(path(a), "application/x-www-form-urlencoded", []byte(fields))}
	}
}

func cases() []attackCase {
	var large, six, words, full, notes big
	const concepts, links = 10_000, 9_000 // about as many as a map may have
	at := func(b *big, path string) func(*attacked) []int {
		return func(a *attacked) []int { return []int{a.get(b.address + path)} }
	}
	long := strings.Repeat("a", 8000)
	return []attackCase{
		{"picture 1 × 60,000,000", "422", nil, picture(png(1, 60_000_000, 8, 2, 0, 1<<20))},
		{"picture 60,000,000 × 1", "422", nil, picture(png(60_000_000, 1, 8, 2, 0, 1<<20))},
		{"picture 20,000 × 2,000, 16 bits", "422", nil, picture(png(20_000, 2_000, 16, 6, 0, 1<<20))},
		{"picture 6,300 × 6,300", "200", nil, picture(png(6300, 6300, 8, 6, 0, 6300*(1+4*6300)))},
		{"picture 6,300 × 6,300, empty", "200", nil, picture(png(6300, 6300, 8, 6, 0, 100))},
		{"picture 5,000 × 5,000, interlaced", "200", nil, picture(png(5000, 5000, 8, 6, 1, 5000*(1+4*5000)))},
		{"photograph of 35 megapixels", "200", nil, picture(photograph(7000, 5000))},
		{"photograph in passes, cut off", "200", nil, picture(progressive(photograph(5000, 4000))[:200_000])},
		{"ten photographs at once", "200", nil, func(a *attacked) []int {
			raw := photograph(7000, 5000)
			return together(10, func(i int) int { return picture(append(raw, byte(i)))(a)[0] })
		}},
		{"largest map: opened", "200", large.make(document(concepts, links, "")), at(&large, "")},
		{"largest map: column", "200", large.make(document(concepts, links, "")), at(&large, "/column")},
		{"largest map: margin, figures", "200|422", large.make(document(concepts, links, "")), at(&large, "/margin?phase=check&figures=1&chosen=c-c1")},
		{"largest map: figures on the paper", "200|422", large.make(document(concepts, links, "")), at(&large, "/lens?what=holding")},
		{"largest map: groups", "200|422", large.make(document(concepts, links, "")), at(&large, "/lens?what=groups")},
		{"largest map: pairs", "200|422", large.make(document(concepts, links, "")), at(&large, "/round?order=join")},
		{"largest map: read aloud", "200", large.make(document(concepts, links, "")), at(&large, "/aloud")},
		{"largest map: found", "200", large.make(document(concepts, links, "")), at(&large, "/find?q=idea")},
		{"largest map: untidy spots", "200|422", large.make(document(concepts, links, "")), at(&large, "/lens?what=untidy")},
		{"largest map: as a picture", "200", large.make(document(concepts, links, "")), at(&large, "/drawing")},
		{"largest map: as a document", "200", large.make(document(concepts, links, "")), at(&large, "/document")},
		{"largest map: in the library", "200", large.make(document(concepts, links, "")), func(a *attacked) []int { return []int{a.get("/"), a.get(large.address + "/small.svg")} }},
		{"largest map: copied", "200", large.make(document(concepts, links, "")), form(func(*attacked) string { return large.address + "/copy" }, "")},
		{"largest map: uploaded", "303", nil, func(a *attacked) []int { _, s := a.upload(document(concepts, links, "")); return []int{s} }},
		{"largest map: one edit", "200", large.make(document(concepts, links, "")), func(a *attacked) []int {
			return []int{a.edit(large.address, "e", `[{"do":"name-concept","concept":"c0","label":"another"}]`)}
		}},
		{"largest map: 30 views", "200", large.make(document(concepts, links, "")), func(a *attacked) []int {
			var all []int
			for i := range 30 {
				all = append(all, a.post(large.address+"/view", "application/json", fmt.Appendf(nil, `{"window":"w","tuck":["c%d"]}`, i+1)))
			}
			return all
		}},
		{"more concepts than a map may have", "422", nil, func(a *attacked) []int { _, s := a.upload(document(30_000, 0, "")); return []int{s} }},
		{"more concepts, by edits", "(200 )?422", large.make(document(concepts, 0, "")), func(a *attacked) []int {
			var ops []string
			for i := range 5000 {
				ops = append(ops, fmt.Sprintf(`{"do":"add-concept","id":"n%d","label":"x","at":{"x":%d,"y":-900}}`, i, i*200))
			}
			return []int{a.edit(large.address, "e1", "["+strings.Join(ops, ",")+"]")}
		}},
		{"a web of 6,000", "422", six.make(document(6000, 3000, "")), func(a *attacked) []int {
			return []int{a.post(six.address+"/tried", "application/json", []byte(`{"operations":[{"do":"tidy","pattern":"web"}]}`))}
		}},
		{"rings of 6,000", "422|200", six.make(document(6000, 3000, "")), func(a *attacked) []int {
			return []int{a.post(six.address+"/tried", "application/json", []byte(`{"operations":[{"do":"tidy","pattern":"rings"}]}`))}
		}},
		{"levels of 6,000", "200|422", six.make(document(6000, 3000, "")), func(a *attacked) []int {
			return []int{a.edit(six.address, "e1", `[{"do":"tidy","pattern":"levels"}]`)}
		}},
		{"sides of 6,000", "200|422", six.make(document(6000, 3000, "")), func(a *attacked) []int {
			return []int{a.edit(six.address, "e1", `[{"do":"tidy","pattern":"sides"}]`)}
		}},
		{"ends × ends", "422", full.make(ends()), func(a *attacked) []int {
			var ops []string
			for i := range 47 {
				ops = append(ops, fmt.Sprintf(`{"do":"add-link","id":"l%d","from":[%s],"to":[%s],"phrase":"x"}`, i, side("f", i, 0), side("t", i, 60)))
			}
			return []int{a.edit(full.address, "e1", "["+strings.Join(ops, ",")+"]"), a.get(full.address + "/column")}[:1]
		}},
		{"replace with what is longer", "200|422", words.make(noted(400, long)), form(func(*attacked) string { return words.address + "/replaced" }, "seek=a&with="+strings.Repeat("b", 3<<20))},
		{"replace each letter by a page", "200|422", words.make(noted(400, long)), form(func(*attacked) string { return words.address + "/replaced" }, "seek=a&with="+strings.Repeat("b", 20_000))},
		{"tables in a note", "422", notes.make(noted(1, "x")), func(a *attacked) []int {
			return []int{a.edit(notes.address, "e", `[{"do":"set-note","on":{"kind":"concept","id":"c0"},"note":"`+table(1500, 1500)+`"}]`)}
		}},
		{"tables in a stored note", "200|404", notes.make(noted(1, table(1500, 1500))), at(&notes, "/note?on=c-c0")},
		{"lines that are pasted", "200|413|422", words.make(noted(1, "x")), form(func(*attacked) string { return words.address + "/pasted" }, "text="+strings.Repeat("%0A%09x", 500_000))},
		{"an outline of 5 MB", "413", nil, form(func(*attacked) string { return "/maps" }, "begin=outline&lines="+strings.Repeat("x%0A", 1_300_000))},
		{"a slip of 200 lines", "422", words.make(noted(1, "x")), func(a *attacked) []int {
			return []int{a.edit(words.address, "e", `[{"do":"name-concept","concept":"c0","label":"`+strings.Repeat(`x\n`, 199)+`x"}]`)}
		}},
		{"ids in a wish for a view", "422", words.make(noted(1, "x")), func(a *attacked) []int {
			return []int{a.post(words.address+"/view", "application/json", []byte(`{"window":"w","tuck":["x"`+strings.Repeat(`,"x"`, 900_000)+`]}`))}
		}},
		{"deep JSON", "422", words.make(noted(1, "x")), func(a *attacked) []int {
			return []int{a.edit(words.address, "e", strings.Repeat("[", 1_900_000)+strings.Repeat("]", 1_900_000))}
		}},
		{"connections that say nothing", "200", nil, func(a *attacked) []int {
			var all []net.Conn
			for range 1500 {
				if c, err := net.DialTimeout("tcp", strings.TrimPrefix(a.URL, "http://"), time.Second); err == nil {
					_, _ = c.Write([]byte("GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX: "))
					all = append(all, c)
				}
			}
			status := a.get("/")
			for _, c := range all {
				_ = c.Close()
			}
			return []int{status}
		}},
		{"readers that take nothing", "200", large.make(document(concepts, links, "")), func(a *attacked) []int {
			var all []net.Conn
			for range 40 {
				if c, err := net.DialTimeout("tcp", strings.TrimPrefix(a.URL, "http://"), time.Second); err == nil {
					_, _ = fmt.Fprintf(c, "GET %s/document HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n", large.address)
					all = append(all, c)
				}
			}
			time.Sleep(5 * time.Second)
			status := a.get("/")
			for _, c := range all {
				_ = c.Close()
			}
			return []int{status}
		}},
		{"64 maps opened in turn", "200", nil, func(a *attacked) []int {
			var all []int
			for i := range 64 {
				if address, status := a.upload(document(1000, 500, "")); address != "" {
					all = append(all, a.get(address))
				} else {
					all = append(all, status)
				}
				_ = i
			}
			return all
		}},
	}
}

// together does something several times at once.
func together(n int, do func(i int) int) []int {
	all := make([]int, n)
	var wait sync.WaitGroup
	for i := range n {
		wait.Go(func() { all[i] = do(i) })
	}
	wait.Wait()
	return all
}

// ends is a map of 120 concepts for links of 60 ends on each side.
func ends() []byte { return document(120, 0, "") }

func side(name string, link, from int) string {
	var all []string
	for i := range 60 {
		all = append(all, fmt.Sprintf(`{"id":"%s%d-%d","concept":"c%d"}`, name, link, i, from+i))
	}
	return strings.Join(all, ",")
}

// noted is a map whose concepts have a note.
func noted(n int, note string) []byte {
	var out bytes.Buffer
	out.WriteString(`{"mevrin":1,"id":"m","language":"en","routes":[],"stops":[],"links":[],"concepts":[`)
	for i := range n {
		if i > 0 {
			out.WriteByte(',')
		}
		fmt.Fprintf(&out, `{"id":"c%d","label":{"en":"idea %d"},"at":{"x":0,"y":%d},"note":{"en":"%s"}}`, i, i, i*80, note)
	}
	out.WriteString(`]}`)
	return out.Bytes()
}

// table is a table with as many columns and rows as fit, written short.
func table(columns, rows int) string {
	return strings.Repeat("|a", columns) + `|\n` + strings.Repeat("|-", columns) + `|\n` + strings.Repeat(`|b\n`, rows)
}
