// @ts-check
// A note or a card is written large, as it will look. The text stays what its field in the margin
// holds; the editor itself is fetched when it is first wanted.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'notice' | 'writing'>} App */

export class WritingDesk {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    /** @type {ReturnType<typeof import('../rich/editor.js')['edit']> | null} */
    this.editor = null;
    /** How to find the field: a newer margin may have put another one in its place. */
    this.field = '';
    this.text = '';
    dialog.addEventListener('close', () => this.closed());
    dialog.addEventListener('mousedown', (e) => { if (/** @type {Element} */ (e.target).closest('[data-rich]')) e.preventDefault(); }); // what is selected stays so
    dialog.addEventListener('click', (e) => {
      const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-rich]'));
      if (!button) return;
      if (button.dataset.rich === 'link') this.link(button.getAttribute('aria-pressed') !== 'true');
      else this.editor?.do(button.dataset.rich ?? '');
    });
    const form = /** @type {HTMLFormElement} */ (dialog.querySelector('.rich-link'));
    form.addEventListener('submit', (e) => {
      e.preventDefault();
      const address = /** @type {HTMLInputElement} */ (form.elements.namedItem('address')).value.trim();
      form.hidden = true;
      if (address) this.editor?.link(/^[a-z]+:/i.test(address) ? address : `https://${address}`);
    });
  }

  /** @param {string} id of the field @param {string} title */
  async open(id, title) {
    const field = /** @type {HTMLTextAreaElement | null} */ (document.getElementById(id));
    if (!field) return;
    this.field = id;
    this.text = field.value;
    try {
      const { edit, keeps } = /** @type {typeof import('../rich/editor.js')} */ (await import(/* @vite-ignore */ `${'/assets/js/editor.js'}`));
      if (!keeps(field.value)) {
        this.app.notice(t('This text has marks that the large page does not know. It can be written in its field.'));
        const fold = field.closest('details');
        if (fold) fold.open = true;
        return field.focus();
      }
      const place = /** @type {HTMLElement} */ (this.dialog.querySelector('.rich-place'));
      place.replaceChildren();
      /** @type {HTMLElement} */ (this.dialog.querySelector('h2')).textContent = title;
      this.dialog.showModal();
      this.editor = edit(place, field.value, {
        label: title, done: () => this.dialog.close(),
        changed: (text) => this.changed(text),
        moved: (on) => {
          for (const b of /** @type {NodeListOf<HTMLElement>} */ (this.dialog.querySelectorAll('[data-rich]'))) b.setAttribute('aria-pressed', String(on.has(b.dataset.rich ?? '')));
          /** @type {HTMLElement} */ (this.dialog.querySelector('.rich-table')).hidden = !on.has('table');
        },
      });
      this.editor.focus();
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @private @param {boolean} on */
  link(on) {
    const form = /** @type {HTMLFormElement} */ (this.dialog.querySelector('.rich-link'));
    if (!on) return this.editor?.link('');
    form.hidden = false;
    form.reset();
    /** @type {HTMLElement} */ (form.elements.namedItem('address')).focus();
  }

  /** What is written goes the way of what is typed into the field. @private @param {string} text */
  changed(text) {
    this.text = text;
    const field = /** @type {HTMLTextAreaElement | null} */ (document.getElementById(this.field));
    if (!field) return;
    const most = field.maxLength;
    /** @type {HTMLElement} */ (this.dialog.querySelector('.rich-fault')).textContent = most > 0 && text.length > most ? t('This is too long: %s characters at most.', most) : '';
    if (most > 0 && text.length > most) return;
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
  }

  /** @private */
  closed() {
    this.app.writing.send();
    this.editor?.close();
    this.editor = null;
    /** @type {HTMLElement | null} */ (document.querySelector(`[data-do="write-large"][data-field="${this.field}"]`))?.focus();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return { 'write-large': (c) => { this.open(c?.dataset.field ?? '', c?.dataset.title ?? ''); return true; } };
  }
}
