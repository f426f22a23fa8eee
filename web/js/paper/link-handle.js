// @ts-check
// The place to pull a link from: it comes out of the side that faces the
// pointer. A click makes the next concept on that side; where no pointer has
// chosen one, the four sides are offered.

import { commenting } from '../sync/allowed.js';
import * as acts from '../commands/edits.js';
import { sides } from './side-choice.js';
import { middle, svg } from './provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'aim' | 'announce' | 'back' | 'choose' | 'chosen' | 'discard' | 'pointer' | 'marks' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'view' | 'words'>} App */

/** The label of what people said that a pointer is at, under the knot as well.
 * @param {Element} target @param {PointerEvent} e @returns {Element | null} */
export function talkAt(target, e) {
  if (!target.closest('.pull-handle')) return target.closest('.badge.talk');
  return document.elementsFromPoint(e.clientX, e.clientY).map((el) => el.closest('.badge.talk')).find((el) => el) ?? null;
}

/** How near to the knot itself a press is meant for it where another slip lies
 * within its reach, in pixels of the screen. */
const meant = 11, meantByTouch = 17;

export class LinkHandle {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** The element that it stands at. */
    this.at = '';
    /** The side that the pointer chose. @type {import('./side-choice.js').Side | ''} */
    this.side = '';
    this.el = svg('g', { class: 'pull-handle' });
    this.stem = svg('path', { class: 'stem' });
    this.dot = svg('circle', { class: 'dot' });
    this.reach = svg('circle', { class: 'reach' });
    this.el.append(svg('title', {}, t('Pull to link; click for a linked concept on this side')), this.stem, this.dot, this.reach);
    this.el.setAttribute('visibility', 'hidden');
    app.marks.append(this.el);
  }

  hide() {
    this.at = this.side = '';
    this.el.setAttribute('visibility', 'hidden');
    if (!this.app.aim.on) this.app.aim.hide();
  }

  /** Without a pointer near: at the one concept or phrase selected, below it. */
  rest() {
    const only = this.app.chosen.only, box = only && this.app.model.boxOf(only);
    if (!this.app.aim.on) this.app.aim.hide();
    if (box && !this.app.model.get(only)?.provisional) this.show(only, box, '');
    else this.hide();
  }

  /** What a pointer is at where the reach of the knot lies over it: another slip,
   * unless the knot itself is meant. @param {Element} target @param {PointerEvent} e @returns {Element | null} */
  under(target, e) {
    const off = (/** @type {Element} */ el) => { const r = el.getBoundingClientRect(); return Math.hypot(e.clientX - r.x - r.width / 2, e.clientY - r.y - r.height / 2); };
    const grip = target.closest('.grip')?.querySelector('.dot'), far = off(this.dot);
    // Where the grip of a line lies close by, the nearer of the two is meant.
    if (grip && this.at.startsWith('c-') && far < off(grip)) return this.dot;
    if (!target.closest('.pull-handle')) return null;
    if (far <= (e.pointerType === 'touch' ? meantByTouch : meant)) return null;
    const slip = document.elementsFromPoint(e.clientX, e.clientY).map((el) => el.closest('#slips > .slip')).find((el) => el);
    return slip && slip.id !== this.at ? slip : null;
  }

  /** @param {PointerEvent} e */
  follow(e) {
    if (e.pointerType === 'touch' || commenting) return;
    const over = /** @type {Element} */ (e.target), target = this.under(over, e) ?? over;
    // What people said of it is within reach, not hidden by the knot.
    if (talkAt(target, e)) return this.hide();
    if (target.closest('.pull-handle')) {
      // The place is seen before it is made.
      if (this.side && this.at.startsWith('c-')) this.app.aim.show(this.at.slice(2), this.side);
      return;
    }
    if (this.app.words.field) return;
    if (!this.app.aim.on) this.app.aim.hide();
    const el = /** @type {HTMLElement | null} */ (target.closest('.slip'));
    const slip = el && this.app.model.slips.get(el.dataset.id ?? '');
    const p = this.app.view.toPaper(e.clientX, e.clientY);
    if (slip && !slip.provisional) {
      const c = middle(slip.box), dx = (p.x - c.x) / slip.box.w, dy = (p.y - c.y) / slip.box.h;
      this.show(el.id, slip.box, Math.abs(dx) > Math.abs(dy) ? (dx > 0 ? 'right' : 'left') : dy > 0 ? 'below' : 'above');
      return;
    }
    // Near the slip it stays, so that the pointer can get to it.
    const near = this.app.model.boxOf(this.at), room = 40 / this.app.view.k;
    if (near && p.x > near.x - room && p.x < near.x + near.w + room && p.y > near.y - room && p.y < near.y + near.h + room) return;
    this.rest();
  }

  /** A click on it. @param {PointerEvent} e */
  click(e) {
    const { app, at, side } = this, id = at.slice(2);
    app.aim.hide();
    if (at.startsWith('l-')) return acts.newEnd(app, id);
    const slip = app.model.slips.get(id);
    if (!slip) return;
    if (e.pointerType === 'touch' || !side) app.aim.open(id);
    else acts.newLinked(app, id, side);
  }

  /** @private @param {string} element @param {import('./view.js').Box} box @param {import('./side-choice.js').Side | ''} side */
  show(element, box, side) {
    const [dx, dy] = sides[side || 'below'];
    const k = 1 / this.app.view.k, c = middle(box);
    const x = c.x + dx * box.w / 2, y = c.y + dy * box.h / 2;
    this.at = element;
    this.side = side;
    this.stem.setAttribute('d', `M${x} ${y}L${x + dx * 12 * k} ${y + dy * 12 * k}`);
    for (const [el, out, r] of /** @type {[SVGElement, number, number][]} */ ([[this.dot, 12, 5], [this.reach, 20, 22]])) {
      el.setAttribute('cx', String(x + dx * out * k));
      el.setAttribute('cy', String(y + dy * out * k));
      el.setAttribute('r', String(r * k));
    }
    this.stem.setAttribute('stroke-width', String(1.75 * k));
    this.el.setAttribute('visibility', 'visible');
  }
}
