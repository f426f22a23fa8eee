// @ts-check
// Operations that a control carries, ready to be sent but for what only the page
// knows: @chosen and @links (what is selected), @value (what was typed or picked),
// @below (whether what hangs from it follows), and ids of new things (@k1, and so on: each its own).

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'back' | 'chosen' | 'notice' | 'send' | 'settings'>} App */

/** Fills in what the page knows; null where it needs a selection that is not there.
 * @param {App} app @param {string} steps @param {{value?: any, chosen?: string[]}} [given] @returns {Wire.Operation[] | null} */
export function filled(app, steps, given = {}) {
  /** @type {Map<string, string>} */
  const made = new Map();
  const concepts = given.chosen ?? app.chosen.concepts();
  let lacks = false;
  /** @type {(v: any) => any} */
  const fill = (v) => {
    if (Array.isArray(v)) return v.map(fill);
    if (v && typeof v === 'object') return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, fill(x)]));
    if (typeof v !== 'string' || !v.startsWith('@')) return v;
    if (v === '@value') return given.value;
    if (v === '@below') return app.settings.below;
    if (v === '@chosen' || v === '@links') {
      const list = v === '@chosen' ? concepts : app.chosen.links();
      lacks ||= !list.length;
      return list;
    }
    if (v === '@first') {
      lacks ||= !concepts.length;
      return concepts[0];
    }
    if (!made.has(v)) made.set(v, newID(v[1]));
    return made.get(v);
  };
  const all = JSON.parse(steps).map(fill);
  return lacks ? null : all;
}

/** Sends what a control carries. @param {App} app @param {HTMLElement} control @param {{value?: any, chosen?: string[]}} [given] */
export async function send(app, control, given) {
  const ops = filled(app, control.dataset.steps ?? '[]', given);
  if (!ops) {
    app.notice(control.dataset.lacks ?? t('Select something first.'));
    return false;
  }
  const ok = await app.send(ops, []);
  if (ok && control.dataset.said) app.notice(control.dataset.said, { words: t('Undo'), act: () => app.back('undo') });
  return ok;
}
