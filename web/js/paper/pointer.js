// @ts-check
// The pointer on the paper: mouse, pen and fingers alike.

import { commenting } from '../sync/allowed.js';
import * as acts from '../commands/edits.js';
import { LinkHandle, talkAt } from './link-handle.js';
import { sketch, slipAt } from './in-hand.js';
import { border, geometry, svg } from './provisional.js';
import { landing } from './landing.js';
import { clickKey, dragKey, pressed, titleRegion } from './key-and-tabs.js';
import { snapper } from './snap.js';
import { hold } from './view.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'aim' | 'announce' | 'atHand' | 'back' | 'base' | 'cards' | 'choose' | 'chosen' | 'desk' | 'discard' | 'firstHints' | 'guide' | 'pointer' | 'lead' | 'lens' | 'lifted' | 'margin' | 'marks' | 'model' | 'notice' | 'page' | 'pick' | 'places' | 'plain' | 'provisional' | 'reveal' | 'send' | 'settings' | 'drawWaiting' | 'showMargin' | 'sides' | 'sources' | 'tuck' | 'view' | 'words'>} App */
/** @typedef {{kind: string, startX: number, startY: number, lastX: number, lastY: number, element: string, moved: boolean, fold: boolean, add: boolean, branch: boolean, badge?: string, grid?: boolean, picture?: boolean, other?: {key?: HTMLElement, row?: HTMLElement | null, region?: string, card?: string, badge?: string}, stop?: () => void, drop?: (x: number, y: number, free?: boolean) => void, drag?: (x: number, y: number, free?: boolean) => void}} Gesture */

const slop = 5, long = 550;

export class Pointer {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** The element under the last press, and where on the paper that was. */
    this.pressed = '';
    this.pressedAt = { x: NaN, y: NaN };
    /** @type {Gesture | null} */
    this.gesture = null;
    /** @type {Map<number, {x: number, y: number}>} */
    this.fingers = new Map();
    this.tap = { at: 0, x: 0, y: 0, element: '' };
    this.pressing = 0;
    this.handle = new LinkHandle(app);
    const d = app.desk;
    d.addEventListener('pointerdown', (e) => this.down(e));
    d.addEventListener('pointermove', (e) => this.move(e));
    d.addEventListener('pointerup', (e) => this.up(e));
    d.addEventListener('pointercancel', () => this.cancel());
    d.addEventListener('pointerleave', () => { if (!this.gesture) this.handle.rest(); });
    d.addEventListener('wheel', (e) => this.wheel(e), { passive: false });
    d.addEventListener('contextmenu', (e) => { if (this.gesture) e.preventDefault(); });
  }

  /** Whether the last press was on a slip, also one that is not shown while its words
   * are typed. @param {{id: string, box: import('./view.js').Box}} slip */
  pressedOn({ id, box: b }) {
    const p = this.pressedAt;
    return this.pressed === `c-${id}` || (p.x >= b.x && p.x <= b.x + b.w && p.y >= b.y && p.y <= b.y + b.h);
  }

  /** @param {PointerEvent} e */
  down(e) {
    const under = /** @type {Element} */ (e.target), target = talkAt(under, e) ?? this.handle.under(under, e) ?? under;
    if (target.closest('.field, .find, .note-card, button') || (e.pointerType === 'mouse' && e.button > 1)) return;
    this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
    if (this.fingers.size === 2) {
      this.cancel();
      this.gesture = this.begin('pinch', e, '');
      return;
    }
    if (this.fingers.size > 2) return;
    const el = /** @type {HTMLElement | null} */ (target.closest('.slip[data-kind], .link[data-kind]'));
    this.pressed = el?.id ?? '';
    this.pressedAt = this.app.view.toPaper(e.clientX, e.clientY);
    // Leaving a field by a press finishes what is being typed in it.
    if (this.app.words.field) this.app.words.finish('away');
    if (this.app.words.field) { e.preventDefault(); return; }
    this.app.desk.focus({ preventScroll: true });
    e.preventDefault();
    this.app.desk.setPointerCapture(e.pointerId);
    const place = target.closest('.aim-place'), grip = target.closest('.grip'), side = target.closest('.side');
    if (place && this.app.aim.on) return this.app.aim.take(/** @type {import('./side-choice.js').Side} */ (/** @type {SVGElement} */ (place).dataset.side));
    this.app.aim.hide();
    const { frame } = this.app.settings;
    const kind = e.button === 1 ? 'pan' : target.closest('.pull-handle') ? 'pull' : grip || side ? 'grip' : el?.dataset.kind === 'concept' ? 'slip' : el ? 'link' : e.shiftKey || frame ? 'frame' : 'pan';
    this.gesture = this.begin(kind, e, el?.id ?? '');
    const other = this.app.plain || kind === 'grip' || kind === 'pull' || el ? null : pressed(this.app, target, e);
    if (other) this.gesture = Object.assign(this.begin(other.kind, e, other.element), { other });
    if (kind === 'pull') this.beginPull(this.gesture, e);
    if (grip) this.app.lead.take(this.gesture, grip);
    if (side) this.app.sides.take(this.gesture, side);
    this.hold(e, this.gesture);
  }

  /** A finger that stays where it is asks for the menu. @private @param {PointerEvent} e @param {Gesture} g */
  hold(e, g) {
    clearTimeout(this.pressing);
    if (e.pointerType !== 'touch') return;
    const { clientX, clientY, target } = e;
    this.pressing = window.setTimeout(() => {
      if (this.gesture !== g || g.moved) return;
      this.cancel();
      this.fingers.clear();
      target?.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX, clientY }));
    }, long);
  }

  /** @private @param {string} kind @param {PointerEvent} e @param {string} element @returns {Gesture} */
  begin(kind, e, element) {
    return { kind, startX: e.clientX, startY: e.clientY, lastX: e.clientX, lastY: e.clientY, element, moved: false, fold: !!/** @type {Element} */ (e.target).closest('.tuck'), grid: !!/** @type {Element} */ (e.target).closest('.rows-grid'), picture: !!/** @type {Element} */ (e.target).closest('.picture'), badge: talkAt(/** @type {Element} */ (e.target), e) ? 'talk' : /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.badge:not([data-mark="words"]):not([data-mark="tag"])'))?.dataset.mark, add: e.shiftKey || e.ctrlKey || e.metaKey || this.app.settings.several, branch: e.altKey !== this.app.settings.branch };
  }

  /** @param {PointerEvent} e */
  move(e) {
    const g = this.gesture;
    const was = this.fingers.get(e.pointerId);
    if (!g || !was) {
      if (!g) this.handle.follow(e);
      return;
    }
    if (g.kind === 'pinch') {
      const [a, b] = [...this.fingers.entries()];
      const other = (a[0] === e.pointerId ? b : a)[1];
      const before = Math.hypot(was.x - other.x, was.y - other.y), after = Math.hypot(e.clientX - other.x, e.clientY - other.y);
      this.app.view.pan((e.clientX - was.x) / 2, (e.clientY - was.y) / 2);
      if (before > 8) this.app.view.zoom(after / before, (e.clientX + other.x) / 2, (e.clientY + other.y) / 2);
      this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
      return;
    }
    this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY });
    if (!g.moved && Math.hypot(e.clientX - g.startX, e.clientY - g.startY) < slop) return;
    if (!g.moved) {
      g.moved = true;
      clearTimeout(this.pressing);
      if (commenting && g.kind !== 'frame') g.kind = 'pan';
      if (g.kind === 'link' && !this.app.plain) this.beginLead(g, e);
      if (g.kind === 'slip' || g.kind === 'region') this.beginDrag(g);
      if (g.kind === 'key' && g.other?.key) dragKey(this.app, g, g.other.key, g.other.row ?? null);
      if (g.kind === 'frame') this.beginFrame(g);
      this.app.desk.classList.toggle('panning', g.kind === 'pan');
      this.app.atHand.hide();
      this.handle.hide();
    }
    if (g.kind === 'pan') this.app.view.pan(e.clientX - g.lastX, e.clientY - g.lastY);
    g.drag?.(e.clientX, e.clientY, e.ctrlKey || e.metaKey);
    g.lastX = e.clientX;
    g.lastY = e.clientY;
  }

  /** @param {PointerEvent} e */
  up(e) {
    const g = this.gesture;
    this.fingers.delete(e.pointerId);
    clearTimeout(this.pressing);
    if (!g) return;
    if (g.kind === 'pinch') {
      if (this.fingers.size === 0) this.gesture = null;
      return;
    }
    this.gesture = null;
    this.app.atHand.show();
    this.app.desk.classList.remove('panning');
    if (g.drop) g.drop(e.clientX, e.clientY, e.ctrlKey || e.metaKey);
    else if (!g.moved) this.click(g, e);
    if (g.moved) this.tap.at = 0; // what comes after a drag is no second click
    this.app.drawWaiting();
  }

  cancel() {
    this.gesture?.stop?.();
    this.gesture = null;
    this.app.desk.classList.remove('panning', 'pulling', 'framing');
    this.app.drawWaiting();
  }

  /** A press and release in one place; the second of two is a double one. @param {Gesture} g @param {PointerEvent} e */
  click(g, e) {
    const twice = e.timeStamp - this.tap.at < 400 && Math.hypot(e.clientX - this.tap.x, e.clientY - this.tap.y) < 24 && this.tap.element === g.element;
    // Adding to what is selected is no half of a double press.
    this.tap = { at: twice || g.add ? 0 : e.timeStamp, x: e.clientX, y: e.clientY, element: g.element };
    if (this.app.pick.wanted) {
      this.app.pick.take(g.element);
      return;
    }
    if (g.other) {
      if (g.other.card) this.app.cards.open(g.other.card);
      else if (g.other.badge) this.app.sources.openMark(`r-${g.other.region}`, g.other.badge);
      else if (g.other.key) clickKey(this.app, g.other.key, g.other.row ?? null);
      else if (g.kind === 'tab') this.app.tuck.toggle([g.other.region ?? '']);
      else if (twice) titleRegion(this.app, g.other.region ?? '');
      return;
    }
    if (g.badge && !g.add) {
      this.app.sources.openMark(g.element, g.badge);
      return;
    }
    if (g.fold) {
      this.app.tuck.toggle([g.element.slice(2)]);
      return;
    }
    if (!g.element) {
      if (twice) {
        const at = this.app.view.toPaper(e.clientX, e.clientY);
        acts.newLoose(this.app, { x: at.x, y: at.y - 18 }, '', true);
      } else this.app.chosen.set([]);
    } else if (g.add) this.app.chosen.toggle(g.element);
    else {
      this.app.chosen.set([g.element]);
      if (twice && g.grid) this.app.sources.openMark(g.element, 'table');
      else if (twice && g.picture) this.app.sources.openMark(g.element, 'picture');
      else if (twice) acts.changeWords(this.app);
    }
    if (e.pointerType === 'mouse') this.handle.follow(e);
    else this.handle.rest();
  }

  /** @param {WheelEvent} e */
  wheel(e) {
    if (/** @type {Element} */ (e.target).closest('.field, .note-card')) return;
    e.preventDefault();
    const unit = e.deltaMode === 1 ? 20 : e.deltaMode === 2 ? 400 : 1;
    if (e.ctrlKey || e.metaKey) this.app.view.zoom(Math.exp(-Math.max(-60, Math.min(60, e.deltaY * unit)) / 180), e.clientX, e.clientY);
    else if (e.shiftKey && !e.deltaX) this.app.view.pan(-e.deltaY * unit, 0);
    else this.app.view.pan(-e.deltaX * unit, -e.deltaY * unit);
  }

  /** A line or a phrase is dragged: it is led. A finger must have selected it
   * first, since fingers move the paper by what lies under them. @private @param {Gesture} g @param {PointerEvent} e */
  beginLead(g, e) {
    const l = this.app.model.links.get(g.element.slice(2));
    if (!l || l.provisional || l.veiled || (e.pointerType === 'touch' && this.app.chosen.only !== g.element)) {
      g.kind = 'pan';
      return;
    }
    this.app.chosen.set([g.element]);
    const p = this.app.view.toPaper(g.startX, g.startY), b = l.gap;
    if (p.x > b.x && p.x < b.x + b.w && p.y > b.y && p.y < b.y + b.h) this.app.lead.takePhrase(g, l);
    else this.app.lead.takeLine(g, l, p);
  }

  /** Lifts what is dragged above the paper, with the lines that hang on it. @private @param {Gesture} g */
  beginDrag(g) {
    const { app } = this;
    if (!app.chosen.list.includes(g.element)) app.chosen.set([g.element]);
    if (g.branch && g.kind !== 'region') app.chosen.set([...new Set(app.chosen.concepts().flatMap((id) => app.model.branch(id)))].map((id) => `c-${id}`));
    const ids = app.chosen.concepts();
    const set = new Set(app.chosen.list.filter((e) => e.startsWith('c-')).map((e) => e.slice(2)));
    app.sides.hide();
    const slips = app.chosen.list.filter((e) => e.startsWith('c-')).map((e) => app.model.slips.get(e.slice(2))).filter((s) => s !== undefined);
    const boxes = slips.map((s) => s.box);
    // What keeps its shape in the hand is one picture that is only moved; what joins it to the
    // rest is drawn anew at each step.
    const held = /** @type {SVGGElement} */ (svg('g', { class: 'in-hand' })), between = svg('g', {});
    const lines = app.model.linksAt(set).map((l) => {
      const drawn = sketch(l), carried = [...l.from, ...l.to].every((e) => set.has(e.concept)); // with what was led by hand
      drawn.draw(geometry(app.model, l));
      (carried ? held : between).append(...drawn.elements);
      l.el.classList.add('waiting');
      return { l, drawn, carried };
    });
    const snap = snapper(app, set, boxes), land = landing(app, slips.map((s, i) => ({ id: s.id, box: boxes[i] })));
    const places = slips.map((s) => ({ s, home: s.el.parentNode, next: s.el.nextSibling }));
    held.append(...slips.map((s) => s.el));
    app.lifted.append(between, held);
    const [holding] = hold([held]);
    const shift = (/** @type {number} */ dx, /** @type {number} */ dy) => {
      held.style.transform = `translate(${dx}px, ${dy}px)`;
      slips.forEach((s, i) => { s.box = { ...boxes[i], x: boxes[i].x + dx, y: boxes[i].y + dy }; });
      for (const { l, drawn, carried } of lines) if (!carried) drawn.draw(geometry(app.model, l));
    };
    const putDown = () => {
      for (const { s, home, next } of places.reverse()) home?.insertBefore(s.el, next && next.parentNode === home ? next : null);
      for (const { l } of lines) l.el.classList.remove('waiting');
      holding.cancel();
      held.remove();
      between.remove();
      snap.end();
      land.end();
    };
    const by = (/** @type {number} */ x, /** @type {number} */ y, /** @type {boolean} */ free) => snap.by((x - g.startX) / app.view.k, (y - g.startY) / app.view.k, free || !(app.settings.snap || app.settings.grid));
    let frame = 0;
    g.drag = (x, y, free = false) => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => { const { dx, dy } = by(x, y, free); shift(dx, dy); land.at(dx, dy); if (!app.plain) app.guide.landing(x, y, true); });
    };
    g.drop = (x, y, free = false) => {
      cancelAnimationFrame(frame);
      const { dx, dy } = by(x, y, free);
      shift(0, 0);
      putDown();
      const at = app.plain ? -1 : app.guide.landing(x, y, false);
      if (at >= 0) return app.guide.insert(ids.map((id) => `c-${id}`), { at }); // onto the list of stops, not across the paper
      acts.moveBy(app, ids, Math.round(dx), Math.round(dy));
      app.firstHints.did('order');
    };
    g.stop = () => {
      cancelAnimationFrame(frame);
      shift(0, 0);
      putDown();
    };
  }

  /** A frame drawn round what is to be selected. @private @param {Gesture} g */
  beginFrame(g) {
    const { app } = this;
    const rect = svg('rect', { class: 'frame' });
    app.marks.append(rect);
    app.desk.classList.add('framing');
    const a = app.view.toPaper(g.startX, g.startY);
    const before = g.add ? app.chosen.list : [];
    const end = () => { rect.remove(); app.desk.classList.remove('framing'); };
    g.drag = (x, y) => {
      const b = app.view.toPaper(x, y);
      const box = { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) };
      for (const [key, value] of Object.entries({ x: box.x, y: box.y, width: box.w, height: box.h })) rect.setAttribute(key, String(value));
      const inside = [...app.model.slips.values()].filter((s) => s.box.x >= box.x && s.box.y >= box.y && s.box.x + s.box.w <= box.x + box.w && s.box.y + s.box.h <= box.y + box.h);
      app.chosen.set([...new Set([...before, ...inside.map((s) => `c-${s.id}`)])]);
    };
    g.drop = end;
    g.stop = end;
  }

  /** A line pulled from the knot. @private @param {Gesture} g @param {PointerEvent} e0 */
  beginPull(g, e0) {
    const { app } = this;
    g.element = this.handle.at;
    const box = app.model.boxOf(g.element), id = g.element.slice(2);
    if (!box) return;
    // From a concept a link is pulled, from a phrase one more end.
    const pulled = g.element.startsWith('c-')
      ? { to: (/** @type {string} */ to) => acts.newLink(app, id, to), out: (/** @type {{x: number, y: number} | undefined} */ at = undefined) => acts.newLinked(app, id, at) }
      : { to: (/** @type {string} */ to) => acts.addEnd(app, id, to), out: (/** @type {{x: number, y: number} | undefined} */ at = undefined) => acts.newEnd(app, id, at) };
    const line = svg('path', { class: 'pull-line' });
    app.marks.append(line);
    app.desk.classList.add('pulling');
    let target = '';
    const aim = (/** @type {number} */ x, /** @type {number} */ y) => {
      const over = slipAt(x, y), under = over?.id === g.element ? null : over;
      if (target !== (under?.id ?? '')) {
        document.getElementById(target)?.classList.remove('target');
        target = under?.id ?? '';
        under?.classList.add('target');
      }
    };
    const end = () => {
      line.remove();
      document.getElementById(target)?.classList.remove('target');
      app.desk.classList.remove('pulling');
    };
    g.drag = (x, y) => {
      aim(x, y);
      const to = app.view.toPaper(x, y), from = border(box, to);
      line.setAttribute('d', `M${from.x} ${from.y}L${to.x} ${to.y}`);
    };
    g.drop = (x, y) => {
      aim(x, y);
      end();
      if (!g.moved) return this.handle.click(e0);
      if (target) return pulled.to(target.slice(2));
      const at = app.view.toPaper(x, y);
      pulled.out({ x: at.x, y: at.y - 18 });
    };
    g.stop = end;
  }
}
