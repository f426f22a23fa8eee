// @ts-check
// What other windows on the same map have selected, shown lightly.

import { windowID } from './ids.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'model'>} App */

export class Theirs {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** @type {Map<string, string[]>} */
    this.chosen = new Map();
    this.wanted = 0;
    this.told = '';
  }

  /** @param {string} window @param {string[]} chosen */
  take(window, chosen) {
    if (chosen.length) this.chosen.set(window, chosen);
    else this.chosen.delete(window);
    this.mark();
  }

  /** Marks it anew, after elements were replaced. */
  mark() {
    const all = new Set([...this.chosen.values()].flat());
    for (const el of document.querySelectorAll('.theirs')) if (!all.has(el.id)) el.classList.remove('theirs');
    for (const id of all) document.getElementById(id)?.classList.add('theirs');
  }

  /** Tells the others what is selected here, soon. */
  tell() {
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(() => {
      const chosen = this.app.chosen.list.filter((e) => !this.app.model.get(e)?.provisional).slice(0, 50), now = chosen.join();
      if (now === this.told) return;
      this.told = now;
      fetch(`${this.app.base}/chosen`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ window: windowID, chosen }) })
        .catch(() => { this.told = '?'; /* told with the next selection */ });
    }, 200);
  }
}
