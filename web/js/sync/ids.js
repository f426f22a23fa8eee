// @ts-check
// The page names things: ids are made here, sortable by time, so that typing
// can run ahead of the server's answers.

const letters = '0123456789abcdefghijklmnopqrstuvwxyz';
let last = 0;

/** A new id: the time, made strictly growing within this window, and chance.
 * @param {string} prefix one letter that says what it names
 */
export function newID(prefix) {
  last = Math.max(Date.now(), last + 1);
  const chance = crypto.getRandomValues(new Uint8Array(8));
  return prefix + last.toString(36).padStart(9, '0') + Array.from(chance, (b) => letters[b % 36]).join('');
}

/** This window's own id, for as long as it is open. */
export const windowID = newID('w');
