// @ts-check
// Edits in words, for when one of them could not be made.

import { t } from './messages.js';

/** @type {Record<string, (op: any) => string>} */
const words = {
  'add-concept': (o) => t('The new concept “%s”', o.label),
  'name-concept': (o) => t('The words “%s”', o.label),
  'name-link': (o) => t('The phrase “%s”', o.phrase),
  'add-link': (o) => (o.phrase ? t('The link “%s”', o.phrase) : t('A new link')),
  say: (o) => t('The sentence with “%s”', o.phrase),
  jot: (o) => t('The idea “%s”', o.words),
  'add-sibling': (o) => t('The new concept “%s”', o.label),
  duplicate: () => t('A copy'),
  'set-note': () => t('A note'),
  'write-stop': () => t('The text of a stop'),
  move: () => t('Moving something'),
  shift: () => t('Moving something'),
  remove: () => t('Deleting something'),
  ask: (o) => t('The question “%s”', o.question),
};

/** @param {Wire.Operation[]} [operations] */
export function described(operations) {
  const first = /** @type {any} */ (operations?.[0]);
  if (!first) return t('Going back');
  return (words[first.do] ?? (() => t('An edit')))(first);
}

/** The words that somebody typed for an edit, if any. @param {Wire.Operation[]} [operations] @returns {string} */
export function typedIn(operations) {
  for (const op of /** @type {any[]} */ (operations ?? [])) {
    const words = [op.label, op.phrase, op.note, op.words, op.question, op.title, op.name, op.card].find((w) => typeof w === 'string' && w.trim());
    if (words) return words;
  }
  return '';
}
