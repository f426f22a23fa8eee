// @ts-check
// What is dragged: a link as it is shown meanwhile, and the slip that it is over. Everything is
// moved by its coordinates: a transform would be less to write, and has a browser sort anew all
// that it has drawn, at each step.

import { middle, svg } from './provisional.js';

/** @typedef {import('./model.js').Link} Link */
/** @typedef {import('./model.js').Point} Point */

/** The slip that lies uppermost at a place of the screen. Asked for all that lies there, a browser
 * takes as long as a frame on large maps. @param {number} x @param {number} y */
export const slipAt = (x, y) => /** @type {HTMLElement | null} */ (document.elementFromPoint(x, y)?.closest('.slip') ?? null);

/** Gives the elements of a link in the hand, and a function that draws it elsewhere.
 * @param {Link} l */
export function sketch(l) {
  const path = svg('path', { class: l.words ? 'prov-line' : 'prov-line open' }), from = middle(l.gap);
  const phrase = [svg('rect', { class: 'prov-gap', x: l.gap.x, y: l.gap.y, width: l.gap.w, height: l.gap.h })];
  if (l.words) phrase.push(...[...l.el.querySelectorAll('text')].map((text) => /** @type {SVGElement} */ (text.cloneNode(true))));
  else phrase.push(svg('rect', { class: 'prov-rule', x: l.gap.x + 4, y: l.gap.y + l.gap.h - 5, width: Math.max(0, l.gap.w - 8), height: 1.5 }));
  const placed = phrase.flatMap((el) => [el, .../** @type {NodeListOf<SVGElement>} */ (el.querySelectorAll('[x]'))]).map((el) => ({ el, x: Number(el.getAttribute('x')), y: Number(el.getAttribute('y')), level: !el.hasAttribute('y') }));
  return {
    elements: [path, ...phrase],
    /** @param {{hub: Point, d: string}} to */
    draw({ hub, d }) {
      path.setAttribute('d', d);
      for (const { el, x, y, level } of placed) {
        el.setAttribute('x', String(x + hub.x - from.x));
        if (!level) el.setAttribute('y', String(y + hub.y - from.y));
      }
    },
  };
}
