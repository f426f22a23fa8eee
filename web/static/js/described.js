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

/** @param {object[]} [operations] */
export function described(operations) {
  const first = /** @type {any} */ (operations?.[0]);
  if (!first) return 'Going back';
  return (words[first.do] ?? (() => 'An edit'))(first);
}
