// @ts-check
// What this viewer has switched on or off about the page; kept in the browser.

const kept = 'settings';

export class Settings {
  constructor() {
    /** A dragged concept takes along what is below it. */
    this.branch = false;
    /** What is dragged snaps to its neighbours. */
    this.snap = true;
    /** A grid, shown and snapped to. */
    this.grid = false;
    /** What hangs from a concept follows when it is painted. */
    this.below = false;
    /** The hints at the foot of the paper. */
    this.hints = true;
    /** The small overview of large maps. */
    this.overview = true;
    /** A tap adds to what is selected; for those without keys to hold. Not kept. */
    this.several = false;
    /** Dragging the paper draws a frame; not kept. */
    this.frame = false;
    try {
      const was = JSON.parse(localStorage.getItem(kept) ?? '{}');
      for (const name of /** @type {const} */ (['branch', 'snap', 'grid', 'below', 'hints', 'overview'])) if (typeof was?.[name] === 'boolean') this[name] = was[name];
    } catch { /* as shipped */ }
  }

  /** @param {string} name */
  toggle(name) {
    const all = /** @type {Record<string, any>} */ (this);
    if (typeof all[name] !== 'boolean') return;
    all[name] = !all[name];
    const { branch, snap, grid, below, hints, overview } = this;
    try { localStorage.setItem(kept, JSON.stringify({ branch, snap, grid, below, hints, overview })); } catch { /* for this visit only */ }
    this.mark();
  }

  /** Shows on all switches how they stand. */
  mark() {
    for (const el of document.querySelectorAll('[data-do="setting"]')) el.setAttribute('aria-pressed', String(/** @type {Record<string, any>} */ (this)[/** @type {HTMLElement} */ (el).dataset.name ?? ''] === true));
    document.body.classList.toggle('no-hints', !this.hints);
    document.body.classList.toggle('gridded', this.grid);
  }
}
