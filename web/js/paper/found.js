// @ts-check
// Small marks on the paper where Check has found something: a press opens the finding in the
// margin. They are drawn from what the margin lists, while the phase is Check.

import { svg } from './provisional.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'choose' | 'model' | 'phase' | 'showPhase'>} App */

export class Found {
  /** @param {App} app @param {HTMLElement} margin @param {SVGGElement} marks */
  constructor(app, margin, marks) {
    this.app = app;
    this.margin = margin;
    this.marks = marks;
    marks.addEventListener('pointerdown', (e) => e.stopPropagation());
    marks.addEventListener('click', (e) => {
      const mark = /** @type {Element} */ (e.target).closest('[data-at]');
      e.stopPropagation();
      if (mark) this.open(mark.getAttribute('data-at') ?? '');
    });
  }

  /** The places that the margin lists, by the element that each is about first. @private */
  places() {
    /** @type {Map<string, HTMLElement[]>} */
    const at = new Map();
    for (const place of /** @type {NodeListOf<HTMLElement>} */ (this.margin.querySelectorAll('.finding .place[data-element]'))) {
      const element = place.dataset.element ?? '';
      at.set(element, [...(at.get(element) ?? []), place]);
    }
    return at;
  }

  /** Draws the marks anew: when the margin has come, and when what they mark has moved. */
  mark() {
    if (this.app.phase !== 'check') return this.marks.replaceChildren();
    this.marks.replaceChildren(...[...this.places()].flatMap(([element, places]) => {
      const b = this.app.model.boxOf(element);
      if (!b) return [];
      const titles = places.map((p) => p.closest('.finding')?.querySelector('summary [data-title]')?.textContent ?? '');
      // At the corner of a slip; behind the words of a phrase, below what was judged of it.
      const [x, y] = element.startsWith('l-') ? [b.x + b.w + 8, b.y + b.h] : [b.x + 1, b.y + 1];
      const g = svg('g', { class: 'found-mark', 'data-at': element, transform: `translate(${x} ${y})` });
      const title = svg('title', {});
      title.textContent = titles.join('\n');
      g.append(title, svg('circle', { r: 8 }), svg('text', { y: 4 }, places.length > 1 ? String(places.length) : '!'));
      return [g];
    }));
  }

  /** Opens what was found at an element. @param {string} element */
  open(element) {
    this.app.showPhase('check');
    const [place] = this.places().get(element) ?? [];
    const finding = /** @type {HTMLDetailsElement | null} */ (place?.closest('.finding') ?? null);
    if (!place || !finding) return;
    finding.open = true;
    this.app.choose(element);
    place.scrollIntoView({ block: 'center' });
    place.focus({ preventScroll: true });
  }
}
