// @ts-check
// What the map earns by its rubric, and how it is graded.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'lens' | 'notice' | 'send'>} App */

export class Score {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    dialog.addEventListener('change', (e) => this.changed(/** @type {HTMLInputElement} */ (e.target)));
    dialog.addEventListener('click', (e) => {
      const el = /** @type {Element} */ (e.target);
      if (el.matches('.score-weight')) e.preventDefault(); // it folds nothing
      if (el.closest('[data-do="show"], [data-do="round"]')) dialog.close();
    });
  }

  async show() {
    this.dialog.showModal();
    await this.fresh();
  }

  /** @private */
  async fresh() {
    const scrolled = this.dialog.scrollTop, at = /** @type {HTMLElement | null} */ (this.dialog.contains(document.activeElement) ? document.activeElement : null);
    const same = at?.dataset.what ? `[data-what="${at.dataset.what}"]` : at?.dataset.criterion ? `[data-criterion="${at.dataset.criterion}"]${at.matches(':checked') ? ':checked' : ''}` : '';
    try {
      await fetched(this.dialog, {});
    } catch (e) {
      this.app.notice(/** @type {Error} */ (e).message, undefined, true);
    }
    this.dialog.scrollTop = scrolled;
    if (same) /** @type {HTMLElement | null} */ (this.dialog.querySelector(same))?.focus({ preventScroll: true });
  }

  /** @private @param {string} path @param {BodyInit} body @returns {Promise<any>} */
  async ask(path, body) {
    try {
      const response = await fetch(`${this.app.base}/score/${path}`, { method: 'POST', body });
      if (response.status === 204) return {};
      const answer = await response.json();
      if (response.ok) return answer;
      this.app.notice(answer.error, undefined, true);
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
    return null;
  }

  /** @private @param {HTMLInputElement} field */
  async changed(field) {
    if (field.matches('.score-weight')) {
      const answer = await this.ask('weight', new URLSearchParams({ what: field.dataset.what ?? '', points: field.value }));
      if (answer) await this.app.send(answer.steps, []);
    } else if (field.id === 'rubric-file') {
      const file = field.files?.[0], body = new FormData();
      if (!file) return;
      body.append('file', file);
      const answer = await this.ask('read', body);
      if (answer) await this.app.send(answer.steps, []);
    } else if (field.dataset.criterion) {
      const { criterion } = field.dataset, level = /** @type {HTMLInputElement | null} */ (this.dialog.querySelector(`input[type="radio"][data-criterion="${criterion}"]:checked`)), why = /** @type {HTMLInputElement | null} */ (this.dialog.querySelector(`.score-why[data-criterion="${criterion}"]`));
      if (!level) return;
      await this.app.send([{ do: 'grade', id: newID('g'), criterion, level: Number(level.value), reason: why?.value ?? '' }], []);
    } else return;
    await this.fresh();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app, dialog } = this;
    return {
      score: () => { this.show(); return true; },
      'score-light': (c) => { dialog.close(); app.lens.light((c?.dataset.elements ?? '').split(' ')); return true; },
      
      'rubric-take': (c) => { app.send(JSON.parse(c?.dataset.steps ?? '[]'), []).then(() => this.fresh()); return true; },
      'rubric-open': () => { /** @type {HTMLInputElement | null} */ (dialog.querySelector('#rubric-file'))?.click(); return true; },
      'rubric-keep': () => { this.ask('keep', new URLSearchParams({ name: /** @type {HTMLInputElement | null} */ (dialog.querySelector('#rubric-name'))?.value ?? '' })).then((done) => { if (done) this.fresh(); }); return true; },
      'rubric-drop': (c) => { this.ask('drop', new URLSearchParams({ name: c?.dataset.name ?? '' })).then((done) => { if (done) this.fresh(); }); return true; },
    };
  }
}
