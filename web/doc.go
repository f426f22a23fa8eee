// Package web serves Mevrin to browsers: pages, the road of an edit, and the
// live stream that keeps open windows in step. Handlers are thin; what an edit
// means is decided in core, what is kept in store, what it looks like in draw.
package web
