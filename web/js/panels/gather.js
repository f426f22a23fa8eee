// @ts-check
// The jot list: an idea, Enter, the next. With one concept selected, ideas are
// put down linked from it; the selection does not slip to what is new.

import { newID } from '../sync/ids.js';
import { phraseBefore } from '../sync/limits.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'discard' | 'pointer' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'view' | 'words' | 'writing'>} App */
/** @typedef {{id: string, words: string, under: string, known: boolean}} Jotted */

const listed = 30;

export class Jots {
  /** @param {App} app @param {HTMLElement} margin @param {HTMLDialogElement} dialog */
  constructor(app, margin, dialog) {
    this.app = app;
    this.margin = margin;
    this.dialog = dialog;
    /** What was jotted down in this visit, the latest last. @type {Jotted[]} */
    this.done = [];
    this.text = '';
    margin.addEventListener('keydown', (e) => {
      if (!this.isField(e.target) || e.isComposing || e.key !== 'Enter' || e.shiftKey) return;
      e.preventDefault();
      this.put();
    });
    margin.addEventListener('paste', (e) => {
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (!this.isField(e.target) || text.split(/\r?\n/).filter((l) => l.trim()).length < 2) return;
      e.preventDefault();
      this.preview(text);
    });
    for (const what of ['focusin', 'focusout']) margin.addEventListener(what, () => this.mark());
    dialog.addEventListener('change', (e) => {
      const box = /** @type {HTMLInputElement} */ (e.target);
      if (box.id === 'shorten') this.preview(this.text, box.checked);
    });
    dialog.addEventListener('close', () => this.field?.focus());
  }

  /** @param {EventTarget | null} el */
  isField(el) { return el instanceof HTMLTextAreaElement && el.id === 'jots'; }

  get field() { return /** @type {HTMLTextAreaElement | null} */ (document.getElementById('jots')); }

  /** The concept that is being fed. */
  get under() {
    const only = this.app.chosen.only;
    return only?.startsWith('c-') && this.app.model.get(only) ? only.slice(2) : '';
  }

  /** Shows on the paper which concept is being fed. */
  mark() {
    const on = this.isField(document.activeElement) && this.under;
    for (const el of document.querySelectorAll('.slip.fed')) if (el.id !== `c-${on}`) el.classList.remove('fed');
    if (on) document.getElementById(`c-${on}`)?.classList.add('fed');
  }

  /** Puts down what is in the field. */
  put() {
    const field = this.field, { app } = this;
    const words = field?.value.trim().replace(/\s*\n\s*/g, ' ') ?? '';
    if (!field?.value || !words) return;
    const id = newID('c'), under = this.under;
    if (under && app.model.slips.get(under)?.hides.length) app.tuck.toggle([under]);
    const at = this.place(under);
    app.provisional.slip(id, at, (under && phraseBefore.exec(words)?.[2]) || words);
    app.send([{ do: 'jot', concept: id, words, at, ...(under ? { under, link: newID('l'), own: newID('e'), above: newID('e') } : {}) }], [`c-${id}`], () => {
      if (field.value) return false;
      field.value = words;
      app.writing.keep(field);
      return true;
    });
    this.done.push({ id, words, under, known: false });
    field.value = '';
    app.writing.keep(field);
    app.announce(t('Jotted down: %s', words));
    const box = app.model.slips.get(id)?.box;
    if (box) app.reveal(box);
    this.show();
  }

  /** Where the next idea goes: below the last one, or among the children.
   * @param {string} under */
  place(under) {
    const { model, view } = this.app;
    if (under && model.slips.has(under)) return this.app.places.at(`c-${under}`, 'child');
    const s = view.seen();
    const last = model.slips.get(this.done.findLast((j) => !j.under)?.id ?? '')?.box;
    const at = last ? { x: last.x + last.w / 2, y: last.y + last.h + 20 } : { x: s.x + 130, y: s.y + 40 };
    return at.y > s.y + s.h - 70 ? { x: at.x + 210, y: s.y + 40 } : at;
  }

  /** What the page called one thing is another: the idea was there.
   * @param {string} old @param {string} heir */
  known(old, heir) {
    for (const j of this.done) if (j.id === old) Object.assign(j, { id: heir, known: true });
    const el = document.getElementById(`c-${heir}`);
    const box = this.app.model.slips.get(heir)?.box;
    if (box) this.app.reveal(box);
    el?.classList.add('pointed');
    window.setTimeout(() => el?.classList.remove('pointed'), 2500);
    this.show();
  }

  /** Lists what was jotted, as long as it stands. */
  show() {
    const list = document.getElementById('jotted');
    const { model } = this.app;
    list?.replaceChildren(...this.done.filter((j) => model.slips.has(j.id)).slice(-listed).map((j) => {
      const item = document.createElement('li'), words = document.createElement('button');
      Object.assign(words, { type: 'button', className: 'place', textContent: model.slips.get(j.id)?.words || j.words });
      words.dataset.do = 'show';
      words.dataset.element = `c-${j.id}`;
      const above = model.slips.get(j.under)?.words;
      if (above) item.append(Object.assign(document.createElement('span'), { className: 'faint', textContent: `${above} → ` }));
      item.append(words);
      if (j.known) item.append(Object.assign(document.createElement('span'), { className: 'faint', textContent: t(' was there') }));
      return item;
    }));
    if (list?.lastElementChild && this.isField(document.activeElement)) list.scrollTop = list.scrollHeight;
    this.mark();
  }

  /** Takes text pasted on the paper: one line is an idea, more are shown first.
   * @param {string} text */
  paste(text) {
    const lines = text.split(/\r?\n/).map((l) => l.trim()).filter(Boolean);
    if (lines.length > 1) this.preview(text);
    else if (lines.length) this.takeUp(text.trim(), false);
  }

  /** Takes up text from outside: for the concept that is fed, or as a loose idea. It is said
   * where it went. @private @param {string} words @param {boolean} quote */
  async takeUp(words, quote) {
    const { app } = this, concept = newID('c'), { under } = this;
    if (!under) return app.send([{ do: 'jot', concept, words, at: this.place('') }], []);
    return app.send([{ do: 'take-text', on: under, words, quote, source: newID('s'), concept, link: newID('l'), own: newID('e'), above: newID('e'), at: this.place(under) }], []);
  }

  /** Quotes the pasted passage in the note of the concept that is fed, and attaches
   * the address that stands in it. @private */
  async asNote() {
    this.dialog.close();
    await this.takeUp(this.text, true);
  }

  /** Shows what pasted lines would become. @param {string} text @param {boolean} [shorten] */
  async preview(text, shorten = true) {
    this.text = text;
    try {
      await fetched(this.dialog, { text, under: this.under, shorten: String(shorten) });
      if (!this.dialog.open) this.dialog.showModal();
    } catch (e) {
      this.app.notice(e instanceof TypeError ? t('The connection is away. What you pasted is still on your clipboard.') : /** @type {Error} */ (e).message, undefined, true);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      jot: () => { this.put(); this.field?.focus(); return true; },
      // A question is answered by ideas that its phrase leads to.
      answer: (c) => {
        const { field } = this, phrase = `${c?.dataset.phrase}: `;
        if (!field) return true;
        field.value = phrase + field.value.replace(/^.*?: +(?=\S)|^.*: $/, '');
        field.focus();
        field.setSelectionRange(field.value.length, field.value.length);
        this.app.writing.keep(field);
        return true;
      },
      'let-go': () => { this.app.chosen.set([]); this.field?.focus(); return true; },
      'paste-note': () => { this.asNote(); return true; },
      'drop-pasted': () => { this.dialog.close(); return true; },
      'put-pasted': (c) => {
        this.dialog.close();
        const before = new Set(this.app.model.slips.keys());
        this.app.send(JSON.parse(c?.dataset.steps ?? '[]'), []).then((accepted) => {
          const fresh = [...this.app.model.slips.values()].filter((s) => !before.has(s.id));
          if (!accepted) return;
          if (fresh[0]) this.app.reveal(fresh[0].box);
          this.app.notice(fresh.length === 1 ? t('1 idea put down.') : t('%s ideas put down.', fresh.length), { words: t('Undo'), act: () => this.app.back('undo') });
        });
        return true;
      },
    };
  }
}
