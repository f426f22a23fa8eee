// @ts-check
// Making routes: the phase Guide. Which route and which stop are open is each
// viewer's own; the stops themselves come with the margin.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { drawShape } from './route-shape.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'desk' | 'freshMargin' | 'lens' | 'model' | 'notice' | 'phase' | 'road' | 'routeLine' | 'send' | 'showPhase'>} App */

/** @param {string} element */
/** @returns {Wire.Key} */
const keyOf = (/** @type {string} */ element) => ({ kind: /** @type {Wire.Entity} */ ({ l: 'link', r: 'region', m: 'map' }[element[0]] ?? 'concept'), id: element.slice(2) });

export class Guide {
  /** @param {App} app @param {HTMLElement} margin */
  constructor(app, margin) {
    this.app = app;
    this.margin = margin;
    this.route = '';
    this.stop = '';
    /** The field that should have the keyboard once it is there. */
    this.wanted = '';
    margin.addEventListener('change', (e) => {
      const choice = /** @type {HTMLSelectElement} */ (e.target);
      if (choice.id !== 'route-choice') return;
      [this.route, this.stop] = [choice.value, ''];
      app.freshMargin();
    });
    margin.addEventListener('keydown', (e) => this.key(e));
    margin.addEventListener('pointerdown', (e) => this.press(e));
  }

  /** Whoever comes back from a walk or a desk finds the stop open that they left. */
  returned() {
    const stop = /^#stop-(.+)/.exec(location.hash)?.[1];
    if (!stop) return;
    history.replaceState(null, '', location.pathname);
    [this.route, this.stop] = ['', decodeURIComponent(stop)];
    if (this.app.phase === 'guide') this.app.freshMargin();
    else this.app.showPhase('guide');
  }

  /** What the margin asks for. */
  asks() { return { route: this.route, stop: this.stop }; }

  /** The rows of the stops, in their order. */
  rows() { return /** @type {HTMLElement[]} */ ([...this.margin.querySelectorAll('#stops > li')]); }

  /** Takes up a newer margin: which route it shows, and the numbers on the paper. */
  took() {
    // One that was asked for before the last entry was answered knows nothing of the stop that it added.
    const { phase, revision } = /** @type {HTMLElement | null} */ (this.margin.querySelector('#margin-phase > section'))?.dataset ?? {};
    if (this.app.phase === 'guide' && phase === 'guide' && Number(revision) >= this.app.road.revision && !this.app.road.queue.length) {
      this.route = this.margin.querySelector('[data-at-route]')?.getAttribute('data-at-route') ?? '';
      if (!this.rows().some((r) => r.dataset.stop === this.stop)) this.stop = '';
    }
    this.addresses();
    for (const svg of /** @type {NodeListOf<SVGSVGElement>} */ (this.margin.querySelectorAll('.route-shape'))) drawShape(svg);
    const field = this.wanted && document.getElementById(this.wanted);
    if (field) {
      this.wanted = '';
      field.focus();
    }
    this.app.routeLine.fresh();
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    const stopOf = (/** @type {HTMLElement | undefined} */ c) => c?.dataset.stop ?? '';
    return {
      'new-route': () => {
        const id = newID('r');
        [this.route, this.stop] = [id, ''];
        this.wanted = 'route-title';
        app.send([{ do: 'add-route', id }], []);
        return true;
      },
      proposals: () => { this.propose({}); return true; },
      'route-from': () => {
        const value = (/** @type {string} */ id) => /** @type {HTMLSelectElement} */ (document.getElementById(id)).value;
        this.propose({ from: value('route-from'), by: value('route-sorting') });
        return true;
      },
      'proposal-light': (c) => {
        /** @type {HTMLDialogElement | null} */ (document.querySelector('#proposals'))?.close();
        app.lens.light((c?.dataset.elements ?? '').split(' '));
        return true;
      },
      'proposal-take': (c) => {
        /** @type {HTMLDialogElement | null} */ (document.querySelector('#proposals'))?.close();
        [this.route, this.stop] = [c?.dataset.route ?? '', ''];
        app.send(JSON.parse(c?.dataset.steps ?? '[]'), []).then((done) => { if (done) app.freshMargin(); });
        return true;
      },
      'remove-route': () => {
        app.send([{ do: 'remove-route', route: this.route }], []);
        this.route = this.stop = '';
        app.notice(t('The route is deleted.'), { words: t('Undo'), act: () => app.back('undo') });
      },
      'add-stop': () => this.add(),
      'add-whole': () => { this.insert(['m-']); return true; },
      'add-region': (c) => { this.insert([`r-${c?.dataset.region}`]); return true; },
      'add-branch': (c) => { this.insert([`c-${c?.dataset.concept}`], { branches: true }); return true; },
      'copy-stop': (c) => { this.copyOf(stopOf(c)); return true; },
      'add-choice': (c) => { app.send([{ do: 'offer-choice', stop: stopOf(c), id: newID('w'), words: '', to: c?.dataset.to ?? '' }], []); return true; },
      'drop-choice': (c) => { app.send([{ do: 'offer-choice', stop: stopOf(c), id: c?.dataset.choice ?? '', to: '' }], []); return true; },
      'drop-mend': (c) => { app.send([{ do: 'drop-mend', stop: stopOf(c), id: c?.dataset.mend ?? '' }], []); return true; },
      'present-route': (c) => { // begins at the stop that lies open
        if (c instanceof HTMLAnchorElement) c.href = c.href.replace(/&stop=.*/, '') + (this.stop ? `&stop=${this.stop}` : '');
        return true;
      },
      'go-stop': (c) => { [this.route, this.stop] = [c?.dataset.route ?? '', stopOf(c)]; if (app.phase === 'guide') app.freshMargin(); else app.showPhase('guide'); return true; },
      'open-stop': (c) => { this.openStop(stopOf(c)); return true; },
      'stop-earlier': (c) => { this.step(stopOf(c), -1); return true; },
      'stop-later': (c) => { this.step(stopOf(c), 1); return true; },
      'remove-stop': (c) => { this.remove(stopOf(c)); return true; },
      'show-ref': (c) => this.show(stopOf(c), (had) => [...had, ...app.chosen.list]),
      'hide-ref': (c) => { this.show(stopOf(c), (had) => had.filter((e) => e !== c?.dataset.element)); return true; },
      'look-at-walk': (c) => { // begins at the stop that lies open
        if (c instanceof HTMLAnchorElement) c.hash = this.stop ? `stop-${this.stop}` : '';
        return true;
      },
      'make-link': (c) => { this.links(`${app.base}/grants`, { route: c?.dataset.route ?? '' }, 'walk-links'); return true; },
      'close-link': (c) => { this.links(`${app.base}/grants/${c?.dataset.grant}/close`, { route: c?.dataset.route ?? '' }, 'walk-links'); return true; },
      'copy-link': (c) => { this.copy(c); return true; },
    };
  }

  /** Shows the routes that the map suggests. @private @param {Record<string, string>} asked what one is to be made from, and in which order */
  propose(asked) {
    const { app } = this, dialog = /** @type {HTMLDialogElement} */ (document.getElementById('proposals'));
    if (!dialog.open) {
      dialog.replaceChildren();
      dialog.showModal();
    }
    fetched(dialog, { chosen: app.chosen.list.slice(0, 60).join(','), ...asked }).catch((e) => {
      dialog.close();
      app.notice(/** @type {Error} */ (e).message, undefined, true);
    });
  }

  /** Adds what is selected as a stop, behind the one that is open. */
  add() {
    const { app } = this;
    this.insert(app.chosen.list.filter((e) => !app.model.get(e)?.provisional));
  }

  /** Adds a stop behind the one that is open, or at the end. @param {string[]} shows elements @param {{branches?: boolean, at?: number}} [how] */
  insert(shows, { branches, at } = {}) {
    const { app } = this, rows = this.rows(), ops = this.begun();
    // The stop before may be so new that the list does not show it yet.
    const after = at === undefined ? this.stop || rows.at(-1)?.dataset.stop || '' : at > 0 ? rows[at - 1].dataset.stop ?? '' : '';
    this.stop = newID('s');
    const words = shows.map((e) => app.model.get(e)?.words).filter(Boolean).join(', ');
    ops.push({ do: 'add-stop', id: this.stop, route: this.route, after, refs: shows.map(keyOf) });
    if (branches) ops.push({ do: 'plan-stop', stop: this.stop, branches });
    app.send(ops, []);
    app.announce(t('Added as a stop: %s', words || t('text only')));
    app.showPhase('guide');
  }

  /** The operations that begin a route where none is open. @private @returns {Wire.Operation[]} */
  begun() {
    if (this.route) return [];
    this.route = newID('r');
    return [{ do: 'add-route', id: this.route }];
  }

  /** Adds a stop for what was looked at, behind another, or at the end. @param {string} element @param {string} after @returns {string} the stop */
  record(element, after) {
    const ops = this.begun(), id = newID('s');
    ops.push({ do: 'add-stop', id, route: this.route, after: after || this.rows().at(-1)?.dataset.stop || '', refs: [keyOf(element)] });
    this.app.send(ops, [element]);
    return id;
  }

  /** @param {string} stop */
  copyOf(stop) {
    const id = newID('s');
    this.app.send([{ do: 'copy-stop', stop, id }], []);
    this.stop = id;
    this.app.announce(t('A copy stands behind it.'));
  }

  /** @param {string} stop */
  openStop(stop) {
    const row = this.rows().find((r) => r.dataset.stop === stop);
    this.stop = this.stop === stop ? '' : stop;
    const all = (row?.dataset.elements ?? '').split(' ').filter((e) => this.app.model.get(e));
    if (this.stop && all.length) this.app.choose(...all);
    this.app.freshMargin();
  }

  /** Puts a stop one place earlier or later. @param {string} stop @param {number} by */
  step(stop, by) {
    const ids = this.rows().map((r) => r.dataset.stop ?? ''), at = ids.indexOf(stop), to = at + by;
    if (at < 0 || to < 0 || to >= ids.length) return this.app.announce(by < 0 ? t('It is the first stop already.') : t('It is the last stop already.'));
    this.place(stop, to);
  }

  /** @param {string} stop @param {number} to its place in the list */
  place(stop, to) {
    const others = this.rows().filter((r) => r.dataset.stop !== stop), row = this.rows().find((r) => r.dataset.stop === stop);
    this.app.send([{ do: 'move-stop', stop, after: to > 0 ? others[to - 1].dataset.stop : '' }], []);
    this.app.announce(t('Now stop %s.', to + 1));
    if (!row) return;
    // At once, so that the next key finds the list as it will be.
    const held = /** @type {HTMLElement | null} */ (document.activeElement);
    row.parentElement?.insertBefore(row, others[to] ?? null);
    if (held && row.contains(held)) held.focus();
    this.count();
  }

  /** Numbers the rows as they stand. @private */
  count() {
    this.rows().filter((r) => !r.classList.contains('skipped')).forEach((r, i) => { (r.querySelector('.grip') ?? r).textContent = String(i + 1); });
  }

  /** @param {string} stop */
  remove(stop) {
    const ids = this.rows().map((r) => r.dataset.stop ?? ''), at = ids.indexOf(stop);
    if (this.stop === stop) this.stop = '';
    const next = ids[at + 1] ?? ids[at - 1];
    this.app.send([{ do: 'remove-stop', stop }], []);
    this.rows()[at]?.remove();
    this.count();
    const row = this.rows().find((r) => r.dataset.stop === next);
    /** @type {HTMLElement | null} */ (row?.querySelector('button') ?? this.margin.querySelector('[data-do="add-stop"]'))?.focus();
    this.app.notice(t('The stop is taken out of the route.'), { words: t('Undo'), act: () => this.app.back('undo') });
  }

  /** Changes what a stop shows. @param {string} stop @param {(had: string[]) => string[]} change */
  show(stop, change) {
    const had = [...this.margin.querySelectorAll('.shown [data-do="hide-ref"]')].map((b) => /** @type {HTMLElement} */ (b).dataset.element ?? '');
    this.app.send([{ do: 'show-at-stop', stop, refs: change(had).map(keyOf) }], []);
  }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const at = /** @type {HTMLElement} */ (e.target).closest('.stop');
    if (!(at instanceof HTMLElement)) return;
    const stop = at.dataset.stop ?? '', rows = this.rows(), i = rows.findIndex((r) => r.dataset.stop === stop);
    const by = e.key === 'ArrowUp' ? -1 : e.key === 'ArrowDown' ? 1 : 0;
    if (by && (e.ctrlKey || e.metaKey || e.altKey)) this.step(stop, by);
    else if (by) /** @type {HTMLElement | null} */ (rows[i + by]?.querySelector('.stop'))?.focus();
    else if (e.key.toLowerCase() === 'd' && (e.ctrlKey || e.metaKey)) this.copyOf(stop);
    else if (e.key === 'Delete' || e.key === 'Backspace') this.remove(stop);
    else if (e.key === 'Escape') this.app.desk.focus({ preventScroll: true });
    else return;
    e.preventDefault();
  }

  /** Where in the list something would be put that is let go of at a place of the window; -1 where that
   * is not on the list. It is shown there. @param {number} x @param {number} y @param {boolean} show */
  landing(x, y, show) {
    const list = document.getElementById('stops'), rows = this.rows(), around = list?.closest('section')?.getBoundingClientRect(), b = list?.getBoundingClientRect();
    rows.forEach((r) => r.classList.remove('before', 'behind'));
    list?.classList.remove('open-to');
    if (this.app.phase !== 'guide' || !list || !b || !around || x < around.left || x > around.right || y < b.top - 24 || y > b.bottom + 48) return -1;
    const at = rows.filter((r) => { const box = r.getBoundingClientRect(); return box.top + box.height / 2 < y; }).length;
    if (show) {
      list.classList.add('open-to');
      rows[at]?.classList.add('before');
      if (at === rows.length) rows.at(-1)?.classList.add('behind');
    }
    return at;
  }

  /** Drags a stop by its number to another place in the list. @private @param {PointerEvent} e */
  press(e) {
    const grip = /** @type {HTMLElement} */ (e.target).closest('.grip');
    const row = /** @type {HTMLElement | null} */ (grip?.closest('li') ?? null);
    if (!grip || !row || e.button !== 0) return;
    e.preventDefault();
    grip.setPointerCapture(e.pointerId);
    const rows = this.rows(), from = rows.indexOf(row);
    let to = from;
    const gone = new AbortController();
    const end = (/** @type {boolean} */ take) => {
      gone.abort();
      rows.forEach((r) => r.classList.remove('lifted', 'before', 'behind'));
      if (take && to !== from) this.place(row.dataset.stop ?? '', to);
    };
    const on = (/** @type {string} */ what, /** @type {(e: any) => void} */ act) => addEventListener(what, act, { signal: gone.signal });
    on('pointermove', (/** @type {PointerEvent} */ m) => {
      // The place among the others: how many of them have their middle above.
      const others = rows.filter((r) => r !== row);
      to = others.filter((r) => { const b = r.getBoundingClientRect(); return b.top + b.height / 2 < m.clientY; }).length;
      row.classList.add('lifted');
      others.forEach((r, i) => {
        r.classList.toggle('before', i === to && to !== from);
        r.classList.toggle('behind', i === others.length - 1 && to === others.length && to !== from);
      });
    });
    on('pointerup', () => end(true));
    on('pointercancel', () => end(false));
    on('keydown', (/** @type {KeyboardEvent} */ k) => { if (k.key === 'Escape') end(false); });
  }

  /** What is planned for the route or for a stop, and what is mended. @param {HTMLInputElement | HTMLSelectElement} field */
  planned(field) {
    const { app, route } = this, { change, key = '', stop = '', mend = '', choice: id = '' } = field.dataset;
    const on = field instanceof HTMLInputElement && field.checked, value = field.type === 'checkbox' ? on : field.type === 'number' ? Math.round(Number(field.value)) || 0 : field.value;
    const send = (/** @type {object} */ op) => { app.send([/** @type {Wire.Operation} */ (op)], []); };
    if (change === 'route-plan') send({ do: 'plan-route', route, [key]: value });
    if (change === 'stop-plan') send({ do: 'plan-stop', stop, [key]: value });
    if (change === 'stop-then') send({ do: 'lead-on', stop, then: value });
    if (change === 'choice-words') send({ do: 'offer-choice', stop, id, words: value });
    if (change === 'choice-to') send({ do: 'offer-choice', stop, id, to: value });
    if (change === 'mend') send({ do: 'tick-mend', stop, id: mend, done: on });
  }

  /** Links are shown with the address at which this Mevrin is reached. */
  addresses() {
    for (const a of /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll('.address'))) a.value = `${location.origin}${a.dataset.path ?? '/walk/'}${a.dataset.token}`;
  }

  /** Makes or closes a link, and shows those that are left. @param {string} path @param {Record<string, string>} what @param {string} shown where the links stand */
  async links(path, what, shown) {
    try {
      const response = await fetch(path, { method: 'POST', body: new URLSearchParams(what) });
      if (!response.ok) return this.app.notice((await response.json()).error ?? t('That did not work.'), undefined, true);
      const holder = document.getElementById(shown);
      if (holder) holder.innerHTML = await response.text();
      this.took();
      /** @type {HTMLElement | null} */ (holder?.querySelector('.walk-links li:last-child [data-do="copy-link"]') ?? holder?.querySelector('[data-do="make-link"], [data-do="hand-link"], [data-do="judge-link"]') ?? null)?.focus();
    } catch {
      this.app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** Takes back all that a visitor did; undo brings it again. @param {string} visitor */
  async takeBack(visitor) {
    const { app } = this;
    try {
      const response = await fetch(`${app.base}/visitors/${visitor}/take-back`, { method: 'POST' }), said = await response.json();
      if (!response.ok) return app.notice(said.error ?? t('That did not work.'), undefined, true);
      for (const words of said.notices ?? []) app.notice(words);
      app.notice(t('What this visitor did is taken back.'), { words: t('Undo'), act: () => app.back('undo') });
      app.freshMargin();
    } catch {
      app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @private @param {HTMLElement} [control] */
  async copy(control) {
    const field = /** @type {HTMLInputElement | null} */ (control?.parentElement?.querySelector('.address') ?? null);
    if (!field) return;
    field.select();
    try {
      await navigator.clipboard.writeText(field.value);
      this.app.notice(t('The link is copied.'));
    } catch {
      // Without a secure page the clipboard is closed to scripts.
      this.app.notice(t('The link is selected: copy it with Ctrl+C.'));
    }
  }
}
