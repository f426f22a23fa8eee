// @ts-check
// The brief of the map beside the paper: its lines count while one works. What counts, and what
// is missing, is the server's word.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'lens' | 'model' | 'notice' | 'say' | 'send' | 'view'>} App */
/** @typedef {{met: number, of: number, lines: {id: string, count: number, met: boolean}[]}} Count */

export class Brief {
  /** @param {App} app @param {HTMLElement} panel @param {HTMLDialogElement} choice @param {HTMLDialogElement} writing */
  constructor(app, panel, choice, writing) {
    this.app = app;
    this.panel = panel;
    this.choice = choice;
    this.writing = writing;
    /** What the panel shows: the count of each line. */
    this.shown = '';
    /** @type {ReturnType<typeof setTimeout> | undefined} */
    this.wanted = undefined;
    window.addEventListener('mevrin:head', (e) => this.counted(/** @type {CustomEvent} */ (e).detail.brief));
    panel.addEventListener('keydown', (e) => {
      const field = /** @type {HTMLInputElement} */ (e.target);
      if (!e.ctrlKey && !e.metaKey && !/^F\d/.test(e.key)) e.stopPropagation(); // plain keys of the paper are not for here; undo and help are
      if (e.key === 'Enter' && field.matches('.brief-field') && !e.isComposing) { e.preventDefault(); this.make(field); }
      if (e.key === 'Escape') /** @type {HTMLElement | null} */ (document.getElementById('desk'))?.focus({ preventScroll: true });
    });
    /** Whether words are behind the counts, and whether something in the panel is being pressed. */
    this.pending = this.pressed = false;
    panel.addEventListener('pointerdown', () => { this.pressed = true; });
    for (const what of /** @type {const} */ (['pointerup', 'pointercancel'])) addEventListener(what, () => setTimeout(() => { this.pressed = false; }));
    let wide = 0; // the paper, before the panel is opened or shut
    panel.addEventListener('click', () => { wide = app.view.desk.clientWidth; });
    panel.addEventListener('toggle', (e) => {
      const fold = /** @type {HTMLDetailsElement} */ (e.target);
      if (fold.id !== 'brief-fold') return;
      panel.classList.toggle('shut', !fold.open);
      if (wide) this.recentre(wide);
      try { localStorage.setItem('brief-shut', fold.open ? '' : '1'); } catch { /* for this visit only */ }
    }, true);
    choice.addEventListener('change', (e) => this.wrote(/** @type {HTMLInputElement} */ (e.target)));
    writing.addEventListener('submit', (e) => {
      const form = /** @type {HTMLFormElement} */ (e.target);
      if (form.id === 'brief-line-form') { e.preventDefault(); this.written(form); }
    });
    writing.addEventListener('change', () => this.narrow());
    this.shown = document.body.dataset.brief ?? '';
    const fold = /** @type {HTMLDetailsElement | null} */ (panel.querySelector('#brief-fold'));
    if (fold) this.fold(fold);
  }

  /** Opens or shuts it, as it was left. @private @param {HTMLDetailsElement} fold */
  fold(fold) {
    fold.open = this.wants();
    this.panel.classList.toggle('shut', !fold.open);
  }

  /** The counts after an edit: shown at once, their words after them. @param {Count | undefined} count */
  counted(count) {
    const now = JSON.stringify(count ?? null);
    if (now === this.shown) return;
    const before = /** @type {Count | null} */ (JSON.parse(this.shown || 'null'));
    this.shown = now;
    for (const line of count?.lines ?? []) {
      const el = this.panel.querySelector(`[data-line="${line.id}"]`), n = el?.querySelector('[data-count]');
      el?.classList.toggle('met', line.met);
      if (n) n.textContent = String(line.count);
      if (before?.lines.some((l) => l.id === line.id && !l.met) && line.met) this.app.announce(t('Met: %s', el?.querySelector('.brief-says')?.textContent ?? ''));
    }
    const total = this.panel.querySelector('#brief-count');
    if (total && count) total.textContent = `${count.met}/${count.of}`;
    clearTimeout(this.wanted);
    this.pending = true;
    this.wanted = setTimeout(() => this.fresh(), before ? 150 : 0);
  }

  /** Brings the words up to date. A press that is under way is let through first: what it was on would be gone. */
  async fresh() {
    clearTimeout(this.wanted);
    if (this.pressed) {
      this.wanted = setTimeout(() => this.fresh(), 60);
      return;
    }
    await this.renew();
    this.pending = false;
  }

  /** @private */
  async renew() {
    const { panel } = this;
    const open = new Set([...panel.querySelectorAll('details[data-fold][open]')].map((d) => /** @type {HTMLElement} */ (d).dataset.fold));
    const at = /** @type {HTMLInputElement | null} */ (panel.contains(document.activeElement) ? document.activeElement : null);
    if (at?.value) return this.later(at); // words that are being typed stay
    const line = at?.closest('[data-line]')?.getAttribute('data-line'), field = at?.matches('.brief-field');
    const scrolled = panel.querySelector('#brief-fold')?.scrollTop ?? 0;
    try {
      const response = await fetch(`${this.app.base}/brief`);
      if (!response.ok) return;
      panel.innerHTML = await response.text();
    } catch {
      return; // the counts stand; their words come with the connection
    }
    const wide = this.app.view.desk.clientWidth;
    panel.hidden = !panel.querySelector('#brief-fold');
    for (const d of /** @type {NodeListOf<HTMLDetailsElement>} */ (panel.querySelectorAll('details[data-fold]'))) d.open = open.has(d.dataset.fold);
    const fold = /** @type {HTMLDetailsElement | null} */ (panel.querySelector('#brief-fold'));
    if (fold) {
      this.fold(fold);
      fold.scrollTop = scrolled;
    }
    this.recentre(wide);
    if (line) /** @type {HTMLElement | null} */ (panel.querySelector(`[data-line="${line}"] ${field ? '.brief-field' : 'summary'}`) ?? panel.querySelector(`[data-line="${line}"] summary`))?.focus({ preventScroll: true });
  }

  /** What stood in the middle of the paper does so again. @private @param {number} wide the paper, as it was before */
  recentre(wide) {
    const now = this.app.view.desk.clientWidth;
    if (now !== wide) this.app.view.pan((now - wide) / 2, 0);
  }

  /** Whether it lies open: as it was left; where there is little room, shut at first. @private */
  wants() {
    try {
      const kept = localStorage.getItem('brief-shut');
      if (kept !== null) return kept !== '1';
    } catch { /* as it comes */ }
    return !matchMedia('(max-width: 900px)').matches;
  }

  /** @private @param {HTMLInputElement} field */
  later(field) { field.addEventListener('blur', () => this.fresh(), { once: true }); }

  /** Puts on the paper what a line lacks. @param {HTMLElement | undefined} from the field of its words, or a button that has them */
  async make(from) {
    const { app } = this;
    const field = /** @type {HTMLInputElement | null} */ (from?.matches('.brief-field') ? from : from?.closest('.brief-new')?.querySelector('.brief-field') ?? null);
    const words = (field?.value ?? from?.dataset.words ?? '').trim();
    if (!words) return field?.focus();
    const { under = '', kind = '', kinds = '' } = field?.dataset ?? {}, { phrase = '', other = '' } = from?.dataset ?? {};
    const id = newID('c'), room = app.view.desk.getBoundingClientRect();
    const at = app.view.toPaper(room.left + room.width / 2, room.top + room.height / 2);
    const term = (/** @type {string} */ w, /** @type {string} */ concept) => ({ words: w, concept, end: newID('e') });
    /** @type {Wire.Operation[]} */
    const ops = kinds ? JSON.parse(kinds) : [];
    if (other) ops.push({ do: 'say', link: newID('l'), from: [term(words, id)], phrase, to: [term(other, newID('c'))], at });
    else if (under) ops.push({ do: 'say', link: newID('l'), from: [term(under, newID('c'))], phrase: '', to: [term(words, id)], at });
    else ops.push({ do: 'add-concept', id, label: words, at, makeRoom: true, reuse: true });
    if (kind) ops.push({ do: 'assign-kind', concepts: [id], kind });
    if (!await app.send(ops, [`c-${id}`])) return;
    if (field) field.value = '';
  }

  /** @private @param {string} steps */
  async take(steps) {
    if (!await this.app.send(JSON.parse(steps), [])) return;
    this.choice.close();
    try { localStorage.setItem('brief-shut', ''); } catch { /* it opens by itself */ }
  }

  async choose() {
    this.choice.showModal();
    await this.offers();
  }

  /** @private */
  async offers() {
    try {
      await fetched(this.choice, {});
    } catch (e) {
      this.app.notice(/** @type {Error} */ (e).message, undefined, true);
    }
  }

  /** What was written into the title, the task, or what one should know. @private @param {HTMLInputElement} field */
  async wrote(field) {
    if (field.id === 'brief-file') return this.read(field);
    if (field.dataset.brief) await this.app.send([{ do: 'write-brief', [field.dataset.brief]: field.value }], []);
    if (field.dataset.known) {
      const before = [...this.choice.querySelectorAll('.brief-known-row')].map((row) => {
        const [words, address] = /** @type {HTMLInputElement[]} */ ([...row.querySelectorAll('input')]);
        return { words: words.value.trim(), ...(address.value.trim() ? { address: address.value.trim() } : {}) };
      }).filter((k) => k.words);
      await this.app.send([{ do: 'write-brief', before }], []);
      await this.fresh();
    }
    if (field.dataset.brief) await this.fresh();
  }

  /** @private @param {HTMLInputElement} field */
  async read(field) {
    const file = field.files?.[0];
    if (!file) return;
    const body = new FormData();
    body.append('file', file);
    try {
      const response = await fetch(`${this.app.base}/brief/read`, { method: 'POST', body }), answer = await response.json();
      if (!response.ok) return this.app.notice(answer.error, undefined, true);
      await this.take(JSON.stringify(answer.steps));
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    } finally {
      field.value = '';
    }
  }

  /** Opens the form of a line. @param {string} line */
  async edit(line) {
    if (this.choice.open) this.choice.close();
    this.writing.replaceChildren(); // what was written before is not what is asked for
    this.writing.showModal();
    try {
      await fetched(this.writing, { line });
      this.narrow();
    } catch (e) {
      this.writing.close();
      this.app.notice(/** @type {Error} */ (e).message, undefined, true);
    }
  }

  /** Shows the fields that have an effect on what is counted, as the server says. @private */
  narrow() {
    const of = /** @type {HTMLSelectElement | null} */ (this.writing.querySelector('[name="of"]')), amount = /** @type {HTMLSelectElement | null} */ (this.writing.querySelector('[name="amount"]'));
    const ways = (of?.selectedOptions[0]?.dataset.narrows ?? '').split(' ');
    for (const el of /** @type {NodeListOf<HTMLElement>} */ (this.writing.querySelectorAll('[data-way]'))) el.hidden = !ways.includes(el.dataset.way ?? '');
    const must = ways.includes('must');
    for (const el of /** @type {NodeListOf<HTMLElement>} */ (this.writing.querySelectorAll('[data-amount], [data-not]'))) el.hidden = must || !!el.dataset.amount && !el.dataset.amount.split(' ').includes(amount?.value ?? '');
    if (amount) amount.disabled = must; // all of them
  }

  /** @private @param {HTMLFormElement} form */
  async written(form) {
    const fault = /** @type {HTMLElement} */ (form.querySelector('.brief-fault'));
    try {
      const response = await fetch(`${this.app.base}/brief/line`, { method: 'POST', body: new URLSearchParams(/** @type {any} */ (new FormData(form))) }), answer = await response.json();
      fault.textContent = response.ok ? '' : answer.error;
      fault.hidden = response.ok;
      if (!response.ok) return;
      if (await this.app.send(answer.steps, [])) this.writing.close();
    } catch {
      fault.textContent = t('The connection is away. Please try again when it is back.');
      fault.hidden = false;
    }
    await this.fresh();
  }

  /** @private @param {string} path @param {string} name */
  async keep(path, name) {
    try {
      const response = await fetch(`${this.app.base}/${path}`, { method: 'POST', body: new URLSearchParams({ name }) });
      if (!response.ok) return this.app.notice((await response.json()).error, undefined, true);
      await this.offers();
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      brief: () => { this.choose(); return true; },
      'brief-more': () => { this.choose(); return true; },
      'brief-take': (c) => { this.take(c?.dataset.steps ?? '[]'); return true; },
      'brief-edit': (c) => { this.edit(c?.dataset.line ?? ''); return true; },
      'brief-make': (c) => { this.make(c ?? undefined); return true; },
      'brief-say': () => { app.say.from.focus(); return true; },
      'brief-light': (c) => { app.lens.light((c?.dataset.elements ?? '').split(' ')); return true; },
      'brief-open': () => { /** @type {HTMLInputElement | null} */ (this.choice.querySelector('#brief-file'))?.click(); return true; },
      'brief-keep': () => { this.keep('briefs', /** @type {HTMLInputElement | null} */ (this.choice.querySelector('#brief-name'))?.value ?? ''); return true; },
      'brief-drop': (c) => { this.keep('briefs/drop', c?.dataset.name ?? ''); return true; },
      'brief-must': () => {
        const rows = this.writing.querySelectorAll('.brief-must'), row = /** @type {HTMLElement | undefined} */ (rows[rows.length - 1]?.cloneNode(true));
        if (!row) return true;
        for (const field of row.querySelectorAll('input')) field.value = '';
        rows[rows.length - 1].after(row);
        row.querySelector('input')?.focus();
        return true;
      },
    };
  }
}
