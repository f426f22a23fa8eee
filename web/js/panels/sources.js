// @ts-check
// Sources: files dropped, pasted, chosen or photographed, web addresses,
// citations; and opening them in place.

import { carriedFrom } from '../paper/drag-in.js';
import { newID } from '../sync/ids.js';
import { limits } from '../sync/limits.js';
import { showDialog } from './dialogs.js';
import { Dropped } from './dropped.js';
import { give } from '../paper/key-and-tabs.js';
import { view } from '../pages/viewer.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'desk' | 'discard' | 'freshMargin' | 'pointer' | 'lens' | 'margin' | 'model' | 'notes' | 'notice' | 'plain' | 'provisional' | 'reveal' | 'send' | 'settings' | 'showMargin' | 'sides' | 'talk' | 'tuck' | 'view' | 'words'>} App */
/** @typedef {{file: {hash: string, type: string, size: number, w?: number, h?: number}, title: string, kind: string, says?: string, licence?: string}} Kept */

/** How wide a picture stands on a slip at first, in pixels. */
const pictureWidth = 160;

/** @param {string} name @param {File} file */
const tooLarge = (name, file) => t('“%s” is too large: %s MB, and a file can have at most %s MB. Nothing has changed.', name, (file.size / (1 << 20)).toFixed(1), limits.fileBytes >> 20);

/** @param {HTMLElement} el @returns {Wire.Key} */
const stopKey = (el) => ({ kind: 'stop', id: el.dataset.stop ?? '' });

export class Sources {
  /** @param {App} app @param {(id: string) => any} get */
  constructor(app, get) {
    this.app = app;
    this.viewer = /** @type {HTMLDialogElement} */ (get('viewer'));
    this.again = /** @type {HTMLDialogElement} */ (get('again'));
    this.citing = /** @type {HTMLDialogElement} */ (get('citing'));
    this.shelf = /** @type {HTMLDialogElement} */ (get('shelf'));
    this.chooser = /** @type {HTMLInputElement} */ (get('file'));
    this.photo = /** @type {HTMLInputElement} */ (get('photo'));
    /** What the file that is chosen next is for, if not for what is selected. @type {Wire.Key | null} */
    this.into = null;
    for (const input of [this.chooser, this.photo]) {
      input.addEventListener('change', () => { this.bring([...input.files ?? []], undefined, undefined, this.into); this.into = null; input.value = ''; });
    }
    /** Chooses the picture that lies under the slips. */
    this.ground = /** @type {HTMLInputElement} */ (get('ground'));
    this.ground.addEventListener('change', () => { const [file] = this.ground.files ?? []; if (file) this.lay(file); this.ground.value = ''; });
    this.dropped = new Dropped(get('dropped'));
    this.listenForDrops();
    carriedFrom('.tray-item', (el, to) => this.place(el.dataset.source ?? '', { kind: to.startsWith('l-') ? 'link' : 'concept', id: to.slice(2) }));
    carriedFrom('.key-item .give', (el, to) => { if (to.startsWith('c-')) give(app, el.dataset, to); });
    for (const d of [this.viewer, this.again, this.citing, this.shelf]) {
      d.addEventListener('click', (e) => { if (e.target === d) d.close(); });
      d.addEventListener('close', () => { if (d === this.viewer) d.replaceChildren(); app.desk.focus({ preventScroll: true }); });
    }
    this.citing.addEventListener('submit', (e) => { e.preventDefault(); this.takeCitation(); });
  }

  /** Files and addresses dragged onto the page. @private */
  listenForDrops() {
    const { app } = this;
    const has = (/** @type {DragEvent} */ e) => [...e.dataTransfer?.types ?? []].some((t) => t === 'Files' || t === 'text/uri-list');
    const under = (/** @type {DragEvent} */ e) => /** @type {HTMLElement | null} */ (document.elementsFromPoint(e.clientX, e.clientY).map((el) => el.closest('#slips > .slip')).find((el) => el) ?? null);
    const unmark = () => { for (const el of document.querySelectorAll('.slip.target')) el.classList.remove('target'); };
    document.addEventListener('dragover', (e) => {
      if (!has(e)) return;
      e.preventDefault();
      unmark();
      under(e)?.classList.add('target');
    });
    document.addEventListener('dragleave', unmark);
    document.addEventListener('drop', (e) => {
      unmark();
      if (!has(e) || app.plain) return;
      e.preventDefault();
      const slip = under(e), files = [...e.dataTransfer?.files ?? []], url = e.dataTransfer?.getData('text/uri-list').split('\n')[0].trim();
      if (slip) app.choose(slip.id);
      const at = app.view.toPaper(e.clientX, e.clientY);
      if ((/** @type {Element} */ (e.target)).closest('[data-fold="tray"]')) return files.length ? this.bring(files, undefined, undefined, this.tray()) : this.toTray(url ? [url] : []);
      const card = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.card-work'));
      if (card) return files.length ? this.bring(files, undefined, undefined, stopKey(card)) : this.address(url ?? '', stopKey(card));
      if (files.length && !slip && e.target instanceof Element && e.target.closest('#desk') && this.dropped.takes(files)) return this.dropped.ask(files, () => this.bring(files, at));
      if (files.length) this.bring(files, slip || (/** @type {Element} */ (e.target)).closest('.margin') ? undefined : at);
      else if (url) this.address(url);
    });
  }

  /** The tray of the map. @private @returns {Wire.Key} */
  tray() { return { kind: 'map', id: document.body.dataset.map ?? '' }; }

  /** Puts addresses into the tray. @private @param {string[]} addresses */
  async toTray(addresses) {
    const ops = addresses.map((url) => url.trim()).filter((url) => url).map((url) => /** @type {const} */ ({ do: 'attach-source', on: this.tray(), id: newID('s'), url }));
    return ops.length > 0 && this.app.send(ops, []);
  }

  /** @private @param {string} id @param {Wire.Key | null} to */
  async place(id, to) {
    if (!to) return this.app.notice(t('Select the concept or link first that it belongs to.'));
    if (await this.app.send([{ do: 'place-source', from: this.tray(), id, to }], [])) this.app.notice(t('It is attached.'), { words: t('Undo'), act: () => this.app.back('undo') });
  }

  /** What sources are attached to now, or nothing. @private @returns {Wire.Key | null} */
  on() {
    const only = this.app.chosen.list[0];
    if (!only || this.app.model.get(only)?.provisional) return null;
    return { kind: only.startsWith('l-') ? 'link' : 'concept', id: only.slice(2) };
  }

  /** Keeps files and attaches them to what is selected; without a selection, or
   * dropped on free paper, each becomes a concept of its own. @param {File[]} files @param {{x: number, y: number}} [at] @param {string} [says] what is seen there, where that is known @param {Wire.Key | null} [into] what else they are for */
  async bring(files, at, says, into) {
    const { app } = this, on = into ?? (at ? null : this.on());
    for (const [i, file] of files.entries()) {
      const name = file.name || 'picture';
      if (file.size > limits.fileBytes) {
        app.notice(tooLarge(name, file), undefined, true);
        continue;
      }
      const kept = await this.keep(file, name);
      if (!kept) continue;
      if (says) kept.says = says;
      const seen = app.view.seen(), place = at ?? { x: seen.x + seen.w / 2, y: seen.y + seen.h / 3 };
      await this.attach(kept, on, { x: place.x + i * 60, y: place.y + i * 60 });
    }
  }

  /** Lays a picture under the whole map. @private @param {File} file */
  async lay(file) {
    const { app } = this, name = file.name || 'picture';
    if (file.size > limits.fileBytes) return app.notice(tooLarge(name, file), undefined, true);
    const kept = await this.keep(file, name);
    if (!kept) return;
    const { w = 0, h = 0 } = kept.file;
    if (kept.kind !== 'picture' || !w || !h) return app.notice(t('“%s” is no picture that can lie under a map. Nothing has changed.', name), undefined, true);
    const all = app.model.bounds() ?? { x: 0, y: 0, w: 800, h: 500 }, wide = Math.round(Math.max(all.w + 80, (all.h + 80) * w / h));
    const at = { x: Math.round(all.x + (all.w - wide) / 2), y: Math.round(all.y + (all.h - wide * h / w) / 2) };
    if (await app.send([{ do: 'set-look', paper: 'picture', picture: { file: kept.file, at, wide } }], [])) app.notice(t('The picture lies under the map.'), { words: t('Undo'), act: () => app.back('undo') });
  }

  /** Sends a file and shows how far it has come. @private @param {File} file @param {string} name @returns {Promise<Kept | null>} */
  keep(file, name) {
    const { app } = this;
    return new Promise((done) => {
      const r = new XMLHttpRequest();
      const bar = document.createElement('progress');
      r.upload.onprogress = (e) => { if (e.lengthComputable) { bar.max = e.total; bar.value = e.loaded; } };
      const holder = document.createElement('div');
      holder.className = 'notice';
      holder.append(t('Bringing “%s” ', name), bar);
      const shown = window.setTimeout(() => document.getElementById('notices')?.append(holder), 300);
      r.onloadend = () => {
        clearTimeout(shown);
        holder.remove();
        let answer = null;
        try { answer = JSON.parse(r.responseText); } catch { /* no answer came */ }
        if (r.status === 200) return done(answer);
        app.notice(answer?.error ?? t('“%s” did not arrive: the connection is away. Nothing has changed; please try again.', name), undefined, true);
        done(null);
      };
      r.open('POST', `${app.base}/files?name=${encodeURIComponent(name)}`);
      r.setRequestHeader('Content-Type', 'application/octet-stream');
      r.send(file);
    });
  }

  /** @private @param {Kept} kept @param {Wire.Key | null} on @param {{x: number, y: number}} at */
  async attach(kept, on, at) {
    const { app } = this, ops = /** @type {Wire.Operation[]} */ ([]);
    let target = on;
    if (!target) {
      const id = newID('c');
      target = { kind: 'concept', id };
      ops.push({ do: 'add-concept', id, label: kept.title.replace(/\.[^.]{1,5}$/, '').replaceAll('_', ' ') || t('a picture'), at: { x: Math.round(at.x), y: Math.round(at.y) } });
    }
    const shown = kept.kind === 'picture' && target.kind === 'concept' && !!kept.file.w && !app.model.slips.get(target.id)?.el.querySelector('.picture');
    ops.push({ do: 'attach-source', on: target, id: newID('s'), title: kept.title, file: kept.file, says: kept.says ?? '', licence: kept.licence ?? '', ...(shown ? { wide: Math.min(pictureWidth, Math.max(24, kept.file.w ?? 0)) } : {}) });
    if (!await app.send(ops, [])) return;
    if (!on) app.choose(`c-${target.id}`);
    else if (on.kind === 'stop') app.freshMargin();
    if (target.kind === 'map') return app.notice(t('“%s” is with the sources not used yet.', kept.title || kept.kind), { words: t('Undo'), act: () => app.back('undo') });
    app.notice(t('“%s” is attached.%s', kept.title || kept.kind, kept.kind === 'picture' && !kept.says ? t(' Describe it for those who cannot see it: in the margin, below its name.') : ''), { words: t('Undo'), act: () => app.back('undo') });
  }

  /** Attaches a web address to what is selected, or to something else. @param {string} url @param {Wire.Key | null} [on] */
  async address(url, on = this.on()) {
    const { app } = this;
    if (!on) return app.notice(t('Select the concept or link first that the address belongs to.'));
    // A title makes it readable; without one the address stands for itself.
    const page = await fetch(`${app.base}/preview?url=${encodeURIComponent(url)}`).then((r) => r.json()).catch(() => ({}));
    if (!await app.send([{ do: 'attach-source', on, id: newID('s'), url: url.trim(), title: page.title ?? '' }], [])) return;
    app.notice(t('The address is attached%s.', page.title ? ` as “${page.title}” (${page.says})` : ''), { words: t('Undo'), act: () => app.back('undo') });
    const field = /** @type {HTMLInputElement | null} */ (document.getElementById(on.kind === 'stop' ? 'stop-source' : 'source'));
    if (field) field.value = '';
  }

  /** Opens a source in place. @param {DOMStringMap} s */
  open(s) { view(this.viewer, this.app.base, s); }

  /** Brings the margin of an element, with all there is about it open. @param {string} element */
  async marginOf(element) {
    const { app } = this;
    app.choose(element);
    app.showMargin(true);
    const margin = /** @type {HTMLElement} */ (document.getElementById('margin'));
    await app.margin.reach(['about-note', 'about-sources'], `.margin-body[data-chosen="${element}"] .sources-of`);
    return margin;
  }

  /** Goes to where a picture is described that is not yet. @param {string} element */
  async describe(element) {
    const margin = await this.marginOf(element);
    for (const item of margin.querySelectorAll('.source-item')) {
      const says = /** @type {HTMLTextAreaElement | null} */ (item.querySelector('textarea[data-key="says"]'));
      if (!says || says.value) continue;
      /** @type {HTMLDetailsElement} */ (item.querySelector('details')).open = true;
      says.scrollIntoView({ block: 'center' });
      return says.focus();
    }
  }

  /** Opens what a mark stands for. @param {string} element @param {string} kind */
  async openMark(element, kind) {
    if (kind === 'note') return this.app.notes.toggle(element);
    if (kind === 'talk' || kind === 'comment') return this.app.talk.show(element);
    const margin = await this.marginOf(element);
    if (kind === 'task' || kind === 'done') {
      const who = await this.app.margin.reach(['about-task'], '#task-who');
      who?.closest('details')?.scrollIntoView({ block: 'center' });
      return who?.focus({ preventScroll: true });
    }
    if (kind === 'table') return (await this.app.margin.reach(['about-kind'], '[data-do="table"]'))?.click();
    const all = /** @type {NodeListOf<HTMLElement>} */ (margin.querySelectorAll(`[data-do="open-source"][data-kind="${kind}"]`));
    if (all.length === 1) return this.open(all[0].dataset);
    all[0]?.scrollIntoView({ block: 'center' });
    all[0]?.focus();
  }

  /** Attaches a file that was brought before. @private @param {Kept} kept */
  async takeAgain(kept) {
    const { app } = this, on = this.on(), seen = app.view.seen();
    this.again.close();
    const used = await fetch(`${app.base}/files/${kept.file.hash}/use`, { method: 'POST' }).catch(() => null);
    if (!used?.ok) return app.notice(t('That could not be taken just now. Please try again.'), undefined, true);
    this.attach(kept, on, { x: seen.x + seen.w / 2, y: seen.y + seen.h / 3 });
  }

  /** @private @param {string} item */
  async takeFromShelf(item) {
    const { app } = this, on = this.on(), seen = app.view.seen();
    const response = await fetch(`${app.base}/shelf/${item}`, { method: 'POST' }).catch(() => null);
    if (!response?.ok) return app.notice(t('That could not be taken just now. Please try again.'), undefined, true);
    this.shelf.close();
    this.attach(await response.json(), on, { x: seen.x + seen.w / 2, y: seen.y + seen.h / 3 });
  }

  /** @private */
  async takeCitation() {
    const form = /** @type {HTMLFormElement} */ (this.citing.querySelector('form')), data = new FormData(form), on = this.on() ?? this.tray();
    const works = String(data.get('works') ?? '').trim();
    if (works) return this.takeWorks(works, on);
    const cite = /** @type {Wire.Citation} */ (Object.fromEntries(['author', 'year', 'title', 'place'].map((k) => [k, String(data.get(k) ?? '').trim()])  .filter(([, v]) => v)));
    if (await this.app.send([{ do: 'attach-source', on, id: newID('s'), cite }], [])) this.citing.close();
  }

  /** @private @param {string} text @param {{kind: string, id: string}} on */
  async takeWorks(text, on) {
    const { app } = this;
    try {
      const response = await fetch(`${app.base}/cited`, { method: 'POST', body: new URLSearchParams({ text }) }), all = await response.json();
      if (!response.ok) return app.notice(all.error, undefined, true);
      if (!await app.send(all.map((/** @type {object} */ cite) => ({ do: 'attach-source', on, id: newID('s'), cite })), [])) return;
      this.citing.close();
      app.notice(t('%s %s attached%s.', all.length, all.length === 1 ? 'work' : 'works', on.kind === 'map' ? t(' to the sources not used yet') : ''), { words: t('Undo'), act: () => app.back('undo') });
    } catch {
      app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      attach: () => { this.address(/** @type {HTMLInputElement} */ (document.getElementById('source')).value); return true; },
      'place-source': (c) => { this.place(c?.dataset.source ?? '', this.on()); return true; },
      'tray-add': () => {
        const field = /** @type {HTMLTextAreaElement} */ (document.getElementById('tray-add'));
        this.toTray(field.value.split('\n')).then((ok) => { if (ok) field.value = ''; });
        return true;
      },
      'tray-file': () => { this.into = this.tray(); this.chooser.click(); return true; },
      'stop-file': (c) => { this.into = c ? stopKey(c) : null; this.chooser.click(); return true; },
      'stop-attach': (c) => { this.address(/** @type {HTMLInputElement} */ (document.getElementById('stop-source')).value, c ? stopKey(c) : null); return true; },
      'choose-file': () => { this.into = null; this.chooser.click(); return true; },
      'take-photo': () => { this.photo.click(); return true; },
      'used-before': () => { showDialog(this.again); return true; },
      'take-again': (c) => { this.takeAgain(JSON.parse(c?.dataset.kept ?? '{}')); return true; },
      shelf: () => { showDialog(this.shelf); return true; },
      'shelf-take': (c) => { this.takeFromShelf(c?.dataset.item ?? ''); return true; },
      cite: () => { showDialog(this.citing); return true; },
      'cite-leave': () => { this.citing.close(); },
      'open-source': (c) => { if (c) this.open(c.dataset); return true; },
      'picture-size': (c) => {
        const on = this.on(), { wide, by, source } = c?.dataset ?? {};
        if (on) app.send([{ do: 'set-source', on, id: source ?? '', wide: Math.round(Number(wide) * Number(by)) }], []);
        return true;
      },
    };
  }
}
