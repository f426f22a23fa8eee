// @ts-check
// Edits that wait for the server, kept in the browser so that they outlive the
// page. They carry ids of their own, so sending one twice does no harm; which
// window sends them does not matter.

/** @typedef {import('./queue.js').Asked} Asked */
/** An edit that was refused, and why. @typedef {{asked: Asked, words: string}} Aside */

const stale = 20_000; // after which a window that kept edits is taken to be gone

/** This tab, also after its page was loaded anew. */
function tab() {
  try {
    const known = sessionStorage.getItem('tab');
    if (known) return known;
    const made = crypto.getRandomValues(new Uint32Array(2)).join('-');
    sessionStorage.setItem('tab', made);
    return made;
  } catch {
    return 'tab';
  }
}

export class Keep {
  /** @param {string} base the map's address */
  constructor(base) {
    this.prefix = `waiting:${base}:`;
    this.key = this.prefix + tab();
    this.held = true;
  }

  /** Keeps what waits now, and what was refused. @param {Asked[]} asked @param {Aside[]} aside */
  put(asked, aside) {
    try {
      if (asked.length + aside.length) localStorage.setItem(this.key, JSON.stringify({ at: Date.now(), asked, aside }));
      else localStorage.removeItem(this.key);
      this.held = true;
    } catch {
      this.held = false; // then leaving the page asks first
    }
  }

  /** Takes what this tab left waiting, and what windows left that are gone; the
   * oldest first. @returns {{asked: Asked[], aside: Aside[]}} */
  take() {
    /** @type {{at: number, asked: Asked[], aside?: Aside[]}[]} */
    const found = [];
    try {
      for (const key of Object.keys(localStorage).filter((k) => k.startsWith(this.prefix))) {
        const kept = JSON.parse(localStorage.getItem(key) ?? 'null');
        if (!Array.isArray(kept?.asked) || (key !== this.key && Date.now() - kept.at < stale)) continue;
        found.push(kept);
        localStorage.removeItem(key);
      }
    } catch { /* nothing was kept, or nothing that can be read */ }
    const sound = (/** @type {any} */ a) => typeof a?.id === 'string' && typeof a.window === 'string' && (Array.isArray(a.operations) || typeof a.back === 'string');
    found.sort((a, b) => a.at - b.at);
    return { asked: found.flatMap((k) => k.asked).filter(sound), aside: found.flatMap((k) => k.aside ?? []).filter((a) => sound(a?.asked) && typeof a.words === 'string') };
  }
}
