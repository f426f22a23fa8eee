// @ts-check
// What part of the map is seen: branches tucked away and brought back. This
// belongs to the viewer and is no edit.

import { windowID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'model' | 'notice' | 'patch'>} App */

export class Tuck {
  /** @param {App} app */
  constructor(app) { this.app = app; }

  /** The concepts whose branches are tucked away now. */
  now() { return [...this.app.model.slips.values()].filter((s) => s.hides.length).map((s) => s.id); }

  /** @param {{tuck?: string[], bring?: string[], show?: string[], level?: number, all?: boolean}} what @returns {Promise<boolean>} */
  async see(what) {
    try {
      const response = await fetch(`${this.app.base}/view`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ window: windowID, ...what }) });
      const answer = await response.json();
      if (!response.ok) throw new Error(answer.error);
      this.app.patch(answer);
      return true;
    } catch (e) {
      this.app.notice(e instanceof TypeError ? t('The server cannot be reached just now: what you see stays as it is.') : String(/** @type {Error} */ (e).message), undefined, true);
      return false;
    }
  }

  /** Tucks away what is below concepts, or brings it back where it is. @param {string[]} concepts */
  async toggle(concepts) {
    const tucked = new Set(this.now());
    const { model } = this.app;
    const open = concepts.filter((id) => !tucked.has(id) && (model.children(id).length || document.getElementById(`r-${id}`)));
    const back = concepts.filter((id) => tucked.has(id));
    if (!open.length && !back.length) return this.app.notice(t('There is nothing below it to tuck away.'));
    if (!await this.see(open.length ? { tuck: open } : { bring: back })) return;
    const count = concepts.reduce((n, id) => n + (model.slips.get(id)?.hides.length ?? 0), 0);
    this.app.announce(open.length ? t('%s %s tucked away.', count, count === 1 ? 'idea' : 'ideas') : t('Brought back.'));
  }

  /** Brings back what hides some elements, so that they can be shown. @param {string[]} elements */
  async bring(elements) {
    const missing = elements.filter((e) => !this.app.model.get(e));
    if (missing.length && this.now().length) await this.see({ show: missing.map((e) => e.slice(2)) });
  }
}
