// @ts-check
// Kinds, tags, regions and icons from the margin: what its controls carry is sent
// down the road; choosing an icon opens the set of them.

import { newID } from './ids.js';
import * as steps from './steps.js';

/** @typedef {import('./main.js').App} App */

export class Meaning {
  /** @param {App} app @param {HTMLDialogElement} icons */
  constructor(app, icons) {
    this.app = app;
    this.icons = icons;
    /** What an icon is being chosen for: a kind, or the concepts selected. */
    this.choosing = { kind: '', have: /** @type {string[]} */ ([]) };
    document.addEventListener('change', (e) => {
      const el = /** @type {HTMLSelectElement} */ (e.target);
      if (el.dataset?.change === 'op' && (el.value || el.id)) steps.send(app, el, { value: el.value });
      if (el.dataset?.change === 'order-kind' && el.value) this.order(el.dataset.kind ?? '', el.value);
    });
    document.addEventListener('keydown', (e) => {
      const el = /** @type {HTMLInputElement} */ (e.target);
      if (e.key !== 'Enter' || !el.dataset?.enter || e.isComposing) return;
      e.preventDefault();
      if (el.dataset.enter === 'tag') this.tag(el);
      if (el.dataset.enter === 'link-kind') this.addLinkKind();
    });
    icons.addEventListener('input', () => this.seek());
  }

  /** Puts a tag on what is selected; one of that name is used again. @private @param {HTMLInputElement} field */
  async tag(field) {
    const { app } = this, name = field.value.trim(), concepts = app.chosen.concepts();
    if (!name || !concepts.length) return;
    const taken = /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('.key-list .dot')).length;
    const id = newID('t'), hue = colours[taken % colours.length];
    field.value = '';
    if (!await app.send([{ do: 'add-tag', id, name, colour: hue, reuse: true }, { do: 'assign-tag', concepts, tag: id, on: true }], [])) field.value = name;
  }

  /** Adds the kind whose name was typed, in a look that no other kind has yet. @private */
  async addKind() {
    const field = /** @type {HTMLInputElement} */ (document.getElementById('new-kind')), name = field.value.trim();
    if (!name) return field.focus();
    const given = [...document.querySelectorAll('.key-item .give .sample')], n = given.length;
    const colour = colours.find((c) => !given.some((el) => el.classList.contains(`colour-${c}`))) ?? colours[n % colours.length];
    const used = new Set([...document.querySelectorAll('.key-item .outline-choice[aria-pressed="true"]')].map((el) => /** @type {HTMLElement} */ (el).title));
    const outline = outlines.find((o) => !used.has(o || 'slip')) ?? outlines[n % outlines.length];
    if (await this.app.send([{ do: 'add-kind', id: newID('k'), name, colour, outline }], [])) field.value = '';
  }

  /** @private */
  async addLinkKind() {
    const field = /** @type {HTMLInputElement} */ (document.getElementById('new-link-kind')), name = field.value.trim();
    if (!name) return field.focus();
    const n = document.querySelectorAll('.key-list .swatch').length;
    if (await this.app.send([{ do: 'add-kind', id: newID('k'), name, links: true, colour: colours[(n + 3) % colours.length], stroke: ['', 'heavy', 'dashed', 'uneven'][n % 4] }], [])) field.value = '';
  }

  /** @private @param {string} kind @param {string} after */
  order(kind, after) {
    const all = [...document.querySelectorAll('.key-item input[data-write="set-kind"][data-key="name"]')].map((el) => /** @type {HTMLElement} */ (el).dataset.id ?? '').filter((id) => id !== kind);
    all.splice(after === 'first' ? 0 : all.indexOf(after) + 1, 0, kind);
    this.app.send([{ do: 'order-kinds', order: all }], []);
  }

  /** @private @param {HTMLElement} [control] */
  async openIcons(control) {
    this.choosing = { kind: control?.dataset.kind ?? '', have: (control?.dataset.have ?? '').split(' ').filter((n) => n) };
    if (!this.icons.childElementCount) {
      try {
        this.icons.innerHTML = await (await fetch('/icons')).text();
      } catch {
        return this.app.notice('The connection is away. Please try again when it is back.', undefined, true);
      }
    }
    this.icons.showModal();
    const seek = /** @type {HTMLInputElement} */ (this.icons.querySelector('#icons-seek'));
    seek.value = '';
    this.seek();
    seek.focus();
  }

  /** Shows the icons that have a word beginning so. @private */
  seek() {
    const sought = /** @type {HTMLInputElement} */ (this.icons.querySelector('#icons-seek')).value.trim().toLowerCase();
    let found = 0;
    for (const group of /** @type {NodeListOf<HTMLElement>} */ (this.icons.querySelectorAll('.icon-group'))) {
      const title = ` ${group.querySelector('h3')?.textContent}`;
      let here = 0;
      for (const el of /** @type {NodeListOf<HTMLElement>} */ (group.querySelectorAll('.icon-choice'))) {
        el.hidden = !` ${el.dataset.words}`.toLowerCase().includes(` ${sought}`) && !title.includes(` ${sought}`);
        if (!el.hidden) here++;
      }
      group.hidden = !here;
      found += here;
    }
    /** @type {HTMLElement} */ (this.icons.querySelector('#icons-none')).hidden = found > 0;
  }

  /** @private @param {string} icon */
  takeIcon(icon) {
    const { kind, have } = this.choosing, concepts = this.app.chosen.concepts();
    this.icons.close();
    if (kind) this.app.send([{ do: 'set-kind', kind, icon }], []);
    else if (concepts.length) this.app.send([{ do: 'set-icons', concepts, icons: [...have.filter((n) => n !== icon), icon].slice(-4) }], []);
    else this.app.notice('Select the concepts first that the icon is for.');
  }

  /** @returns {Record<string, import('./deeds.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      op: (control) => { if (control) steps.send(app, control); return true; },
      icons: (control) => { this.openIcons(control); return true; },
      'take-icon': (control) => { this.takeIcon(control?.dataset.icon ?? ''); return true; },
      'add-kind': () => { this.addKind(); return true; },
      'add-link-kind': () => { this.addLinkKind(); return true; },
      'begin-key': (control) => {
        fetch(`${app.base}/sets/${control?.dataset.set}`).then((r) => r.text()).then((all) => app.send(steps.filled(app, all) ?? [], []))
          .catch(() => app.notice('The connection is away. Please try again when it is back.', undefined, true));
        return true;
      },
      'region-select': (control) => {
        const all = document.getElementById(`r-${control?.dataset.region}`)?.dataset.inside?.split(' ') ?? [];
        if (all.length) app.chosen.set(all.map((id) => `c-${id}`));
        else app.choose(`c-${control?.dataset.region}`);
      },
      'region-tuck': (control) => { app.tuck.toggle([control?.dataset.region ?? '']); return true; },
    };
  }
}

// What kinds can look like, in the order in which it is gone through.
const colours = ['sky', 'straw', 'sea', 'rose', 'leaf', 'iron', 'plum', 'clay'], outlines = ['', 'capsule', 'lozenge', 'ticket', 'oval', 'plain'];
