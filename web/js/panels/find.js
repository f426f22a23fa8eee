// @ts-check
// Finding words on the map: labels, phrases and notes. What matches stands out,
// the rest fades; what is found can be replaced, after a look at it.

import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'back' | 'base' | 'choose' | 'chosen' | 'desk' | 'model' | 'notice' | 'page' | 'reveal' | 'send' | 'tuck'>} App */

export class Find {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    const get = (/** @type {string} */ id) => /** @type {any} */ (document.getElementById(id));
    /** @type {HTMLElement} */
    this.bar = get('find');
    /** @type {HTMLInputElement} */
    this.field = get('find-words');
    /** @type {HTMLInputElement} */
    this.with = get('find-with');
    /** @type {HTMLElement} */
    this.count = get('find-count');
    /** @type {HTMLDialogElement} */
    this.dialog = get('replaced');
    /** @type {{element: string, where: string}[]} */
    this.found = [];
    this.at = -1;
    this.asking = false;
    /** How many were gone on by before it was known where to. */
    this.ahead = 0;
    this.field.addEventListener('input', () => this.ask());
    this.field.addEventListener('htmx:error', () => { this.asking = false; });
    this.field.addEventListener('htmx:after:swap', () => {
      this.asking = false;
      this.take([.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('#find-found > i'))].map((i) => ({ element: i.dataset.element ?? '', where: i.dataset.where ?? '' })));
    });
    this.bar.addEventListener('keydown', (e) => {
      if (e.key === 'Escape') this.close();
      else if (e.key === 'Enter' && e.target === this.field) this.step(e.shiftKey ? -1 : 1);
      else if (e.key === 'Enter' && e.target === this.with) this.preview();
      else return;
      e.preventDefault();
    });
    this.dialog.addEventListener('close', () => this.field.focus());
  }

  open() {
    this.app.page.finding = true;
    this.bar.hidden = false; // at once: what is typed next belongs here
    this.field.focus();
    this.field.select();
    this.look();
  }

  close() {
    this.app.page.finding = false;
    if (this.asking) return this.leave(); // what is found then is gone to
    this.leave();
    const here = this.found[this.at]?.element;
    if (here && this.app.model.get(here)) this.app.choose(here);
  }

  /** @private */
  leave() {
    this.app.desk.classList.remove('seeking');
    for (const el of document.querySelectorAll('.found')) el.classList.remove('found');
    this.app.desk.focus({ preventScroll: true });
  }

  /** Looks for what stands in the field. */
  look() {
    this.ask();
    this.field.dispatchEvent(new Event('shown'));
  }

  /** It is being asked for. @private */
  ask() {
    this.asking = true;
    this.ahead = 0;
  }

  /** @private @param {{element: string, where: string}[]} found */
  take(found) {
    if (!this.app.page.finding) {
      const late = found[this.ahead % found.length];
      this.found = [];
      if (late && this.app.model.get(late.element)) this.app.choose(late.element);
      return;
    }
    const here = this.found[this.at]?.element;
    this.found = found;
    for (const el of document.querySelectorAll('.found')) el.classList.remove('found');
    for (const f of this.found) document.getElementById(f.element)?.classList.add('found');
    const sought = this.field.value.trim() !== '';
    this.app.desk.classList.toggle('seeking', sought);
    // Where one stands already, one goes on standing.
    this.at = this.found.findIndex((f) => f.element === here);
    const ahead = this.ahead;
    this.ahead = 0;
    if (this.found.length) this.step((this.at < 0 ? 1 : 0) + ahead);
    else this.count.textContent = sought ? t('not found') : '';
  }

  /** @param {number} by */
  async step(by) {
    if (this.asking) this.ahead += by;
    if (this.asking || !this.found.length) return;
    this.at = (this.at + by + this.found.length) % this.found.length;
    const here = this.found[this.at];
    this.count.textContent = t('%s of %s%s', this.at + 1, this.found.length, here.where === 'note' ? t(', in its note') : '');
    await this.app.tuck.bring([here.element]);
    if (this.found[this.at] !== here) return;
    document.getElementById(here.element)?.classList.add('found');
    const box = this.app.model.boxOf(here.element);
    this.app.chosen.set([here.element]);
    if (box) this.app.reveal(box);
  }

  /** Shows what would be replaced. */
  async preview() {
    const seek = this.field.value.trim();
    if (!seek) return this.field.focus();
    try {
      await fetched(this.dialog, { seek, with: this.with.value });
      this.dialog.showModal();
    } catch (e) {
      this.app.notice(e instanceof TypeError ? t('The server cannot be reached just now. Nothing was replaced.') : String(/** @type {Error} */ (e).message), undefined, true);
    }
  }

  /** Replaces what is ticked. */
  put() {
    const steps = [...this.dialog.querySelectorAll('input:checked')].map((box) => JSON.parse(/** @type {HTMLInputElement} */ (box).value));
    this.dialog.close();
    if (!steps.length) return;
    this.app.send(steps, []).then((ok) => {
      if (!ok) return;
      this.app.notice(steps.length === 1 ? t('Replaced in 1 place.') : t('Replaced in %s places.', steps.length), { words: t('Undo'), act: () => this.app.back('undo') });
      this.look();
    });
  }
}
