// @ts-check
// A walk that is drawn together: at each stop the server draws what stands there anew, with no
// empty distances in it. What stood before glides to its new place.

import { boxOf } from './around.js';

/** @typedef {{slips: Record<string, string>, links: Record<string, string>, regions: string}} Drawing */

const glideTime = 200;

export class Together {
  /** @param {string} path where drawings are fetched; empty where the walk shows the places of the map
   * @param {Map<string, SVGGElement>} elements on the paper, by their ids; kept up to date here */
  constructor(path, elements) {
    this.path = path;
    this.elements = elements;
    /** As the map has it: what is shown where no drawing can be had. @type {Drawing} */
    this.map = { slips: {}, links: {}, regions: /** @type {Element} */ (document.getElementById('regions')).innerHTML };
    if (path) for (const [id, g] of elements) this.map[id.startsWith('l-') ? 'links' : 'slips'][id] = g.outerHTML;
    /** By the stops that were gone through. @type {Map<string, Promise<Drawing>>} */
    this.known = new Map();
    this.now = this.map;
  }

  /** Fetches the drawing at the end of a way, so that it is there when it is wanted. @param {string[]} way stops */
  fetch(way) {
    const key = way.join(',');
    let drawing = this.known.get(key);
    if (!drawing) {
      drawing = fetch(`${this.path}?way=${encodeURIComponent(key)}`).then((r) => r.ok ? r.json() : Promise.reject(new Error(String(r.status))));
      drawing.catch(() => this.known.delete(key)); // it is asked for again
      this.known.set(key, drawing);
    }
    return drawing;
  }

  /** Puts the drawing at the end of a way on the paper. @param {string[]} way */
  async lay(way) {
    const drawing = await this.fetch(way).catch(() => this.map);
    return () => this.put(drawing);
  }

  /** Puts a drawing on the paper. @param {Drawing} drawing */
  put(drawing) {
    if (drawing === this.now) return;
    const before = new Map([...this.elements].filter(([, g]) => !g.classList.contains('hid')).map(([id, g]) => [id, boxOf(g)]));
    this.now = drawing;
    for (const group of /** @type {const} */ (['links', 'slips'])) {
      for (const [id, markup] of Object.entries(drawing[group])) {
        const holder = document.createElementNS('http://www.w3.org/2000/svg', 'g');
        holder.innerHTML = markup;
        const g = /** @type {SVGGElement} */ (holder.firstElementChild);
        this.elements.get(id)?.replaceWith(g);
        this.elements.set(id, g);
      }
    }
    /** @type {Element} */ (document.getElementById('regions')).innerHTML = drawing.regions;
    if (matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    for (const [id, was] of before) {
      const g = this.elements.get(id), is = g && boxOf(g);
      if (!g || !is || !was) continue;
      if (id.startsWith('l-')) g.animate([{ opacity: 0 }, { opacity: 1 }], glideTime);
      else if (was.x !== is.x || was.y !== is.y) g.animate([{ transform: `translate(${was.x - is.x}px, ${was.y - is.y}px)` }, { transform: 'none' }], { duration: glideTime, easing: 'ease-out', composite: 'add' });
    }
  }
}
