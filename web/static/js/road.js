// @ts-check
// The way of an edit to the server: one after another, in the order made, each
// under an id of its own, so that sending it again does no harm.

import { newID, windowID } from './ids.js';
import { Keep } from './keep.js';

/** @typedef {{entry: string, revision: number, slips?: Record<string, string>, links?: Record<string, string>, gone?: string[], whole?: boolean, head: {title: string, question: string, axis: string, regions: string, key: string, look: string, own?: string, kinds: {id: string, name: string, links?: boolean}[]}, notices?: string[], moved?: {kind: string, old: string, new: string}[], glide?: boolean, undo: boolean, redo: boolean}} Answer */
/** @typedef {{id: string, window: string, seen: number, operations?: object[], back?: string}} Asked */
/** Late is one that could not be sent when it was made. @typedef {{asked: Asked, settled: (ok: boolean) => void, late?: boolean}} Waiting */

export class Road {
  /**
   * @param {string} base the map's address
   * @param {number} revision
   * @param {{answered: (a: Answer, own: boolean) => void, refused: (words: string, asked: Asked, late: boolean) => void, state: (word: string, waiting: number) => void, told: (what: string[]) => void, viewed: () => void, theirs: (window: string, chosen: string[]) => void}} on
   */
  constructor(base, revision, on) {
    this.base = base;
    this.revision = revision;
    this.on = on;
    /** @type {Waiting[]} */
    this.queue = [];
    this.busy = false;
    this.pause = 0;
    this.failures = 0;
    /** The latest revision that the server has told of. */
    this.known = revision;
    window.addEventListener('online', () => this.send());
    window.addEventListener('beforeunload', (e) => { if (this.queue.length && !this.keep.held) e.preventDefault(); });
    this.keep = new Keep(base);
    for (const asked of this.keep.take()) this.queue.push({ asked, settled: () => {}, late: true });
    this.kept();
    this.listen();
    this.send();
  }

  /** Puts a gesture on the road. @param {object[]} operations @returns {Promise<boolean>} whether it was accepted */
  go(operations) { return this.put({ id: newID('g'), window: windowID, seen: this.revision, operations }); }

  /** @param {'undo' | 'redo'} back */
  back(back) { return this.put({ id: newID('g'), window: windowID, seen: this.revision, back }); }

  /** @param {Asked} asked @returns {Promise<boolean>} */
  put(asked) {
    return new Promise((settled) => {
      this.queue.push({ asked, settled });
      this.kept();
      this.send();
    });
  }

  /** What waits outlives the page. @private */
  kept() { this.keep.put(this.queue.map((w) => w.asked)); }

  /** @private */
  async send() {
    if (this.busy || !this.queue.length) return;
    this.busy = true;
    clearTimeout(this.pause);
    this.on.state('saving', this.queue.length);
    const { asked, settled, late } = this.queue[0];
    asked.seen = this.revision;
    let response, body;
    try {
      response = await fetch(`${this.base}/entries`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(asked) });
      body = await response.json();
    } catch {
      response = undefined;
    }
    this.busy = false;
    if (!response || response.status >= 502) {
      // Not reached: it stays first in line and is sent again, as it is.
      this.failures++;
      for (const w of this.queue) w.late = true;
      this.kept();
      this.on.state('waiting', this.queue.length);
      this.pause = window.setTimeout(() => this.send(), Math.min(8000, 400 * 2 ** this.failures));
      return;
    }
    this.failures = 0;
    this.queue.shift();
    this.kept();
    if (response.ok) {
      this.take(body, true);
      settled(true);
    } else {
      this.on.refused(body.error ?? 'That did not work.', asked, !!late);
      settled(false);
    }
    if (this.queue.length) this.send();
    else {
      this.on.state('saved', 0);
      if (this.known > this.revision) this.catchUp();
    }
  }

  /** @private @param {Answer} answer @param {boolean} own */
  take(answer, own) {
    const missed = answer.revision > this.revision + 1 && own;
    // With a revision in between missing, this answer alone would leave a gap.
    if (!missed && answer.revision >= this.revision) this.revision = answer.revision;
    this.known = Math.max(this.known, answer.revision);
    this.on.answered(answer, own);
    if (missed) this.catchUp();
  }

  /** Fetches what other windows did. @private */
  async catchUp() {
    if (this.busy || this.queue.length || this.catching) return;
    this.catching = true;
    let came = false;
    try {
      const response = await fetch(`${this.base}/changes?since=${this.revision}`);
      if (response.ok) {
        const answer = await response.json();
        if (!this.queue.length && !this.busy) {
          this.revision = answer.revision;
          came = true;
          this.on.answered(answer, false);
        }
      }
    } catch { /* the stream comes back and says so */ }
    this.catching = false;
    // What happened in the meantime is missing still.
    if (came && this.known > this.revision) this.catchUp();
  }

  /** Listens to the live stream, for as long as the page is open. @private */
  listen() {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${this.base}/live?window=${windowID}`);
    socket.onmessage = (message) => {
      const event = JSON.parse(message.data);
      if (event.chosen) {
        if (event.window !== windowID) this.on.theirs(event.window, event.chosen);
        return;
      }
      this.known = Math.max(this.known, event.revision);
      const mine = (event.overtook ?? []).filter((/** @type {{window: string}} */ o) => o.window === windowID);
      if (mine.length) this.on.told(mine.map((/** @type {{what: string}} */ o) => o.what));
      if (event.window === windowID) return;
      if (event.view) this.on.viewed();
      else if (event.revision > this.revision) this.catchUp();
    };
    socket.onopen = () => this.send();
    socket.onclose = () => window.setTimeout(() => this.listen(), 1500);
  }
}
