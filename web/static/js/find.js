// @ts-check
// Finding words on the paper: what matches stands out, the rest fades.

/** @typedef {import('./main.js').App} App */

export class Find {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.bar = /** @type {HTMLElement} */ (document.getElementById('find'));
    this.field = /** @type {HTMLInputElement} */ (document.getElementById('find-words'));
    this.count = /** @type {HTMLElement} */ (document.getElementById('find-count'));
    /** @type {string[]} */
    this.found = [];
    this.at = -1;
    this.field.addEventListener('input', () => this.look());
    this.field.addEventListener('keydown', (e) => {
      if (e.key === 'Enter') this.step(e.shiftKey ? -1 : 1);
      else if (e.key === 'Escape') this.close();
      else return;
      e.preventDefault();
    });
  }

  open() {
    this.bar.hidden = false;
    this.field.focus();
    this.field.select();
    this.look();
  }

  close() {
    this.bar.hidden = true;
    this.app.desk.classList.remove('seeking');
    for (const el of document.querySelectorAll('.found')) el.classList.remove('found');
    const here = this.found[this.at];
    if (here) this.app.choose(here);
    this.app.desk.focus({ preventScroll: true });
  }

  look() {
    const words = this.field.value.trim().toLocaleLowerCase();
    const fits = (/** @type {{words: string}} */ t) => words !== '' && t.words.toLocaleLowerCase().includes(words);
    this.found = [
      ...[...this.app.model.slips.values()].filter(fits).map((s) => `c-${s.id}`),
      ...[...this.app.model.links.values()].filter(fits).map((l) => `l-${l.id}`),
    ];
    for (const el of document.querySelectorAll('.found')) el.classList.remove('found');
    for (const e of this.found) document.getElementById(e)?.classList.add('found');
    this.app.desk.classList.toggle('seeking', words !== '');
    this.at = -1;
    if (this.found.length) this.step(1);
    else this.count.textContent = words ? 'not found' : '';
  }

  /** @param {number} by */
  step(by) {
    if (!this.found.length) return;
    this.at = (this.at + by + this.found.length) % this.found.length;
    this.count.textContent = `${this.at + 1} of ${this.found.length}`;
    const box = this.app.model.boxOf(this.found[this.at]);
    this.app.chosen.set([this.found[this.at]]);
    if (box) this.app.reveal(box);
  }
}
