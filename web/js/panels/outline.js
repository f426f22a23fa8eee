// @ts-check
// The outline as a place to work: lines are written, moved among siblings and
// levels, and carried, by keys and by the pointer. Whatever is done here goes
// the way of any other edit, so that outline and paper are never out of step.

import * as acts from '../commands/edits.js';
import { limits } from '../sync/limits.js';
import { newID } from '../sync/ids.js';
import { lineField } from './row-field.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'column' | 'discard' | 'pointer' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'words'>} App */

export class Outline {
  /** @param {App} app @param {HTMLElement} column @param {HTMLDialogElement} dialog */
  constructor(app, column, dialog) {
    this.app = app;
    this.column = column;
    this.dialog = dialog;
    /** What has the keyboard, to give it back when the line is drawn anew. */
    this.at = { concept: '', part: '' };
    column.addEventListener('keydown', (e) => this.key(e));
    column.addEventListener('focusin', (e) => {
      const el = /** @type {HTMLElement} */ (e.target), line = this.line(el);
      this.at = { concept: line?.dataset.concept ?? '', part: el.classList.contains('row-phrase') ? 'row-phrase' : 'row-noun' };
    });
    column.addEventListener('dblclick', (e) => {
      const el = /** @type {HTMLElement} */ (e.target).closest('.row-noun'), line = el && this.line(el);
      if (line) this.edit(line);
    });
    this.listenToCarrying();
    dialog.addEventListener('close', () => this.focus(this.at.concept));
  }

  /** @param {Element} el @returns {HTMLElement | null} */
  line(el) { return el.closest('#outline > li[data-concept]'); }

  /** @param {string} concept @returns {HTMLElement | null} */
  of(concept) { return this.column.querySelector(`#outline > li[data-concept="${concept}"]`); }

  /** @param {string} concept @param {string} [part] */
  focus(concept, part = 'row-noun') { /** @type {HTMLElement | null} */ (this.of(concept)?.querySelector(`.${part}`) ?? this.of(concept)?.querySelector('.row-noun') ?? null)?.focus(); }

  /** After the column was drawn anew: the line that had the keyboard has it again. */
  drawn() {
    if (this.at.concept && document.activeElement === document.body) this.focus(this.at.concept, this.at.part);
  }

  /** @param {HTMLElement} line */
  choose(line) { this.app.chosen.set([`c-${line.dataset.concept}`]); }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const el = /** @type {HTMLElement} */ (e.target), line = this.line(el);
    if (!line || el instanceof HTMLInputElement || e.isComposing || e.altKey) return;
    const concept = line.dataset.concept ?? '', ctrl = e.ctrlKey || e.metaKey;
    const took = () => { e.preventDefault(); e.stopPropagation(); };
    const step = { ArrowUp: 'previousElementSibling', ArrowDown: 'nextElementSibling' }[e.key];
    if (ctrl && e.shiftKey && e.key === 'ArrowUp') { took(); this.choose(line); this.app.tuck.toggle([concept]); }
    else if (ctrl && step) { took(); acts.shiftLevel(this.app, concept, e.key === 'ArrowUp' ? 'up' : 'down'); }
    else if (ctrl && (e.key === 'ArrowLeft' || e.key === 'ArrowRight')) { took(); acts.rank(this.app, concept, e.key === 'ArrowLeft' ? -1 : 1); }
    else if (ctrl) return this.withControl(e, took);
    else if (step) {
      took();
      const next = /** @type {HTMLElement | null} */ (/** @type {any} */ (line)[step]);
      if (next) { this.choose(next); this.focus(next.dataset.concept ?? ''); }
    } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') { took(); this.focus(concept, e.key === 'ArrowLeft' ? 'row-phrase' : 'row-noun'); }
    else if (e.key === 'Enter' && !el.matches('.twist, .pointer')) { took(); if (el.matches('.row-phrase')) this.editPhrase(line); else this.write(concept, 'beside'); }
    else if (e.key === 'F2') { took(); if (e.shiftKey || el.matches('.row-phrase')) this.editPhrase(line); else this.edit(line); }
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      took();
      const near = /** @type {HTMLElement | null} */ (line.previousElementSibling ?? line.nextElementSibling);
      this.choose(line);
      acts.remove(this.app);
      if (near) this.focus(near.dataset.concept ?? '');
    } else if (e.key.length === 1 && e.key !== ' ' && !el.matches('.twist, .pointer')) {
      // The character itself goes into the field.
      if (el.matches('.row-phrase')) this.editPhrase(line); else this.edit(line);
    }
  }

  /** @private @param {KeyboardEvent} e @param {() => void} took */
  withControl(e, took) {
    const key = e.key.toLowerCase();
    if (key !== 'z' && key !== 'y') return;
    took();
    this.app.back(key === 'y' || e.shiftKey ? 'redo' : 'undo');
  }

  /** Changes the words of a line. @param {HTMLElement} line */
  edit(line) {
    const { app } = this, concept = line.dataset.concept ?? '', el = /** @type {HTMLElement} */ (line.querySelector('.row-noun'));
    const was = app.model.slips.get(concept)?.words ?? '';
    this.choose(line);
    lineField(el, was.replace(/\n/g, ' '), 'noun-words', t('Words of %s', was || t('this concept')), (words, how) => {
      if (how !== 'none' && words && words !== was.replace(/\n/g, ' ')) {
        app.send([{ do: 'name-concept', concept, label: words }], []);
        el.textContent = words;
        app.announce(t('%s is called %s now', was || 'It', words));
      }
      if (how === 'in' || how === 'out') acts.shiftLevel(app, concept, how === 'in' ? 'down' : 'up');
      if (how === 'next') this.write(concept, 'beside');
      else if (how !== 'done') this.focus(concept);
    });
  }

  /** Changes the phrase by which a line hangs. @param {HTMLElement} line */
  editPhrase(line) {
    const { app } = this, { link = '', concept = '' } = line.dataset, el = /** @type {HTMLElement | null} */ (line.querySelector('.row-phrase'));
    if (!el || !link) return;
    const was = app.model.links.get(link)?.words ?? '';
    lineField(el, was, 'verb-words', t('Phrase that leads to %s', app.model.slips.get(concept)?.words ?? t('this concept')), (words, how) => {
      if (how !== 'none' && words !== was) {
        app.send([{ do: 'name-link', link, phrase: words }], []);
        el.textContent = words || t('no words yet');
        app.announce(words ? t('%s leads to %s now', words, app.model.slips.get(concept)?.words ?? 'it') : t('The link has no words now'));
      }
      if (how !== 'done') this.focus(concept);
    });
  }

  /** Writes a new line: beside a concept, behind all that is below it, or below
   * it. Tab and Shift+Tab change which. @param {string} concept @param {'beside' | 'below'} where */
  write(concept, where) {
    const { app } = this, line = this.of(concept), slip = app.model.slips.get(concept);
    if (!line || !slip) return;
    if (!line.dataset.parent) where = 'below';
    const depth = Number(line.dataset.depth) + (where === 'below' ? 1 : 0);
    const holder = document.createElement('li');
    holder.className = 'fresh-line';
    const row = document.createElement('div'), phrase = document.createElement('input'), noun = document.createElement('input');
    row.className = `row depth-${Math.min(9, depth)}`;
    const own = app.model.links.get(line.dataset.link ?? '');
    Object.assign(phrase, { className: 'line-field verb-words', maxLength: limits.phrase, placeholder: 'phrase', value: where === 'beside' ? own?.words ?? '' : '' });
    Object.assign(noun, { className: 'line-field noun-words', maxLength: limits.label, placeholder: t('a new concept') });
    phrase.setAttribute('aria-label', t('Phrase of the new line'));
    noun.setAttribute('aria-label', t('New concept %s %s', where === 'below' ? 'below' : 'beside', slip.words));
    row.append(phrase, noun);
    holder.append(row);
    // Behind everything that is below the line.
    let last = /** @type {Element} */ (line);
    while (where === 'beside' && Number(/** @type {HTMLElement | null} */ (last.nextElementSibling)?.dataset.depth ?? 0) > Number(line.dataset.depth)) last = /** @type {Element} */ (last.nextElementSibling);
    last.after(holder);
    // Below a concept the phrase is asked for first: it is not known yet.
    (where === 'below' ? phrase : noun).focus();
    let open = true;
    const end = () => { open = false; holder.remove(); };
    holder.addEventListener('keydown', (e) => {
      e.stopPropagation();
      if (e.isComposing) return;
      const edge = e.target === noun && noun.selectionStart === 0 && noun.selectionEnd === 0;
      if (e.key === 'Enter' && e.target === phrase) noun.focus();
      else if (e.key === 'Enter') {
        const words = noun.value.trim();
        if (!words) { end(); this.focus(concept); } else { end(); this.put(concept, where, phrase.value.trim(), words, true); }
      } else if (e.key === 'Escape') { end(); this.focus(concept); }
      else if (e.key === 'Tab' && !e.shiftKey && where === 'beside') { end(); this.write(concept, 'below'); this.carryOver(noun.value); }
      else if (e.key === 'Tab' && e.shiftKey && where === 'below' && line.dataset.parent) { end(); this.write(concept, 'beside'); this.carryOver(noun.value); }
      else if (e.key === 'Tab' && e.shiftKey && line.dataset.parent && this.of(line.dataset.parent)?.dataset.parent) { end(); this.write(line.dataset.parent, 'beside'); this.carryOver(noun.value); }
      else if (e.key === 'ArrowLeft' && edge) phrase.focus();
      else return;
      e.preventDefault();
    });
    holder.addEventListener('focusout', (e) => {
      if (!open || holder.contains(/** @type {Node | null} */ (e.relatedTarget))) return;
      const words = noun.value.trim();
      if (words) this.put(concept, where, phrase.value.trim(), words);
      end();
    });
  }

  /** What was typed goes along to another level. @private @param {string} words */
  carryOver(words) {
    const noun = /** @type {HTMLInputElement | null} */ (this.column.querySelector('.fresh-line .noun-words'));
    if (noun) noun.value = words;
  }

  /** @private @param {string} concept @param {'beside' | 'below'} where @param {string} phrase @param {string} words @param {boolean} [on] whether to go on with the next line */
  put(concept, where, phrase, words, on) {
    const { app } = this, own = app.model.slips.get(concept);
    if (!own) return;
    const id = newID('c'), link = newID('l'), mine = newID('e'), above = newID('e');
    app.send(where === 'beside' ? [{ do: 'add-sibling', concept: id, label: words, phrase, beside: concept, link, own: mine, above }] : [
      { do: 'add-concept', id, label: words, at: app.places.at(`c-${concept}`, 'child'), makeRoom: true, reuse: true },
      { do: 'add-link', id: link, from: [{ id: above, concept }], to: [{ id: mine, concept: id }], phrase },
    ], []).then((ok) => {
      if (!on) return;
      // What was there already stands elsewhere: the hand stays here.
      if (!ok || !app.model.slips.has(id)) this.focus(concept);
      else app.column.when(() => this.of(id), () => this.write(id, 'beside'));
    });
    app.announce(where === 'beside' ? t('%s added beside %s', words, own.words) : t('%s linked to %s%s', words, own.words, phrase ? ` with ${phrase}` : t(', without words yet')));
  }

  /** Lines are carried to another place, which is shown before they are let go. @private */
  listenToCarrying() {
    /** @type {{line: HTMLElement, x: number, y: number, moved: boolean, below: string, after: string} | null} */
    let held = null;
    const unmark = () => { for (const el of this.column.querySelectorAll('.put-before, .put-behind, .put-below')) el.classList.remove('put-before', 'put-behind', 'put-below'); };
    this.column.addEventListener('pointerdown', (e) => {
      const el = /** @type {HTMLElement} */ (e.target), line = this.line(el);
      if (!line || e.button !== 0 || el instanceof HTMLInputElement || !line.dataset.parent) return;
      held = { line, x: e.clientX, y: e.clientY, moved: false, below: '', after: '' };
    });
    document.addEventListener('pointermove', (e) => {
      if (!held) return;
      if (!held.moved && Math.hypot(e.clientX - held.x, e.clientY - held.y) < 8) return;
      held.moved = true;
      held.line.classList.add('lifted');
      unmark();
      held.below = held.after = '';
      const over = document.elementsFromPoint(e.clientX, e.clientY).map((el) => this.line(el)).find(Boolean);
      if (!over || over === held.line) return;
      const r = over.getBoundingClientRect(), part = (e.clientY - r.top) / r.height, id = over.dataset.concept ?? '';
      const before = /** @type {HTMLElement[]} */ ([...this.column.querySelectorAll(`#outline > li[data-parent="${over.dataset.parent}"]`)]).filter((l) => l !== held?.line);
      if (part < 0.3 && over.dataset.parent) {
        over.classList.add('put-before');
        held.below = over.dataset.parent;
        held.after = before[before.indexOf(over) - 1]?.dataset.concept ?? '';
      } else if (part > 0.7 && over.dataset.parent) {
        over.classList.add('put-behind');
        held.below = over.dataset.parent;
        held.after = id;
      } else {
        over.classList.add('put-below');
        held.below = id;
        held.after = /** @type {HTMLElement | undefined} */ ([...this.column.querySelectorAll(`#outline > li[data-parent="${id}"]`)].at(-1))?.dataset.concept ?? '';
        if (held.after === held.line.dataset.concept) held.below = '';
      }
    });
    const end = (/** @type {PointerEvent} */ e) => {
      const was = held;
      held = null;
      if (!was?.moved) return;
      was.line.classList.remove('lifted');
      unmark();
      const swallow = (/** @type {Event} */ c) => { c.stopPropagation(); c.preventDefault(); };
      window.addEventListener('click', swallow, { capture: true, once: true });
      window.setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0);
      if (e.type !== 'pointerup' || !was.below) return;
      this.app.send([{ do: 'hang', concept: was.line.dataset.concept ?? '', below: was.below, ...(was.after ? { after: was.after } : {}), link: newID('l'), own: newID('e'), parent: newID('e') }], []);
    };
    document.addEventListener('pointerup', end);
    document.addEventListener('pointercancel', end);
  }

  /** Shows the children of a concept in another order. @private @param {string} parent @param {string} way */
  async order(parent, way) {
    try {
      const response = await fetch(`${this.app.base}/order?parent=${parent}&way=${way}`);
      if (!response.ok) throw new Error((await response.json()).error);
      this.dialog.innerHTML = await response.text();
      this.dialog.dataset.parent = parent;
      if (!this.dialog.open) this.dialog.showModal();
    } catch (e) {
      this.app.notice(e instanceof TypeError ? t('The server cannot be reached just now. Nothing has changed.') : String(/** @type {Error} */ (e).message), undefined, true);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      'edit-phrase': (c) => { const line = c && this.line(c); if (line) this.editPhrase(line); return true; },
      'tuck-row': (c) => { app.tuck.toggle([c?.dataset.concept ?? '']); return true; },
      order: () => {
        const only = app.chosen.only?.slice(2) ?? '', slip = app.model.slips.get(only);
        const focus = [...app.model.slips.values()].find((s) => s.focus)?.id ?? '';
        // Of a concept that has none below it, its siblings are meant.
        const parent = slip && app.model.children(only).length ? only : (slip && app.model.parent(slip)) || focus;
        if (parent) this.order(parent, 'words');
        else app.notice(t('Select a concept whose branches should be put in order.'));
        return true;
      },
      'order-by': (c) => { this.order(this.dialog.dataset.parent ?? '', c?.dataset.way ?? ''); return true; },
      'put-order': (c) => { this.dialog.close(); app.send(JSON.parse(c?.dataset.steps ?? '[]'), []); return true; },
      'drop-order': () => { this.dialog.close(); return true; },
    };
  }
}
