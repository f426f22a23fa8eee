// @ts-check
// What the page says in passing, above its foot.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk'> } App */

let last = 0;

/** Says something for a while, or until it is put away; with something that can
 * be done about it. The same again takes the place of what was said before.
 * @param {App} app @param {string} words @param {{words: string, act: () => void}} [offer] @param {boolean} [fault] @param {boolean | (() => void)} [stays] until it is put away, which may be told */
export function showNotice(app, words, offer, fault, stays) {
  const notices = window.Alpine.store('notices'), id = ++last;
  const remove = () => { clearTimeout(gone); notices.remove(id); };
  const gone = stays ? 0 : window.setTimeout(remove, fault ? 12_000 : 7_000);
  notices.add({
    id, words, offer: offer?.words ?? '', fault: !!fault, stays: !!stays,
    act: () => { remove(); app.desk.focus({ preventScroll: true }); offer?.act(); },
    put: () => { remove(); if (typeof stays === 'function') stays(); },
  });
  return { remove };
}
