// Package conceptmap holds the concept map itself: the document, the
// operations that people perform on it, and the changes that these leave.
//
// A Map is an immutable value. Apply and Invert take one and return another;
// whoever holds the old one may go on reading it. An entity (Concept, Link,
// Route, Stop) is never altered in place, so two maps share what did not change.
//
// Three words are kept apart throughout:
//
//   - an Operation is what a person meant ("add a concept", "name the link");
//   - a Change is what that did to one entity, field by field, before and after;
//   - an entry is one gesture: its operations, their changes and what these
//     caused. It is one revision, one transaction, one step of undo.
//
// History is made of changes. Operations are kept for the record only: layout,
// fonts and rules will alter, what happened must not.
package conceptmap
