// @ts-check
// The handbook, beside the map: by its button, by F1, and by the small signs at what it
// explains.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk' | 'notice'>} App */

/** @param {App} app @param {HTMLDialogElement} dialog @returns {(page?: string) => Promise<void>} */
export function helpIn(app, dialog) {
  const inside = /** @type {HTMLElement} */ (dialog.querySelector('.help-inside'));
  dialog.addEventListener('close', () => app.desk.focus({ preventScroll: true }));
  const open = async (page = '') => {
    try {
      const response = await fetch(`/help${page ? `/${page}` : ''}`, { headers: { 'HX-Request': 'true' } });
      if (!response.ok) throw new TypeError();
      inside.innerHTML = await response.text();
      window.htmx.process(inside);
    } catch {
      return app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
    if (!dialog.open) dialog.show();
    dialog.scrollTop = 0;
    inside.querySelector('input')?.focus();
  };
  dialog.addEventListener('keydown', (e) => {
    if (e.key !== 'Escape') return;
    e.preventDefault();
    dialog.close();
  });
  document.addEventListener('keydown', (e) => {
    if (e.key !== 'F1') return;
    e.preventDefault();
    if (dialog.open) dialog.close();
    else open();
  });
  return open;
}
