// @ts-check
// A chain of sentences as one paragraph: lit on the paper sentence by sentence, and read aloud
// with its words lit.

import { t } from '../sync/messages.js';
import { Aloud } from '../commands/aloud.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'desk' | 'lens' | 'notice'>} App */

export class Chain {
  /** @param {App} app @param {HTMLElement} panel */
  constructor(app, panel) {
    this.app = app;
    this.panel = panel;
    this.asked = new URLSearchParams();
    this.aloud = new Aloud({
      mark: (elements, at, from, to) => this.lit(elements, at, from, to),
      state: (on) => panel.querySelector('[data-do="chain-read"]')?.setAttribute('aria-pressed', String(on)),
      failed: (words) => app.notice(words),
    });
    panel.addEventListener('change', (e) => {
      const field = /** @type {HTMLSelectElement} */ (e.target);
      this.asked.set(field.dataset.chain ?? '', field.value);
      this.show();
    });
    panel.addEventListener('keydown', (e) => {
      if (!e.ctrlKey && !e.metaKey && !/^F\d/.test(e.key)) e.stopPropagation(); // plain keys of the paper are not for here
      if (e.key === 'Escape') { e.preventDefault(); this.close(); }
      if (e.key === 'r' && !e.ctrlKey && !e.metaKey && !e.altKey) { e.preventDefault(); this.read(); }
    });
    panel.addEventListener('pointerover', (e) => {
      const sentence = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.chain-sentence'));
      if (sentence && !this.aloud.reading) app.lens.light((sentence.dataset.elements ?? '').split(' '));
    });
  }

  /** @private */
  get sentences() { return /** @type {HTMLElement[]} */ ([...this.panel.querySelectorAll('.chain-sentence')]); }

  /** From what is selected on: from one concept, or from one to another. */
  begin() {
    const [from, to] = this.app.chosen.list.filter((id) => id.startsWith('c-')).map((id) => id.slice(2));
    if (!from) return this.app.notice(t('Select the concept from which to read on.'));
    this.asked.set('from', from);
    this.asked.set('to', to ?? '');
    if (!this.asked.get('steps')) this.asked.set('steps', '2');
    this.show();
  }

  /** @private */
  async show() {
    this.aloud.stop();
    try {
      const response = await fetch(`${this.app.base}/chain?${this.asked}`);
      if (!response.ok) return this.app.notice((await response.json()).error);
      const at = this.panel.contains(document.activeElement) && document.activeElement instanceof HTMLElement ? document.activeElement.dataset.chain : undefined;
      this.panel.innerHTML = await response.text();
      this.panel.hidden = false;
      document.body.classList.add('in-round');
      this.app.lens.light(this.sentences.flatMap((s) => (s.dataset.elements ?? '').split(' ')));
      /** @type {HTMLElement | null} */ (this.panel.querySelector(at ? `[data-chain="${at}"]` : '.chain-words') ?? this.panel.querySelector('button'))?.focus({ preventScroll: true });
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  read() {
    if (this.aloud.reading) return this.aloud.stop();
    const all = this.sentences.map((s) => ({ words: s.textContent ?? '', elements: (s.dataset.elements ?? '').split(' ') }));
    if (all.length) this.aloud.read(all, /** @type {HTMLElement | null} */ (this.panel.querySelector('.chain-words'))?.lang ?? '');
  }

  /** Lights the sentence that is read, and its word. @private @param {string[]} elements @param {number} [at] the sentence @param {number} [from] where the word begins @param {number} [to] where it ends */
  lit(elements, at, from, to) {
    this.sentences.forEach((s, i) => s.classList.toggle('being-said', i === at));
    const words = at === undefined ? undefined : this.sentences[at]?.firstChild;
    if (window.CSS?.highlights) {
      CSS.highlights.delete('being-said');
      if (words && from !== undefined && to !== undefined && to <= (words.textContent?.length ?? 0)) {
        const range = new Range();
        range.setStart(words, from);
        range.setEnd(words, to);
        CSS.highlights.set('being-said', new Highlight(range));
      }
    }
    this.app.lens.light(elements.length ? elements : this.sentences.flatMap((s) => (s.dataset.elements ?? '').split(' ')));
  }

  close() {
    if (this.panel.hidden) return;
    this.aloud.stop();
    this.panel.hidden = true;
    document.body.classList.remove('in-round');
    this.app.lens.close();
    this.app.desk.focus({ preventScroll: true });
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      chain: () => { this.begin(); return true; },
      'chain-read': () => { this.read(); return true; },
      'chain-close': () => { this.close(); return true; },
    };
  }
}
