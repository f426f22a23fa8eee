// @ts-check
// The phrase bank: phrases that the server offers while one is typed, and those that
// are kept by hand.

import { newLink } from '../commands/edits.js';
import { phraseBefore } from '../sync/limits.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'discard' | 'freshMargin' | 'pointer' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'view' | 'words'>} App */
export class Phrases {
  /** @param {App} app @param {HTMLElement} list @param {HTMLElement} margin */
  constructor(app, list, margin) {
    this.app = app;
    this.list = list;
    /** @type {HTMLTextAreaElement | null} */
    this.field = null;
    this.at = -1;
    /** The words in the list that was gone to. @type {string | undefined} */
    this.gone = undefined;
    app.words.opened = (field, typing) => { if (typing.voice === 'verb' || typing.known) this.attach(field, typing.voice); };
    app.words.closed = () => this.close();
    list.addEventListener('pointerdown', (e) => {
      e.preventDefault(); // the field keeps the keyboard
      const item = /** @type {Element} */ (e.target).closest('[role="option"]');
      if (item) this.take(item);
    });
    /** Fields of the margin that are helped already. @type {WeakSet<EventTarget>} */
    this.helped = new WeakSet();
    margin.addEventListener('focusin', (e) => {
      const field = /** @type {HTMLTextAreaElement} */ (e.target);
      if (field.id !== 'jots') return;
      if (!this.helped.has(field)) this.listen(field);
      this.helped.add(field);
      this.list.setAttribute('aria-label', t('Concepts of this map'));
      this.field = field;
      this.at = -1;
    });
    margin.addEventListener('focusout', (e) => { if (e.target === this.field) this.close(); });
    margin.addEventListener('keydown', (e) => {
      const own = /** @type {HTMLElement} */ (e.target);
      if (e.key !== 'Enter' || e.isComposing || !own.matches('.own-phrase')) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      this.keep(own);
    }, true);
  }

  /** @param {HTMLTextAreaElement} field @param {'noun' | 'verb'} voice */
  attach(field, voice) {
    this.field = field;
    this.at = -1;
    this.list.setAttribute('aria-label', voice === 'verb' ? t('Phrases on offer') : t('Concepts of this map'));
    // Words that are there are about to be replaced: then all phrases are on offer.
    const was = field.value ? `&was=${encodeURIComponent(field.value)}` : '';
    for (const [name, value] of Object.entries({ name: 'typed', 'aria-autocomplete': 'list', 'aria-controls': this.list.id, 'hx-get': `${this.app.base}/offers?of=${voice === 'verb' ? 'phrase' : 'concept'}&in=phrase${was}`, 'hx-trigger': 'shown, input', 'hx-target': `#${this.list.id}`, 'hx-sync': 'this:replace' })) field.setAttribute(name, value);
    window.htmx.process(field);
    this.listen(field);
    this.app.view.listeners.push(this.placed = () => this.place());
    field.dispatchEvent(new Event('shown'));
  }

  /** @private @param {HTMLTextAreaElement} field which fetches its offers by itself */
  listen(field) {
    field.addEventListener('input', () => this.list.setAttribute('aria-busy', 'true'));
    field.addEventListener('htmx:after:swap', () => this.show());
    field.addEventListener('keydown', (e) => this.key(e), true);
  }

  /** Shows what is offered. */
  show() {
    if (!this.field) return;
    this.list.removeAttribute('aria-busy');
    // What was gone to stays so in a newer list.
    this.at = this.at < 0 ? -1 : [...this.list.children].findIndex((item) => /** @type {HTMLElement} */ (item).dataset.words === this.gone);
    this.list.children[this.at]?.setAttribute('aria-selected', 'true');
    this.list.hidden = !this.list.childElementCount;
    if (this.at < 0) this.field.removeAttribute('aria-activedescendant');
    this.place();
  }

  /** Puts the offers beside the field where they cover the fewest slips: below it if
   * they cover none there. @private */
  place() {
    if (!this.field || this.list.hidden) return;
    const f = this.field.getBoundingClientRect(), w = this.list.offsetWidth, h = this.list.offsetHeight, edge = 8, gap = 6;
    const { view, model } = this.app, desk = view.desk.getBoundingClientRect();
    const slips = [...model.slips.values()].map(({ box: b }) => ({ x: desk.left + view.x + b.x * view.k, y: desk.top + view.y + b.y * view.k, w: b.w * view.k, h: b.h * view.k }));
    const within = (/** @type {number} */ at, /** @type {number} */ size, /** @type {number} */ room) => Math.max(edge, Math.min(at, room - size - edge));
    const level = within(f.top, h, innerHeight), upright = within(f.left, w, innerWidth);
    const fits = [[upright, f.bottom + gap], [f.right + gap, level], [f.left - gap - w, level], [upright, f.top - gap - h]]
      .filter(([x, y]) => x >= edge && y >= edge && x + w <= innerWidth - edge && y + h <= innerHeight - edge)
      .map(([x, y]) => ({ x, y, covered: slips.filter((s) => s.x < x + w && x < s.x + s.w && s.y < y + h && y < s.y + s.h).length }));
    const best = fits.reduce((least, at) => (at.covered < least.covered ? at : least), fits[0] ?? { x: upright, y: within(f.bottom + gap, h, innerHeight), covered: 0 });
    this.list.style.left = `${best.x}px`;
    this.list.style.top = `${best.y}px`;
  }

  close() {
    this.field = null;
    this.list.hidden = true;
    this.app.view.listeners = this.app.view.listeners.filter((l) => l !== this.placed);
  }

  /** @param {KeyboardEvent} e */
  key(e) {
    const items = [...this.list.children];
    if (e.isComposing || this.list.hidden || !items.length) return;
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      this.at = (this.at + (e.key === 'ArrowDown' ? 1 : items.length - (this.at < 0 ? 0 : 1))) % items.length;
      items.forEach((item, i) => item.setAttribute('aria-selected', String(i === this.at)));
      this.field?.setAttribute('aria-activedescendant', items[this.at].id);
      this.gone = /** @type {HTMLElement} */ (items[this.at]).dataset.words;
    } else if (e.key === 'Enter' && !e.shiftKey && this.at >= 0) {
      this.take(items[this.at]);
    } else return;
    e.preventDefault();
    e.stopImmediatePropagation();
  }

  /** @param {Element} item */
  take(item) {
    const { field } = this, words = /** @type {HTMLElement} */ (item).dataset.words ?? '';
    if (!field) return;
    if (field === this.app.words.field) {
      field.value = words;
      return this.app.words.finish('enter');
    }
    // In the jot list a phrase that stands before it stays.
    const phrase = phraseBefore.exec(field.value)?.[1];
    field.value = phrase ? `${phrase}: ${words}` : words;
    this.list.hidden = true;
    this.at = -1;
  }

  /** Keeps a phrase of the author's own. @param {HTMLElement} near a control of its group */
  keep(near) {
    const group = /** @type {HTMLElement | null} */ (near.closest('[data-group]'));
    const input = group?.querySelector('input');
    if (!group || !input?.value.trim()) return input?.focus();
    this.change(group, { words: input.value, do: 'keep' }).then((kept) => {
      if (kept) input.value = '';
      input.focus();
    });
  }

  /** @private @param {HTMLElement} group @param {Record<string, string>} what */
  async change(group, what) {
    try {
      const response = await fetch('/phrases', { method: 'POST', body: new URLSearchParams({ group: group.dataset.group ?? '', ...what }) });
      if (!response.ok) {
        this.app.notice((await response.json()).error ?? t('That did not work.'), undefined, true);
        return false;
      }
      this.app.freshMargin();
      return true;
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
      return false;
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const groupOf = (/** @type {HTMLElement | undefined} */ c) => /** @type {HTMLElement | null} */ (c?.closest('[data-group]') ?? null);
    return {
      'use-phrase': (c) => this.use(c?.dataset.words ?? ''),
      'keep-phrase': (c) => { if (c) this.keep(c); return true; },
      'drop-phrase': (c) => {
        const group = groupOf(c), words = c?.dataset.words ?? '';
        if (group) this.change(group, { words, do: 'remove' }).then((gone) => { if (gone) this.app.notice(t('“%s” is out of your bank.', words), { words: t('Undo'), act: () => { this.change(group, { words, do: 'keep' }); } }); });
        return true;
      },
      'reset-phrases': (c) => {
        const group = groupOf(c);
        if (group) this.change(group, { do: 'reset' });
        return true;
      },
    };
  }

  /** Gives a phrase to what is selected. @param {string} phrase */
  use(phrase) {
    const { app } = this;
    const [link] = app.chosen.links(), [a, b] = app.chosen.concepts();
    if (link && app.chosen.only) app.send([{ do: 'name-link', link, phrase }], []);
    else if (b && app.chosen.list.length === 2) newLink(app, a, b, phrase);
    else app.notice(t('Select a link, or two concepts one after the other; then the phrase goes there.'));
  }
}
