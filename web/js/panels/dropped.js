// @ts-check
// A file that is let go on free paper and whose concepts can be read: whoever brings it says whether these
// are to be looked at, or the file is to be kept with the map.

import { t } from '../sync/messages.js';

export class Dropped {
  /** @param {HTMLDialogElement} dialog */
  constructor(dialog) {
    this.dialog = dialog;
    this.field = /** @type {HTMLInputElement} */ (dialog.querySelector('[type="file"]'));
    /** @type {string[]} */
    this.endings = JSON.parse(dialog.dataset.reads ?? '[]');
    /** @type {(() => void) | null} */
    this.attach = null;
    dialog.querySelector('[data-attach]')?.addEventListener('click', () => { const attach = this.attach; dialog.close(); attach?.(); });
    dialog.addEventListener('close', () => { this.attach = null; });
  }

  /** Whether the concepts of all these files can be read. @param {File[]} files */
  takes(files) { return files.every((f) => this.endings.some((end) => f.name.toLowerCase().endsWith(end))); }

  /** @param {File[]} files @param {() => void} attach */
  ask(files, attach) {
    const carried = new DataTransfer();
    for (const f of files) carried.items.add(f);
    this.field.files = carried.files;
    this.attach = attach;
    /** @type {HTMLElement} */ (this.dialog.querySelector('h2')).textContent = files.length === 1 ? t('“%s” can be read', files[0].name) : t('These %s files can be read', files.length);
    this.dialog.showModal();
  }
}
