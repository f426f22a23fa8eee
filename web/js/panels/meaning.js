// @ts-check
// Kinds, tags, regions and icons from the margin: what its controls carry is sent
// down the road; choosing an icon opens the set of them.

import * as steps from '../commands/carried.js';
import { showDialog } from './dialogs.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'kinds' | 'looks' | 'model' | 'notice' | 'send' | 'settings' | 'sources' | 'tuck' | 'writing'>} App */

export class Meaning {
  /** @param {App} app @param {HTMLDialogElement} icons */
  constructor(app, icons) {
    this.app = app;
    this.icons = icons;
    /** The kind that an icon is being chosen for; none for the concepts selected. */
    this.choosing = '';
    document.addEventListener('change', (e) => {
      const el = /** @type {HTMLSelectElement} */ (e.target);
      if (el.dataset?.change === 'op' && (el.value || el.id)) steps.send(app, el, { value: el.value });
      if (el.dataset?.change === 'order-kind' && el.value) this.order(el.dataset.kind ?? '', el.value);
    });
    document.addEventListener('keydown', (e) => {
      const el = /** @type {HTMLInputElement} */ (e.target);
      if (e.key !== 'Enter' || !el.dataset?.enter || e.isComposing) return;
      e.preventDefault();
      if (el.dataset.enter === 'op') this.enter(el);
      if (el.dataset.enter === 'look') app.looks.keep();
    });
    // Undo works from the controls beside the paper, too.
    document.addEventListener('keydown', (e) => {
      const el = /** @type {Element} */ (e.target), key = e.key.toLowerCase();
      if (!(e.ctrlKey || e.metaKey) || !['z', 'y'].includes(key) || !el.closest('#margin') || el.matches('input, textarea')) return;
      e.preventDefault();
      app.back(key === 'y' || e.shiftKey ? 'redo' : 'undo');
    });
  }

  /** What is selected is of a kind from now on. @param {string} kind */
  beOf(kind) {
    const { app } = this, { name, links } = app.kinds.find((k) => k.id === kind) ?? {};
    app.send([links ? { do: 'assign-kind', links: app.chosen.links(), kind } : { do: 'assign-kind', concepts: app.chosen.concepts(), kind }], [])
      .then((ok) => { if (ok) app.announce(t('Of the kind %s.', name)); });
  }

  /** Sends what a field carries, with what was typed into it. @private @param {HTMLInputElement} field */
  async enter(field) {
    const value = field.value.trim();
    if (!value) return field.focus();
    field.value = '';
    if (!await steps.send(this.app, field, { value })) field.value = value;
  }

  /** @private @param {string} kind @param {string} after */
  order(kind, after) {
    const links = !!this.app.kinds.find((k) => k.id === kind)?.links;
    const all = this.app.kinds.filter((k) => !!k.links === links && k.id !== kind).map((k) => k.id);
    all.splice(after === 'first' ? 0 : all.indexOf(after) + 1, 0, kind);
    this.app.send([{ do: 'order-kinds', order: all }], []);
  }

  /** @private @param {string} icon */
  takeIcon(icon) {
    const concepts = this.app.chosen.concepts();
    this.icons.close();
    if (this.choosing) this.app.send([{ do: 'set-kind', kind: this.choosing, icon }], []);
    else if (concepts.length) this.app.send([{ do: 'add-icon', concepts, icon }], []);
    else this.app.notice(t('Select the concepts first that the icon is for.'));
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      op: (control) => { if (control) steps.send(app, control); },
      'mark-up': (control) => { if (control) app.writing.markUp(control); return true; },
      'be-of-kind': (control) => { this.beOf(control?.dataset.kind ?? ''); },
      'open-attached': () => {
        const only = app.chosen.only, el = app.model.get(only ?? 'c-')?.el;
        const first = el?.querySelector('.badge[data-mark="note"], .badge[data-mark="picture"], .badge[data-mark="sound"], .badge[data-mark="video"], .badge[data-mark="file"], .badge[data-mark="cite"], .badge[data-mark="web"], .badge[data-mark="task"], .badge[data-mark="done"], .badge[data-mark="talk"]');
        const kind = /** @type {HTMLElement | null | undefined} */ (first)?.dataset.mark ?? (el?.querySelector('.picture') ? 'picture' : el?.querySelector('.rows-grid') ? 'table' : '');
        if (!only || !kind) return app.notice(t('Nothing is attached to it.'));
        app.sources.openMark(only, kind);
        return true;
      },
      icons: (control) => {
        this.choosing = control?.dataset.kind ?? '';
        showDialog(this.icons);
        return true;
      },
      'take-icon': (control) => { this.takeIcon(control?.dataset.icon ?? ''); return true; },
      enter: (control) => { this.enter(/** @type {HTMLInputElement} */ (document.getElementById(control?.dataset.field ?? ''))); return true; },
      'begin-key': (control) => {
        fetch(`${app.base}/sets/${control?.dataset.set}`).then((r) => r.text()).then((all) => app.send(steps.filled(app, all) ?? [], []))
          .catch(() => app.notice(t('The connection is away. Please try again when it is back.'), undefined, true));
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
