// @ts-check
// What stands on the paper, read from the drawing itself, together with what
// has been made here and is not answered yet.

/** @typedef {import('./view.js').Box} Box */
/** @typedef {{id: string, el: SVGGElement, box: Box, drawn: Point, main: {link: string, end: string, rank?: string, parent?: string} | null, focus: boolean, words: string, hides: string[], region?: boolean, provisional?: boolean}} Slip */
/** @typedef {{id: string, concept: string}} End */
/** @typedef {{x: number, y: number}} Point */
/** How a line is led by hand: its manner, its bends by the end from which they are counted, where its phrase stands. @typedef {{line: string, bends: Record<string, Point[]>, along: number, hub: Point | null}} Led */
/** @typedef {{id: string, el: SVGGElement, gap: Box, from: End[], to: End[], heads: string, words: string, led: Led, veiled?: boolean, provisional?: boolean}} Link */

/** @param {string | null} list @returns {Box} */
function box(list) {
  const [x, y, w, h] = (list ?? '').split(' ').map(Number);
  return { x, y, w, h };
}

/** The box of a slip, from what the server drew of it. @param {string} drawn @returns {Box | null} */
export function boxIn(drawn) {
  const holder = document.createElementNS('http://www.w3.org/2000/svg', 'g');
  holder.innerHTML = drawn;
  const el = /** @type {SVGGElement | null} */ (holder.firstElementChild);
  return el?.dataset.box ? box(el.dataset.box) : null;
}

/** @param {string | null} list @returns {End[]} */
const ends = (list) => (list ? list.split(' ').map((e) => { const [id, concept] = e.split(':'); return { id, concept }; }) : []);

/** @returns {Led} */
export const unled = () => ({ line: '', bends: {}, along: 0, hub: null });

/** @param {DOMStringMap} data @returns {Led} */
function ledOf(data) {
  const led = unled();
  led.line = data.line ?? '';
  // What putting the map in order led runs by itself as soon as a hand is on it;
  // several ends go on meeting where they do.
  if (data.tidied && !data.from?.includes(' ') && !data.to?.includes(' ')) return led;
  led.along = Number(data.along ?? 0);
  const point = (/** @type {string} */ p) => { const [x, y] = p.split(' ').map(Number); return { x, y }; };
  if (data.hub) led.hub = point(data.hub);
  for (const part of data.bends?.split(';') ?? []) {
    const [end, places] = part.split(':');
    led.bends[end] = places.split(',').map(point);
  }
  return led;
}

/** The elements that hold the lines of a group's words. @param {Element} el @param {string} cls */
export function linesOf(el, cls) {
  const text = el.querySelector(`.${cls}`);
  return !text ? [] : text.childElementCount ? [...text.children] : [text];
}

/** The words of a group, its lines joined. @param {Element} el @param {string} cls */
const wordsOf = (el, cls) => /** @type {SVGElement} */ (el).dataset.words ?? linesOf(el, cls).map((t) => t.textContent ?? '').join(' ');

/** Reads the words of a thing when they are first asked for: a page that opens a
 * thousand of them needs none. @template {{el: Element, words: string}} T @param {T} thing @param {string} cls @returns {T} */
function lazyWords(thing, cls) {
  /** @type {string | null} */
  let words = null;
  Object.defineProperty(thing, 'words', {
    get: () => (words ??= wordsOf(thing.el, cls)),
    set: (value) => { words = value; },
    enumerable: true,
  });
  return thing;
}

/** Puts the drawing of a slip where its box is; by itself it stands where it was drawn. @param {Slip} slip */
export function put({ el, box: b, drawn }) {
  if (b.x === drawn.x && b.y === drawn.y) el.removeAttribute('transform');
  else el.setAttribute('transform', `translate(${b.x - drawn.x} ${b.y - drawn.y})`);
}

export class Model {
  constructor() {
    /** @type {Map<string, Slip>} */
    this.slips = new Map();
    /** @type {Map<string, Link>} */
    this.links = new Map();
  }

  /** Reads a group of the drawing. @param {SVGGElement} el */
  read(el) {
    const id = el.dataset.id ?? '';
    if (el.dataset.kind === 'concept') {
      const [link, end, rank, parent] = (el.dataset.main ?? '').split(' ');
      this.slips.set(id, lazyWords({ id, el, box: box(el.dataset.box ?? ''), drawn: box(el.dataset.box ?? ''), main: link ? { link, end, rank, parent } : null, focus: el.classList.contains('focus'), words: '', hides: el.dataset.hides?.split(' ') ?? [], region: el.dataset.region === '1' }, 'noun'));
    } else {
      this.links.set(id, lazyWords({ id, el, gap: box(el.dataset.gap ?? ''), from: ends(el.dataset.from ?? ''), to: ends(el.dataset.to ?? ''), heads: el.dataset.heads ?? 'one', words: '', led: ledOf(el.dataset), veiled: el.classList.contains('veiled') }, 'verb'));
    }
  }

  /** @param {string} element c-… or l-… */
  drop(element) {
    (element.startsWith('c-') ? this.slips : this.links).delete(element.slice(2));
  }

  /** @param {string} element @returns {Slip | Link | undefined} */
  get(element) {
    return element.startsWith('c-') ? this.slips.get(element.slice(2)) : this.links.get(element.slice(2));
  }

  /** @param {string} element @returns {Box | undefined} */
  boxOf(element) {
    return element.startsWith('c-') ? this.slips.get(element.slice(2))?.box : this.links.get(element.slice(2))?.gap;
  }

  /** The links that end at any of the concepts. @param {Set<string>} concepts */
  linksAt(concepts) {
    return [...this.links.values()].filter((l) => [...l.from, ...l.to].some((e) => concepts.has(e.concept)));
  }

  /** Everything's box, or null on empty paper. @returns {Box | null} */
  bounds() {
    let x0 = Infinity, y0 = Infinity, x1 = -Infinity, y1 = -Infinity;
    const key = /** @type {HTMLElement | null} */ (document.querySelector('#key-on-paper > .paper-key')), axis = /** @type {SVGGElement | null} */ (document.querySelector('#axis > .axis'))?.getBBox();
    for (const b of [...[...this.slips.values()].map((s) => s.box), ...[...this.links.values()].map((l) => l.gap), ...(key ? [box(key.dataset.box ?? '')] : []), ...(axis ? [{ x: axis.x, y: axis.y, w: axis.width, h: axis.height }] : [])]) {
      x0 = Math.min(x0, b.x);
      y0 = Math.min(y0, b.y);
      x1 = Math.max(x1, b.x + b.w);
      y1 = Math.max(y1, b.y + b.h);
    }
    return x0 === Infinity ? null : { x: x0, y: y0, w: x1 - x0, h: y1 - y0 };
  }

  /** The children of a concept by main links, in the order of siblings. @param {string} id */
  children(id) {
    const rank = (/** @type {Slip} */ s) => s.main?.rank ?? '~'; // new ones come last
    return [...this.slips.values()].filter((s) => this.parent(s) === id).sort((a, b) => (rank(a) < rank(b) ? -1 : rank(a) > rank(b) ? 1 : 0));
  }

  /** A concept with all that is below it, from the top down. @param {string} id */
  branch(id) {
    /** @type {Map<string, string[]>} */
    const below = new Map();
    for (const s of this.slips.values()) {
      const above = this.parent(s);
      if (above) below.set(above, [...(below.get(above) ?? []), s.id]);
    }
    const all = new Set([id]);
    for (const at of all) for (const child of below.get(at) ?? []) all.add(child);
    return [...all];
  }

  /** The concept from which one hangs: as the server says, or the one at the other side
   * of a link that it does not know yet. @param {Slip} slip */
  parent(slip) {
    if (slip.main?.parent) return slip.main.parent;
    const link = slip.main && this.links.get(slip.main.link);
    if (!slip.main || !link) return null;
    const side = link.from.some((e) => e.id === slip.main?.end) ? link.to : link.from;
    return side[0]?.concept ?? null;
  }

  /** What an arrow key goes to: the parent, the first child or the next sibling that lies
   * that way; where none does, the neighbour that does.
   * @param {Slip} from @param {number} dx @param {number} dy one of them 0, the other 1 or -1
   * @param {string} grows to which side the map grows, '' where it stands as it was placed */
  towards(from, dx, dy, grows) {
    const parent = this.slips.get(this.parent(from) ?? ''), ways = { down: [0, 1], up: [0, -1], right: [1, 0], left: [-1, 0] };
    const [ox, oy] = ways[/** @type {keyof typeof ways} */ (grows)] ?? [0, 0], along = dx * ox + dy * oy;
    const at = (/** @type {Slip} */ s) => [s.box.x + s.box.w / 2, s.box.y + s.box.h / 2], [cx, cy] = at(from);
    const siblings = parent ? this.children(parent.id).filter((s) => s !== from) : [], children = this.children(from.id);
    if (ox || oy) {
      if (along < 0 && parent) return parent;
      if (along > 0 && children.length) return children[0];
      const ahead = (/** @type {Slip} */ s) => { const [x, y] = at(s); return (x - cx) * dx + (y - cy) * dy; };
      const next = along ? undefined : siblings.filter((s) => ahead(s) > 1).sort((a, b) => ahead(a) - ahead(b))[0];
      return next ?? this.neighbour(from, dx, dy);
    }
    const related = [...(parent ? [parent] : []), ...children.slice(0, 1), ...siblings].filter((s) => {
      const [x, y] = at(s), ahead = (x - cx) * dx + (y - cy) * dy, aside = Math.abs((x - cx) * dy) + Math.abs((y - cy) * dx);
      return ahead > 4 && aside <= ahead;
    });
    const far = (/** @type {Slip} */ s) => { const [x, y] = at(s); return Math.hypot(x - cx, y - cy) + (s === parent || s === children[0] ? 0 : 1); };
    return related.sort((a, b) => far(a) - far(b))[0] ?? this.neighbour(from, dx, dy);
  }

  /** The neighbour in a direction: near, and rather ahead than aside.
   * @param {Slip} from @param {number} dx @param {number} dy one of them 0, the other 1 or -1 */
  neighbour(from, dx, dy) {
    const cx = from.box.x + from.box.w / 2, cy = from.box.y + from.box.h / 2;
    let best = null, bestCost = Infinity;
    for (const s of this.slips.values()) {
      const x = s.box.x + s.box.w / 2 - cx, y = s.box.y + s.box.h / 2 - cy;
      const ahead = x * dx + y * dy, aside = Math.abs(x * dy) + Math.abs(y * dx);
      if (s.id === from.id || ahead < 4 || aside > 2.5 * ahead) continue;
      const cost = ahead + 2 * aside;
      if (cost < bestCost) [best, bestCost] = [s, cost];
    }
    return best;
  }
}
