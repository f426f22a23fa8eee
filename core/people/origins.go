package people

import (
	"net/netip"
	"net/url"
	"slices"
	"strings"

	cm "mevrin/core/conceptmap"
)

// MaxOrigins bounds the pages on which a map can stand in a frame.
const MaxOrigins = 20

// CleanOrigins reads the origins (RFC 6454) of pages on which something may be framed, parted by spaces, commas or lines;
// of a whole address its origin is taken. Each is as a browser writes it. It refuses what is none, what goes over
// the network without TLS, and where there is none at all.
func CleanOrigins(words string) (all []string, err error) {
	for _, word := range strings.FieldsFunc(words, func(r rune) bool { return r == ',' || r == ';' || r <= ' ' }) {
		if !strings.Contains(word, "://") {
			word = "https://" + word
		}
		u, err := url.Parse(word)
		if err != nil || u.Hostname() == "" || u.User != nil || u.Opaque != "" || !plainHost(u.Hostname()) {
			return nil, cm.Refusef("“%s” is no address of a page. It should look like https://course.school.example.", cm.Shortened(word, 60))
		}
		host := strings.ToLower(u.Hostname())
		ip, _ := netip.ParseAddr(host) // a name is no number, and none of this machine's
		local := host == "localhost" || ip.IsLoopback()
		if u.Scheme != "https" && !(u.Scheme == "http" && local) {
			return nil, cm.Refusef("“%s” is not secure: its address has to begin with https.", cm.Shortened(word, 60))
		}
		if port := u.Port(); port != "" && !(u.Scheme == "https" && port == "443") && !(u.Scheme == "http" && port == "80") {
			host += ":" + port
		}
		if one := u.Scheme + "://" + host; !slices.Contains(all, one) {
			all = append(all, one)
		}
	}
	switch {
	case len(all) == 0:
		return nil, cm.Refusef("Say on which page the map is to stand: by its address.")
	case len(all) > MaxOrigins:
		return nil, cm.Refusef("At most %d pages can be named for one frame. Make another frame for the others.", MaxOrigins)
	}
	return all, nil
}

// plainHost tells whether a host is a name or a number that can stand in a policy as it is (W3C CSP 3, host-source); no
// part of it stands for others.
func plainHost(host string) bool {
	for _, r := range host {
		if !(r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '.') {
			return false
		}
	}
	return !strings.HasPrefix(host, ".") && !strings.Contains(host, "..")
}
