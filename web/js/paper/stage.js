// @ts-check
// The map as a room sees it: what stands, what is spoken of, and what lies over it. The server says
// what; here it is put on the paper, and the view goes there.

import { View } from './view.js';
import { boxAround, endsOf } from './around.js';

/** @template {Element} E @param {string} id @returns {E} */
const get = (id) => /** @type {any} */ (document.getElementById(id));

/** What changed of what a room sees.
 * @typedef {Object} Frame
 * @property {number} [version]
 * @property {boolean} [whole] it holds all there is
 * @property {Record<string, string>} [slips]
 * @property {Record<string, string>} [links]
 * @property {string[]} [gone]
 * @property {string} regions
 * @property {string[]} fresh
 * @property {string[]} means
 * @property {string[]} faded
 * @property {boolean} [all] the map as a whole is looked at
 * @property {string} stop
 * @property {string} card
 * @property {{Noun1: string, Verb: string, Noun2: string, Key: string} | null} large
 * @property {Record<string, string> | null} source
 * @property {boolean} closer
 * @property {boolean} [close] the view goes close to what is spoken of
 * @property {boolean} dark
 * @property {{x: number, y: number} | null} spot
 * @property {string} look
 * @property {boolean} [ended]
 * @property {string} [side]
 * @property {any} [clock]
 * @property {boolean} [aside]
 */

export class Stage {
  /** @param {string} base the address of what files belong to */
  constructor(base) {
    this.base = base;
    this.desk = /** @type {HTMLElement} */ (get('desk'));
    this.view = new View(this.desk, get('layer'), get('above'), '');
    /** @type {Map<string, SVGGElement>} */
    this.elements = new Map();
    /** @type {Frame | null} */
    this.frame = null;
    this.over = '';
    addEventListener('resize', () => this.glide(false));
    new ResizeObserver(() => this.glide(false)).observe(this.desk);
  }

  /** @param {Frame} f */
  show(f) {
    const first = !this.frame, before = this.frame;
    if (f.whole) for (const id of this.elements.keys()) this.take(id);
    for (const id of f.gone ?? []) this.take(id);
    this.put(f.links ?? {}, 'links');
    this.put(f.slips ?? {}, 'slips');
    if (before?.regions !== f.regions) get('regions').innerHTML = f.regions;
    const fresh = new Set(f.fresh), means = new Set(f.means), faded = new Set(f.faded);
    for (const [id, g] of this.elements) {
      g.classList.toggle('fresh', !first && fresh.has(id));
      g.classList.toggle('meant', means.has(id));
      g.classList.toggle('faded', faded.has(id));
    }
    if (before?.look !== f.look) for (const el of [this.desk, this.desk.parentElement]) if (el) el.className = el.className.replace(/\b(look|paper)-\S+/g, '') + ` ${f.look}`;
    this.frame = f;
    this.card(f);
    /** @type {HTMLElement} */ (get('dark')).hidden = !f.dark;
    document.body.classList.toggle('darkened', f.dark); // asking by :has() would be answered anew at each step
    this.lay(f);
    this.spot(f.spot);
    document.body.classList.add('ready');
    const same = before && before.stop === f.stop && before.close === f.close && String(before.means) === String(f.means) && String(before.fresh) === String(f.fresh) && !Object.keys(f.slips ?? {}).length;
    if (!same) this.glide(!first);
  }

  /** @private @param {string} id */
  take(id) {
    this.elements.get(id)?.remove();
    this.elements.delete(id);
  }

  /** @private @param {Record<string, string>} drawn @param {'links' | 'slips'} group */
  put(drawn, group) {
    const parent = /** @type {Element} */ (get(group));
    for (const [id, markup] of Object.entries(drawn)) {
      const holder = document.createElementNS('http://www.w3.org/2000/svg', 'g');
      holder.innerHTML = markup;
      const g = /** @type {SVGGElement} */ (holder.firstElementChild), old = this.elements.get(id);
      if (old) old.replaceWith(g);
      else parent.append(g);
      this.elements.set(id, g);
    }
  }

  /** @private @param {Frame} f */
  card(f) {
    const card = /** @type {HTMLElement} */ (get('card'));
    if (card.dataset.markup === f.card) return;
    card.dataset.markup = f.card;
    card.innerHTML = f.card;
    card.scrollTop = 0;
    document.body.dataset.layout = /** @type {HTMLElement | null} */ (card.querySelector('.card'))?.dataset.layout ?? '';
    document.body.classList.toggle('bare', document.body.dataset.layout === 'map' || !card.querySelector('.prose, .room-says, .card-pictures'));
  }

  /** Lays a sentence or a source over the map. @private @param {Frame} f */
  lay(f) {
    const over = /** @type {HTMLElement} */ (get('over')), wanted = JSON.stringify([f.large, f.source]);
    if (wanted === this.over) return;
    this.over = wanted;
    over.replaceChildren();
    over.hidden = !f.large && !f.source;
    document.body.classList.toggle('covered', !over.hidden);
    if (f.large) {
      const p = document.createElement('p');
      p.className = 'stage-sentence';
      for (const [cls, words] of [['noun-words', f.large.Noun1], ['verb-words', f.large.Verb], ['noun-words', f.large.Noun2]]) p.append(Object.assign(document.createElement('span'), { className: cls, textContent: words }), ' ');
      over.append(p);
    } else if (f.source) over.append(...sourceOf(f.source, this.base));
  }

  /** @param {{x: number, y: number} | null} at on the paper */
  spot(at) {
    if (this.frame) this.frame.spot = at;
    const el = /** @type {HTMLElement} */ (get('spot'));
    el.hidden = !at;
    if (at) el.style.transform = `translate(${at.x * this.view.k + this.view.x}px, ${at.y * this.view.k + this.view.y}px)`;
  }

  /** Brings what is spoken of and what is new into view. @param {boolean} slow */
  glide(slow) {
    const f = this.frame;
    if (!f) return;
    const pick = (/** @type {string[]} */ ids) => ids.flatMap((id) => this.elements.get(id) ?? []);
    const means = pick([...new Set(f.means.flatMap((id) => [id, ...endsOf(this.elements.get(id))]))]);
    const near = [...means, ...pick(f.fresh)], joined = [...near, ...pick(f.fresh.flatMap((id) => endsOf(this.elements.get(id))))];
    // What joins the new with what stood before belongs to it, where that does not make the words small.
    let shown = f.close && means.length ? means : this.view.scaleOf(boxAround(joined)) >= 0.9 ? joined : near;
    if (!shown.length || f.all) shown = [...this.elements.values()];
    this.view.show(boxAround(shown), slow, { most: f.close ? 3 : 2, least: 0.3 });
    this.spot(f.spot);
  }
}

/** A source, large and by itself. @param {Record<string, string>} s @param {string} base @returns {HTMLElement[]} */
function sourceOf(s, base) {
  const href = s.href ? `${base}/${s.href}` : '', make = (/** @type {string} */ tag, /** @type {object} */ what) => /** @type {HTMLElement} */ (Object.assign(document.createElement(tag), what));
  const name = make('p', { className: 'stage-name', textContent: [s.name, s.licence].filter(Boolean).join(' · ') });
  if (s.kind === 'picture') return [make('img', { src: href, alt: s.says || s.name }), name];
  if (s.kind === 'sound') return [make('audio', { src: href, controls: true, autoplay: true }), name];
  if (s.kind === 'video') return [make('video', { src: href, controls: true, autoplay: true }), name];
  if (s.kind === 'web' && (document.body.dataset.films ?? '').split(' ').some((host) => host && s.url.startsWith(`https://${host}/`))) return [make('iframe', { src: s.url, title: s.name, referrerPolicy: 'no-referrer', allowFullscreen: true }), name];
  return [make('p', { className: 'stage-sentence', textContent: s.name }), make('p', { className: 'stage-name', textContent: s.says || s.url })];
}

/** Follows a stream of frames, and takes it up again by itself whenever it breaks.
 * @param {string} path @param {(frame: any) => void} take @param {(lost: boolean) => void} state @param {() => void} closed it was closed for good */
export function follow(path, take, state, closed) {
  /** @type {WebSocket | null} */
  let socket = null;
  let waits = 0, over = false, timer = 0;
  const begin = () => {
    clearTimeout(timer);
    if (over || socket) return;
    const s = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${path}`);
    socket = s;
    s.onopen = () => { waits = 0; };
    s.onmessage = (e) => {
      const frame = JSON.parse(e.data);
      state(false);
      if (frame.ended) over = true;
      take(frame);
    };
    s.onclose = (e) => {
      if (socket === s) socket = null;
      if (over) return;
      if (e.code === 1008) { over = true; closed(); return; }
      state(true);
      waits = Math.min(waits + 1, 4);
      timer = window.setTimeout(begin, 250 * waits);
    };
  };
  const again = () => { if (!socket || socket.readyState > WebSocket.OPEN) { socket = null; begin(); } };
  addEventListener('online', again);
  addEventListener('pageshow', again);
  document.addEventListener('visibilitychange', () => { if (!document.hidden) again(); });
  begin();
  return { cut: () => socket?.close() };
}
