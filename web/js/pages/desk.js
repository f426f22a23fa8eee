// @ts-check
// The guide desk: leads the room, and shows what only whoever guides sees.

import { renewAll } from '../panels/renew.js';
import { drawShape } from '../panels/route-shape.js';
import { Stage, follow } from '../paper/stage.js';
import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** @template {Element} E @param {string} id @returns {E} */
const get = (id) => /** @type {any} */ (document.getElementById(id));

/** @param {number} seconds */
const minutes = (seconds) => {
  const s = Math.max(0, Math.floor(seconds)), rest = `${s % 60}`.padStart(2, '0');
  return s < 3600 ? `${Math.floor(s / 60)}:${rest}` : `${Math.floor(s / 3600)}:${`${Math.floor((s % 3600) / 60)}`.padStart(2, '0')}:${rest}`;
};

class Desk {
  constructor() {
    this.base = document.body.dataset.base ?? '';
    this.rehearsal = document.body.dataset.rehearsal === '1';
    this.desk = (/** @type {string} */ what) => `desk/${what}${this.rehearsal ? '?rehearse=1' : ''}`;
    this.stage = new Stage(this.base);
    this.told = /** @type {HTMLElement} */ (get('told'));
    /** What the clock said, and when. @type {{at: number, began: number, since: number, spent: Record<string, number>, from: number | null, to: number | null, rooms: number} | null} */
    this.clock = null;
    /** The markup at the side, as it came. @type {DocumentFragment | null} */
    this.said = null;
    /** @type {SVGSVGElement | null} */
    this.shape = null;
    /** What the shape was drawn of. @type {string | undefined} */
    this.shaped = '';
    this.spotting = false;
    /** Where the spot goes next, while the last place is on its way. @type {{x: number, y: number} | null | undefined} */
    this.pending = undefined;
    this.sending = false;
    /** What was asked for and is not answered yet, in the order in which it was. */
    this.road = Promise.resolve();
    this.listen();
    this.alone(localStorage.getItem('desk-alone') === '1' && !this.rehearsal);
    this.line = follow(`${this.base}/${this.desk('live')}`, (f) => this.take(f), (away) => this.tell(away ? t('The connection is away. It is sought again.') : ''), () => { location.href = this.base; });
    setInterval(() => this.tick(), 500);
  }

  /** @param {string} words */
  tell(words) { this.told.textContent = words; }

  /** @param {any} f */
  take(f) {
    if (f.ended) { location.href = this.base; return; }
    if (!('version' in f)) {
      if (this.clock && 'rooms' in f) this.clock.rooms = f.rooms;
      return this.tick();
    }
    this.stage.show(f);
    this.clock = { at: performance.now(), ...f.clock };
    this.side(f.side);
    if (f.concepts) get('all-concepts').innerHTML = f.concepts;
    for (const [deed, on] of [['closer', f.closer], ['dark', f.dark]]) document.querySelector(`.desk-tools [data-deed="${deed}"]`)?.setAttribute('aria-pressed', String(on));
    const list = [...document.querySelectorAll('#side .desk-list .desk-stop')], now = list.findIndex((b) => b.hasAttribute('aria-current'));
    get('where').textContent = now < 0 ? t('before the first stop') : t('%s of %s', now + 1, list.length);
    /** @type {HTMLElement} */ (get('return')).hidden = !f.aside;
    if (!f.spot && this.spotting && !this.sending && this.pending === undefined) this.stage.spot(null);
    this.tick();
  }

  /** What only whoever guides sees; what is being written and what lies open stays. @private @param {string} markup */
  side(markup) {
    const side = /** @type {HTMLElement} */ (get('side'));
    if (side.dataset.markup === markup) return;
    const held = /** @type {HTMLElement | null} */ (side.contains(document.activeElement) ? document.activeElement : null);
    if (held?.matches('input, textarea') && /** @type {HTMLInputElement} */ (held).value !== /** @type {HTMLInputElement} */ (held).defaultValue) return; // once it is done
    const open = new Map([...side.querySelectorAll('details')].map((d) => [d.dataset.fold, d.open])), top = side.scrollTop;
    const same = held?.dataset.deed ? `[data-deed="${held.dataset.deed}"]${held.dataset.id ? `[data-id="${held.dataset.id}"]` : ''}` : '';
    side.dataset.markup = markup;
    const now = document.createElement('template');
    now.innerHTML = markup;
    if (this.said) renewAll(side, this.said, now.content);
    else side.replaceChildren(now.content.cloneNode(true));
    this.said = now.content;
    for (const d of side.querySelectorAll('details')) d.open = open.get(d.dataset.fold) ?? d.open;
    const shape = /** @type {SVGSVGElement} */ (side.querySelector('.route-shape'));
    if (shape !== this.shape || shape.dataset.shape !== this.shaped) drawShape(shape);
    [this.shape, this.shaped] = [shape, shape.dataset.shape];
    side.scrollTop = top;
    const list = /** @type {HTMLElement | null} */ (side.querySelector('.desk-list ol')), row = /** @type {HTMLElement | null} */ (list?.querySelector('[aria-current]') ?? null);
    if (list && row && row.offsetTop + row.offsetHeight > list.offsetTop + list.clientHeight) list.scrollTop = Math.max(0, row.getBoundingClientRect().top - list.getBoundingClientRect().top - list.clientHeight / 3);
    if (same) /** @type {HTMLElement | null} */ (side.querySelector(same))?.focus({ preventScroll: true });
    get('strip-notes').innerHTML = side.querySelector('.desk-notes')?.innerHTML ?? '';
  }

  /** @private */
  tick() {
    const c = this.clock;
    if (!c) return;
    const gone = (performance.now() - c.at) / 1000, all = c.began + gone;
    get('clock').textContent = minutes(all);
    get('clock-stop').textContent = minutes(c.since + gone + (c.spent[this.stage.frame?.stop ?? ''] ?? 0));
    const planned = c.from !== null && c.to !== null;
    /** @type {HTMLElement} */ (get('pace-holder')).hidden = !planned;
    if (planned) {
      const off = all < (c.from ?? 0) ? all - (c.from ?? 0) : Math.max(0, all - (c.to ?? 0)), pace = /** @type {HTMLElement} */ (get('pace'));
      pace.textContent = Math.abs(off) < 15 ? t('on time') : off < 0 ? t('%s early', minutes(-off)) : t('%s late', minutes(off));
      pace.classList.toggle('late', off >= 15);
    }
    const rooms = document.getElementById('rooms');
    if (rooms) rooms.textContent = c.rooms === 0 ? t('no room screen yet') : c.rooms === 1 ? t('1 room screen') : t('%s room screens', c.rooms);
  }

  /** Asks for something, after what was asked before. @param {string} path @param {object} what */
  ask(path, what) {
    this.road = this.road.then(async () => {
      try {
        const response = await fetch(`${this.base}/${path}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(what) });
        this.tell(response.ok ? '' : (await response.json()).error);
      } catch {
        this.tell(t('The connection is away. Please try again when it is back.'));
      }
    });
    return this.road;
  }

  /** @param {string} deed @param {object} [what] */
  deed(deed, what = {}) { return this.ask(this.desk('deeds'), { deed, ...what }); }

  /** Changes the map, as on its own page. @param {Wire.Operation[]} operations */
  send(operations) { return this.ask('entries', { id: newID('g'), window: 'desk', seen: 0, operations }); }

  /** @private @param {HTMLElement} control */
  press(control) {
    const { deed = '', id = '', sentence, thing, kind } = control.dataset;
    if (deed === 'sentence') return this.deed(deed, { sentence: control.getAttribute('aria-pressed') === 'true' ? '' : sentence });
    if (deed === 'source') return this.deed(deed, { id, of: { kind, id: thing } });
    return this.deed(deed, id ? { id } : {});
  }

  /** @private */
  listen() {
    document.addEventListener('click', (e) => {
      const control = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('button[data-deed]'));
      if (control) this.press(control);
    });
    document.addEventListener('change', (e) => {
      const field = /** @type {HTMLSelectElement} */ (e.target);
      if (field.dataset.deed === 'only') this.deed('only', { id: field.value });
    });
    document.addEventListener('submit', (e) => {
      e.preventDefault();
      this.submit(/** @type {HTMLFormElement} */ (e.target));
    });
    document.addEventListener('keydown', (e) => this.key(e));
    get('leave').addEventListener('click', (e) => { e.preventDefault(); this.leave(); });
    document.getElementById('open-room')?.addEventListener('click', () => { window.open(`/room/${document.body.dataset.code}`, 'mevrin-room', 'popup,width=1024,height=640'); });
    document.getElementById('alone-switch')?.addEventListener('click', () => this.alone(true));
    get('alone-end').addEventListener('click', () => this.alone(false));
    get('strip-call').addEventListener('click', () => this.strip());
    get('spot-switch').addEventListener('click', () => this.spotOn(!this.spotting));
    document.getElementById('mend')?.addEventListener('click', () => this.mending(true));
    get('mend-away').addEventListener('click', () => this.mending(false));
    document.getElementById('finish')?.addEventListener('click', () => this.finish());
    this.stage.desk.addEventListener('click', (e) => {
      const g = /** @type {Element} */ (e.target).closest('g.slip');
      if (g && !this.spotting) this.deed('concept', { id: g.id.slice(2) });
    });
    this.stage.desk.addEventListener('pointermove', (e) => { if (this.spotting) this.spot(this.stage.view.toPaper(e.clientX, e.clientY)); });
    this.stage.desk.addEventListener('pointerdown', (e) => { if (this.spotting) this.spot(this.stage.view.toPaper(e.clientX, e.clientY)); });
    this.stage.desk.addEventListener('pointerleave', () => { if (this.spotting) this.spot(null); });
  }

  /** @private @param {HTMLFormElement} form */
  submit(form) {
    if (form.dataset.form === 'concept') {
      const field = /** @type {HTMLInputElement} */ (form.elements.namedItem('concept'));
      const words = field.value.trim().toLocaleLowerCase(), all = /** @type {HTMLOptionElement[]} */ ([...document.querySelectorAll('#all-concepts option')]);
      const found = all.find((o) => o.value.toLocaleLowerCase() === words) ?? all.find((o) => words && o.value.toLocaleLowerCase().includes(words));
      if (!found) return this.tell(words ? t('There is no concept with these words.') : '');
      field.value = '';
      field.blur();
      return this.deed('concept', { id: found.dataset.id });
    }
    if (form.dataset.form === 'words') {
      const words = /** @type {HTMLTextAreaElement} */ (form.elements.namedItem('words')).value, id = form.dataset.id ?? '';
      /** @type {HTMLElement | null} */ (document.activeElement)?.blur();
      return this.send([form.dataset.kind === 'link' ? { do: 'name-link', link: id, phrase: words } : { do: 'name-concept', concept: id, label: words }]);
    }
    if (form.id === 'mend-form') {
      const field = /** @type {HTMLInputElement} */ (get('mend-words')), stop = this.stage.frame?.stop;
      if (stop) this.send([{ do: 'note-mend', stop, id: newID('m'), words: field.value }]);
      else this.tell(t('Go to a stop first.'));
      field.value = '';
      this.mending(false);
    }
  }

  /** @private @param {KeyboardEvent} e */
  key(e) {
    const field = /** @type {HTMLElement} */ (e.target).closest('input, textarea, select');
    if (e.ctrlKey || e.metaKey || e.altKey || e.isComposing) return;
    if (field) {
      if (e.key === 'Escape') { e.preventDefault(); /** @type {HTMLElement} */ (field).blur(); this.mending(false); }
      return;
    }
    const onButton = /** @type {HTMLElement} */ (e.target).closest('button, a, summary');
    switch (e.key) {
      case 'ArrowRight': case 'PageDown': this.deed('next'); break;
      case ' ': case 'Enter': if (onButton) return; this.deed('next'); break;
      case 'ArrowLeft': case 'PageUp': this.deed('back'); break;
      case 'Backspace': this.deed('return'); break;
      case 'Home': this.deed('stop'); break;
      case '.': case 'b': this.deed('dark'); break;
      case 'c': this.deed('closer'); break;
      case 'a': if (!document.querySelector('#side [data-deed="answer"]')) return; this.deed('answer'); break;
      case 'l': this.spotOn(!this.spotting); break;
      case 'n': this.strip(); break;
      case 'm': if (!this.rehearsal) return; this.mending(true); break;
      case 'F5': if (this.rehearsal) return; this.alone(!document.body.classList.contains('alone')); break;
      case 'Escape':
        if (!/** @type {HTMLElement} */ (get('strip')).hidden) this.strip(false);
        else if (this.spotting) this.spotOn(false);
        else this.leave();
        break;
      default: return;
    }
    e.preventDefault();
  }

  /** The room's view fills the window. @param {boolean} on */
  alone(on) {
    document.body.classList.toggle('alone', on);
    document.getElementById('alone-switch')?.setAttribute('aria-pressed', String(on));
    localStorage.setItem('desk-alone', on ? '1' : '0');
    if (!on) this.strip(false);
    else this.stage.desk.focus({ preventScroll: true });
    this.stage.glide(false);
  }

  /** Calls the strip of notes and steps, where the room's view fills the window. @param {boolean} [on] */
  strip(on) {
    const strip = /** @type {HTMLElement} */ (get('strip'));
    strip.hidden = !(on ?? strip.hidden) || !document.body.classList.contains('alone');
  }

  /** @param {boolean} on */
  spotOn(on) {
    this.spotting = on;
    get('spot-switch').setAttribute('aria-pressed', String(on));
    this.stage.desk.classList.toggle('spotting', on);
    if (!on) this.spot(null);
  }

  /** Lights a place; of many in a row the last one counts. @private @param {{x: number, y: number} | null} at */
  async spot(at) {
    this.stage.spot(at);
    this.pending = at;
    if (this.sending) return;
    this.sending = true;
    while (this.pending !== undefined) {
      const next = this.pending;
      this.pending = undefined;
      try { await fetch(`${this.base}/${this.desk('spot')}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ at: next }) }); } catch { /* the next place tells */ }
      await new Promise((done) => setTimeout(done, 30));
    }
    this.sending = false;
  }

  /** @private @param {boolean} on */
  mending(on) {
    const form = /** @type {HTMLElement} */ (get('mend-form'));
    if (form.hidden !== on) return;
    form.hidden = !on;
    if (on) /** @type {HTMLElement} */ (get('mend-words')).focus();
    else this.stage.desk.focus({ preventScroll: true });
  }

  /** Ends a rehearsal: what each stop took is kept with the route. */
  async finish() {
    const c = this.clock, stop = this.stage.frame?.stop ?? '';
    if (!c) return;
    const took = Object.fromEntries(Object.entries(c.spent).map(([id, s]) => [id, Math.round(s)]));
    if (stop) took[stop] = Math.round((c.spent[stop] ?? 0) + c.since + (performance.now() - c.at) / 1000);
    const route = document.body.dataset.route ?? '';
    if (Object.keys(took).length) await this.send([{ do: 'rehearsed', route, took }]);
    this.leave();
  }

  async leave() {
    try { await fetch(`${this.base}/${this.desk('end')}`, { method: 'POST' }); } catch { /* it ends by itself */ }
    const { stop } = this.stage.frame ?? {};
    location.href = this.base + (stop ? `#stop-${stop}` : '');
  }
}

Object.assign(window, { guiding: new Desk() });
