// @ts-check
// What the server draws takes its place among what is drawn already.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'model' | 'provisional' | 'words'>} App */

/** Takes an element off the paper. @param {App} app @param {string} element */
export function take(app, element) {
  const el = app.model.get(element)?.el;
  if (el && !el.classList.contains('provisional')) el.remove();
  app.provisional.drop(element);
  app.model.drop(element);
}

/** Puts a group in its place among those of its kind, which stand in the order of
 * ids. @param {App} app @param {string} element @param {string} drawn @param {'slips' | 'links'} group */
export function put(app, element, drawn, group) {
  app.provisional.drop(element);
  const parent = /** @type {Element} */ (document.getElementById(group));
  const holder = document.createElementNS('http://www.w3.org/2000/svg', 'g');
  holder.innerHTML = drawn.replaceAll('href="files/', `href="${app.base}/files/`);
  const fresh = /** @type {SVGGElement} */ (holder.firstElementChild);
  const old = parent.querySelector(`:scope > [id="${element}"]`);
  const editing = app.words.field && app.chosen.only === element;
  if (editing) fresh.classList.add(element.startsWith('c-') ? 'waiting' : 'editing');
  if (old) old.replaceWith(fresh);
  else {
    const all = parent.children;
    let low = 0, high = all.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (all[mid].id < element) low = mid + 1;
      else high = mid;
    }
    parent.insertBefore(fresh, all[low] ?? null);
  }
  app.model.read(fresh);
  if (editing) {
    const b = app.model.boxOf(element);
    if (b) app.words.moveTo(b.x + b.w / 2, element.startsWith('c-') ? b.y : b.y + b.h / 2);
  }
}
