// @ts-check
// What lies under and around the slips: the dress of the paper, what is printed on
// it, the grid, and the parts of the drawing that are sent as a whole.

import { gridStep } from './snap.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'desk' | 'settings' | 'view'>} App */

/** The distance of what is printed on the paper, in pixels at actual size. */
const paperStep = 28;

export class Ground {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** What each part looks like now. @type {Map<string, string>} */
    this.drawn = new Map();
    /** The style sheet of colours of one's own, and what it says as the map has it. */
    this.sheet = new CSSStyleSheet();
    this.own = '';
    document.adoptedStyleSheets.push(this.sheet);
  }

  /** Wears colours of one's own to try them on, or those of the map again.
   * @param {string | null} sheet */
  wear(sheet) {
    this.sheet.replaceSync(sheet ?? this.own);
    const { desk } = this.app, was = desk.dataset.worn ?? [...desk.classList].filter((c) => c.startsWith('look-')).join(' ');
    if (sheet === null) {
      if (desk.dataset.worn) this.dress(`${desk.dataset.worn} ${[...desk.classList].filter((c) => c.startsWith('paper-')).join(' ')}`.trim());
      delete desk.dataset.worn;
      return;
    }
    desk.dataset.worn = was;
    this.dress(`look-own ${[...desk.classList].filter((c) => c.startsWith('paper-')).join(' ')}`.trim());
  }

  /** Takes up what an answer says of the map as a whole. @param {import('../sync/queue.js').Answer['head']} head */
  take(head) {
    this.own = head.own ?? '';
    this.sheet.replaceSync(this.own);
    delete this.app.desk.dataset.worn;
    this.dress(head.look);
    for (const [id, drawn] of [['axis', head.axis], ['regions', head.regions], ['key-on-paper', head.key]]) {
      if (this.drawn.get(id) === drawn) continue;
      this.drawn.set(id, drawn);
      const el = document.getElementById(id);
      if (el) el.innerHTML = drawn.replaceAll('href="files/', `href="${this.app.base}/files/`);
    }
  }

  /** @param {string} classes */
  dress(classes) {
    const { desk } = this.app;
    desk.classList.remove(...[...desk.classList].filter((c) => /^(look|paper)-/.test(c)));
    desk.classList.add(...classes.split(' ').filter(Boolean));
    this.grid();
  }

  /** Lays the grid, or what is printed, where the paper is; coarser where it would be too dense. */
  grid() {
    const { desk, settings, view } = this.app, printed = /\bpaper-/.test(desk.className);
    if (!settings.grid && !printed) return;
    const step = (printed ? paperStep : gridStep) * view.k * (view.k < (printed ? 0.25 : 0.5) ? 4 : 1);
    desk.style.backgroundSize = `${step}px ${step}px`;
    desk.style.backgroundPosition = `${view.x}px ${view.y}px`;
  }
}
