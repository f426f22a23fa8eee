// @ts-check
// Choosing on which side of a concept the next one comes to stand: its place
// is seen before it is made. By the knot, by keys, by a tap.

import * as acts from '../commands/edits.js';
import { border, svg } from './provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'choose' | 'chosen' | 'desk' | 'discard' | 'pointer' | 'marks' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'words'>} App */
/** @typedef {import('./view.js').Box} Box */
/** @typedef {'right' | 'below' | 'left' | 'above'} Side */

/** @type {Record<string, Side>} */
const byArrow = { ArrowRight: 'right', ArrowDown: 'below', ArrowLeft: 'left', ArrowUp: 'above' };

/** @type {Record<Side, [number, number]>} */
export const sides = { right: [1, 0], below: [0, 1], left: [-1, 0], above: [0, -1] };

export class Aim {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.group = svg('g', { class: 'aim' });
    app.marks.prepend(this.group);
    /** The concept at which a side is being chosen. */
    this.at = '';
    /** @type {Side} */
    this.side = 'below';
    /** The sides that are shown. @type {Side[] | null} */
    this.drawn = null;
    /** Where each stood before the server had said where there is room: a press that was on its
     * way there is still meant for it. @type {Map<Side, Box>} */
    this.were = new Map();
    this.of = '';
  }

  get on() { return this.at !== ''; }

  /** Shows one place, as a pointer on the knot asks. @param {string} concept @param {Side} side */
  show(concept, side) {
    if (this.on) return;
    this.draw(concept, [side], side);
  }

  hide() {
    this.at = '';
    this.drawn = null;
    this.were.clear();
    this.group.replaceChildren();
    this.app.desk.classList.remove('aiming');
  }

  /** Lets one choose among the four sides. @param {string} concept */
  open(concept) {
    this.at = concept;
    this.side = 'below';
    this.app.desk.classList.add('aiming');
    this.draw(concept, /** @type {Side[]} */ (Object.keys(sides)), this.side);
    this.app.announce(t('On which side? Arrow keys choose, Enter makes the concept there, Escape leaves it.'));
  }

  /** @private @param {string} concept @param {Side[]} shown @param {Side} chosen */
  draw(concept, shown, chosen) {
    const slip = this.app.model.slips.get(concept);
    if (!slip) return this.hide();
    this.drawn = shown;
    if (this.of !== concept) this.were.clear();
    this.of = concept;
    const { were } = this;
    this.group.replaceChildren(...shown.map((side) => {
      const at = this.app.places.at(`c-${concept}`, side, () => { if (this.drawn === shown) this.draw(concept, shown, chosen); }), w = 120, h = 37;
      const g = svg('g', { class: side === chosen ? 'aim-place chosen' : 'aim-place', 'data-side': side });
      const box = { x: at.x - w / 2, y: at.y, w, h }, was = were.get(side), from = border(slip.box, { x: at.x, y: at.y + h / 2 }), to = border(box, from);
      if (was) g.append(svg('path', { class: 'aim-was', d: `M${was.x} ${was.y}h${was.w}v${was.h}h${-was.w}Z` }));
      else were.set(side, box);
      g.append(svg('title', {}, t('New concept %s', side === 'left' || side === 'right' ? `to the ${side}` : side)));
      g.append(svg('path', { class: 'aim-line', d: `M${from.x} ${from.y}L${to.x} ${to.y}` }));
      g.append(svg('path', { class: 'aim-slip', d: `M${at.x - w / 2} ${at.y}h${w - 11}l11 11v${h - 11}h${-w}Z` }));
      g.append(svg('text', { class: 'noun aim-words', x: at.x, y: at.y + 24, 'font-size': 15 }, side));
      return g;
    }));
    if (this.on) {
      const b = this.group.querySelector('.chosen .aim-slip');
      const box = b && /** @type {SVGGraphicsElement} */ (b).getBBox();
      if (box) this.app.reveal({ x: box.x, y: box.y, w: box.width, h: box.height });
    }
  }

  /** Makes the concept on a side. @param {Side} side */
  take(side) {
    const slip = this.app.model.slips.get(this.at);
    this.hide();
    if (slip) acts.newLinked(this.app, slip.id, side);
  }

  /** @param {KeyboardEvent} e @returns {boolean} whether the key was for it */
  key(e) {
    if (!this.on) return false;
    const side = byArrow[e.key];
    if (side) {
      this.side = side;
      this.draw(this.at, /** @type {Side[]} */ (Object.keys(sides)), side);
      this.app.announce(side);
    } else if (e.key === 'Enter' || e.key === 'Tab') this.take(this.side);
    else if (e.key === 'Escape') this.hide();
    else return e.key.length > 1;
    return true;
  }
}
