// @ts-check
// A large map comes onto the paper piece by piece: what is in sight at once, the rest while
// nothing else is to be done. Until then it lies in a template, where it costs neither style
// nor layout.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'model' | 'view'>} App */

/** How long a piece of the rest may take, in milliseconds: a frame is hardly late for it. */
const piece = 12;
/** How much around what is in sight comes with it, as a part of the window. */
const around = 0.25;

export class Arrival {
  /** @param {App} app @param {HTMLTemplateElement | null} rest */
  constructor(app, rest) {
    this.app = app;
    /** What is not on the paper yet, by its group. @type {Map<SVGGElement, Element>} */
    this.waiting = new Map();
    for (const group of rest?.content.querySelectorAll('[data-into]') ?? []) {
      const into = document.getElementById(/** @type {HTMLElement} */ (group).dataset.into ?? '');
      for (const el of [...group.children]) {
        if (into) this.waiting.set(/** @type {SVGGElement} */ (el), into);
        app.model.read(/** @type {SVGGElement} */ (el));
      }
    }
    rest?.remove();
  }

  /** Puts what is in sight onto the paper, and begins with the rest. */
  begin() {
    if (!this.waiting.size) return;
    this.inSight();
    this.app.view.listeners.push(() => this.inSight());
    addEventListener('beforeprint', () => this.finish());
    this.next();
  }

  /** Puts on the paper what a view of it shows. */
  inSight() {
    if (!this.waiting.size) return;
    const s = this.app.view.seen(), x = s.w * around, y = s.h * around;
    const seen = (/** @type {import('./view.js').Box} */ b) => b.x < s.x + s.w + x && b.x + b.w > s.x - x && b.y < s.y + s.h + y && b.y + b.h > s.y - y;
    const { slips, links } = this.app.model;
    const near = (/** @type {string} */ concept) => { const b = slips.get(concept)?.box; return !!b && seen(b); };
    for (const el of this.waiting.keys()) {
      const id = el.dataset.id ?? '', link = links.get(id);
      if (el.dataset.kind === 'link' ? link && (seen(link.gap) || [...link.from, ...link.to].some((e) => near(e.concept))) : near(id)) this.put(el);
    }
  }

  /** A piece of the rest, then the next. @private */
  next() {
    const soon = window.requestIdleCallback ?? ((/** @type {() => void} */ act) => setTimeout(act, 30));
    soon(() => {
      const until = performance.now() + piece;
      for (const el of this.waiting.keys()) {
        this.put(el);
        if (performance.now() > until) break;
      }
      if (this.waiting.size) this.next();
    }, { timeout: 400 });
  }

  /** Puts all of it onto the paper: for what needs the whole. */
  finish() {
    for (const el of this.waiting.keys()) this.put(el);
  }

  /** Groups stand in the order of their ids. @private @param {SVGGElement} el */
  put(el) {
    const into = this.waiting.get(el);
    this.waiting.delete(el);
    if (!into) return;
    const all = into.children;
    let low = 0, high = all.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (all[mid].id < el.id) low = mid + 1;
      else high = mid;
    }
    into.insertBefore(el, all[low] ?? null);
  }
}
