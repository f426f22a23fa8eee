// @ts-check
// What is dragged snaps to its neighbours' edges and middles, and thin lines
// show to which.

import { svg } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'marks' | 'model' | 'settings' | 'view'>} App */
/** @typedef {import('./view.js').Box} Box */

const reach = 7; // pixels of the screen

/** Between the lines of the grid, in pixels of the paper. */
export const gridStep = 24;

/** Gives a function that corrects a distance by which boxes are dragged.
 * @param {App} app @param {Set<string>} moving @param {Box[]} boxes */
export function snapper(app, moving, boxes) {
  // Two lines that are there throughout: what comes and goes has the browser look through all its rules.
  const group = svg('g', { class: 'guides' }), guides = { x: svg('path', { class: 'guide-line', 'stroke-width': 1 / app.view.k }), y: svg('path', { class: 'guide-line', 'stroke-width': 1 / app.view.k }) };
  group.append(guides.x, guides.y);
  app.marks.append(group);
  const x0 = Math.min(...boxes.map((b) => b.x)), x1 = Math.max(...boxes.map((b) => b.x + b.w));
  const y0 = Math.min(...boxes.map((b) => b.y)), y1 = Math.max(...boxes.map((b) => b.y + b.h));
  const own = { x: [x0, (x0 + x1) / 2, x1], y: [y0, (y0 + y1) / 2, y1] };
  const seen = app.view.seen();
  // Neighbours are what is in sight: a line to something unseen says nothing.
  const others = [...app.model.slips.values()].filter((s) => !moving.has(s.id) && s.box.x < seen.x + seen.w && s.box.x + s.box.w > seen.x && s.box.y < seen.y + seen.h && s.box.y + s.box.h > seen.y);
  /** @type {Record<'x' | 'y', {at: number, box: Box}[]>} */
  const lines = {
    x: others.flatMap(({ box }) => [box.x, box.x + box.w / 2, box.x + box.w].map((at) => ({ at, box }))),
    y: others.flatMap(({ box }) => [box.y, box.y + box.h / 2, box.y + box.h].map((at) => ({ at, box }))),
  };
  /** @param {'x' | 'y'} axis @param {number} by */
  const nearest = (axis, by) => {
    let best = null, least = reach / app.view.k;
    for (const [i, edge] of own[axis].entries()) {
      for (const line of lines[axis]) {
        const off = line.at - (edge + by), d = Math.abs(off) + (i === 1 ? 0 : 0.01); // middles before edges
        if (d < least) [best, least] = [{ off, line }, d];
      }
    }
    return best;
  };
  return {
    /** @param {number} dx @param {number} dy @param {boolean} free whether the hand holds it off */
    by(dx, dy, free) {
      const { snap, grid } = app.settings;
      const x = snap && !free ? nearest('x', dx) : null, y = snap && !free ? nearest('y', dy) : null;
      // The middle and the upper edge, by which a slip stands, go to the grid.
      const rest = (/** @type {number} */ at) => (grid && !free ? Math.round(at / gridStep) * gridStep - at : 0);
      const to = { dx: dx + (x?.off ?? rest(own.x[1] + dx)), dy: dy + (y?.off ?? rest(y0 + dy)) };
      guides.x.setAttribute('d', x ? `M${x.line.at} ${Math.min(x.line.box.y, y0 + to.dy) - 12}V${Math.max(x.line.box.y + x.line.box.h, y1 + to.dy) + 12}` : '');
      guides.y.setAttribute('d', y ? `M${Math.min(y.line.box.x, x0 + to.dx) - 12} ${y.line.at}H${Math.max(y.line.box.x + y.line.box.w, x1 + to.dx) + 12}` : '');
      return to;
    },
    end: () => group.remove(),
  };
}
