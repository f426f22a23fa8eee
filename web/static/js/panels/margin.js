// @ts-check
// The margin: what the server says of the selected thing and the phase. What is
// the viewer's own in it outlives a newer one.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'desk' | 'guide' | 'jots' | 'model' | 'phase' | 'plain' | 'settings' | 'tidy' | 'writing'>} App */

export class Margin {
  /** @param {App} app @param {HTMLElement} el */
  constructor(app, el) {
    this.app = app;
    this.el = el;
    this.wanted = 0;
    this.shownFor = '';
    /** Whether a newer margin is on its way. */
    this.pending = false;
    this.keep();
  }

  /** Fetches it for what is selected now, soon. While a new concept waits for
   * its words it goes on showing what that one is linked to. */
  fresh() {
    const { app } = this;
    clearTimeout(this.wanted);
    const drawn = app.chosen.list.filter((e) => !app.model.get(e)?.provisional);
    if (drawn.length || !app.chosen.list.length) this.shownFor = drawn.slice(0, 200).join(',');
    this.pending = true;
    const mine = this.wanted = window.setTimeout(() => {
      const came = () => { if (this.wanted === mine) this.pending = false; };
      if (this.el.hasAttribute('hidden') || app.plain) return came();
      window.htmx.ajax('GET', `${app.base}/margin?chosen=${this.shownFor}&phase=${app.phase}${app.guide.query()}${this.figures() ? '&figures=1' : ''}`, { target: '#margin', swap: 'innerMorph' })
        .catch(() => { /* the state line says that the server is away */ })
        .finally(came);
    }, 60);
  }

  /** Whether the figures are open, and so must be worked out. */
  figures() { return !!(/** @type {HTMLDetailsElement | null} */ (this.el.querySelector('[data-fold="figures"]')))?.open; }

  /** Which parts are open, and what is being typed, stays. @private */
  keep() {
    const { app, el } = this;
    const name = (/** @type {HTMLElement} */ d) => d.dataset.fold ?? d.querySelector('summary')?.textContent;
    /** @type {Map<string | null | undefined, boolean>} */
    let folded = new Map();
    let held = '', inside = false;
    el.addEventListener('toggle', (e) => {
      const d = /** @type {HTMLDetailsElement} */ (e.target);
      if (d.dataset.fold === 'figures' && d.open && !d.querySelector('dl')) this.fresh();
    }, true);
    // Notes and talk are swapped, too, in places of their own.
    const other = (/** @type {Event} */ e) => !!/** @type {Element} */ (e.target).closest?.('.note-card, #talk');
    document.addEventListener('htmx:before:swap', (e) => {
      if (other(e)) return;
      folded = new Map([...el.querySelectorAll('details')].map((d) => [name(d), d.open]));
      held = app.writing.held();
      inside = el.contains(document.activeElement);
    });
    document.addEventListener('htmx:after:swap', (e) => {
      if (other(e)) return;
      for (const d of el.querySelectorAll('details')) d.open = folded.get(name(d)) ?? d.open;
      app.writing.restore(held);
      app.guide.took();
      app.jots.show();
      app.settings.mark();
      app.tidy.mark();
      // What had the keyboard is gone: the paper takes it.
      if (inside && document.activeElement === document.body) app.desk.focus({ preventScroll: true });
      const found = Number(/** @type {HTMLElement} */ (el.firstElementChild).dataset.found);
      const badge = /** @type {HTMLElement} */ (document.getElementById('found'));
      badge.textContent = found ? String(found) : '';
      badge.setAttribute('aria-label', found ? t('%s to look at', found) : '');
    });
  }
}
