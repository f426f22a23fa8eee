// @ts-check
// The handful of actions that fit a selected concept, near it, for those who work with a
// pointer. They lie beside it where they cover neither slip nor phrase, or nowhere.

import { conceal } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'aim' | 'chosen' | 'desk' | 'model' | 'page' | 'pick' | 'plain' | 'pointer' | 'view' | 'words'>} App */

/** Between a slip and its actions, in pixels of the screen: outside of what can be pulled. */
const gap = 16, edge = 6;

export class AtHand {
  /** @param {App} app @param {HTMLElement} el */
  constructor(app, el) {
    this.app = app;
    this.el = el;
    /** Whether the last thing done on the page was done with a pointer. */
    this.pointed = false;
    this.frame = 0;
    document.addEventListener('pointerdown', () => { this.pointed = true; }, true);
    app.desk.addEventListener('keydown', (e) => {
      if (e.key === 'Shift' || e.key === 'Control' || e.key === 'Alt' || e.key === 'Meta') return;
      this.pointed = false;
      this.show();
    }, true);
    // A press on them is none on the paper.
    el.addEventListener('pointerdown', (e) => { e.preventDefault(); e.stopPropagation(); });
  }

  hide() {
    cancelAnimationFrame(this.frame);
    conceal(this.el, true);
  }

  /** Shows them where they belong now, or puts them away; soon. */
  show() {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => {
      const at = this.place();
      conceal(this.el, !at);
      if (!at) return;
      this.el.style.transform = `translate(${Math.round(at.x)}px, ${Math.round(at.y)}px)`;
    });
  }

  /** @private @returns {{x: number, y: number} | null} */
  place() {
    const { app } = this, only = app.chosen.only ?? '', thing = only.startsWith('c-') ? app.model.get(only) : undefined;
    if (!this.pointed || !thing || thing.provisional || app.plain || app.words.field || app.pick.wanted || app.aim.on || app.page.trial || app.pointer.gesture?.moved) return null;
    const box = app.model.boxOf(only);
    if (!box) return null;
    conceal(this.el, false);
    const { view } = app, w = this.el.offsetWidth, h = this.el.offsetHeight, desk = app.desk.getBoundingClientRect();
    const onScreen = (/** @type {import('./view.js').Box} */ b) => ({ x: b.x * view.k + view.x, y: b.y * view.k + view.y, w: b.w * view.k, h: b.h * view.k });
    // Whatever one may want to press stays free: slips, phrases, people's labels on them.
    const others = [...app.model.slips.values()].map((s) => onScreen(s.box)).concat([...app.model.links.values()].map((l) => onScreen(l.gap)));
    const b = onScreen(box), free = (/** @type {number} */ x, /** @type {number} */ y) => !others.some((o) => o.x < x + w && x < o.x + o.w && o.y < y + h && y < o.y + o.h);
    const within = (/** @type {number} */ at, /** @type {number} */ size, /** @type {number} */ room) => Math.max(edge, Math.min(at, room - size - edge));
    const along = [0.5, 0, 1].map((part) => ({ x: within(b.x + part * (b.w - w), w, desk.width), y: within(b.y + part * (b.h - h), h, desk.height) }));
    const places = [...along.map(({ x }) => [x, b.y - gap - h]), ...along.map(({ x }) => [x, b.y + b.h + 2 * gap]), ...along.map(({ y }) => [b.x + b.w + 2 * gap, y]), ...along.map(({ y }) => [b.x - 2 * gap - w, y])];
    const at = places.find(([x, y]) => x >= edge && y >= edge && x + w <= desk.width - edge && y + h <= desk.height - edge && free(x, y));
    return at ? { x: at[0], y: at[1] } : null;
  }
}
