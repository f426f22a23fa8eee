// @ts-check
// Where a new concept comes to stand. The server knows the free places around what
// stands; until it has said them, a rough one serves, at which typing can begin.

import { middle } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'model' | 'road'>} App */
/** @typedef {'child' | 'right' | 'below' | 'left' | 'above'} Side */
/** @typedef {{x: number, y: number}} Point */

/** How far a rough place is from what it is beside: room for a phrase. */
const away = { sideways: 110, below: 92 };

export class Places {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** What was asked for last, at which revision, and what the answer was. */
    this.element = '';
    this.revision = -1;
    /** @type {Promise<Partial<Record<Side, Point>>>} */
    this.asked = Promise.resolve({});
    /** @type {Partial<Record<Side, Point>>} */
    this.answer = {};
  }

  /** The free places around a concept or a phrase, as soon as the server knows all that
   * was done here; none where it cannot be reached. @param {string} element */
  async around(element) {
    const { app } = this;
    await app.road.idle();
    if (this.element === element && this.revision === app.road.revision) return this.asked;
    [this.element, this.revision, this.answer] = [element, app.road.revision, {}];
    this.asked = fetch(`${app.base}/places?of=${element}`).then((r) => (r.ok ? r.json() : {}), () => ({}));
    const answer = await this.asked;
    if (this.element === element) this.answer = answer;
    return answer;
  }

  /** A place at once: a rough one, until moved is told the free one.
   * @param {string} element @param {Side} side @param {(at: Point) => void} [moved] */
  at(element, side, moved) {
    const known = this.element === element && this.revision === this.app.road.revision && !this.app.road.queue.length ? this.answer[side] : undefined;
    if (!known && moved) this.around(element).then((all) => { const at = all[side]; if (at) moved(at); });
    return known ?? this.rough(element, side);
  }

  /** @private @param {string} element @param {Side} side @returns {Point} */
  rough(element, side) {
    const b = this.app.model.boxOf(element) ?? { x: 0, y: 0, w: 0, h: 0 }, w = 120, h = 37;
    const last = side === 'child' ? this.app.model.children(element.slice(2)).at(-1)?.box : undefined;
    if (last) return { x: last.x + last.w + away.below, y: last.y };
    if (side === 'right') return { x: b.x + b.w + away.sideways + w / 2, y: middle(b).y - h / 2 };
    if (side === 'left') return { x: b.x - away.sideways - w / 2, y: middle(b).y - h / 2 };
    return { x: middle(b).x, y: side === 'above' ? b.y - away.below - h : b.y + b.h + away.below };
  }
}
