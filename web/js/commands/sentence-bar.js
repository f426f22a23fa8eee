// @ts-check
// The sentence bar: a proposition typed as a sentence draws itself. Several
// concepts at either end are set apart by semicolons.
//
// After Enter the first field keeps its concept and the hand goes to the
// phrase: people mostly say several things of one concept before they turn to
// the next, and the one just made is a single arrow key away.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'choose' | 'chosen' | 'desk' | 'firstHints' | 'model' | 'page' | 'phrases' | 'send' | 'view'>} App */

export class Say {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    const get = (/** @type {string} */ id) => /** @type {any} */ (document.getElementById(id));
    /** @type {HTMLFormElement} */
    this.form = get('say');
    /** @type {HTMLInputElement} */
    this.from = get('say-from');
    /** @type {HTMLInputElement} */
    this.phrase = get('say-phrase');
    /** @type {HTMLInputElement} */
    this.to = get('say-to');
    /** @type {HTMLElement} */
    this.list = get('say-list');
    /** @type {HTMLInputElement | null} */
    this.field = null;
    this.at = -1;
    /** The words in the list that was gone to. @type {string | null} */
    this.gone = null;
    /** The last concept said at the end, the first to be offered at the start. */
    this.last = '';
    // The tick goes on from field to field, so that the field must keep the keyboard.
    this.form.querySelector('#say-done')?.addEventListener('pointerdown', (e) => { if (this.form.contains(document.activeElement)) e.preventDefault(); });
    this.form.addEventListener('submit', (e) => { e.preventDefault(); this.submit(); });
    for (const field of [this.from, this.phrase, this.to]) {
      field.addEventListener('htmx:after:swap', () => this.offer(field));
      field.addEventListener('input', () => this.list.setAttribute('aria-busy', 'true'));
      field.addEventListener('focus', () => this.turn(field));
      field.addEventListener('keydown', (e) => this.key(e, field));
      field.addEventListener('blur', () => window.setTimeout(() => { if (document.activeElement !== this.field) this.close(); }, 120));
    }
    this.from.addEventListener('focus', () => this.begin());
    // A press on it selects it whole, to be said anew.
    this.from.addEventListener('pointerdown', (e) => {
      if (document.activeElement === this.from) return;
      e.preventDefault();
      this.from.focus();
    });
    this.list.addEventListener('pointerdown', (e) => {
      e.preventDefault();
      const item = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[role="option"]'));
      if (item) this.take(item.textContent ?? '');
    });
  }

  /** An empty bar takes up what is selected on the paper. */
  begin() {
    const only = this.app.chosen.only;
    if (!this.from.value && only?.startsWith('c-')) this.from.value = this.app.model.get(only)?.words.replace(/\n/g, ' ') ?? '';
    this.from.select();
  }

  /** Goes to the beginning of a sentence; on a small window the bar must be shown first. */
  open() {
    this.app.page.sheet = 'say';
    this.from.focus();
    requestAnimationFrame(() => { if (document.activeElement !== this.from) this.from.focus(); });
  }

  /** On a small window one field is seen at a time, and what was said before it.
   * @private @param {HTMLInputElement} field */
  turn(field) {
    this.form.dataset.turn = field === this.from ? 'from' : field === this.phrase ? 'phrase' : 'to';
    this.app.page.said = field === this.from ? '' : [this.from.value, ...(field === this.to ? [this.phrase.value] : [])].filter(Boolean).join(' · ');
  }

  /** Shows what is offered for a field. @param {HTMLInputElement} field */
  offer(field) {
    this.list.removeAttribute('aria-busy');
    if (document.activeElement !== field) return;
    this.field = field;
    // What was gone to stays so in a newer list.
    this.at = this.at < 0 ? -1 : [...this.list.children].findIndex((item) => item.textContent === this.gone);
    this.list.children[this.at]?.setAttribute('aria-selected', 'true');
    this.list.hidden = !this.list.childElementCount;
    this.list.style.left = `${field.getBoundingClientRect().left}px`;
    field.setAttribute('aria-expanded', String(!this.list.hidden));
  }

  close() {
    this.list.hidden = true;
    this.at = -1;
    for (const f of [this.from, this.phrase, this.to]) {
      f.setAttribute('aria-expanded', 'false');
      f.removeAttribute('aria-activedescendant');
    }
  }

  /** @param {string} words */
  take(words) {
    if (!this.field) return;
    const head = this.field.value.slice(0, this.field.value.lastIndexOf(';') + 1);
    this.field.value = head ? `${head} ${words}` : words;
    this.field.focus();
    this.close();
  }

  /** @param {KeyboardEvent} e @param {HTMLInputElement} field */
  key(e, field) {
    if (e.isComposing) return;
    const items = [...this.list.children];
    const open = !this.list.hidden && this.field === field;
    if ((e.key === 'ArrowDown' || e.key === 'ArrowUp') && field === this.from && !open && this.last && field.value.trim() !== this.last) {
      field.value = this.last;
    } else if ((e.key === 'ArrowDown' || e.key === 'ArrowUp') && open) {
      this.at = (this.at + (e.key === 'ArrowDown' ? 1 : items.length - (this.at < 0 ? 0 : 1)) ) % items.length;
      items.forEach((item, i) => item.setAttribute('aria-selected', String(i === this.at)));
      field.setAttribute('aria-activedescendant', items[this.at].id);
      this.gone = items[this.at].textContent;
    } else if ((e.key === 'Enter' || e.key === 'Tab') && open && this.at >= 0) {
      this.take(items[this.at].textContent ?? '');
      if (e.key === 'Tab') return; // and on to the next field
    } else if (e.key === 'ArrowLeft' && !field.value && field !== this.from) {
      (field === this.to ? this.phrase : this.from).focus(); // a whole sentence again
    } else if (e.key === 'Escape') {
      if (open) this.close();
      else this.app.desk.focus({ preventScroll: true });
    } else return;
    e.preventDefault();
  }

  /** Begins a sentence with what is known of it. @param {string} from @param {string} to */
  propose(from, to) {
    this.from.value = from;
    this.to.value = to;
    (from ? this.phrase : this.from).focus();
  }

  async submit() {
    this.close();
    const terms = (/** @type {HTMLInputElement} */ f) => f.value.split(';').map((w) => w.trim()).filter(Boolean).map((words) => ({ words, concept: newID('c'), end: newID('e') }));
    const from = terms(this.from), to = terms(this.to), phrase = this.phrase.value.trim();
    const missing = !from.length ? this.from : !to.length ? (phrase || !this.phrase.value ? this.to : this.phrase) : null;
    if (missing) {
      if (missing === this.to && !phrase && document.activeElement !== this.phrase) this.phrase.focus();
      else missing.focus();
      return;
    }
    const s = this.app.view.seen();
    const kept = [this.phrase.value, this.to.value];
    this.last = to[to.length - 1].words;
    this.phrase.value = this.to.value = '';
    this.phrase.focus();
    const accepted = await this.app.send([{ do: 'say', link: newID('l'), from, phrase, to, at: { x: s.x + s.w / 2, y: s.y + s.h / 3 } }], [], () => {
      if (this.phrase.value || this.to.value) return false;
      [this.phrase.value, this.to.value] = kept;
      return true;
    });
    if (!accepted) return;
    this.app.firstHints.did('say');
    const made = [...this.app.model.slips.values()].find((c) => c.words.replace(/\n/g, ' ').toLocaleLowerCase() === this.last.toLocaleLowerCase());
    if (made) this.app.choose(`c-${made.id}`);
    this.app.announce(t('Said: %s %s %s', from.map((t) => t.words).join(', '), phrase, to.map((t) => t.words).join(', ')));
  }
}
