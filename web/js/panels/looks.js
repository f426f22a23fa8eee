// @ts-check
// How the map and single things on it are dressed: looks are seen before they are
// taken, kept under names, copied from one thing to another.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'desk' | 'ground' | 'margin' | 'model' | 'notice' | 'send' | 'sources'>} App */

export class Looks {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** The look that was copied. @type {{fill: Wire.Colour, words: Wire.Colour, border: Wire.Colour, outline: Wire.Outline, size: number, bold: boolean, italic: boolean} | null} */
    this.look = null;
    this.tried = 0;
    // Colours of one's own are seen while they are chosen, and taken once they are.
    document.addEventListener('input', (e) => { if (/** @type {HTMLElement} */ (e.target).dataset?.own) this.tryOn(); });
    document.addEventListener('change', (e) => { if (/** @type {HTMLElement} */ (e.target).dataset?.own) this.take(); });
    // A look is seen before it is taken: under the pointer, or with the keyboard on it.
    /** What the paper wears while none is tried on. @type {string | null} */
    let worn = null;
    const on = (/** @type {Event} */ e) => {
      const dress = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest?.('.dress'));
      if (!dress) return;
      worn ??= [...app.desk.classList].filter((c) => /^(look|paper)-/.test(c)).join(' ');
      app.ground.dress([`look-${dress.dataset.dress || 'plain'}`, ...worn.split(' ').filter((c) => c.startsWith('paper-'))].join(' '));
    };
    const off = (/** @type {Event} */ e) => {
      if (worn === null || !(/** @type {Element} */ (e.target)).closest?.('.dress')) return;
      app.ground.dress(worn);
      worn = null;
    };
    document.addEventListener('pointerover', on);
    document.addEventListener('focusin', on);
    document.addEventListener('pointerout', off);
    document.addEventListener('focusout', off);
    document.addEventListener('click', (e) => { if (/** @type {Element} */ (e.target).closest('.dress')) worn = null; }, true);
  }

  /** The colours that are chosen now. @private */
  colours() {
    const of = (/** @type {string} */ what) => /** @type {HTMLInputElement} */ (document.getElementById(`own-${what}`)).value;
    return { paper: of('paper'), slip: of('slip'), ink: of('ink') };
  }

  /** Shows the colours that are chosen, soon. @private */
  tryOn() {
    clearTimeout(this.tried);
    const { app } = this;
    this.tried = window.setTimeout(async () => {
      const response = await fetch(`${app.base}/look.css?${new URLSearchParams(this.colours())}`).catch(() => null);
      if (response?.ok) app.ground.wear(await response.text());
    }, 60);
  }

  /** Puts the colours that are chosen on the map. @private */
  async take() {
    clearTimeout(this.tried);
    const { app } = this;
    if (!await app.send([{ do: 'set-look', own: this.colours() }], [])) app.ground.wear(null);
  }

  /** Keeps the look of the map for others, or forgets one. @param {string} [drop] */
  async keep(drop) {
    const { app } = this, field = /** @type {HTMLInputElement} */ (document.getElementById('look-name')), name = drop ?? field.value.trim();
    if (!name) return field.focus();
    try {
      const response = await fetch(`${app.base}/looks${drop ? '/drop' : ''}`, { method: 'POST', body: new URLSearchParams({ name }) });
      if (!response.ok) return app.notice((await response.json()).error, undefined, true);
      if (!drop) field.value = '';
      app.notice(drop ? t('The look “%s” is forgotten; maps that wear it keep it.', name) : t('The look is kept as “%s”, for all your maps.', name));
      app.margin.fresh();
    } catch {
      app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      'keep-look': () => { this.keep(); return true; },
      backdrop: () => { app.sources.ground.click(); return true; },
      'drop-look': (control) => { this.keep(control?.dataset.name); return true; },
      'copy-look': () => {
        const slip = app.model.slips.get(app.chosen.concepts()[0]);
        const has = (/** @type {string} */ what) => [...slip?.el.classList ?? []].find((c) => c.startsWith(`${what}-`))?.slice(what.length + 1) ?? '';
        this.look = /** @type {any} */ ({ fill: has('fill') || has('colour'), words: has('words'), border: has('border'), outline: slip?.el.dataset.outline ?? '', size: Number(slip?.el.dataset.size ?? 0), bold: !!slip?.el.querySelector('.noun.bold'), italic: !!slip?.el.querySelector('.noun.italic') });
        app.notice(t('The look is copied. Select others and press “Paste look”.'));
        return true;
      },
      'paste-look': () => {
        const concepts = app.chosen.concepts();
        if (!this.look || !concepts.length) { app.notice(this.look ? t('Select the concepts first that should look so.') : t('Copy the look of a concept first.')); return true; }
        const { size, bold, italic, ...paint } = this.look;
        app.send([{ do: 'set-paint', concepts, clear: true, ...paint }, { do: 'set-type', concepts, size, bold, italic }], []);
        return true;
      },
    };
  }
}
