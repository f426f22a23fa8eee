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
    /** Words that are too long and are to be shortened. @type {Set<string>} */
    this.long = new Set();
    // A caret that was left in a field that is gone has the browser look for a place for it among
    // all that is drawn, at each frame.
    desk.addEventListener('focus', () => document.getSelection()?.removeAllRanges());
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
    const words = this.field?.value.trim() ?? '', most = this.typing?.most ?? Infinity;
    if (words.length > most && !shorten) return this.tooLong(words, () => this.finish(how, true));
    if (words.length > most) this.long.add(words);
    const typing = this.close();
    if (!typing) return;
    typing.done(words, how);
    if (!this.field && how !== 'away') this.desk.focus({ preventScroll: true });
  }

  /** Asks that words that are too long be shortened where something is named by them.
   * @param {Wire.Operation[]} operations @returns {Wire.Operation[]} */
  shortening(operations) {
    if (!this.long.size) return operations;
    return operations.map((op) => {
      const words = op.do === 'add-concept' || op.do === 'name-concept' || op.do === 'add-sibling' ? op.label : op.do === 'add-link' || op.do === 'name-link' ? op.phrase : '';
      return words && this.long.delete(words) ? /** @type {Wire.Operation} */ ({ ...op, shorten: true }) : op;
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
