// @ts-check
// The field in which words are typed, where they will stand and as they will
// look.

import { t } from '../sync/messages.js';

/** @typedef {'enter' | 'tab' | 'away'} How */
/** What is typed; known says that it may mean a concept that is there. @typedef {{voice: 'noun' | 'verb', x: number, y: number, value: string, all?: boolean, focus?: boolean, most: number, label: string, placeholder?: string, known?: boolean, like?: Element | null, width?: number, done: (words: string, how: How) => void, cancelled: () => void}} Typing */

export class Words {
  /** @param {HTMLElement} holder @param {HTMLElement} desk */
  constructor(holder, desk) {
    this.holder = holder;
    this.desk = desk;
    /** @type {HTMLTextAreaElement | null} */
    this.field = null;
    /** @type {Typing | null} */
    this.typing = null;
    /** Whoever helps with what is typed. @type {(field: HTMLTextAreaElement, typing: Typing) => void} */
    this.opened = () => {};
    this.closed = () => {};
    /** Told of words that are too long, and what shortens them. @type {(words: string, shorten: () => void) => void} */
    this.tooLong = () => {};
    /** Words that were shortened, with all of them. @type {Map<string, string>} */
    this.wholes = new Map();
  }

  /** Opens the field; one that is open is done with first. @param {Typing} typing @returns {Typing} */
  open(typing) {
    this.finish('away');
    const field = document.createElement('textarea');
    field.className = `field ${typing.voice}-field${typing.focus ? ' focus' : ''}`;
    field.rows = 1;
    field.value = typing.value;
    field.setAttribute('aria-label', typing.label);
    field.placeholder = typing.placeholder ?? '';
    field.spellcheck = true;
    field.lang = document.documentElement.lang;
    this.setLike(field, typing);
    field.style.left = `${typing.x}px`;
    field.style.top = `${typing.y}px`;
    field.style.transform = typing.voice === 'noun' ? 'translate(-50%, 0)' : 'translate(-50%, -50%)';
    this.holder.append(field);
    this.field = field;
    this.typing = typing;
    this.fit();
    field.focus({ preventScroll: true });
    if (typing.all) field.select();
    else field.setSelectionRange(field.value.length, field.value.length);
    this.opened(field, typing);
    field.addEventListener('input', () => this.fit());
    field.addEventListener('keydown', (e) => this.key(e));
    field.addEventListener('blur', () => { if (this.field === field && document.hasFocus()) this.finish('away'); });
    return typing;
  }

  /** Sets the field as the words that it stands for are set. @private @param {HTMLTextAreaElement} field @param {Typing} typing */
  setLike(field, typing) {
    const words = typing.like;
    if (words) {
      const is = (/** @type {string} */ cls) => words.classList.contains(cls), size = Number(words.getAttribute('font-size'));
      field.style.fontSize = `${size}px`;
      field.style.lineHeight = String(19 / 15);
      field.style.fontWeight = is('bold') ? '700' : '400';
      field.style.fontStyle = is('italic') ? 'italic' : 'normal';
      field.style.textAlign = is('at-left') ? 'left' : is('at-right') ? 'right' : 'center';
      if (size > 15) field.style.maxWidth = `${(166 * size) / 15 + 40}px`;
    }
    if (typing.width) field.style.width = field.style.maxWidth = `${typing.width}px`;
  }

  /** Grows with the words where the browser does not do it by itself. */
  fit() {
    if (!this.field || CSS.supports('field-sizing', 'content')) return;
    this.field.style.width = '220px';
    this.field.style.height = '0';
    this.field.style.height = `${this.field.scrollHeight}px`;
  }

  /** @param {number} x @param {number} y */
  moveTo(x, y) {
    if (!this.field) return;
    this.field.style.left = `${x}px`;
    this.field.style.top = `${y}px`;
  }

  /** @param {KeyboardEvent} e */
  key(e) {
    e.stopPropagation();
    if (e.isComposing) return;
    if (e.key === 'Enter' && !e.shiftKey) {
      e.preventDefault();
      this.finish('enter');
    } else if (e.key === 'Tab' && !e.shiftKey) {
      e.preventDefault();
      this.finish('tab');
    } else if (e.key === 'Escape') {
      e.preventDefault();
      this.close()?.cancelled();
      if (!this.field) this.desk.focus({ preventScroll: true });
    }
  }

  /** Words that are too long stay in the field and say so; where the hand has gone on,
   * they are shortened. @param {How} how @param {boolean} [shorten] */
  finish(how, shorten = how === 'away') {
    const all = this.field?.value.trim() ?? '', most = this.typing?.most ?? Infinity;
    if (all.length > most && !shorten) return this.tooLong(all, () => this.finish(how, true));
    const words = shortened(all, most);
    if (words !== all) this.wholes.set(words, all);
    const typing = this.close();
    if (!typing) return;
    typing.done(words, how);
    if (!this.field && how !== 'away') this.desk.focus({ preventScroll: true });
  }

  /** Adds to what names a thing by words that were shortened a note with all of them.
   * @param {Wire.Operation[]} operations @returns {Wire.Operation[]} */
  withWhole(operations) {
    if (!this.wholes.size) return operations;
    return operations.flatMap((op) => {
      const on = op.do === 'add-concept' ? { kind: 'concept', id: op.id, words: op.label } : op.do === 'name-concept' || op.do === 'add-sibling' ? { kind: 'concept', id: op.concept, words: op.label }
        : op.do === 'add-link' ? { kind: 'link', id: op.id, words: op.phrase } : op.do === 'name-link' ? { kind: 'link', id: op.link, words: op.phrase } : null;
      const whole = on && this.wholes.get(on.words ?? '');
      if (!on || !whole) return [op];
      this.wholes.delete(on.words ?? '');
      return [op, /** @type {Wire.Operation} */ ({ do: 'set-note', on: { kind: on.kind, id: on.id }, note: whole, append: true })];
    });
  }

  /** @private */
  close() {
    const { typing, field } = this;
    this.typing = this.field = null;
    field?.remove();
    this.closed();
    return typing;
  }
}

/** As many whole words as there is room for. @param {string} words @param {number} most letters @returns {string} */
export function shortened(words, most) {
  if (words.length <= most) return words;
  const cut = words.slice(0, most - 1), end = cut.lastIndexOf(' ');
  return `${(end > most / 2 ? cut.slice(0, end) : cut).trimEnd()}…`;
}
