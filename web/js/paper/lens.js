// @ts-check
// A lens shows something about the map on the paper: levels as bands, branches
// and groups as faint colours, one thing while the rest fades. It is this
// viewer's own and no edit.

import { svg } from './provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'arrival' | 'announce' | 'base' | 'chosen' | 'do' | 'model' | 'notice' | 'page' | 'view'>} App */
/** @typedef {{title: string, says: string, keep?: string[], hide?: boolean, tints?: Record<string, number>, numbers?: Record<string, string>, most?: string, choose?: string[], bands?: {level: number, x: number, y: number, w: number, h: number}[]}} Shown */

/** How many faint colours there are. */
const tints = 8;

export class Lens {
  /** @param {App} app @param {SVGGElement} bands @param {SVGGElement} marks */
  constructor(app, bands, marks) {
    this.app = app;
    this.bands = bands;
    this.marks = marks;
    /** What was asked for, or nothing. @type {string | null} */
    this.query = null;
    /** @type {Shown | null} */
    this.shown = null;
    this.wanted = 0;
  }

  /** What a filter asks for stays, the rest fades or is hidden. @param {string} asked @param {boolean} [again] a second time ends it */
  async filter(asked, again = true) {
    const query = `what=filter&${asked}`;
    if (again && query === this.query) return this.close();
    this.query = query;
    await this.fetch(true);
  }

  /** @param {string} what @param {string} [steps] */
  async see(what, steps) {
    const query = `what=${what}&steps=${steps ?? ''}&chosen=${this.app.chosen.list.slice(0, 2).join(',')}`;
    if (query === this.query) return this.close(); // a second press ends it
    this.query = query;
    await this.fetch(true);
  }

  /** @private @param {boolean} asked somebody waits for it */
  async fetch(asked) {
    const { query, app } = this;
    if (!query) return;
    try {
      const response = await fetch(query.startsWith('what=who') ? `${app.base}/who` : `${app.base}/lens?${query}`), answer = await response.json();
      if (query !== this.query) return;
      if (!response.ok) {
        this.close();
        if (asked) app.notice(answer.error);
        return;
      }
      this.shown = answer;
      this.show();
      if (asked && answer.choose) {
        app.chosen.set(answer.choose.filter((/** @type {string} */ e) => app.model.get(e)));
        this.gather();
      }
      if (asked) app.announce(`${answer.title}: ${answer.says}`);
    } catch {
      if (asked) app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** Brings all that is selected into view. @private */
  gather() {
    const { model, view, chosen } = this.app, seen = view.seen();
    const boxes = chosen.list.map((e) => model.boxOf(e)).filter((b) => b !== undefined);
    if (boxes.every((b) => b.x > seen.x && b.y > seen.y && b.x + b.w < seen.x + seen.w && b.y + b.h < seen.y + seen.h)) return;
    this.app.do('fit-chosen');
  }

  /** The map has changed: what is shown follows, soon. */
  fresh() {
    if (!this.query) return;
    this.mark();
    if (this.query === 'light') return;
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(() => this.fetch(false), 120);
  }

  /** @private */
  show() {
    const s = this.shown;
    if (!s) return;
    this.app.page.lens = { title: s.title, says: s.says };
    this.bands.replaceChildren(...(s.bands ?? []).flatMap((b, i) => {
      const across = b.h > b.w;
      const label = svg('text', { class: 'band-number', x: across ? b.x + b.w / 2 : b.x + 16, y: across ? b.y + 30 : b.y + b.h / 2 + 9 }, String(b.level));
      return [svg('rect', { class: t('band %s', i % 2 ? 'even' : 'odd'), x: b.x, y: b.y, width: b.w, height: b.h }), label];
    }));
    this.mark();
  }

  /** Marks what is drawn: after each newer drawing again. @private */
  mark() {
    const s = this.shown, keep = s?.keep && new Set(s.keep);
    document.body.classList.toggle('lensed', !!keep);
    document.body.classList.toggle('hiding', !!keep && !!s?.hide);
    this.app.arrival.finish();
    for (const el of /** @type {NodeListOf<SVGGElement>} */ (document.querySelectorAll('#slips > g, #links > g'))) {
      el.classList.toggle('kept', !!keep?.has(el.id));
      const tint = s?.tints?.[el.dataset.id ?? ''];
      if (tint === undefined || !el.id.startsWith('c-')) delete el.dataset.tint;
      else el.dataset.tint = String(tint % tints);
    }
    this.marks.replaceChildren(...Object.entries(s?.numbers ?? {}).flatMap(([id, words]) => {
      const b = this.app.model.slips.get(id)?.box;
      return b ? [svg('text', { class: id === s?.most ? 'figure most' : 'figure', x: b.x + b.w - 6, y: b.y - 4 }, words)] : [];
    }));
  }

  /** Lights some elements, without words of its own. @param {string[]} elements */
  light(elements) {
    this.query = 'light';
    this.shown = { title: '', says: '', keep: elements };
    this.bands.replaceChildren();
    this.app.page.lens = null;
    this.mark();
  }

  close() {
    if (!this.query) return false;
    this.query = this.shown = null;
    this.app.page.lens = null;
    this.bands.replaceChildren();
    this.mark();
    return true;
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      lens: (c) => { if (c?.dataset.query) this.filter(c.dataset.query); else this.see(c?.dataset.what ?? '', c?.dataset.steps); return true; },
      'lens-close': () => { this.close(); },
    };
  }
}
