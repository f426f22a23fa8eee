// @ts-check
// The propositions as a table: each part is changed in place, sentences are
// sought, sorted, and added.

import { limits } from '../sync/limits.js';
import { newID } from '../sync/ids.js';
import { lineField } from './row-field.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'column' | 'model' | 'notice' | 'send' | 'view'>} App */

export class Sentences {
  /** @param {App} app @param {HTMLElement} column */
  constructor(app, column) {
    this.app = app;
    this.column = column;
    column.addEventListener('keydown', (e) => this.key(e));
    column.addEventListener('dblclick', (e) => {
      const part = this.part(e.target);
      if (part) this.edit(part);
    });
    for (const event of ['input', 'change']) {
      column.addEventListener(event, (e) => { if (/** @type {HTMLElement} */ (e.target).matches('[data-narrow]')) app.column.refresh(); });
    }
  }

  /** What the list is narrowed to, for the server. */
  query() {
    const value = (/** @type {string} */ id) => encodeURIComponent(/** @type {HTMLInputElement | null} */ (document.getElementById(id))?.value ?? '');
    return `?seek=${value('seek-sentences')}&which=${value('which-sentences')}&sort=${value('sort-sentences')}`;
  }

  /** @param {EventTarget | null} el @returns {HTMLElement | null} */
  part(el) { return el instanceof Element ? el.closest('#propositions .part') : null; }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const part = this.part(e.target), line = part?.closest('li');
    if (!part || !line || e.isComposing || e.altKey || e.ctrlKey || e.metaKey) return;
    const to = { ArrowUp: line.previousElementSibling, ArrowDown: line.nextElementSibling }[e.key];
    const aside = { ArrowLeft: part.previousElementSibling, ArrowRight: part.nextElementSibling }[e.key];
    const next = to?.querySelector(`[data-part="${part.dataset.part}"]`) ?? aside;
    if (next) /** @type {HTMLElement} */ (next).focus();
    else if (e.key === 'F2' || e.key === 'Enter') this.edit(part);
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      this.app.send([{ do: 'remove', links: [line.dataset.link ?? ''] }], []);
      this.app.notice(t('A link deleted.'), { words: t('Undo'), act: () => this.app.back('undo') });
    } else if (e.key.length === 1 && e.key !== ' ') {
      this.edit(part); // the character itself goes into the field
      return;
    } else return;
    e.preventDefault();
    e.stopPropagation();
  }

  /** Changes a part of a sentence: its phrase, or which concept it begins or
   * ends with: one that is there, or a new one. @param {HTMLElement} part */
  edit(part) {
    const { app } = this, line = /** @type {HTMLElement} */ (part.closest('li')), { link = '' } = line.dataset, which = part.dataset.part ?? '';
    const phrase = which === 'phrase', was = phrase ? app.model.links.get(link)?.words ?? '' : part.textContent ?? '';
    const label = { from: t('The concept that it begins with'), phrase: t('Linking phrase'), to: t('The concept that it ends with') }[which] ?? '';
    lineField(part, was, phrase ? 'verb-words' : 'noun-words', label, (words, how) => {
      if (how === 'in' || how === 'out') {
        const next = /** @type {HTMLElement | null} */ (how === 'in' ? part.nextElementSibling : part.previousElementSibling);
        if (next?.matches('.part')) this.edit(next);
      } else if (how !== 'done') part.focus();
      if (how === 'none' || words === was || (!phrase && !words)) return;
      const says = ['from', 'phrase', 'to'].map((p) => (p === which ? words : line.querySelector(`[data-part="${p}"]`)?.textContent ?? '')).join(' ');
      app.announce(t('It says now: %s', says));
      if (phrase) return app.send([{ do: 'name-link', link, phrase: words }], []);
      const own = (which === 'from' ? line.dataset.from : line.dataset.to) ?? '', l = app.model.links.get(link);
      const old = [...(l?.from ?? []), ...(l?.to ?? [])].find((e) => e.id === own), slip = app.model.slips.get(old?.concept ?? '');
      const id = newID('c');
      app.send([
        { do: 'add-concept', id, label: words, at: slip ? { x: slip.box.x + slip.box.w / 2 + 40, y: slip.box.y + slip.box.h + 40 } : { x: 0, y: 0 }, makeRoom: true, reuse: true },
        { do: 'move-end', link, old: own, end: { id: newID('e'), concept: id } },
      ], []);
    });
  }

  /** Opens an empty line at the end of the table, or goes to the one that is open. */
  addLine() {
    const list = /** @type {HTMLElement} */ (document.getElementById('propositions'));
    const open = /** @type {HTMLInputElement | null} */ (list.querySelector('.fresh-line input'));
    if (open) return open.focus();
    const line = Object.assign(document.createElement('li'), { className: 'fresh-line sentence-line' });
    const [from, phrase, to] = [['noun-words', t('The concept that it begins with'), 'a concept'], ['verb-words', t('Linking phrase'), t('linking phrase')], ['noun-words', t('The concept that it ends with'), 'another']].map(([cls, label, hint], i) => {
      const field = Object.assign(document.createElement('input'), { className: `line-field ${cls}`, maxLength: i === 1 ? limits.phrase : limits.label, placeholder: hint, autocomplete: 'off', lang: document.documentElement.lang });
      field.setAttribute('aria-label', label);
      line.append(field);
      return field;
    });
    line.addEventListener('keydown', (e) => {
      e.stopPropagation();
      if (e.isComposing || (e.key !== 'Enter' && e.key !== 'Escape')) return;
      e.preventDefault();
      const wanting = [from, phrase, to].find((f) => !f.value.trim() && f !== phrase);
      if (e.key === 'Enter' && e.target === from) phrase.focus();
      else if (e.key === 'Enter' && (wanting || e.target === phrase)) (wanting ?? to).focus();
      else if (e.key === 'Enter') this.say(from, phrase, to);
      else {
        line.remove();
        /** @type {HTMLElement | null} */ (this.column.querySelector('[data-do="add-sentence"]'))?.focus();
      }
    });
    // A line in which nothing was written goes when one turns to something else.
    line.addEventListener('focusout', (e) => { if (!line.contains(/** @type {Node | null} */ (e.relatedTarget)) && ![from, phrase, to].some((f) => f.value.trim())) line.remove(); });
    list.append(line);
    from.focus();
  }

  /** Draws the sentence of the open line; the next begins with the same concept.
   * @private @param {HTMLInputElement} from @param {HTMLInputElement} phrase @param {HTMLInputElement} to */
  async say(from, phrase, to) {
    const { app } = this, said = [from, phrase, to].map((f) => f.value.trim()), s = app.view.seen();
    const term = (/** @type {string} */ words) => ({ words, concept: newID('c'), end: newID('e') });
    phrase.value = to.value = '';
    phrase.focus();
    const ok = await app.send([{ do: 'say', link: newID('l'), from: [term(said[0])], phrase: said[1], to: [term(said[2])], at: { x: s.x + s.w / 2, y: s.y + s.h / 3 } }], []);
    if (ok) app.announce(t('Said: %s', said.join(' ')));
    else if (!phrase.value && !to.value) [phrase.value, to.value] = [said[1], said[2]];
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return { 'add-sentence': () => { this.addLine(); return true; } };
  }
}
