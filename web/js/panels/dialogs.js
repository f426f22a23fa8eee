// @ts-check
// Dialogs whose content the server sends: their fields say in attributes what is fetched,
// where it goes, and when; "shown" is when the dialog is opened.

/** Opens a dialog with its fields empty, and fetches what it offers. @param {HTMLDialogElement} dialog */
export function showDialog(dialog) {
  for (const form of dialog.querySelectorAll('form')) form.reset();
  dialog.showModal();
  for (const el of dialog.querySelectorAll('[hx-get]')) el.dispatchEvent(new Event('shown'));
}

// A dialog that ends by a press gives the keyboard back to the field that had it, but not the caret, without
// which nothing can be typed there.
document.addEventListener('close', () => {
  const at = document.activeElement;
  if (at instanceof HTMLTextAreaElement || at instanceof HTMLInputElement && at.selectionStart !== null) at.setSelectionRange(at.selectionStart, at.selectionEnd);
}, true);

/** What each element waits for. @type {WeakMap<Element, Promise<void>>} */
const coming = new WeakMap();

/** Fetches what an element shows, as its hx-get or hx-post says, after what it was asked
 * for before; fails in the words that the server gives as the reason, or with a TypeError
 * where it cannot be reached.
 * @param {Element} el @param {Record<string, string>} values what is asked for @returns {Promise<void>} */
export function fetched(el, values) {
  const next = (coming.get(el) ?? Promise.resolve()).catch(() => {}).then(() => fetchNow(el, values));
  coming.set(el, next);
  return next;
}

/** @param {Element} el @param {Record<string, string>} values @returns {Promise<void>} */
function fetchNow(el, values) {
  el.setAttribute('hx-vals', JSON.stringify(values));
  return new Promise((done, fail) => {
    const heard = new AbortController();
    /** @param {string} what @param {(detail: any) => void} act */
    const on = (what, act) => el.addEventListener(`htmx:${what}`, (e) => {
      if (e.target === el) act(/** @type {CustomEvent} */ (e).detail);
    }, { signal: heard.signal });
    on('response:error', ({ ctx }) => {
      try { fail(new Error(JSON.parse(ctx.text).error)); } catch { fail(new TypeError('no words')); }
    });
    on('error', () => fail(new TypeError('away')));
    on('finally:request', () => { heard.abort(); done(); });
    el.dispatchEvent(new Event('shown'));
  });
}

/** Tells where something could not be fetched. @param {(words: string) => void} tell @param {string} words */
export function tellOfFaults(tell, words) {
  for (const what of ['htmx:error', 'htmx:response:error']) document.addEventListener(what, (e) => { if (/** @type {Element} */ (e.target).parentElement?.closest('dialog')) tell(words); });
}
