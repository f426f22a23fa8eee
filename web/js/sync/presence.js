// @ts-check
// Who else is on the map just now: their names, what each has selected, and where their pointer is.

import { svg } from '../paper/provisional.js';
import { windowID } from './ids.js';
import { t } from './messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'desk' | 'model' | 'reveal' | 'road' | 'settings' | 'view'>} App */
/** @typedef {{window: string, name?: string, hue: number}} Seat */

/** How often others are told where the pointer is, and how long it is shown where it rests, in milliseconds. */
const spotEvery = 120, spotRests = 4000;

export class Theirs {
  /** @param {App} app @param {HTMLElement} list where those who are here stand @param {SVGGElement} marks what they do on the paper */
  constructor(app, list, marks) {
    this.app = app;
    this.list = list;
    this.marks = marks;
    /** @type {Map<string, string[]>} */
    this.chosen = new Map();
    /** @type {Map<string, Seat>} */
    this.seats = new Map();
    /** @type {Map<string, {x: number, y: number, rest: number}>} */
    this.spots = new Map();
    this.wanted = 0;
    this.told = '';
    this.lastSpot = 0;
    app.desk.addEventListener('pointermove', (e) => this.tellSpot(e));
    list.addEventListener('click', (e) => {
      const seat = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-window]'));
      if (seat) this.goTo(seat.dataset.window ?? '');
    });
  }

  /** Who is here, but for oneself. @param {Seat[]} seats */
  here(seats) {
    const came = seats.filter((s) => !this.seats.has(s.window)), known = this.seats.size > 0 || this.list.dataset.told === 'yes';
    this.seats = new Map(seats.map((s) => [s.window, s]));
    for (const window of this.spots.keys()) if (!this.seats.has(window)) this.spots.delete(window);
    this.list.dataset.told = 'yes';
    this.list.hidden = !seats.length;
    this.list.replaceChildren(...seats.map((s) => {
      const button = document.createElement('button'), name = this.nameOf(s);
      Object.assign(button, { type: 'button', className: `seat who-${s.hue}`, textContent: s.name ? initials(name) : '?', title: t('%s is here. Press to see where.', name) });
      button.dataset.window = s.window;
      button.setAttribute('aria-label', t('%s is here. Press to see where.', name));
      return button;
    }));
    if (known && came.length === 1 && came[0]) this.app.announce(t('%s is here now', this.nameOf(came[0])));
    this.mark();
  }

  /** @private @param {Seat} seat */
  nameOf(seat) { return seat.name || t('A visitor'); }

  /** What a window has selected. @param {string} window @param {string[]} chosen */
  take(window, chosen) {
    if (chosen.length) this.chosen.set(window, chosen);
    else this.chosen.delete(window);
    this.mark();
  }

  /** Where the pointer of a window is. @param {string} window @param {[number, number]} at */
  spot(window, [x, y]) {
    clearTimeout(this.spots.get(window)?.rest);
    this.spots.set(window, { x, y, rest: Number(globalThis.setTimeout(() => { this.spots.delete(window); this.drawSpots(); }, spotRests)) });
    this.drawSpots();
  }

  /** Marks it anew, after elements were replaced. */
  mark() {
    const all = new Map([...this.chosen].flatMap(([window, list]) => list.map((id) => [id, this.seats.get(window)?.hue ?? 0])));
    for (const el of document.querySelectorAll('.theirs')) {
      el.classList.remove('theirs', ...[...el.classList].filter((c) => c.startsWith('who-')));
    }
    for (const [id, hue] of all) document.getElementById(id)?.classList.add('theirs', `who-${hue}`);
    this.drawSpots();
  }

  /** Names at what others have selected, and their pointers. @private */
  drawSpots() {
    const { model, settings } = this.app;
    /** @type {SVGElement[]} */
    const drawn = [];
    for (const [window, list] of this.chosen) {
      const seat = this.seats.get(window), b = model.boxOf(list[0] ?? '');
      if (seat && b && settings.names) drawn.push(tag(seat, this.nameOf(seat), b.x, b.y - 3));
    }
    for (const [window, { x, y }] of this.spots) {
      const seat = this.seats.get(window);
      if (!seat) continue;
      const g = svg('g', { class: `spot who-${seat.hue}`, transform: `translate(${x} ${y})` });
      g.append(svg('path', { d: 'M0 0 L0 15 L4 11.5 L7 17 L9.5 15.8 L6.6 10.4 L11.5 10 Z' }));
      if (settings.names && !this.chosen.has(window)) g.append(tag(seat, this.nameOf(seat), 12, 20));
      drawn.push(g);
    }
    this.marks.replaceChildren(...drawn);
  }

  /** Brings into sight what somebody works on. @private @param {string} window */
  goTo(window) {
    const seat = this.seats.get(window), element = this.chosen.get(window)?.find((e) => this.app.model.boxOf(e)), spot = this.spots.get(window);
    if (element) {
      const b = this.app.model.boxOf(element);
      if (b) this.app.view.reveal(b);
    } else if (spot) this.app.view.reveal({ x: spot.x - 1, y: spot.y - 1, w: 2, h: 2 });
    else if (seat) this.app.announce(t('%s has selected nothing', this.nameOf(seat)));
  }

  /** Tells the others where the pointer is, while there are some. @private @param {PointerEvent} e */
  tellSpot(e) {
    if (!this.seats.size || e.pointerType === 'touch' || e.timeStamp - this.lastSpot < spotEvery) return;
    this.lastSpot = e.timeStamp;
    const p = this.app.view.toPaper(e.clientX, e.clientY);
    this.app.road.tell({ spot: [Math.round(p.x), Math.round(p.y)] });
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

/** The first letters of a name. @param {string} name */
const initials = (name) => name.split(/\s+/).map((word) => [...word][0] ?? '').slice(0, 2).join('').toUpperCase();

/** A name on a small tab. @param {Seat} seat @param {string} name @param {number} x @param {number} y */
function tag(seat, name, x, y) {
  const g = svg('g', { class: `name-tab who-${seat.hue}`, transform: `translate(${x} ${y})` }), words = name.length > 24 ? `${name.slice(0, 23)}…` : name;
  g.append(svg('rect', { x: 0, y: -18, width: words.length * 7.2 + 12, height: 18 }), svg('text', { x: 6, y: -5 }, words));
  return g;
}
