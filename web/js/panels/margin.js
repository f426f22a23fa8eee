// @ts-check
// The margin: what the server says of the selected thing and the phase. What is
// the viewer's own in it outlives a newer one.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'desk' | 'found' | 'guide' | 'jots' | 'model' | 'page' | 'phase' | 'plain' | 'settings' | 'tidy' | 'writing'>} App */

const parts = ['this', 'phase', 'lenses', 'map'];

/** Folds that are on every map; others are named by what only one has. */
const lasting = /^(about-.*|talk|key|tags|regions|filters|tasks|talked|tray|look|hand|settings|see|map-note|card-marks)$/;

/** How folds were left. @returns {[string, boolean][]} */
function remembered() {
  try { return Object.entries(JSON.parse(localStorage.getItem('folds') ?? '{}')).filter(([fold, open]) => lasting.test(fold) && typeof open === 'boolean'); } catch { return []; }
}

/** @param {string} fold @param {boolean} open */
function remember(fold, open) {
  try { localStorage.setItem('folds', JSON.stringify({ ...Object.fromEntries(remembered()), [fold]: open })); } catch { /* for this visit only */ }
}

export class Margin {
  /** @param {App} app @param {HTMLElement} el */
  constructor(app, el) {
    this.app = app;
    this.el = el;
    this.wanted = 0;
    this.shownFor = '';
    /** Parts that are on their way. @type {Set<Element>} */
    this.coming = new Set();
    this.whole = true;
    /** Folds whose content is on its way. @type {Set<Element>} */
    this.filling = new Set();
    // What the page itself sets on an element, by its state, a newer margin does not take off.
    window.htmx.registerExtension('bound', { htmx_before_morph_attr: (on, { attrName }) => !on.hasAttribute(`x-bind:${attrName}`) });
    this.keep();
  }

  /** Whether a newer margin is on its way. */
  get pending() {
    // What was replaced while it was on its way is not told of any more.
    for (const part of this.coming) if (!part.isConnected) this.coming.delete(part);
    return this.wanted !== 0 || this.coming.size > 0;
  }

  /** Says whether it is, for those who do not see it. @private */
  busy() {
    if (this.pending) this.el.setAttribute('aria-busy', 'true');
    else this.el.removeAttribute('aria-busy');
  }

  /** Fetches its parts for what is selected now, soon; what it says of the whole map
   * only where that may be another. While a new concept waits for its words it goes on
   * showing what that one is linked to. @param {boolean} [whole] */
  fresh(whole = true) {
    const { app } = this;
    clearTimeout(this.wanted);
    this.whole ||= whole;
    const drawn = app.chosen.list.filter((e) => !app.model.get(e)?.provisional);
    if (drawn.length || !app.chosen.list.length) this.shownFor = drawn.slice(0, 200).join(',');
    this.stale();
    this.wanted = window.setTimeout(() => {
      this.wanted = 0;
      if (!app.page.margin || app.plain) return this.busy();
      this.asks();
      for (const part of this.whole ? parts : parts.slice(0, -1)) document.getElementById(`margin-${part}`)?.dispatchEvent(new Event('fresh'));
      this.whole = false;
      this.busy();
    }, 60);
    this.busy();
  }

  /** What tells of another thing than the one selected cannot be used until the right
   * one has come, however slow the line. @private */
  stale() {
    const body = /** @type {HTMLElement | null} */ (this.el.querySelector('.margin-body'));
    const is = !!body && (body.dataset.chosen ?? '') !== this.shownFor;
    if (body && body.inert !== is) body.inert = is;
    body?.classList.toggle('stale', is);
  }

  /** Opens folds, one within the other, and gives what is sought in them once it is
   * there; null where it does not come. @param {string[]} folds @param {string} sought */
  async reach(folds, sought) {
    for (let tries = 0; tries < 60; tries++) {
      for (const fold of folds) {
        const d = /** @type {HTMLDetailsElement | null} */ (this.el.querySelector(`details[data-fold="${fold}"]`));
        if (d) d.open = true;
      }
      const found = this.el.querySelector(sought);
      if (found && !this.pending) return /** @type {HTMLElement} */ (found);
      await new Promise((r) => { setTimeout(r, 40); });
    }
    return null;
  }

  /** Writes down what its parts ask for. @private */
  asks() {
    const form = /** @type {HTMLFormElement | null} */ (document.getElementById('margin-asks'));
    const open = [.../** @type {NodeListOf<HTMLElement>} */ (this.el.querySelectorAll('details[data-fold][open]'))].map((d) => d.dataset.fold);
    const asked = { chosen: this.shownFor, phase: this.app.phase, ...this.app.guide.asks(), open: open.join(',') };
    for (const [name, value] of Object.entries(asked)) {
      const field = /** @type {HTMLInputElement | null | undefined} */ (form?.elements.namedItem(name));
      if (field) field.value = value;
    }
  }

  /** Fetches what lies in folds that are open and have not been seen yet. @private */
  fill() {
    for (const body of this.el.querySelectorAll('details[open] > .fold-body')) {
      if (body.querySelector(':scope > :not([data-waits])') || this.filling.has(body)) continue;
      this.filling.add(body);
      this.asks();
      body.dispatchEvent(new Event('shown'));
    }
  }

  /** Which folds are open, and what is being typed, stays. @private */
  keep() {
    const { app, el } = this;
    const name = (/** @type {HTMLElement} */ d) => d.dataset.fold ?? d.querySelector('summary')?.textContent;
    /** How each part stood before a newer one came. @type {WeakMap<Element, {held: string, inside: boolean, field?: string | null}>} */
    const stood = new WeakMap();
    /** Which folds were left open or closed, also those that are not there for the moment. @type {Map<string | null | undefined, boolean>} */
    const left = new Map(remembered());
    const stand = (/** @type {Element} */ part) => { for (const d of part.querySelectorAll('details')) d.open = left.get(name(d)) ?? d.open; };
    stand(el);
    el.addEventListener('toggle', () => this.fill(), true);
    // What somebody opened or closed stays so, on the next visit, too.
    el.addEventListener('click', (e) => {
      const d = /** @type {Element} */ (e.target).closest('summary')?.parentElement;
      const fold = d instanceof HTMLDetailsElement ? d.dataset.fold : '';
      if (fold && lasting.test(fold)) requestAnimationFrame(() => remember(fold, /** @type {HTMLDetailsElement} */ (d).open));
    });
    /** Does something where a part of the margin is spoken of. @param {string} what @param {(part: Element) => void} act */
    const on = (what, act) => document.addEventListener(`htmx:${what}`, (e) => { const part = /** @type {Element} */ (e.target); if (el.contains(part)) act(part); });
    on('before:request', (part) => { this.coming.add(part); this.busy(); });
    on('finally:request', (part) => { this.coming.delete(part); this.filling.delete(part); this.busy(); });
    on('before:swap', (part) => {
      for (const d of part.querySelectorAll('details')) left.set(name(d), d.open);
      stood.set(part, { held: app.writing.held(), inside: el.contains(document.activeElement), field: document.activeElement?.getAttribute('data-field') });
    });
    on('after:swap', (part) => {
      const { held, inside, field } = stood.get(part) ?? { held: '', inside: false, field: null };
      stand(part);
      this.stale();
      app.writing.restore(held);
      if (part.id === 'margin-phase') {
        app.guide.took();
        app.jots.show();
        app.tidy.mark();
        app.found.mark();
      }
      this.fill();
      // What had the keyboard is gone: what shows the same field takes it, or the paper.
      if (inside && document.activeElement === document.body) {
        /** @type {HTMLElement} */ (field && el.querySelector(`[data-field="${field}"]`) || app.desk).focus({ preventScroll: true });
      }
      app.page.found = Number(/** @type {HTMLElement | null} */ (el.querySelector('#margin-map > section'))?.dataset.found);
    });
  }
}
