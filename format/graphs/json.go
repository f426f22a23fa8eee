package graphs

import (
	"bytes"
	"encoding/json"
	"errors"

	cm "mevrin/core/conceptmap"
)

// keysInOrder gives the names in an object as they stand there.
func keysInOrder(raw []byte) (keys []string) {
	dec := json.NewDecoder(bytes.NewReader(raw))
	depth, name := 0, false
	for {
		token, err := dec.Token()
		if err != nil {
			return keys
		}
		switch t := token.(type) {
		case json.Delim:
			if t == '{' || t == '[' {
				depth++
			} else {
				depth--
			}
			name = depth == 1
			continue
		case string:
			if depth == 1 && name {
				keys = append(keys, t)
				name = false
				continue
			}
		}
		name = depth == 1
	}
}

// jsonFault refuses JSON that is broken, and says where it is.
func jsonFault(err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		return cm.Refusef("This JSON is broken at character %d.", syntax.Offset)
	case errors.As(err, &kind):
		return cm.Refusef("This is no graph in JSON: “%s” is of another sort than it should be.", kind.Field)
	}
	return cm.Refusef("This JSON ends too early.")
}
