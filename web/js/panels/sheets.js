// @ts-check
// On a small window the margin, the outline and the tools are sheets above the bar at the
// thumb: one at a time, as high as somebody pulls it.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk' | 'page' | 'say' | 'showColumn' | 'showMargin'>} App */

/** Parts of the window's height: below the first a sheet is put away, at the others it
 * comes to rest. */
const away = 0.18, rests = [0.34, 0.52, 0.92];

/** Where a sheet comes to rest that was let go; 0 puts it away. @param {number} part @returns {number} */
export const restOf = (part) => (part < away ? 0 : rests.reduce((best, r) => (Math.abs(r - part) < Math.abs(best - part) ? r : best)));

export class Sheets {
  /** @param {App} app @param {HTMLElement | null} grip */
  constructor(app, grip) {
    this.app = app;
    this.part = rests[1];
    if (!grip) return;
    const bar = () => document.querySelector('.thumb')?.getBoundingClientRect().height ?? 0;
    grip.addEventListener('pointerdown', (e) => {
      e.preventDefault();
      grip.setPointerCapture(e.pointerId);
      const move = (/** @type {PointerEvent} */ m) => this.set((innerHeight - bar() - m.clientY) / innerHeight);
      const end = () => {
        grip.removeEventListener('pointermove', move);
        this.rest();
      };
      grip.addEventListener('pointermove', move);
      grip.addEventListener('pointerup', end, { once: true });
      grip.addEventListener('pointercancel', end, { once: true });
    });
    grip.addEventListener('keydown', (e) => {
      const step = { ArrowUp: 0.2, ArrowDown: -0.2 }[e.key];
      if (!step) return;
      e.preventDefault();
      this.set(this.part + step);
      this.rest();
    });
  }

  /** @private @param {number} part */
  set(part) {
    this.part = part;
    document.body.style.setProperty('--sheet', `${Math.max(0, part) * 100}dvh`);
    document.getElementById('sheet-grip')?.setAttribute('aria-valuenow', String(Math.round(part * 100)));
  }

  /** @private */
  rest() {
    const at = restOf(this.part);
    this.set(at || rests[1]);
    if (!at) this.close();
  }

  /** Nothing lies over the paper. */
  close() {
    const { app } = this;
    app.page.sheet = '';
    if (app.page.margin) app.showMargin(false);
    if (app.page.column) app.showColumn(false);
    app.desk.focus({ preventScroll: true });
  }

  /** Shows one and puts the others away; one that is there goes. @param {'say' | 'tools' | 'margin' | 'column'} which */
  show(which) {
    const { page } = this.app, is = which === 'margin' ? page.margin : which === 'column' ? page.column : page.sheet === which;
    this.close();
    if (is) return true;
    if (which === 'margin') this.app.showMargin(true);
    else if (which === 'column') this.app.showColumn(true);
    else page.sheet = which;
    if (which === 'say') requestAnimationFrame(() => this.app.say.from.focus());
    return true;
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      'say-sheet': () => this.show('say'),
      'tools-sheet': () => this.show('tools'),
      'margin-sheet': () => this.show('margin'),
      'column-sheet': () => this.show('column'),
    };
  }
}
