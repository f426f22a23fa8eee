// @ts-check
// The questions by which a map begins, one at a time; without scripts they stand below each other.

import { t } from '../sync/messages.js';

/** @template {HTMLElement} E @param {string} id @returns {E} */
const get = (id) => /** @type {any} */ (document.getElementById(id));

const all = /** @type {HTMLElement[]} */ ([...document.querySelectorAll('.asked')]);
const back = get('asked-back'), on = get('asked-on'), done = get('asked-done'), count = get('asked-count');
let at = 0;

/** @param {number} to */
function show(to) {
  at = Math.min(Math.max(to, 0), all.length - 1);
  all.forEach((one, i) => { one.hidden = i !== at; });
  back.hidden = at === 0;
  on.hidden = at === all.length - 1;
  // Whoever has said enough makes the map at any time, once it is said what it is about.
  done.classList.toggle('main', on.hidden);
  done.hidden = !all[0]?.querySelector('textarea')?.value.trim();
  count.textContent = t('%s of %s', at + 1, all.length);
  all[at]?.querySelector('textarea')?.focus();
}

back.addEventListener('click', () => show(at - 1));
on.addEventListener('click', () => show(at + 1));
get('questions').addEventListener('input', () => { done.hidden = !all[0]?.querySelector('textarea')?.value.trim(); });
get('questions').addEventListener('keydown', (e) => {
  if (e.key !== 'Enter' || e.shiftKey || !(e.target instanceof HTMLTextAreaElement) || !(e.ctrlKey || e.metaKey)) return;
  e.preventDefault();
  if (on.hidden) /** @type {HTMLFormElement} */ (get('questions')).requestSubmit(); else show(at + 1);
});
show(0);
