// @ts-check
// Leading a line by hand: what can be taken hold of at the selected link, and
// what dragging it does. A line can be bent, its phrase moved, and each of its
// ends led to another concept or taken off.

import * as acts from '../commands/edits.js';
import { newID } from '../sync/ids.js';
import { sketch, slipAt } from './in-hand.js';
import { bendsOf, border, geometry, middle, svg } from './provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'choose' | 'chosen' | 'desk' | 'discard' | 'pointer' | 'marks' | 'model' | 'notice' | 'pick' | 'places' | 'plain' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'view' | 'words'>} App */
/** @typedef {import('./pointer.js').Gesture} Gesture */
/** @typedef {import('./model.js').Link} Link */
/** @typedef {import('./model.js').Point} Point */
/** A place that can be taken hold of. @typedef {{kind: 'end' | 'bend' | 'new', end: string, at: number, x: number, y: number}} Grip */

export class Lead {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.group = svg('g', { class: 'grips' });
    this.drawn = '';
  }

  /** The link that is selected, if it can be led. @returns {Link | undefined} */
  link() {
    const only = this.app.chosen.only, l = only?.startsWith('l-') ? this.app.model.links.get(only.slice(2)) : undefined;
    return l && !l.provisional && !l.veiled && !this.app.words.field && !this.app.pick?.wanted ? l : undefined;
  }

  hide() {
    this.drawn = '';
    this.group.replaceChildren();
  }

  /** Shows what can be taken hold of now. */
  show() {
    const l = this.link();
    if (!l || this.app.plain) return this.hide(); // led by hand it would be no gentle thing
    const k = 1 / this.app.view.k;
    const key = `${l.id} ${k} ${l.el.querySelector('.reach')?.getAttribute('d')}`;
    if (key === this.drawn) return;
    this.drawn = key;
    this.app.marks.append(this.group); // above the knot, whose reach is wide
    this.group.replaceChildren(...this.grips(l).map((g) => {
      const el = svg('g', { class: t('grip %s-grip', g.kind), 'data-grip': g.kind, 'data-end': g.end, 'data-at': g.at, transform: `translate(${g.x} ${g.y}) scale(${k})` });
      el.append(svg('title', {}, { end: t('Drag to another concept, or off'), bend: t('Drag to bend the line; back into line to straighten it'), new: t('Drag to bend the line here') }[g.kind]));
      el.append(svg('circle', { class: 'reach', r: g.kind === 'new' ? 13 : 20 }));
      el.append(g.kind === 'bend' ? svg('path', { class: 'dot', d: 'M0 -6.5L6.5 0L0 6.5L-6.5 0Z' }) : svg('circle', { class: 'dot', r: g.kind === 'end' ? 5.5 : 3.2 }));
      return el;
    }));
  }

  /** @private @param {Link} l @returns {Grip[]} */
  grips(l) {
    const legs = (l.el.querySelector('.reach')?.getAttribute('d') ?? '').split(/(?=M)/).map((d) => /** @type {SVGPathElement} */ (svg('path', { d })));
    const ends = [...l.from, ...l.to];
    /** @type {Grip[]} */
    const all = [];
    // Where the drawn line comes nearest to a place.
    const onLine = (/** @type {Point} */ p, /** @type {SVGPathElement[]} */ paths) => {
      let best = p, least = Infinity;
      for (const path of paths) {
        const n = path.getTotalLength();
        for (let i = 0; i <= 24; i++) {
          const q = path.getPointAtLength((n * i) / 24), d = Math.hypot(q.x - p.x, q.y - p.y);
          if (d < least) [best, least] = [{ x: q.x, y: q.y }, d];
        }
      }
      return best;
    };
    const between = (/** @type {string} */ end, /** @type {Point[]} */ way, /** @type {SVGPathElement[]} */ paths) => {
      way.slice(1).forEach((p, i) => {
        const q = way[i];
        if (Math.hypot(p.x - q.x, p.y - q.y) * this.app.view.k < 44) return;
        let mid = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 };
        // Not on the words of the phrase.
        const g = l.gap;
        if (mid.x > g.x - 8 && mid.x < g.x + g.w + 8 && mid.y > g.y - 8 && mid.y < g.y + g.h + 8) mid = { x: q.x + (p.x - q.x) * 0.22, y: q.y + (p.y - q.y) * 0.22 };
        all.push({ kind: 'new', end, at: i, ...onLine(mid, paths) });
      });
      way.slice(1, -1).forEach((p, i) => all.push({ kind: 'bend', end, at: i, ...p }));
    };
    const { ways } = geometry(this.app.model, l);
    if (ways.length === 1) between(l.from[0].id, ways[0], legs);
    else if (ways.length === ends.length) ways.forEach((way, i) => between(ends[i].id, way, legs.slice(i, i + 1)));
    ends.forEach((e, i) => {
      if (!legs[i]?.getTotalLength()) return;
      const p = legs[i].getPointAtLength(0);
      all.push({ kind: 'end', end: e.id, at: 0, x: p.x, y: p.y });
    });
    return all;
  }

  /** Takes hold of a grip. @param {Gesture} g @param {Element} el */
  take(g, el) {
    const { grip, end = '', at } = /** @type {SVGElement} */ (el).dataset;
    const l = this.link();
    if (!l) return;
    g.element = `l-${l.id}`;
    if (grip === 'end') this.drag(g, l, (p) => this.endTo(l, end, p));
    else this.bend(g, l, end, Number(at), grip === 'new');
  }

  /** Takes hold of a line itself: it bends there. @param {Gesture} g @param {Link} l @param {Point} p */
  takeLine(g, l, p) {
    const { ways } = geometry(this.app.model, l);
    let best = { way: 0, at: 0 }, least = Infinity;
    ways.forEach((way, w) => way.slice(1).forEach((b, i) => {
      const d = aside(p, way[i], b);
      if (d < least) [best, least] = [{ way: w, at: i }, d];
    }));
    const end = ways.length === 1 ? l.from[0] : [...l.from, ...l.to][best.way];
    if (end) this.bend(g, l, end.id, best.at, true);
  }

  /** @private @param {Gesture} g @param {Link} l @param {string} end @param {number} at @param {boolean} fresh */
  bend(g, l, end, at, fresh) {
    const single = l.from.length === 1 && l.to.length === 1;
    const had = single ? bendsOf(l) : l.led.bends[end] ?? [];
    const led = (/** @type {Point[]} */ bends) => ({ ...l, led: { ...l.led, bends: single ? { [end]: bends } : { ...l.led.bends, [end]: bends } } });
    const moved = (/** @type {Point} */ p) => [...had.slice(0, at), p, ...had.slice(at + (fresh ? 0 : 1))];
    this.preview(g, l, (p) => led(moved(p)), (p) => {
      let bends = moved(round(p));
      const shown = geometry(this.app.model, led(bends)).ways, way = single ? shown[0] : shown[[...l.from, ...l.to].findIndex((e) => e.id === end)];
      // Back in line, it is no bend any more.
      if (way && aside(way[at + 1], way[at], way[at + 2]) * this.app.view.k < 7) bends = bends.filter((_, i) => i !== at);
      this.setBends(l, end, bends);
    });
  }

  /** Leads one side of a line, or all of a line between two concepts, through places. @param {Link} l @param {string} end @param {Point[]} bends */
  setBends(l, end, bends) {
    /** @type {Wire.Operation[]} */
    const steps = [{ do: 'bend', link: l.id, end, bends }];
    if (l.from.length === 1 && l.to.length === 1 && l.led.bends[l.to[0].id]) steps.push({ do: 'bend', link: l.id, end: l.to[0].id, bends: [] });
    this.app.send(steps, []);
  }

  /** Takes hold of a phrase: along its line, or where its ends meet. @param {Gesture} g @param {Link} l */
  takePhrase(g, l) {
    const placed = (/** @type {Point} */ p) => (l.from.length === 1 && l.to.length === 1 ? { along: this.part(l, p), hub: null } : { along: 0, hub: p });
    const off = middle(l.gap), start = this.app.view.toPaper(g.startX, g.startY);
    const at = (/** @type {Point} */ p) => ({ x: p.x + off.x - start.x, y: p.y + off.y - start.y });
    this.preview(g, l, (p) => ({ ...l, led: { ...l.led, ...placed(at(p)) } }), (p) => {
      const { along, hub } = placed(at(p));
      this.place(l, Math.abs(along - 0.5) < 0.03 ? 0 : along, hub && round(hub));
    });
  }

  /** @param {Link} l @param {number} along @param {Point | null} hub */
  place(l, along, hub) {
    this.app.send([{ do: 'place-phrase', link: l.id, ...(along ? { along: Math.round(along * 1e4) / 1e4 } : {}), ...(hub ? { hub } : {}) }], []);
  }

  /** Which part of a line lies before the place on it nearest to a point. @private @param {Link} l @param {Point} p */
  part(l, p) {
    const [way] = geometry(this.app.model, l).ways;
    if (!way) return 0.5;
    let all = 0, best = 0.5, least = Infinity;
    for (let i = 1; i < way.length; i++) {
      const a = way[i - 1], b = way[i], n = Math.hypot(b.x - a.x, b.y - a.y);
      const t = n ? Math.max(0, Math.min(1, ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / (n * n))) : 0;
      const d = Math.hypot(a.x + (b.x - a.x) * t - p.x, a.y + (b.y - a.y) * t - p.y);
      if (d < least) [best, least] = [all + n * t, d];
      all += n;
    }
    return all ? Math.max(0.05, Math.min(0.95, best / all)) : 0.5;
  }

  /** Shows the line as it will be while it is dragged, and sends it when it is
   * let go. @private @param {Gesture} g @param {Link} l @param {(p: Point) => Link} shown @param {(p: Point) => void} done */
  preview(g, l, shown, done) {
    const drawn = sketch(l);
    this.hide();
    this.app.marks.append(...drawn.elements);
    l.el.classList.add('waiting');
    const end = () => {
      for (const el of drawn.elements) el.remove();
      l.el.classList.remove('waiting');
      this.show();
    };
    g.moved = true;
    g.drag = (x, y) => drawn.draw(geometry(this.app.model, shown(this.app.view.toPaper(x, y))));
    g.drop = (x, y) => {
      const far = Math.hypot(x - g.startX, y - g.startY) > 3;
      end();
      if (far) done(this.app.view.toPaper(x, y));
    };
    g.stop = end;
  }

  /** An end in the hand: over a concept it will lead there. @private @param {Gesture} g @param {Link} l @param {(p: {target: string, x: number, y: number}) => void} done */
  drag(g, l, done) {
    const { app } = this;
    const line = svg('path', { class: 'pull-line' });
    app.marks.append(line);
    app.desk.classList.add('pulling');
    let target = '';
    const aim = (/** @type {number} */ x, /** @type {number} */ y) => {
      const under = slipAt(x, y)?.id ?? '';
      if (target === under) return;
      document.getElementById(target)?.classList.remove('target');
      document.getElementById(target = under)?.classList.add('target');
    };
    const end = () => {
      line.remove();
      document.getElementById(target)?.classList.remove('target');
      app.desk.classList.remove('pulling');
      l.el.classList.remove('led-off');
      this.show();
    };
    this.hide();
    l.el.classList.add('led-off');
    g.drag = (x, y) => {
      aim(x, y);
      const p = app.view.toPaper(x, y), from = border(l.gap, p);
      line.setAttribute('d', `M${from.x} ${from.y}L${p.x} ${p.y}`);
    };
    g.drop = (x, y) => {
      if (!g.moved) return end();
      aim(x, y);
      const over = target.slice(2);
      end();
      done({ target: over, ...app.view.toPaper(x, y) });
    };
    g.stop = end;
  }

  /** Leads an end where it was let go: to a concept; off the phrase where it is
   * one of several; else to a new concept. @param {Link} l @param {string} end @param {{target: string, x: number, y: number}} p */
  endTo(l, end, p) {
    const side = l.from.some((e) => e.id === end) ? l.from : l.to, own = side.find((e) => e.id === end);
    if (!own || p.target === own.concept) return;
    if (p.target) return this.app.send([{ do: 'move-end', link: l.id, old: end, end: { id: newID('e'), concept: p.target } }], []);
    const words = this.app.model.slips.get(own.concept)?.words ?? '';
    if (side.length > 1) {
      this.app.send([{ do: 'remove-end', link: l.id, end }], []).then((ok) => {
        if (ok) this.app.notice(t('“%s” is off this phrase.', words), { words: t('Undo'), act: () => this.app.back('undo') });
      });
      return;
    }
    acts.endToNew(this.app, l.id, end, { x: p.x, y: p.y - 18 });
  }

  /** Moves the phrase, or bows the line, by keys. @param {number} dx @param {number} dy */
  nudge(dx, dy) {
    const l = this.link();
    if (!l) return;
    const { hub, ways } = geometry(this.app.model, l);
    if (ways.length !== 1) return this.place(l, 0, round({ x: hub.x + 8 * dx, y: hub.y + 8 * dy }));
    if (l.led.bends[l.from[0].id]?.length || l.led.bends[l.to[0].id]?.length) {
      const bends = bendsOf(l), at = Math.floor(bends.length / 2);
      return this.setBends(l, l.from[0].id, bends.map((b, i) => (i === at ? round({ x: b.x + 8 * dx, y: b.y + 8 * dy }) : b)));
    }
    const [way] = ways, a = way[0], b = way[way.length - 1], level = Math.abs(b.x - a.x) >= Math.abs(b.y - a.y);
    const on = level ? dx * Math.sign(b.x - a.x || 1) : dy * Math.sign(b.y - a.y || 1);
    if (on) return this.place(l, Math.max(0.05, Math.min(0.95, (l.led.along || 0.5) + on * 0.05)), null);
    this.setBends(l, l.from[0].id, [round({ x: (a.x + b.x) / 2 + 24 * dx, y: (a.y + b.y) / 2 + 24 * dy })]);
  }
}

/** @param {Point} p */
const round = (p) => ({ x: Math.round(p.x), y: Math.round(p.y) });

/** How far a point lies from the line between two others. @param {Point} p @param {Point} a @param {Point} b */
function aside(p, a, b) {
  const dx = b.x - a.x, dy = b.y - a.y, n = dx * dx + dy * dy;
  const t = n ? Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / n)) : 0;
  return Math.hypot(a.x + dx * t - p.x, a.y + dy * t - p.y);
}
