package display

import "mevrin/core/message"

// t writes a message of a drawing: what is said of things to those who do not see them.
func t(key string, args ...any) string { return message.English().Sprintf(key, args...) }
