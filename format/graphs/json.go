package graphs

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
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

// jsonFault says where JSON is broken.
func jsonFault(err error) string {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		return fmt.Sprintf("it is broken at character %d.", syntax.Offset)
	case errors.As(err, &kind):
		return fmt.Sprintf("“%s” is of another sort than it should be.", kind.Field)
	}
	return "it ends too early."
}
