// @ts-check
// What can be done next, in a line at the foot of the paper.

/** @param {string[]} chosen the elements that are selected */
export function hintsFor(chosen) {
  const [first] = chosen;
  if (!first) return 'Double-click: new concept · Tab: first concept · drag: move the paper · ? all keys';
  if (chosen.length > 1) return 'Drag one to move all · Ctrl+L: link in order · Ctrl+M: make one · Delete · Escape';
  if (first.startsWith('c-')) return 'Tab: linked concept · Enter: another beside it · Ctrl+.: on a side · letters: change its words · Delete · Escape';
  return 'Letters: change the phrase · Ctrl+Shift+arrows: turn, arrows, in between, two links · drag to bend · Delete';
}
