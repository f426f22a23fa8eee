// @ts-check
// The route that is open in the phase Guide, over the map: a band under slips and links, and
// numerals beside what its stops show. Where they lie is worked out by the server.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'guide'>} App */

export class RouteLine {
  /** @param {App} app @param {SVGGElement} way @param {SVGGElement} numbers */
  constructor(app, way, numbers) {
    this.app = app;
    this.way = way;
    this.numbers = numbers;
    this.on = localStorage.getItem('route-line') !== '0';
    this.wanted = 0;
    this.asked = 0;
    document.addEventListener('htmx:after:swap', () => this.mark());
  }

  toggle() {
    this.on = !this.on;
    try { localStorage.setItem('route-line', this.on ? '1' : '0'); } catch { /* for this visit only */ }
    this.mark();
    this.fresh();
    this.app.announce(this.on ? t('The route lies over the map.') : t('The route is hidden.'));
  }

  /** @private */
  mark() { for (const b of document.querySelectorAll('#margin [data-do="route-line"]')) b.setAttribute('aria-pressed', String(this.on)); }

  /** The map has changed, or the route: the line follows, soon. */
  fresh() {
    clearTimeout(this.wanted);
    const { guide } = this.app;
    if (!this.on || !guide.route || !guide.rows().length) {
      this.way.replaceChildren();
      this.numbers.replaceChildren();
      return;
    }
    this.wanted = window.setTimeout(async () => {
      const mine = ++this.asked;
      try {
        const response = await fetch(`${this.app.base}/routes/${guide.route}/line`);
        if (!response.ok || mine !== this.asked) return;
        const line = await response.json();
        this.way.innerHTML = line.way;
        this.numbers.innerHTML = line.numbers;
      } catch { /* the state line says that the server is away */ }
    }, 60);
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() { return { 'route-line': () => { this.toggle(); return true; } }; }
}
