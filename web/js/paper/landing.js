// @ts-check
// Where what is dragged will land on a map that is kept in order: past a sibling it
// takes its place in the row instead of staying under the hand.

import { boxIn } from './model.js';
import { svg } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'marks' | 'page'>} App */
/** @typedef {import('./view.js').Box} Box */

/** How long a hand rests, in milliseconds, before it is asked where things would land;
 * and how far from the hand that must be, in pixels of the paper, to be shown. */
const rest = 90, off = 12;

/** Shows outlines where slips will land while they are dragged.
 * @param {App} app @param {{id: string, box: Box}[]} slips as they stood before */
export function landing(app, slips) {
  const group = svg('g', { class: 'landing' });
  app.marks.append(group);
  let clock = 0, working = new AbortController();
  /** @param {number} dx @param {number} dy */
  const ask = async (dx, dy) => {
    working.abort();
    const { signal } = working = new AbortController();
    const places = Object.fromEntries(slips.map(({ id, box }) => [id, { x: Math.round(box.x + box.w / 2 + dx), y: Math.round(box.y + dy) }]));
    try {
      const response = await fetch(`${app.base}/tried`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ operations: [{ do: 'move', places }] }), signal });
      if (!response.ok) return;
      const answer = await response.json();
      if (signal.aborted) return;
      group.replaceChildren(...slips.flatMap(({ id, box }) => {
        const { x, y } = boxIn(answer.slips?.[id] ?? '') ?? box;
        return Math.hypot(x - box.x - dx, y - box.y - dy) > off ? [svg('rect', { x, y, width: box.w, height: box.h, rx: 2 })] : [];
      }));
    } catch { /* the hand went on, or the connection is away: nothing is shown */ }
  };
  return {
    /** The hand is there now. @param {number} dx @param {number} dy */
    at(dx, dy) {
      if (!app.page.kept) return;
      clearTimeout(clock);
      clock = window.setTimeout(() => ask(dx, dy), rest);
    },
    end() {
      clearTimeout(clock);
      working.abort();
      group.remove();
    },
  };
}
