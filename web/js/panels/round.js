// @ts-check
// A round of checking: the sentences of the map one at a time, large, with their slips lit on the
// paper behind. The order is the server's; where somebody is in it is their own.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page; that on which raters judge has these alone.
 * @typedef {Object} App
 * @property {(words: string) => void} announce
 * @property {string} base
 * @property {HTMLElement} desk
 * @property {() => void} freshMargin
 * @property {{light(elements: string[]): void, close(): void}} lens
 * @property {{boxOf(element: string): {x: number, y: number, w: number, h: number} | undefined}} model
 * @property {(words: string, undo?: undefined, grave?: boolean) => void} notice
 * @property {(ops: Wire.Operation[], chosen: string[]) => Promise<any>} send
 * @property {{x: number, y: number, k: number, set(x: number, y: number, k: number): void}} view
 * @property {() => string} [called] what a rater calls themselves
 * @property {() => void} [left] what is to be done once the round is over */

/** What keys do, outside of fields. @type {Record<string, string>} */
const deedOf = { r: 'reverse', w: 'reword', Delete: 'remove', x: 'remove', n: 'more', l: 'later', ArrowRight: 'later', PageDown: 'later', ArrowLeft: 'back', PageUp: 'back', Escape: 'close' };

export class Round {
  /** @param {App} app @param {HTMLElement} panel */
  constructor(app, panel) {
    this.app = app;
    this.panel = panel;
    this.body = /** @type {HTMLElement} */ (panel.querySelector('#round-body'));
    /** The propositions, by their keys, in order. @type {string[]} */
    this.keys = [];
    this.at = 0;
    /** What was done in this round. */
    this.done = { judged: new Set(), reworded: new Set(), reversed: new Set(), removed: new Set(), later: new Set(), joined: new Set(), apart: new Set(), clear: new Set(), unclear: new Set() };
    /** Where the paper was before. @type {{x: number, y: number, k: number} | null} */
    this.before = null;
    this.busy = false;
    this.order = 'reading';
    panel.addEventListener('keydown', (e) => this.key(e));
  }

  get open() { return !this.panel.hidden; }

  /** Whether pairs are gone through and not sentences. @private */
  get joining() { return this.order === 'join'; }

  /** Whether concepts are gone through. @private */
  get understanding() { return this.order === 'understand' || this.order === 'unclear'; }

  /** @private The card of the sentence that is shown. */
  get one() { return /** @type {HTMLElement | null} */ (this.body.querySelector('.round-one')); }

  /** Begins a round. @param {string} order reading, doubtful or disputed */
  async begin(order) {
    const { app } = this;
    try {
      const response = await fetch(`${app.base}/round?order=${order}`);
      if (!response.ok) return app.notice((await response.json()).error, undefined, true);
      this.body.innerHTML = await response.text();
    } catch {
      return this.away();
    }
    this.order = order;
    const order_ = /** @type {HTMLElement | null} */ (this.body.querySelector('[data-keys]'));
    this.keys = (order_?.dataset.keys ?? '').split(' ').filter(Boolean);
    this.at = Number(order_?.dataset.at);
    for (const all of Object.values(this.done)) all.clear();
    const { x, y, k } = app.view;
    this.before = { x, y, k };
    this.panel.hidden = false;
    document.body.classList.add('in-round');
    this.shown();
  }

  /** @private */
  away() { this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true); }

  /** Shows the sentence at a place of the order. @private @param {number} at @param {number} way where to go on where it is gone @returns {Promise<void>} */
  async show(at, way) {
    if (at < 0) return this.app.announce(t('This is the first.'));
    if (at >= this.keys.length) return this.end();
    this.at = at;
    try {
      const response = await fetch(`${this.app.base}/round/one?order=${this.order}&key=${encodeURIComponent(this.keys[at])}`);
      if (response.status === 204) { // it is gone, by whomever
        this.keys.splice(at, 1);
        return this.show(way < 0 ? at - 1 : at, way);
      }
      if (!response.ok) throw new TypeError();
      this.body.innerHTML = await response.text();
      this.shown();
    } catch {
      this.away();
    }
  }

  /** Lights what the card speaks of. @private */
  shown() {
    const { app, one } = this;
    if (!one) return;
    const elements = (one.dataset.elements ?? '').split(' ');
    app.lens.light(elements);
    const boxes = elements.map((e) => app.model.boxOf(e)).filter((b) => b !== undefined);
    if (boxes.length) {
      const x0 = Math.min(...boxes.map((b) => b.x)), y0 = Math.min(...boxes.map((b) => b.y));
      const w = Math.max(...boxes.map((b) => b.x + b.w)) - x0, h = Math.max(...boxes.map((b) => b.y + b.h)) - y0;
      const room = app.desk.getBoundingClientRect(), free = Math.max(120, this.panel.getBoundingClientRect().top - room.top);
      const k = Math.min(1, (room.width - 60) / w, (free - 30) / h);
      app.view.set(room.width / 2 - (x0 + w / 2) * k, free / 2 - (y0 + h / 2) * k, k);
    }
    this.count();
    const sentence = /** @type {HTMLElement | null} */ (one.querySelector('#round-sentence'));
    /** @type {HTMLElement | null} */ (one.querySelector('#join-phrase') ?? sentence)?.focus({ preventScroll: true });
    if (this.understanding) return app.announce(t('Concept %s of %s: %s', this.at + 1, this.keys.length, sentence?.textContent?.trim() ?? ''));
    app.announce(this.joining ? t('Pair %s of %s: %s', this.at + 1, this.keys.length, sentence?.textContent?.trim() ?? '') : t('Sentence %s of %s: %s', this.at + 1, this.keys.length, sentence?.textContent?.trim() ?? ''));
  }

  /** @private */
  count() {
    const place = this.panel.querySelector('#round-place'), bar = /** @type {HTMLProgressElement | null} */ (this.panel.querySelector('progress'));
    if (place) place.textContent = t('%s of %s', this.at + 1, this.keys.length);
    if (bar) [bar.max, bar.value] = [this.keys.length, this.at + 1];
  }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const field = /** @type {HTMLElement} */ (e.target).closest('input');
    if (e.isComposing || e.ctrlKey || e.metaKey || e.altKey) return;
    if (field?.id === 'join-phrase') return this.joinKey(e, field);
    if (field) {
      if (e.key === 'Enter' && field.id === 'round-phrase') { e.preventDefault(); this.reword(field.value); }
      if (e.key === 'Escape') { e.preventDefault(); e.stopPropagation(); this.rewording(false); /** @type {HTMLElement | null} */ (this.body.querySelector('#round-sentence'))?.focus(); }
      return;
    }
    const mark = /** @type {HTMLElement | undefined} */ (this.body.querySelectorAll('[data-mark]')[Number(e.key) - 1]);
    if (mark) {
      e.preventDefault();
      e.stopPropagation();
      return this.mark(mark.dataset.mark ?? '');
    }
    const worth = e.shiftKey && /^(Digit|Numpad)\d$/.test(e.code) ? /** @type {HTMLElement | null} */ (this.body.querySelector(`[data-worth="${e.code.slice(-1)}"]`)) : null;
    if (worth) {
      e.preventDefault();
      e.stopPropagation();
      this.judge(worth);
      return;
    }
    const verdict = /** @type {HTMLElement | undefined} */ (this.body.querySelectorAll('[data-verdict]')[Number(e.key) - 1]);
    const deed = deedOf[e.key] ?? deedOf[e.key.toLowerCase()];
    if (!verdict && !deed) return;
    e.preventDefault();
    e.stopPropagation();
    if (verdict) this.judge(verdict);
    else if (!['reverse', 'reword', 'remove'].includes(deed) || this.body.querySelector('.round-deeds')) this.act(deed);
  }

  /** Marks a concept, for oneself. @private @param {string} mark clear or unclear */
  async mark(mark) {
    if (this.busy) return;
    this.busy = true;
    const concept = this.keys[this.at];
    try {
      const response = await fetch(`${this.app.base}/understood`, { method: 'POST', body: new URLSearchParams({ concept, mark }) });
      if (!response.ok) return this.app.notice((await response.json()).error, undefined, true);
      for (const all of [this.done.clear, this.done.unclear]) all.delete(concept);
      (mark === 'clear' ? this.done.clear : this.done.unclear).add(concept);
      await this.show(this.at + 1, 1);
    } catch {
      this.away();
    } finally {
      this.busy = false;
    }
  }

  /** Keys while the phrase of a pair is written. @private @param {KeyboardEvent} e @param {HTMLInputElement} field */
  joinKey(e, field) {
    const deed = { Enter: () => this.join(), ArrowDown: () => this.turn(), ArrowUp: () => this.turn(), PageDown: () => this.later(), PageUp: () => this.show(this.at - 1, -1), Escape: () => this.close(), ...(field.value ? {} : { Delete: () => this.apart(), ArrowRight: () => this.later(), ArrowLeft: () => this.show(this.at - 1, -1) }) }[e.key];
    e.stopPropagation();
    if (!deed) return;
    e.preventDefault();
    deed();
  }

  /** @private */
  turn() {
    const { one } = this, first = one?.querySelector('[data-first]'), second = one?.querySelector('[data-second]');
    if (!one || !first || !second) return;
    [one.dataset.a, one.dataset.b] = [one.dataset.b ?? '', one.dataset.a ?? ''];
    [first.textContent, second.textContent] = [second.textContent, first.textContent];
    const field = /** @type {HTMLInputElement | null} */ (one.querySelector('#join-phrase'));
    field?.setAttribute('aria-label', t('How are they linked? From “%s” to “%s”', first.textContent ?? '', second.textContent ?? ''));
    this.app.announce(t('From “%s” to “%s”', first.textContent ?? '', second.textContent ?? ''));
    field?.focus();
  }

  /** @private */
  join() {
    const { one } = this, field = /** @type {HTMLInputElement | null} */ (one?.querySelector('#join-phrase') ?? null), phrase = field?.value.trim();
    if (!one || !phrase) return field?.focus();
    return this.perform([{ do: 'add-link', id: newID('l'), phrase, from: [{ id: newID('e'), concept: one.dataset.a ?? '' }], to: [{ id: newID('e'), concept: one.dataset.b ?? '' }] }], this.done.joined, 1);
  }

  /** @private */
  apart() {
    const { one } = this;
    if (one) return this.perform([{ do: 'keep-apart', a: one.dataset.a ?? '', b: one.dataset.b ?? '', apart: true }], this.done.apart, 1);
  }

  /** @private @param {string} deed */
  act(deed) {
    switch (deed) {
      case 'reverse': return this.reverse();
      case 'reword': return this.rewording(true);
      case 'remove': return this.remove();
      case 'later': return this.later();
      case 'back': return this.show(this.at - 1, -1);
      case 'more': { const more = /** @type {HTMLDetailsElement | null} */ (this.body.querySelector('.round-more')); if (more) more.open = !more.open; return; }
      default: return this.close();
    }
  }

  /** Sends what is done, once at a time, and goes on. @private @param {Wire.Operation[]} ops @param {Set<string>} into @param {number} step */
  async perform(ops, into, step) {
    if (this.busy) return;
    this.busy = true;
    const key = this.keys[this.at];
    try {
      if (!await this.app.send(ops, [])) return;
      into.add(key);
      await this.show(this.at + step, 1);
    } finally {
      this.busy = false;
    }
  }

  /** Judges as a button says: by a verdict, or by points and the verdict that goes with them. @param {HTMLElement} button */
  judge(button) {
    const { one } = this, { verdict = button.dataset.with, worth } = button.dataset;
    if (!one) return;
    const { link = '', from = '', to = '', against } = one.dataset;
    const value = (/** @type {string} */ id) => /** @type {HTMLInputElement | null} */ (one.querySelector(id))?.value.trim() ?? '';
    return this.perform([{ do: 'judge', id: newID('j'), strand: { link, from, to }, against: against === 'true', verdict: /** @type {any} */ (verdict), reason: value('#round-reason'), source: value('#round-source'), ...(worth ? { points: Number(worth) } : {}), ...(this.order === 'disputed' ? { settled: true } : {}), ...(this.app.called ? { name: this.app.called() } : {}) }], this.done.judged, 1);
  }

  reverse() {
    const { one } = this;
    if (!one) return;
    return this.perform([{ do: 'reverse-link', link: one.dataset.link ?? '' }], this.done.reversed, 0);
  }

  /** @private @param {boolean} on */
  rewording(on) {
    const label = /** @type {HTMLElement | null} */ (this.body.querySelector('.round-reword'));
    if (!label) return;
    label.hidden = !on;
    if (on) /** @type {HTMLInputElement | null} */ (label.querySelector('input'))?.select();
  }

  /** @private @param {string} phrase */
  reword(phrase) {
    const { one } = this;
    if (one) return this.perform([{ do: 'name-link', link: one.dataset.link ?? '', phrase: phrase.trim() }], this.done.reworded, 0);
  }

  remove() {
    const { one } = this;
    if (one?.dataset.single !== 'true') return this.app.notice(t('Its phrase leads to others, too: take the end off on the paper.'));
    return this.perform([{ do: 'remove', links: [one.dataset.link ?? ''] }], this.done.removed, 0);
  }

  later() {
    this.done.later.add(this.keys[this.at]);
    return this.show(this.at + 1, 1);
  }

  /** All were seen: what was done, and what is still open. @private */
  end() {
    const { done, app } = this;
    const left = [...done.later].filter((k) => ![done.judged, done.joined, done.clear, done.unclear].some((all) => all.has(k)) && this.keys.includes(k));
    const lines = [
      done.judged.size && (this.order === 'disputed' ? t('%s settled', done.judged.size) : t('%s judged', done.judged.size)), done.reworded.size && t('%s reworded', done.reworded.size), done.reversed.size && t('%s turned round', done.reversed.size),
      done.removed.size && t('%s removed', done.removed.size), done.joined.size && t('%s joined', done.joined.size), done.apart.size && t('%s kept apart', done.apart.size),
      done.clear.size && t('%s clear', done.clear.size), done.unclear.size && t('%s unclear', done.unclear.size), left.length ? t('%s left for later', left.length) : t('nothing left open'),
    ].filter(Boolean);
    this.body.replaceChildren(Object.assign(document.createElement('h2'), { textContent: t('The round is at its end') }), Object.assign(document.createElement('p'), { className: 'round-sum', textContent: `${lines.join(', ')}.` }));
    const button = (/** @type {string} */ words, /** @type {() => void} */ act) => {
      const b = Object.assign(document.createElement('button'), { type: 'button', className: 'button', textContent: words });
      b.addEventListener('click', act);
      this.body.append(b);
      return b;
    };
    if (left.length) button(t('Go on with what was left'), () => { this.keys = left; done.later.clear(); this.show(0, 1); });
    button(this.app.called ? t('Done') : t('Back to the map'), () => this.close()).focus();
    app.announce(lines.join(', '));
  }

  close() {
    if (!this.open) return;
    this.panel.hidden = true;
    document.body.classList.remove('in-round');
    this.app.lens.close();
    if (this.before) this.app.view.set(this.before.x, this.before.y, this.before.k);
    this.app.freshMargin();
    this.app.desk.focus({ preventScroll: true });
    this.app.left?.();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      round: (c) => { this.begin(c?.dataset.order ?? 'reading'); return true; },
      judge: (c) => { if (c) this.judge(/** @type {HTMLElement} */ (c)); return true; },
      'round-reverse': () => { this.reverse(); return true; },
      'round-reword': () => { this.rewording(true); return true; },
      'round-remove': () => { this.remove(); return true; },
      'round-later': () => { this.later(); return true; },
      'round-back': () => { this.show(this.at - 1, -1); return true; },
      understand: (c) => { this.mark(c?.dataset.mark ?? ''); return true; },
      'join-say': () => { this.join(); return true; },
      'join-turn': () => { this.turn(); return true; },
      'join-apart': () => { this.apart(); return true; },
      'round-close': () => { this.close(); return true; },
    };
  }
}
