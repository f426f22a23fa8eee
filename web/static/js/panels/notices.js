// @ts-check
// What the page says in passing, above its foot.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk'>} App */

/** Says something for a while, or until it is put away; with something that can
 * be done about it. @param {App} app @param {string} words @param {{words: string, act: () => void}} [offer] @param {boolean} [fault] @param {boolean | (() => void)} [stays] until it is put away, which may be told */
export function showNotice(app, words, offer, fault, stays) {
  // The same again takes the place of what was said before.
  for (const same of document.querySelectorAll('#notices > :not(.stays)')) if (same.firstElementChild?.textContent === words) same.remove();
  const el = document.createElement('div');
  el.className = fault ? 'notice fault' : 'notice';
  el.append(Object.assign(document.createElement('span'), { textContent: words }));
  const gone = stays ? 0 : window.setTimeout(() => el.remove(), fault ? 12_000 : 7_000);
  if (offer) {
    const button = Object.assign(document.createElement('button'), { type: 'button', textContent: offer.words });
    button.addEventListener('click', () => { clearTimeout(gone); el.remove(); app.desk.focus({ preventScroll: true }); offer.act(); });
    el.append(button);
  }
  if (stays) {
    el.classList.add('stays');
    const leave = Object.assign(document.createElement('button'), { type: 'button', textContent: t('Leave it') });
    leave.addEventListener('click', () => { el.remove(); if (typeof stays === 'function') stays(); });
    el.append(leave);
  }
  const all = /** @type {HTMLElement} */ (document.getElementById('notices')), passing = all.querySelectorAll(':scope > :not(.stays)');
  if (passing.length > 2) passing[0].remove();
  all.append(el);
  return el;
}
