// @ts-check
// The way of an edit to the server: one after another, in the order made, each
// under an id of its own, so that sending it again does no harm.

import { newID, windowID } from './ids.js';
import { Keep } from './outbox.js';

/** @typedef {Wire.Answer} Answer */
/** @typedef {Wire.Asked} Asked */
/** Late is one that could not be sent when it was made. @typedef {{asked: Asked, done: (ok: boolean) => void, late?: boolean}} Waiting */
/** What the road tells the page. @typedef {{answered: (a: Answer, own: boolean) => void, refused: (words: string, asked: Asked, late: boolean) => void, state: (word: 'saved' | 'saving' | 'waiting', waiting: number) => void, stuck: (asked: Asked, words: string) => void, told: (what: {what: string, id: string}[]) => void, viewed: () => void, theirs: (window: string, chosen: string[]) => void, here: (seats: {window: string, name?: string, hue: number}[]) => void, spot: (window: string, at: [number, number]) => void, failed: (fault: unknown) => void, closed: () => void}} Listener */

/** The answers that say for good that something cannot be done. Any other one but
 * success says nothing of the entry: it may arrive the next time. */
const final = new Set([400, 403, 404, 409, 410, 413, 415, 422]);

/** After how many answers that were none it is told what keeps an entry waiting, and
 * with it all others. */
const told = (/** @type {number} */ failures) => failures === 2 || failures % 6 === 0;

/** @param {any} body @returns {body is Answer} */
const isAnswer = (body) => typeof body?.revision === 'number' && typeof body?.head === 'object' && body.head !== null;

export class Queue {
  /**
   * @param {string} base the map's address
   * @param {number} revision
   * @param {Listener} on
   */
  constructor(base, revision, on) {
    this.base = base;
    this.revision = revision;
    this.on = on;
    /** @type {Waiting[]} */
    this.queue = [];
    /** Who waits until nothing is on the road. @type {(() => void)[]} */
    this.resting = [];
    this.busy = false;
    this.pause = 0;
    this.failures = 0;
    /** The latest revision that the server has told of. */
    this.known = revision;
    window.addEventListener('online', () => this.send());
    window.addEventListener('beforeunload', (e) => { if (this.queue.length && !this.keep.held) e.preventDefault(); });
    this.keep = new Keep(base);
    const left = this.keep.take();
    for (const asked of left.asked) this.queue.push({ asked, done: () => {}, late: true });
    /** What was refused, and is neither done again nor left yet. @type {{asked: Asked, words: string}[]} */
    this.aside = left.aside;
    this.kept();
    this.listen();
    this.send();
  }

  /** Puts a gesture on the road. @param {Wire.Operation[]} operations @returns {Promise<boolean>} whether it was accepted */
  go(operations) { return this.put({ id: newID('g'), window: windowID, seen: this.revision, operations }); }

  /** @param {'undo' | 'redo'} back */
  back(back) { return this.put({ id: newID('g'), window: windowID, seen: this.revision, back }); }

  /** @param {Asked} asked @returns {Promise<boolean>} */
  put(asked) {
    return new Promise((done) => {
      this.queue.push({ asked, done });
      this.kept();
      this.send();
    });
  }

  /** What waits outlives the page, and so does what was refused. @private */
  kept() { this.keep.put(this.queue.map((w) => w.asked), this.aside); }

  /** Once nothing is on the road any more. @returns {Promise<void>} */
  idle() {
    if (!this.queue.length) return Promise.resolve();
    return new Promise((done) => { this.resting.push(done); });
  }

  /** Puts what was refused where it stays until it is done again or left. @param {Asked} asked @param {string} words */
  setAside(asked, words) {
    this.aside.push({ asked, words });
    this.kept();
  }

  /** Forgets what was set aside. @param {Asked} asked */
  leave(asked) {
    this.aside = this.aside.filter((one) => one.asked !== asked);
    this.kept();
    this.tellState();
  }

  /** Tells who waited that nothing is on the road. @private */
  rest() { if (!this.queue.length) for (const done of this.resting.splice(0)) done(); }

  /** Takes an entry that cannot be sent out of the way of all others. @param {Asked} asked */
  skip(asked) {
    const at = this.queue.findIndex((w) => w.asked === asked);
    if (at < 0 || (at === 0 && this.busy)) return false;
    const [{ done }] = this.queue.splice(at, 1);
    this.kept();
    done(false);
    this.rest();
    this.tellState();
    this.send();
    return true;
  }

  /** @private */
  tellState() {
    try {
      this.on.state(!this.queue.length ? 'saved' : this.failures ? 'waiting' : 'saving', this.queue.length);
    } catch (fault) {
      console.error(fault); // said anew with the next one
    }
  }

  /** Sends what is first in line. Whatever happens on the way, the next one has its
   * turn. @private */
  async send() {
    if (this.busy || !this.queue.length) return;
    this.busy = true;
    clearTimeout(this.pause);
    this.tellState();
    const first = this.queue[0], { asked, done } = first;
    asked.seen = this.revision;
    let status = 0, body;
    try {
      const response = await fetch(`${this.base}/entries`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(asked) });
      status = response.status;
      body = await response.json();
    } catch { /* no answer, or none that can be read */ }
    this.busy = false;
    const accepted = status === 200 && isAnswer(body), refused = final.has(status) && typeof body?.error === 'string';
    if (!accepted && !refused) {
      // It stays first in line and is sent again, as it is.
      this.failures++;
      for (const w of this.queue) w.late = true;
      this.kept();
      this.tellState();
      if (status && told(this.failures)) this.on.stuck(asked, body?.error ?? '');
      this.pause = window.setTimeout(() => this.send(), Math.min(15_000, 400 * 2 ** Math.min(this.failures, 8)));
      return;
    }
    this.failures = 0;
    this.queue = this.queue.filter((w) => w !== first);
    this.kept();
    try {
      if (accepted) this.take(body, true);
      else this.on.refused(body.error, asked, !!first.late);
    } catch (fault) {
      this.on.failed(fault);
    }
    done(accepted);
    this.rest();
    this.tellState();
    if (this.queue.length) this.send();
    else if (this.known > this.revision) this.catchUp();
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
        if (!isAnswer(answer)) throw new Error('no answer');
        if (!this.queue.length && !this.busy) {
          this.revision = answer.revision;
          came = true;
          this.on.answered(answer, false);
        }
      }
    } catch (fault) {
      if (came) this.on.failed(fault); // else the stream comes back and says so
    }
    this.catching = false;
    // What happened in the meantime is missing still.
    if (came && this.known > this.revision) this.catchUp();
  }

  /** Tells the others something in passing: it is lost where there is no line just now. @param {object} what */
  tell(what) {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(what));
  }

  /** Listens to the live stream, for as long as the page is open. @private */
  listen() {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${this.base}/live?window=${windowID}`);
    socket.onmessage = (message) => {
      const event = JSON.parse(message.data);
      if (event.here) return this.on.here(event.here);
      if (event.spot) {
        if (event.window !== windowID) this.on.spot(event.window, event.spot);
        return;
      }
      if (event.chosen) {
        if (event.window !== windowID) this.on.theirs(event.window, event.chosen);
        return;
      }
      this.known = Math.max(this.known, event.revision);
      if (event.overtook?.length) this.on.told(event.overtook);
      if (event.window === windowID) return;
      if (event.view) this.on.viewed();
      else if (event.revision > this.revision) this.catchUp();
    };
    this.socket = socket;
    socket.onopen = () => { this.lost = 0; this.send(); };
    socket.onclose = (e) => {
      if (e.code === notAnyMore) return this.on.closed();
      this.lost = (this.lost ?? 0) + 1;
      window.setTimeout(() => this.listen(), Math.min(20_000, 1500 * this.lost));
    };
  }
}

/** How the server ends a stream that one may not listen to any more. */
const notAnyMore = 1008;
