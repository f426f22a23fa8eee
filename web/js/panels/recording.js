// @ts-check
// A walk over the map that is recorded: each thing that is selected becomes a stop.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'chosen' | 'guide' | 'model' | 'send'>} App */

export class Recording {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.on = false;
    /** The element that became a stop last, and that stop. */
    this.last = '';
    this.stop = '';
    document.addEventListener('htmx:after:swap', () => this.mark());
  }

  toggle() {
    const { app } = this;
    this.on = !this.on;
    this.last = this.on ? app.chosen.only ?? '' : '';
    this.stop = app.guide.stop;
    this.mark();
    app.announce(this.on ? t('Recording: each thing that you select becomes a stop.') : t('The recording has ended.'));
  }

  /** @private */
  mark() {
    document.body.classList.toggle('recording', this.on);
    for (const b of document.querySelectorAll('#margin [data-do="record"]')) {
      b.setAttribute('aria-pressed', String(this.on));
      /** @type {HTMLElement} */ (b.querySelector('span') ?? b).textContent = this.on ? t('End the recording') : t('Record a walk');
    }
  }

  /** What is selected is another thing now. */
  looked() {
    const { app } = this, only = app.chosen.only;
    if (!this.on || !only || only === this.last || !app.model.get(only) || app.model.get(only)?.provisional) return;
    this.last = only;
    this.stop = app.guide.record(only, this.stop);
    app.announce(t('Recorded: %s', app.model.get(only)?.words ?? ''));
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() { return { record: () => { this.toggle(); return true; } }; }
}
