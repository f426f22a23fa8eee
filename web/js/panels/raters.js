// @ts-check
// What several people judged of the map, each for themselves: their table, and how it is settled.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'back' | 'base' | 'guide' | 'lens' | 'notice' | 'round' | 'send'>} App */

export class Raters {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    this.notSure = '';
    dialog.addEventListener('change', (e) => {
      const field = /** @type {HTMLSelectElement} */ (e.target);
      if (field.dataset.change === 'settle') this.settle(field);
    });
  }

  /** Shows the table as it is now. */
  async fresh() {
    const scrolled = this.dialog.scrollTop;
    try {
      await fetched(this.dialog, { 'not-sure': this.notSure });
    } catch (e) {
      this.app.notice(/** @type {Error} */ (e).message, undefined, true);
    }
    this.app.guide.addresses();
    this.dialog.scrollTop = scrolled;
  }

  async show() {
    this.dialog.showModal();
    await this.fresh();
  }

  /** @private @param {HTMLSelectElement} field */
  async settle(field) {
    const { link = '', from = '', to = '', against } = field.dataset;
    const verdict = /** @type {any} */ (field.value);
    await this.app.send([{ do: 'judge', id: newID('j'), strand: { link, from, to }, against: against === 'true', ...(verdict ? { verdict } : {}), settled: true }], []);
    await this.fresh();
    /** @type {HTMLElement | null} */ (this.dialog.querySelector(`[data-change="settle"][data-link="${link}"][data-from="${from}"][data-to="${to}"]`))?.focus();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app, dialog } = this;
    return {
      raters: () => { this.show(); return true; },
      'raters-not-sure': (c) => { this.notSure = c?.dataset.wanted === 'true' ? 'value' : ''; this.fresh(); return true; },
      'raters-open': (c) => { app.send([{ do: 'set-judging', open: c?.dataset.wanted === 'true' }], []).then(() => this.fresh()); return true; },
      'raters-drop': (c) => {
        app.send([{ do: 'drop-rater', rater: c?.dataset.rater ?? '' }], []).then((done) => {
          if (!done) return;
          app.notice(t('What this rater said is taken off the map.'), { words: t('Undo'), act: () => app.back('undo') });
          this.fresh();
        });
        return true;
      },
      'raters-show': (c) => { dialog.close(); app.lens.light((c?.dataset.elements ?? '').split(' ')); return true; },
      'settle-round': () => { dialog.close(); app.round.begin('disputed'); return true; },
      'judge-link': () => { app.guide.links(`${app.base}/judge-links`, {}, 'judge-links'); return true; },
      'close-judge-link': (c) => { app.guide.links(`${app.base}/grants/${c?.dataset.grant}/close`, { allows: 'judge' }, 'judge-links'); return true; },
    };
  }
}
