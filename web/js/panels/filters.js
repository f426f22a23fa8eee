// @ts-check
// Making a filter: conditions in rows, shown on the paper while they are put
// together, and kept under a name.

import { limits } from '../sync/limits.js';
import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk' | 'lens' | 'notice' | 'send'>} App */
/** @typedef {{about: string, value?: string, not?: boolean}} Condition */

const subjects = { kind: t('its kind is'), tag: t('its tag is'), region: 'it is in', branch: 'it is below', level: 'it is on', words: t('it says'), has: 'it has' };

export class Filters {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    this.id = '';
    dialog.addEventListener('input', (e) => {
      const el = /** @type {HTMLSelectElement} */ (e.target);
      if (el.classList.contains('about')) this.subject(el);
      this.show();
    });
    dialog.addEventListener('keydown', (e) => {
      if (e.key === 'Enter' && e.target instanceof HTMLInputElement) { e.preventDefault(); this.save(); }
    });
    dialog.addEventListener('close', () => app.desk.focus({ preventScroll: true }));
  }

  /** @param {HTMLElement} [control] */
  edit(control) {
    /** @type {{id?: string, match?: string, conditions?: Condition[], hide?: boolean}} */
    const f = JSON.parse(control?.dataset.filter ?? '{}');
    this.id = f.id ?? '';
    this.dialog.innerHTML = `<form method="dialog"><button class="tool close" aria-label="${t('Close')}">×</button></form>
      <h2 id="filter-title">${t('Show only')}</h2>
      <p class="filter-line">${t('what meets')} <select class="chooser match"><option value="all">${t('all')}</option><option value="any">${t('any')}</option></select> ${t('of these; the rest')} <select class="chooser rest"><option value="">${t('fades')}</option><option value="hide">${t('is hidden')}</option></select></p>
      <ul class="filter-rows"></ul>
      <div class="actions"><button type="button" class="button" data-do="filter-row">${t('+ a condition')}</button></div>
      <label class="written"><span>${t('Kept under the name')}</span><input class="own-source filter-name" maxlength="60" autocomplete="off" placeholder="${t('only the ear')}"></label>
      <div class="dialog-actions"><button type="button" class="button main" data-do="filter-save">${t('Keep it')}</button><button type="button" class="button" data-do="filter-leave">${t('Only look')}</button></div>`;
    this.field('.match').value = f.match ?? 'all';
    this.field('.rest').value = f.hide ? 'hide' : '';
    this.field('.filter-name').value = control?.dataset.name ?? '';
    for (const c of f.conditions ?? [{ about: 'kind' }]) this.row(c);
    this.dialog.show();
    this.show();
    this.field('.about').focus();
  }

  /** @private @param {string} query @returns {HTMLInputElement} */
  field(query) { return /** @type {HTMLInputElement} */ (this.dialog.querySelector(query)); }

  /** Adds a row. @private @param {Condition} c */
  row(c) {
    const li = document.createElement('li');
    li.innerHTML = `<select class="chooser about" aria-label="${t('What is asked')}">${Object.entries(subjects).map(([value, words]) => `<option value="${value}">${words}</option>`).join('')}</select><select class="chooser not" aria-label="${t('Yes or no')}"><option value=""></option><option value="not">${t('not')}</option></select><span class="value"></span><button type="button" class="tool" data-do="filter-less" aria-label="${t('Take this condition away')}">×</button>`;
    this.field('.filter-rows').append(li);
    const about = /** @type {HTMLSelectElement} */ (li.querySelector('.about'));
    about.value = c.about;
    /** @type {HTMLSelectElement} */ (li.querySelector('.not')).value = c.not ? 'not' : '';
    this.subject(about, c.value);
  }

  /** Offers the values that go with what is asked. @private @param {HTMLSelectElement} about @param {string} [value] */
  subject(about, value) {
    const holder = /** @type {HTMLElement} */ (about.closest('li')?.querySelector('.value'));
    const choices = /** @type {HTMLTemplateElement | null} */ (document.getElementById('filter-choices'))?.content.querySelector(`[data-about="${about.value}"]`);
    const field = /** @type {HTMLInputElement} */ (choices ? choices.cloneNode(true) : document.createElement('input'));
    field.className = choices ? 'chooser' : 'own-source';
    field.setAttribute('aria-label', t('Value'));
    if (!choices) field.maxLength = limits.filterValue;
    holder.replaceChildren(field);
    if (value !== undefined) field.value = value;
    else if (choices && ['kind', 'tag', 'region'].includes(about.value)) /** @type {any} */ (field).selectedIndex = Math.min(1, /** @type {any} */ (field).options.length - 1);
  }

  /** What is put together now. @private */
  asked() {
    const conditions = [...this.dialog.querySelectorAll('.filter-rows li')].map((li) => {
      const value = /** @type {HTMLInputElement} */ (li.querySelector('.value > *')).value.trim(), about = /** @type {Wire.About} */ (/** @type {HTMLSelectElement} */ (li.querySelector('.about')).value);
      return { about, value, ...(/** @type {HTMLSelectElement} */ (li.querySelector('.not')).value ? { not: true } : {}) };
    }).filter((c) => c.value || ['kind', 'tag', 'region'].includes(c.about));
    return { match: /** @type {Wire.Match} */ (this.field('.match').value), conditions, hide: this.field('.rest').value === 'hide' };
  }

  /** Shows it on the paper. @private */
  show() {
    this.app.lens.filter(`asked=${encodeURIComponent(JSON.stringify(this.asked()))}`, false);
  }

  async save() {
    const name = this.field('.filter-name').value.trim();
    if (!name) {
      this.app.notice(t('Give it a name, such as “only the ear”, to keep it.'));
      return this.field('.filter-name').focus();
    }
    const id = this.id || newID('f');
    if (await this.app.send([{ do: 'save-filter', id, name, ...this.asked() }], [])) {
      this.dialog.close();
      this.app.lens.filter(`filter=${id}`, false);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      'filter-edit': (c) => { this.edit(c); return true; },
      'filter-row': () => { this.row({ about: 'tag' }); this.show(); return true; },
      'filter-less': (c) => { c?.closest('li')?.remove(); this.show(); return true; },
      'filter-save': () => { this.save(); return true; },
      'filter-leave': () => { this.dialog.close(); },
    };
  }
}
