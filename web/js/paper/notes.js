// @ts-check
// Notes that lie open on the paper, beside what they belong to. They follow the
// paper when it is moved, and are dragged by their heads to where they cover
// nothing; that place is the map's.

import { titleRegion } from './key-and-tabs.js';
import { t } from '../sync/messages.js';
import { fetched } from '../panels/dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'desk' | 'lens' | 'margin' | 'model' | 'notice' | 'plain' | 'send' | 'settings' | 'showMargin' | 'sources' | 'view'>} App */
/** @typedef {import('./view.js').Box} Box */
/** A note that lies open: where the map has it lie, where it lies, and whether a hand is moving it.
 * @typedef {{el: HTMLElement, off: {x: number, y: number} | null, at: {x: number, y: number}, held: boolean}} Open */

/** Room between a note and what it belongs to, and to the edge of the paper, in pixels of the screen. */
const air = 10;

/** @param {string} element c-…, l-… or r-… */
/** @returns {Wire.Key} */
const keyOf = (/** @type {string} */ element) => ({ kind: /** @type {Record<string, Wire.Entity>} */ ({ c: 'concept', l: 'link', r: 'region' })[element[0]] ?? 'map', id: element.slice(2) });

export class Notes {
  /** @param {App} app @param {HTMLElement} layer */
  constructor(app, layer) {
    this.app = app;
    this.layer = layer;
    /** @type {Map<string, Open>} */
    this.open = new Map();
    this.moved = 0;
    this.wanted = 0;
    this.highest = 0;
    this.scaled = 0;
    layer.addEventListener('pointerdown', (e) => this.press(e));
    layer.addEventListener('keydown', (e) => this.key(e));
    let scale = app.view.k;
    app.view.listeners.push(() => {
      this.place();
      if (scale === app.view.k || !this.open.size) return;
      // At another scale other places are free.
      scale = app.view.k;
      clearTimeout(this.scaled);
      this.scaled = window.setTimeout(() => { for (const [element, note] of this.open) if (!note.off) this.findPlace(element); this.place(); }, 150);
    });
  }

  /** Opens the note of an element, or closes it where it lies open. @param {string} element */
  async toggle(element) {
    if (this.open.has(element)) return this.close(element);
    const el = document.createElement('aside');
    el.className = 'note-card';
    el.dataset.on = element;
    el.setAttribute('aria-label', t('Note'));
    for (const [name, value] of Object.entries({ 'hx-get': `${this.app.base}/note`, 'hx-trigger': 'shown', 'hx-swap': 'innerMorph' })) el.setAttribute(name, value);
    this.layer.append(el);
    window.htmx.process(el);
    if (await this.fill(element, el) !== 'filled') return el.remove();
    this.open.set(element, { el, off: offOf(el), at: { x: 0, y: 0 }, held: false });
    // What it offers with the keyboard on it takes room, too.
    /** @type {HTMLElement | null} */ (el.querySelector('.note-grip'))?.focus({ preventScroll: true });
    this.findPlace(element);
    this.place();
    this.app.announce(t('The note is open. Escape closes it.'));
  }

  /** Fetches what a note says; it may be gone, or the server away. @private @param {string} element @param {HTMLElement} el @returns {Promise<'filled' | 'gone' | 'away'>} */
  async fill(element, el) {
    const { app } = this;
    try {
      const inside = el.contains(document.activeElement);
      await fetched(el, { on: element });
      const data = /** @type {HTMLElement} */ (el.querySelector('.note-data')).dataset;
      el.dataset.off = data.off ?? '';
      el.dataset.colour = data.colour ?? '';
      // What had the keyboard may be gone.
      if (inside && !el.contains(document.activeElement)) /** @type {HTMLElement | null} */ (el.querySelector('.note-grip'))?.focus({ preventScroll: true });
      return 'filled';
    } catch (e) {
      if (!(e instanceof TypeError)) {
        app.notice(/** @type {Error} */ (e).message);
        return 'gone';
      }
      if (!this.open.has(element)) app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
      return 'away';
    }
  }

  /** The map has changed: what lies open is fetched anew, and goes where its owner does. */
  fresh() {
    if (!this.open.size) return;
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(async () => {
      for (const [element, note] of [...this.open]) {
        if (note.held) continue; // where it goes is not decided yet
        const filled = this.anchor(element) ? await this.fill(element, note.el) : 'gone';
        if (filled === 'gone') this.close(element);
        if (filled !== 'filled' || note.held) continue;
        note.off = offOf(note.el);
        this.findPlace(element);
      }
      this.place();
    }, 90);
    this.place();
  }

  /** What a note lies beside, and the place from which its own is counted: on the paper. @private @param {string} element @returns {{box: Box, x: number, y: number} | null} */
  anchor(element) {
    if (element.startsWith('r-')) {
      const tab = /** @type {SVGGElement | null} */ (document.querySelector(`#${CSS.escape(element)} .tab`))?.getBBox();
      return tab ? { box: { x: tab.x, y: tab.y, w: tab.width, h: 24 }, x: tab.x, y: tab.y } : null;
    }
    const box = this.app.model.boxOf(element);
    if (!box) return null;
    return element.startsWith('c-') ? { box, x: box.x + box.w / 2, y: box.y } : { box, x: box.x + box.w / 2, y: box.y + box.h / 2 };
  }

  /** Works out where a note lies: where it was put, or beside its owner where it covers the least. @private @param {string} element */
  findPlace(element) {
    const note = this.open.get(element), anchor = this.anchor(element);
    if (!note || !anchor) return;
    if (note.off) {
      note.at = { x: anchor.x + note.off.x, y: anchor.y + note.off.y };
      return;
    }
    const { model, view } = this.app, k = view.k, w = note.el.offsetWidth / k, h = note.el.offsetHeight / k, gap = air / k, b = anchor.box, seen = view.seen();
    const inSight = (/** @type {Box} */ o) => o.x < seen.x + seen.w && seen.x < o.x + o.w && o.y < seen.y + seen.h && seen.y < o.y + o.h;
    const others = [...[...this.open].filter(([e]) => e !== element).map(([, o]) => ({ x: o.at.x, y: o.at.y, w: o.el.offsetWidth / k, h: o.el.offsetHeight / k })), ...[...model.slips.values()].map((s) => s.box), ...[...model.links.values()].map((l) => l.gap)].filter(inSight);
    let least = Infinity;
    const weigh = (/** @type {{x: number, y: number}} */ p) => {
      // The nearer the better; what is covered weighs more.
      const right = Math.max(0, p.x - b.x - b.w, b.x - p.x - w), down = Math.max(0, p.y - b.y - b.h, b.y - p.y - h);
      let cost = Math.hypot(right, down) + (right + down ? 0 : 400 + w * h);
      for (const o of others) {
        const across = Math.min(p.x + w, o.x + o.w) - Math.max(p.x, o.x), along = Math.min(p.y + h, o.y + o.h) - Math.max(p.y, o.y);
        if (across > 0 && along > 0) cost += 300 + across * along / 4;
        if (cost >= least) return;
      }
      [least, note.at] = [cost, p];
    };
    // At its sides first, then anywhere in sight.
    const x1 = Math.max(seen.x + gap, seen.x + seen.w - w - gap), y1 = Math.max(seen.y + gap, seen.y + seen.h - h - gap);
    const within = (/** @type {number} */ x, /** @type {number} */ y) => ({ x: Math.max(seen.x + gap, Math.min(x1, x)), y: Math.max(seen.y + gap, Math.min(y1, y)) });
    for (const part of [0, 0.5, 1]) {
      const y = b.y + part * (b.h - h), x = b.x + part * (b.w - w);
      for (const p of [within(b.x + b.w + gap, y), within(b.x - gap - w, y), within(x, b.y + b.h + gap), within(x, b.y - gap - h)]) weigh(p);
    }
    const step = 20 / k;
    for (let y = seen.y + gap; y <= y1; y += step) for (let x = seen.x + gap; x <= x1; x += step) weigh({ x, y });
  }

  /** Puts all open notes where the paper is now. */
  place() {
    const { view } = this.app;
    for (const { el, at } of this.open.values()) el.style.transform = `translate(${Math.round(at.x * view.k + view.x)}px, ${Math.round(at.y * view.k + view.y)}px)`;
  }

  /** @param {string} element */
  close(element) {
    const note = this.open.get(element), inside = note?.el.contains(document.activeElement);
    note?.el.remove();
    this.open.delete(element);
    if (inside) this.app.desk.focus({ preventScroll: true });
  }

  /** @private @param {PointerEvent} e */
  press(e) {
    const target = /** @type {Element} */ (e.target), head = /** @type {HTMLElement | null} */ (target.closest('.note-grip')), element = /** @type {HTMLElement | null} */ (target.closest('.note-card'))?.dataset.on;
    const note = this.open.get(element ?? '');
    if (!element || !note) return;
    note.el.style.zIndex = String(++this.highest); // it comes to lie on the others
    if (!head || e.button > 0) return;
    e.preventDefault();
    head.focus({ preventScroll: true });
    head.setPointerCapture(e.pointerId);
    const from = { ...note.at }, k = this.app.view.k, startX = e.clientX, startY = e.clientY;
    let moved = false;
    note.held = true;
    const move = (/** @type {PointerEvent} */ m) => {
      moved ||= Math.hypot(m.clientX - startX, m.clientY - startY) > 3;
      if (moved) note.at = { x: from.x + (m.clientX - startX) / k, y: from.y + (m.clientY - startY) / k };
      this.place();
    };
    const end = (/** @type {PointerEvent} */ m) => {
      head.removeEventListener('pointermove', move);
      head.removeEventListener('pointerup', end);
      head.removeEventListener('pointercancel', end);
      note.held = false;
      if (m.type === 'pointercancel') note.at = from;
      else if (moved) this.keep(element);
      this.place();
    };
    head.addEventListener('pointermove', move);
    head.addEventListener('pointerup', end);
    head.addEventListener('pointercancel', end);
  }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const target = /** @type {HTMLElement} */ (e.target), element = /** @type {HTMLElement | null} */ (target.closest('.note-card'))?.dataset.on ?? '', note = this.open.get(element);
    if (!note) return;
    if (e.key === 'Escape') this.close(element);
    else if (target.matches('.note-grip') && e.key.startsWith('Arrow')) {
      const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key] ?? [0, 0];
      note.held = true;
      note.at = { x: note.at.x + by[0] * 16 / this.app.view.k, y: note.at.y + by[1] * 16 / this.app.view.k };
      this.place();
      // One press after another is one move.
      clearTimeout(this.moved);
      this.moved = window.setTimeout(() => this.keep(element), 350);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  }

  /** The place of a note becomes the map's. @private @param {string} element */
  keep(element) {
    const note = this.open.get(element), anchor = this.anchor(element);
    if (!note || !anchor) return;
    const off = { x: Math.round(note.at.x - anchor.x), y: Math.round(note.at.y - anchor.y) };
    note.off = off;
    note.held = false;
    if (!this.app.plain) this.app.send([{ do: 'set-note-card', on: keyOf(element), off }], []);
  }

  /** Goes to where the words of a note are written. @param {string} element */
  async write(element) {
    if (element.startsWith('r-')) {
      titleRegion(this.app, element.slice(2));
      const field = document.getElementById(`rn-${element.slice(2)}`), fold = /** @type {HTMLDetailsElement | null | undefined} */ (field?.closest('details'));
      if (fold) fold.open = true;
      return field?.focus();
    }
    const margin = await this.app.sources.marginOf(element), field = /** @type {HTMLElement | null} */ (margin.querySelector('#note'));
    field?.scrollIntoView({ block: 'center' });
    field?.focus();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const of = (/** @type {HTMLElement | undefined} */ c) => c?.dataset.about ?? /** @type {HTMLElement | null | undefined} */ (c?.closest('.note-card'))?.dataset.on ?? '';
    return {
      'note-open': (c) => { this.toggle(of(c)); return true; },
      'note-close': (c) => { this.close(of(c)); },
      'note-write': (c) => { this.write(of(c)); return true; },
    };
  }
}

/** Where the map has a note lie, if it says. @param {HTMLElement} el */
function offOf(el) {
  const [x, y] = (el.dataset.off || 'none').split(' ').map(Number);
  return Number.isFinite(x) && Number.isFinite(y) ? { x, y } : null;
}
