// @ts-check
// The picture of what has been done here and not been answered yet: slips and
// lines with small geometry of their own. The server's drawing replaces it.

import { put, unled } from './model.js';

/** @typedef {import('./model.js').Model} Model */
/** @typedef {import('./model.js').Slip} Slip */
/** @typedef {import('./model.js').Link} Link */
/** @typedef {import('./view.js').Box} Box */

const svgNS = 'http://www.w3.org/2000/svg';

/** Hides a thing, or shows it. Told again what it is already, a browser still looks at the
 * styles of all around it. @param {HTMLElement} el @param {boolean} hide */
export function conceal(el, hide) { if (el.hidden !== hide) el.hidden = hide; }

/** @param {string} name @param {Record<string, string | number>} attributes @param {string} [text] */
export function svg(name, attributes, text) {
  const el = /** @type {SVGElement} */ (document.createElementNS(svgNS, name));
  for (const [key, value] of Object.entries(attributes)) el.setAttribute(key, String(value));
  if (text !== undefined) el.textContent = text;
  return el;
}

/** Where the way from a box's middle towards a point leaves the box. @param {Box} b @param {{x: number, y: number}} to */
export function border(b, to) {
  const cx = b.x + b.w / 2, cy = b.y + b.h / 2, dx = to.x - cx, dy = to.y - cy;
  const t = Math.min(b.w / 2 / Math.max(Math.abs(dx), 1e-6), b.h / 2 / Math.max(Math.abs(dy), 1e-6), 1);
  return { x: cx + dx * t, y: cy + dy * t };
}

/** @param {Box} b */
export const middle = (b) => ({ x: b.x + b.w / 2, y: b.y + b.h / 2 });

const ruler = document.createElement('canvas').getContext('2d');

/** Breaks words into lines of about the width that the server will give them, so
 * that what is put below a tall slip keeps clear of it. @param {string} words */
function wrap(words) {
  if (!ruler) return [words];
  ruler.font = '15px "Atkinson Hyperlegible"';
  const lines = [''];
  for (const word of words.split(' ')) {
    const longer = lines[lines.length - 1] ? `${lines[lines.length - 1]} ${word}` : word;
    if (lines[lines.length - 1] && ruler.measureText(longer).width > 166) lines.push(word);
    else lines[lines.length - 1] = longer;
  }
  return lines;
}

/** @typedef {import('./model.js').Point} Point */

/** The place at a part of a way through points. @param {Point[]} way @param {number} part */
export function along(way, part) {
  const long = way.slice(1).map((p, i) => Math.hypot(p.x - way[i].x, p.y - way[i].y));
  let left = part * long.reduce((a, b) => a + b, 0);
  for (const [i, n] of long.entries()) {
    if (left <= n && n > 0) return { x: way[i].x + ((way[i + 1].x - way[i].x) * left) / n, y: way[i].y + ((way[i + 1].y - way[i].y) * left) / n };
    left -= n;
  }
  return way[way.length - 1];
}

/** All bends of a line between two concepts, from its beginning. @param {Pick<Link, 'from' | 'to' | 'led'>} link */
export const bendsOf = (link) => [...(link.led.bends[link.from[0].id] ?? []), ...[...(link.led.bends[link.to[0].id] ?? [])].reverse()];

/** Where the phrase of a link stands, and its lines; ways holds the points of
 * each line, from a slip on. @param {Model} model @param {Pick<Link, 'from' | 'to' | 'led'>} link */
export function geometry(model, link) {
  const boxes = (/** @type {{concept: string}[]} */ ends) => ends.map((e) => model.slips.get(e.concept)?.box).filter((b) => b !== undefined);
  const froms = boxes(link.from), tos = boxes(link.to);
  const mean = (/** @type {Box[]} */ list) => ({ x: list.reduce((s, b) => s + b.x + b.w / 2, 0) / list.length, y: list.reduce((s, b) => s + b.y + b.h / 2, 0) / list.length });
  const line = (/** @type {Point[]} */ way) => way.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('');
  if (!froms.length || !tos.length) return { hub: { x: 0, y: 0 }, d: '', ways: [] };
  if (froms.length === 1 && tos.length === 1 && link.from.length === 1 && link.to.length === 1) {
    const bends = bendsOf(link);
    const way = [border(froms[0], bends[0] ?? middle(tos[0])), ...bends, border(tos[0], bends.at(-1) ?? middle(froms[0]))];
    return { hub: along(way, link.led.along || 0.5), d: line(way), ways: [way] };
  }
  const a = mean(froms), b = mean(tos);
  const hub = link.led.hub ?? { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const ways = [...link.from, ...link.to].flatMap((e) => {
    const box = model.slips.get(e.concept)?.box, bends = link.led.bends[e.id] ?? [];
    return box ? [[border(box, bends[0] ?? hub), ...bends, hub]] : [];
  });
  return { hub, d: ways.map(line).join(''), ways };
}

export class Provisional {
  /** @param {SVGGElement} group @param {Model} model */
  constructor(group, model) {
    this.group = group;
    this.model = model;
  }

  /** A slip by the place of its top centre. @param {string} id @param {{x: number, y: number}} at @param {string} words @returns {Slip} */
  slip(id, at, words) {
    const text = svg('text', { class: 'noun', 'font-size': 15 });
    const lines = words ? words.split('\n').flatMap(wrap) : [];
    this.group.append(text);
    let wide = lines.length ? 0 : 84;
    for (const line of lines) {
      const span = /** @type {SVGTSpanElement} */ (svg('tspan', {}, line));
      text.append(span);
      wide = Math.max(wide, span.getComputedTextLength());
    }
    const w = Math.max(64, Math.ceil(wide) + 35), h = 18 + 19 * Math.max(1, lines.length);
    const b = { x: at.x - w / 2, y: at.y, w, h };
    const el = /** @type {SVGGElement} */ (svg('g', { class: 'slip provisional', id: `c-${id}`, 'data-kind': 'concept', 'data-id': id }));
    el.append(svg('path', { class: 'body', d: `M0 0H${w - 11}L${w} 11V${h}H0Z` }), svg('path', { class: 'strip', d: `M0 0H5V${h}H0Z` }), text);
    lines.forEach((_, i) => { const span = text.children[i]; span.setAttribute('x', String((w + 5) / 2)); span.setAttribute('y', String(24 + 19 * i)); });
    this.group.append(el);
    const slip = { id, el, box: b, drawn: { x: 0, y: 0 }, main: null, focus: false, words, hides: [], provisional: true };
    put(slip);
    this.drop(`c-${id}`, el);
    this.model.slips.set(id, slip);
    return slip;
  }

  /** @param {string} id @param {import('./model.js').End[]} from @param {import('./model.js').End[]} to @param {string} words @returns {Link} */
  link(id, from, to, words) {
    const led = unled();
    const { hub, d } = geometry(this.model, { from, to, led });
    const el = /** @type {SVGGElement} */ (svg('g', { class: 'link provisional', id: `l-${id}`, 'data-kind': 'link', 'data-id': id }));
    el.append(svg('path', { class: words ? 'prov-line' : 'prov-line open', d }));
    const text = svg('text', { class: 'verb', 'font-size': 14.5, x: hub.x, y: hub.y + 5 }, words);
    el.append(text);
    this.group.prepend(el);
    const w = words ? Math.max(30, /** @type {SVGTextElement} */ (text).getComputedTextLength() + 10) : 46;
    const gap = { x: hub.x - w / 2, y: hub.y - 10, w, h: 20 };
    el.insertBefore(svg('rect', { class: 'prov-gap', x: gap.x, y: gap.y, width: gap.w, height: gap.h }), text);
    const link = { id, el, gap, from, to, heads: 'one', words, led, provisional: true };
    this.drop(`l-${id}`, el);
    this.model.links.set(id, link);
    return link;
  }

  /** Takes a provisional element away. @param {string} element @param {Element} [but] */
  drop(element, but) {
    for (const el of this.group.querySelectorAll(`#${element}`)) if (el !== but) el.remove();
  }

  /** Forgets what turned out not to be. @param {string[]} elements */
  forget(elements) {
    for (const e of elements) {
      this.drop(e);
      if (this.model.get(e)?.provisional) this.model.drop(e);
    }
  }
}
