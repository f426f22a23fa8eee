// @ts-check
// The cards of a route in small, beside what they speak of: switched on while a
// route is made. Where they lie is worked out by the server.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'guide' | 'showMargin' | 'showPhase'>} App */

export class Cards {
  /** @param {App} app @param {SVGGElement} layer */
  constructor(app, layer) {
    this.app = app;
    this.layer = layer;
    this.on = false;
    this.wanted = 0;
    this.shown = '';
    document.addEventListener('htmx:after:swap', () => { this.mark(); if (this.on && this.route() !== this.shown) this.fresh(); });
  }

  /** The route whose cards are shown: the one that is open in the phase Guide. @private */
  route() { return this.app.guide.route; }

  toggle() {
    this.on = !this.on;
    this.mark();
    if (this.on) this.fresh();
    else this.layer.replaceChildren();
    this.app.announce(this.on ? t('The cards lie beside the concepts.') : t('The cards are put away.'));
  }

  /** @private */
  mark() { for (const b of document.querySelectorAll('#margin [data-do="cards"]')) b.setAttribute('aria-pressed', String(this.on)); }

  /** The map has changed, or the route: what lies there follows, soon. */
  fresh() {
    if (!this.on) return;
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(async () => {
      const route = this.route();
      try {
        const response = route ? await fetch(`${this.app.base}/cards?route=${route}`) : null;
        this.layer.innerHTML = this.on && response?.ok ? await response.text() : '';
        this.shown = route;
        this.layer.dataset.route = route;
      } catch { /* the state line says that the server is away */ }
    }, 80);
  }

  /** A press on a card opens its stop. @param {string} stop */
  open(stop) {
    const { app } = this;
    app.showPhase('guide');
    app.showMargin(true);
    if (app.guide.stop !== stop) app.guide.openStop(stop);
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return { cards: () => { this.toggle(); return true; } };
  }
}
