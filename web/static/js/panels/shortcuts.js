// @ts-check
// The key sheet: what is typed into its field leaves only the lines that hold
// it, keys or words.

import { t } from '../sync/messages.js';

/** The sheet's field. */
export function listenToSheet() {
  const sheet = /** @type {HTMLDialogElement} */ (document.getElementById('keys'));
  const field = /** @type {HTMLInputElement} */ (document.getElementById('keys-seek'));
  const count = /** @type {HTMLElement} */ (document.getElementById('keys-count'));
  const look = () => {
    const words = field.value.trim().toLocaleLowerCase().split(/\s+/);
    let n = 0;
    for (const line of sheet.querySelectorAll('dl > div')) {
      const text = (line.textContent ?? '').toLocaleLowerCase();
      const fits = words.every((w) => text.includes(w));
      line.toggleAttribute('hidden', !fits);
      if (fits) n++;
    }
    for (const dl of sheet.querySelectorAll('dl')) dl.previousElementSibling?.toggleAttribute('hidden', !dl.querySelector(':scope > div:not([hidden])'));
    count.textContent = words[0] ? (n ? `${n}` : t('nothing of that sort')) : '';
  };
  field.addEventListener('input', look);
  sheet.addEventListener('close', () => { field.value = ''; look(); });
}
