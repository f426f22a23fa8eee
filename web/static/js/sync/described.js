// @ts-check
// Edits in words, for when one of them could not be made.

/** @type {Record<string, (op: any) => string>} */
const words = {
  'add-concept': (o) => `The new concept “${o.label}”`,
  'name-concept': (o) => `The words “${o.label}”`,
  'name-link': (o) => `The phrase “${o.phrase}”`,
  'add-link': (o) => (o.phrase ? `The link “${o.phrase}”` : 'A new link'),
  say: (o) => `The sentence with “${o.phrase}”`,
  jot: (o) => `The idea “${o.words}”`,
  'set-note': () => 'A note',
  'write-stop': () => 'The text of a stop',
  move: () => 'Moving something',
  shift: () => 'Moving something',
  remove: () => 'Deleting something',
  ask: (o) => `The question “${o.question}”`,
};

/** @param {Wire.Operation[]} [operations] */
export function described(operations) {
  const first = /** @type {any} */ (operations?.[0]);
  if (!first) return 'Going back';
  return (words[first.do] ?? (() => 'An edit'))(first);
}

/** The words that somebody typed for an edit, if any. @param {Wire.Operation[]} [operations] @returns {string} */
export function typedIn(operations) {
  for (const op of /** @type {any[]} */ (operations ?? [])) {
    const words = [op.label, op.phrase, op.note, op.words, op.question, op.title, op.name, op.card].find((w) => typeof w === 'string' && w.trim());
    if (words) return words;
  }
  return '';
}
