// @ts-check

/** @typedef {import('./view.js').Box} Box */

/** The box of one drawn group: of a slip, or of the words of a link. @param {SVGGElement} g @returns {Box | null} */
export function boxOf(g) {
  const [x, y, w, h] = (g.dataset.box ?? g.dataset.gap ?? '').split(' ').map(Number);
  return [x, y, w, h].every(Number.isFinite) ? { x, y, w, h } : null;
}

/** The box around boxes. @param {(Box | null)[]} boxes @returns {Box | null} */
export function around(boxes) {
  let x0 = Infinity, y0 = Infinity, x1 = -Infinity, y1 = -Infinity;
  for (const b of boxes) {
    if (!b) continue;
    [x0, y0, x1, y1] = [Math.min(x0, b.x), Math.min(y0, b.y), Math.max(x1, b.x + b.w), Math.max(y1, b.y + b.h)];
  }
  return x1 > x0 ? { x: x0, y: y0, w: x1 - x0, h: y1 - y0 } : null;
}

/** The box around drawn groups, on the paper. @param {SVGGElement[]} groups @returns {Box | null} */
export function boxAround(groups) { return around(groups.map(boxOf)); }

/** The slips at which the lines of a link end. @param {SVGGElement | undefined} g @returns {string[]} */
export function endsOf(g) { return `${g?.dataset.from ?? ''} ${g?.dataset.to ?? ''}`.split(' ').filter(Boolean).map((e) => `c-${e.slice(e.indexOf(':') + 1)}`); }

/** Scale at which a box fits. @typedef {(box: Box | null) => number} Fits */

/** Shares out boxes among as few views as it can find, so that each view shows its boxes whole at a
 * scale or a larger one; the first box comes in the first view. @param {Box[]} boxes @param {Fits} fits @param {number} least @returns {Box[]} the box of each view */
export function views(boxes, fits, least) {
  const left = [...boxes];
  /** @type {Box[]} */
  const all = [];
  while (left.length) {
    let view = /** @type {Box} */ (left.shift());
    for (;;) {
      let best = -1, smallest = Infinity;
      left.forEach((b, i) => {
        const with_ = /** @type {Box} */ (around([view, b])), size = with_.w * with_.h;
        if (fits(with_) >= least && size < smallest) [best, smallest] = [i, size];
      });
      if (best < 0) break;
      view = /** @type {Box} */ (around([view, ...left.splice(best, 1)]));
    }
    all.push(view);
  }
  return all;
}
