// @ts-check
// Three short hints on a first map, each at the place that it speaks of; each goes once
// it was done, or put away, and does not come again in this browser.

import { conceal } from '../paper/provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'chosen' | 'desk' | 'model' | 'plain' | 'view' | 'words'>} App */

/** A map that has more is no first one. */
const few = 6;

export class FirstHints {
  /** @param {App} app @param {HTMLElement} el */
  constructor(app, el) {
    this.app = app;
    this.hints = /** @type {HTMLElement[]} */ ([...el.querySelectorAll('[data-hint]')]);
    this.frame = 0;
    el.addEventListener('click', (e) => {
      const hint = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-hint]'));
      if (hint) this.did(hint.dataset.hint ?? '');
    });
  }

  /** @private @returns {string[]} */
  done() {
    try { return JSON.parse(localStorage.getItem('first-hints') ?? '[]'); } catch { return []; }
  }

  /** Something that a hint speaks of was done. @param {string} hint */
  did(hint) {
    const done = this.done();
    if (!done.includes(hint)) try { localStorage.setItem('first-hints', JSON.stringify([...done, hint])); } catch { /* for this visit only */ }
    this.show();
  }

  /** Shows those that are left, where they belong; soon. */
  show() {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => {
      const desk = this.app.desk.getBoundingClientRect();
      const { model, words, view, plain } = this.app, done = this.done(), begun = !plain && model.slips.size <= few && !words.field;
      if (!begun) {
        for (const el of this.hints) conceal(el, true); // and nothing is measured while a large map moves
        return;
      }
      if (model.links.size && !done.includes('link')) return this.did('link');
      const first = [...model.slips.values()].find((s) => s.words && !s.provisional);
      for (const el of this.hints) {
        const hint = el.dataset.hint ?? '';
        conceal(el, done.includes(hint) || (hint === 'link' && !first) || (hint === 'order' && model.links.size < 2));
        if (hint === 'link' && first) el.style.transform = `translate(${Math.round(view.x + (first.box.x + first.box.w / 2) * view.k)}px, ${Math.round(view.y + (first.box.y + first.box.h) * view.k + 34)}px) translate(-50%, 0)`;
        // Over a slip it would be in the way.
        const r = el.getBoundingClientRect();
        conceal(el, !!el.hidden || [...model.slips.values()].some(({ box: b }) => {
          const x = desk.left + view.x + b.x * view.k, y = desk.top + view.y + b.y * view.k;
          return x < r.right && r.left < x + b.w * view.k && y < r.bottom && r.top < y + b.h * view.k;
        }));
      }
    });
  }
}
