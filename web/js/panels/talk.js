// @ts-check
// Comments and votes: what people say of the map. In the margin, and for those
// who work with the plain hand in a panel of its own.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'desk' | 'margin' | 'model' | 'notice' | 'page' | 'plain' | 'send' | 'sources' | 'view' | 'writing'>} App */

/** Under which the name of whoever sits here is kept in this browser. */
const nameKey = 'name';

export class Talk {
  /** @param {App} app @param {HTMLElement} panel */
  constructor(app, panel) {
    this.app = app;
    this.panel = panel;
    this.wanted = 0;
    document.addEventListener('focusin', (e) => this.fillName(/** @type {Element} */ (e.target)));
    document.addEventListener('input', (e) => {
      const field = /** @type {HTMLInputElement} */ (e.target);
      if (!field.matches?.('.comment-name')) return;
      try { localStorage.setItem(nameKey, field.value); } catch { /* for this visit only */ }
    });
    document.addEventListener('keydown', (e) => {
      const field = /** @type {HTMLElement} */ (e.target);
      if (e.key === 'Enter' && (e.ctrlKey || e.metaKey) && field.matches?.('.comment-words')) {
        e.preventDefault();
        /** @type {HTMLElement | null} */ (document.querySelector(`[data-field="${field.id}"]`))?.click();
      }
    });
    panel.addEventListener('input', (e) => { if (/** @type {Element} */ (e.target).matches('.keep')) app.writing.keep(/** @type {HTMLTextAreaElement} */ (e.target)); });
    panel.addEventListener('keydown', (e) => { if (e.key === 'Escape') { e.preventDefault(); this.close(); } });
  }

  /** A field for one's name knows it from the last time. @private @param {Element} target */
  fillName(target) {
    const field = /** @type {HTMLInputElement | null | undefined} */ (target.closest('.talk')?.querySelector('.comment-name'));
    if (field && !field.value) field.value = this.name();
  }

  /** @private */
  name() { try { return localStorage.getItem(nameKey) ?? ''; } catch { return ''; } }

  /** Says what was typed: on a thing, or as an answer. @private @param {HTMLElement} [control] */
  async say(control) {
    const { app } = this, field = /** @type {HTMLTextAreaElement | null} */ (document.getElementById(control?.dataset.field ?? ''));
    const talk = /** @type {HTMLElement | null | undefined} */ (control?.closest('.talk'));
    if (!field || !talk) return;
    const words = field.value.trim() || (control?.dataset.asks ? t('Please help me here.') : '');
    if (!words) {
      app.announce(t('Write something first.'));
      return field.focus();
    }
    const name = (/** @type {HTMLInputElement | null} */ (talk.querySelector('.comment-name'))?.value || this.name()).trim();
    const changes = control?.dataset.changes, { answers } = control?.dataset ?? {};
    /** @type {Wire.Operation} */
    const op = changes ? { do: 'change-comment', comment: changes, words }
      : answers ? { do: 'add-comment', id: newID('m'), answers, name, words } : { do: 'add-comment', id: newID('m'), ...(control?.dataset.asks ? { asks: true } : {}), on: { kind: /** @type {Wire.Entity} */ (talk.dataset.kind), id: talk.dataset.id ?? '' }, name, words };
    if (!await app.send([op], [])) return;
    if (!changes) {
      field.value = '';
      app.writing.keep(field);
    }
    const fold = /** @type {HTMLDetailsElement | null} */ (field.closest('details.answer, details.change'));
    if (fold) fold.open = false;
    app.announce(changes ? t('Your words are changed.') : control?.dataset.asks ? t('Your hand is raised here.') : t('It is said.'));
  }

  /** Opens what was said of an element: in the margin, where that tells of it, else in the panel. @param {string} element */
  async show(element) {
    const { app } = this;
    if (app.plain || element.startsWith('r-')) return this.open(element);
    await app.sources.marginOf(element);
    const fold = (await app.margin.reach(['talk'], '.talk'))?.closest('details');
    fold?.scrollIntoView({ block: 'start' });
    /** @type {HTMLElement | null | undefined} */ (fold?.querySelector('summary'))?.focus({ preventScroll: true });
  }

  /** Shows the panel for what is selected, or for the map. @param {string} [element] */
  async open(element = this.app.chosen.only ?? '') {
    const { app, panel } = this;
    panel.dataset.on = element;
    if (!await this.fill()) return;
    app.page.talking = true;
    await window.Alpine.nextTick();
    const thing = app.model.get(element)?.el.getBoundingClientRect(), covered = thing ? thing.right + 24 - panel.getBoundingClientRect().left : 0;
    if (thing && covered > 0) app.view.pan(-covered, 0);
    this.fillName(/** @type {Element} */ (panel.querySelector('.comment-words')));
    /** @type {HTMLElement | null} */ (panel.querySelector('.vote, .comment-words'))?.focus();
  }

  /** @private */
  async fill() {
    const { app, panel } = this;
    try {
      const inside = panel.contains(document.activeElement);
      const opened = [...panel.querySelectorAll('details[open]')].map((d) => /** @type {HTMLElement} */ (d).dataset.fold);
      await fetched(panel, { on: panel.dataset.on ?? '' });
      for (const f of panel.querySelectorAll('textarea')) {
        try { f.value ||= localStorage.getItem(`${f.id}:${app.base}`) ?? ''; } catch { /* nothing was kept */ }
      }
      for (const d of panel.querySelectorAll('details')) d.open ||= opened.includes(d.dataset.fold);
      if (inside && !panel.contains(document.activeElement)) panel.querySelector('button')?.focus({ preventScroll: true });
      return true;
    } catch {
      app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
      return false;
    }
  }

  /** The map has changed, or something else is selected. */
  fresh() {
    const { app, panel } = this;
    if (!app.page.talking) return;
    if (app.chosen.only && panel.dataset.on !== app.chosen.only) panel.dataset.on = app.chosen.only;
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(() => this.fill(), 80);
  }

  close() {
    this.app.page.talking = false;
    this.app.desk.focus({ preventScroll: true });
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    return {
      comment: (c) => { this.say(c); return true; },
      mention: (c) => {
        const field = /** @type {HTMLTextAreaElement | null | undefined} */ (c?.closest('.comment-new')?.querySelector('textarea'));
        if (!field || !c) return;
        field.focus();
        field.setRangeText(`@${c.dataset.name} `, field.selectionStart, field.selectionEnd, 'end');
        field.dispatchEvent(new Event('input', { bubbles: true }));
        return true;
      },
      'show-talk': (c) => { this.show(c?.dataset.element ?? ''); return true; },
      'comment-on': () => { if (this.app.chosen.only) this.show(this.app.chosen.only); return true; },
      'plain-talk': () => { if (!this.app.page.talking) this.open(); else this.close(); return true; },
    };
  }
}
