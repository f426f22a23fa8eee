// @ts-check
// The small overview: the whole map in a corner, with a frame round what is
// seen. It is there when the map is much larger than the window.

import { svg } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'inSight' | 'model' | 'settings' | 'view'>} App */

const wide = 190, high = 130;

export class Overview {
  /** @param {App} app @param {HTMLElement} el */
  constructor(app, el) {
    this.app = app;
    this.el = el;
    this.picture = /** @type {SVGSVGElement} */ (svg('svg', { width: wide, height: high }));
    this.slips = svg('path', { class: 'overview-slips' });
    this.frame = svg('rect', { class: 'overview-frame' });
    this.picture.append(this.slips, this.frame);
    el.append(this.picture);
    this.wanted = 0;
    this.held = false;
    const go = (/** @type {PointerEvent} */ e) => {
      const r = this.picture.getBoundingClientRect(), v = this.picture.viewBox.baseVal, s = app.view.seen();
      const x = v.x + ((e.clientX - r.left) / r.width) * v.width, y = v.y + ((e.clientY - r.top) / r.height) * v.height;
      app.view.pan((s.x + s.w / 2 - x) * app.view.k, (s.y + s.h / 2 - y) * app.view.k);
    };
    el.addEventListener('pointerdown', (e) => { this.held = true; el.setPointerCapture(e.pointerId); e.preventDefault(); e.stopPropagation(); go(e); });
    el.addEventListener('pointermove', (e) => { if (this.held) go(e); });
    for (const end of ['pointerup', 'pointercancel']) el.addEventListener(end, () => { this.held = false; });
  }

  /** Draws it anew, when the hand rests. */
  fresh() {
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(() => this.draw(), 120);
  }

  /** @private */
  draw() {
    const all = this.app.model.bounds(), s = this.app.view.seen();
    const lost = !this.app.inSight();
    document.getElementById('lost')?.toggleAttribute('hidden', !lost || !all);
    const large = !!all && (all.w > s.w * 1.6 || all.h > s.h * 1.6);
    this.el.hidden = !large || !this.app.settings.overview;
    if (this.el.hidden || !all) return;
    const pad = Math.max(all.w, all.h) * 0.03;
    this.picture.setAttribute('viewBox', `${all.x - pad} ${all.y - pad} ${all.w + 2 * pad} ${all.h + 2 * pad}`);
    this.slips.setAttribute('d', [...this.app.model.slips.values()].map(({ box: b }) => `M${Math.round(b.x)} ${Math.round(b.y)}h${Math.round(b.w)}v${Math.round(b.h)}h${-Math.round(b.w)}z`).join(''));
    for (const [key, value] of Object.entries({ x: s.x, y: s.y, width: s.w, height: s.h })) this.frame.setAttribute(key, String(value));
    this.frame.setAttribute('stroke-width', String(Math.max(all.w / wide, all.h / high) * 2));
  }
}
