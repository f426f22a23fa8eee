// @ts-check
// Undo and redo by keys, wherever the keyboard is: in a field they belong to what was typed there.

/** @typedef {Pick<import('../pages/main.js').App, 'back' | 'desk'>} App */

const fields = 'textarea, select, [contenteditable], input:not([type="checkbox"], [type="radio"], [type="button"], [type="range"], [type="color"]), dialog.pad';

/** @param {App} app */
export function listenToUndoKeys(app) {
  /** What was typed last in a field. @type {WeakMap<EventTarget, string>} */
  const typed = new WeakMap();
  document.addEventListener('input', (e) => {
    const at = e.target;
    if (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement) typed.set(at, at.value);
  }, true);
  /** What was typed has gone to the map, and the field stands empty: there is nothing in it to undo. @param {Element} at */
  const given = (at) => (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement) && at.value === '' && typed.get(at) !== '';
  document.addEventListener('keydown', (e) => {
    const at = /** @type {Element} */ (e.target), key = e.key.toLowerCase();
    if (!(e.ctrlKey || e.metaKey) || e.altKey || (key !== 'z' && key !== 'y') || e.defaultPrevented || app.desk === at) return; // the paper has its own
    const field = at.closest(fields);
    if (field && !(field.matches('#jots, #say input') && given(at))) return;
    e.preventDefault();
    app.back(key === 'y' || e.shiftKey ? 'redo' : 'undo');
  });
}
