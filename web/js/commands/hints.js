// @ts-check
// What can be done next, in a line at the foot of the paper.

import { t } from '../sync/messages.js';

/** @param {string[]} chosen the elements that are selected */
export function hintsFor(chosen) {
  const [first] = chosen;
  if (!first) return t('Double-click: new concept · Tab: first concept · drag: move the paper · ? shortcuts');
  if (chosen.length > 1) return t('Drag one to move all · Ctrl+K: link in order · Ctrl+M: make one · Delete · Escape');
  if (first.startsWith('c-')) return t('Tab: linked concept · Enter: another beside it · arrows: parent, child, sibling · Ctrl+.: on a side · letters: change its words · Delete · Escape');
  return t('Letters: change the phrase · Ctrl+Shift+arrows: turn, arrows, in between, two links · drag to bend · Delete');
}
