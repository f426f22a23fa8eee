// @ts-check
// A small table on a slip, edited in its place on the paper.

import { limits } from '../sync/limits.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'back' | 'desk' | 'model' | 'notice' | 'send' | 'view'>} App */

export class Table {
  /** @param {App} app @param {HTMLDialogElement} panel */
  constructor(app, panel) {
    this.app = app;
    this.panel = panel;
    this.concept = '';
    /** @type {string[][]} */
    this.rows = [];
    this.head = true;
    this.was = '';
    /** The cell that has, or had, the keyboard. */
    this.row = 0;
    this.column = 0;
    panel.addEventListener('input', (e) => {
      const { row, column } = /** @type {HTMLElement} */ (e.target).dataset;
      if (row) this.rows[Number(row)][Number(column)] = /** @type {HTMLInputElement} */ (e.target).value;
    });
    panel.addEventListener('focusin', () => this.here());
    panel.addEventListener('keydown', (e) => this.key(e));
    panel.addEventListener('paste', (e) => this.paste(e));
    panel.addEventListener('cancel', (e) => { e.preventDefault(); this.close(false); });
  }

  /** Opens the table of a concept, or a new one. @param {string} concept @param {string} [stored] */
  open(concept, stored) {
    const { app, panel } = this;
    const t = JSON.parse(stored || 'null') ?? { head: true, rows: [['', ''], ['', '']] };
    [this.concept, this.rows, this.head, this.was] = [concept, t.rows, !!t.head, stored ?? ''];
    this.draw(0, 0);
    panel.show();
    const box = app.model.slips.get(concept)?.box, r = app.desk.getBoundingClientRect(), s = app.view.seen();
    if (box) {
      const x = r.x + (box.x - s.x) * app.view.k, y = r.y + (box.y + box.h / 3 - s.y) * app.view.k;
      panel.style.left = `${Math.max(8, Math.min(x, innerWidth - panel.offsetWidth - 8))}px`;
      panel.style.top = `${Math.max(52, Math.min(y, innerHeight - panel.offsetHeight - 60))}px`;
    }
    this.focus(0, 0);
  }

  /** @private @param {number} row @param {number} column */
  draw(row, column) {
    const table = document.createElement('table');
    this.rows.forEach((cells, i) => {
      const tr = table.insertRow();
      cells.forEach((words, j) => {
        const input = document.createElement('input');
        Object.assign(input, { value: words, maxLength: limits.cell, autocomplete: 'off', className: this.head && i === 0 ? 'cell heading' : 'cell' });
        input.setAttribute('aria-label', t('Row %s, column %s', i + 1, j + 1));
        [input.dataset.row, input.dataset.column] = [String(i), String(j)];
        tr.insertCell().append(input);
      });
    });
    const tools = document.createElement('div');
    tools.className = 'table-tools';
    for (const [deed, words, title] of [['row-below', '+ row', t('A row below (Enter in the last row)')], ['row-above', '+ above', t('A row above this one')], ['row-off', '− row', t('Take this row away')], ['column-on', '+ column', t('A column to the right')], ['column-off', '− column', t('Take this column away')], ['table-head', 'headings', t('The first row are headings')], ['table-done', 'Done', t('Keep it (Ctrl+Enter)')], ['table-off', t('No table'), t('Take the table off the slip')]]) {
      const b = document.createElement('button');
      Object.assign(b, { type: 'button', textContent: words, title, className: deed === 'table-done' ? 'button main' : 'button' });
      b.dataset.do = deed;
      if (deed === 'table-head') b.setAttribute('aria-pressed', String(this.head));
      tools.append(b);
    }
    this.panel.replaceChildren(table, tools);
    [this.row, this.column] = [row, column];
  }

  /** @private @param {number} row @param {number} column */
  focus(row, column) {
    const el = /** @type {HTMLInputElement | null} */ (this.panel.querySelector(`[data-row="${row}"][data-column="${column}"]`));
    el?.focus();
    el?.select();
  }

  /** Where the keyboard is, or was last. @private */
  here() {
    const { row, column } = /** @type {HTMLElement} */ (document.activeElement).dataset;
    if (row) [this.row, this.column] = [Number(row), Number(column)];
    return { row: this.row, column: this.column };
  }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    if (e.isComposing) return;
    const { row, column } = this.here();
    if (e.key === 'Escape') { e.preventDefault(); e.stopPropagation(); this.close(false); }
    else if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) { e.preventDefault(); this.close(true); }
    else if (e.key === 'Enter' && e.target instanceof HTMLInputElement) {
      e.preventDefault();
      if (row + 1 === this.rows.length) this.insert(row + 1);
      this.focus(row + 1, column);
    } else if (e.key === 'ArrowDown') this.focus(row + 1, column);
    else if (e.key === 'ArrowUp') this.focus(row - 1, column);
  }

  /** Cells from elsewhere: lines, with tabs between them. @private @param {ClipboardEvent} e */
  paste(e) {
    const text = e.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n]/.test(text.trim())) return;
    e.preventDefault();
    const { row, column } = this.here();
    text.replace(/\r/g, '').replace(/\n+$/, '').split('\n').forEach((line, i) => line.split('\t').forEach((words, j) => {
      while (this.rows.length <= row + i && this.rows.length < limits.rows) this.rows.push(this.rows[0].map(() => ''));
      while (this.rows[0].length <= column + j && this.rows[0].length < limits.columns) for (const r of this.rows) r.push('');
      if (this.rows[row + i]?.[column + j] !== undefined) this.rows[row + i][column + j] = words.trim().slice(0, 200);
    }));
    this.draw(row, column);
    this.focus(row, column);
  }

  /** @private @param {number} at */
  insert(at) {
    if (this.rows.length >= limits.rows) return this.app.notice(t('A table can have at most %s rows.', limits.rows));
    this.rows.splice(at, 0, this.rows[0].map(() => ''));
    this.draw(at, this.here().column);
    this.focus(at, this.column);
  }

  /** @private @param {boolean} keep */
  async close(keep) {
    const { app, concept } = this, table = { head: this.head, rows: this.rows };
    if (keep && JSON.stringify(table) !== this.was && !await app.send([{ do: 'set-table', concept, table }], [])) return;
    this.panel.close();
    app.desk.focus({ preventScroll: true });
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const change = (/** @type {() => void} */ act) => () => { act(); this.draw(Math.min(this.row, this.rows.length - 1), Math.min(this.column, this.rows[0].length - 1)); this.focus(this.row, this.column); return true; };
    return {
      table: (c) => { this.open(c?.dataset.concept ?? '', c?.dataset.table); return true; },
      'row-below': () => { this.insert((this.row) + 1); return true; },
      'row-above': () => { this.insert(this.row); return true; },
      'row-off': change(() => { if (this.rows.length > 1) this.rows.splice(this.row, 1); }),
      'column-on': change(() => { if (this.rows[0].length < limits.columns) for (const r of this.rows) r.splice((this.column) + 1, 0, ''); }),
      'column-off': change(() => { if (this.rows[0].length > 1) for (const r of this.rows) r.splice(this.column, 1); }),
      'table-head': change(() => { this.head = !this.head; }),
      'table-done': () => { this.close(true); return true; },
      'table-off': () => {
        this.panel.close();
        this.app.send([{ do: 'set-table', concept: this.concept, table: null }], []).then((ok) => { if (ok) this.app.notice(t('The table is off the slip.'), { words: t('Undo'), act: () => this.app.back('undo') }); });
      },
    };
  }
}
