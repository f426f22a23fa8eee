// @ts-check
// Walking a route: the card of one stop beside the map, which grows stop by
// stop while the view glides to what is new.

import { Aloud, markRead } from '../commands/aloud.js';
import { around, boxAround, boxOf, endsOf, views } from '../paper/around.js';
import { moves, swipes } from '../paper/fingers.js';
import { View } from '../paper/view.js';
import { Together } from '../paper/together.js';
import { drawShape } from '../panels/route-shape.js';
import { view } from './viewer.js';
import { t } from '../sync/messages.js';

/** @template {Element} E @param {string} id @returns {E} */
const get = (id) => /** @type {any} */ (document.getElementById(id));

/** @typedef {import('../paper/view.js').Box} Box */

class Walk {
  constructor() {
    this.place = document.body.dataset.key ?? '';
    this.desk = /** @type {HTMLElement} */ (get('desk'));
    this.view = new View(this.desk, get('layer'), get('above'), '');
    this.view.foot = 48; // its controls
    this.cards = /** @type {HTMLElement[]} */ ([...document.querySelectorAll('.card')]);
    /** How often an element is wanted to be told apart. @type {Map<string, SVGGElement>} */
    this.elements = new Map([...document.querySelectorAll('#links > g, #slips > g')].map((g) => [g.id, /** @type {SVGGElement} */ (g)]));
    this.at = -1;
    /** What cannot be read at once is looked at view by view: their boxes, and which of them is seen. @type {Box[]} */
    this.views = [];
    this.part = 0;
    /** The stops that were gone through, the present one last, by their places. @type {number[]} */
    this.path = [];
    /** What came with this stop: its elements by their ids, and as they are drawn. @type {string[]} */
    this.brought = [];
    /** @type {SVGGElement[]} */
    this.fresh = [];
    /** Whether what stands at this stop is not drawn yet. */
    this.laying = false;
    this.together = new Together(document.body.dataset.drawn ?? '', this.elements);
    this.aloud = new Aloud({
      mark: markRead,
      state: (on) => get('aloud').setAttribute('aria-pressed', String(on)),
      failed: (words) => { get('told').textContent = words; },
    });
    if (!this.cards.length) return;
    this.listen();
    /** The way by which one came at the last visit. @type {number[]} */
    this.came = [];
    const first = this.recall();
    this.show(first, false, this.came.at(-1) === first ? this.came : undefined);
    if (!this.together.path) document.body.classList.add('ready');
    this.arrive(false);
    performance.mark('ready');
    this.learnKeys();
    // The address names a card: the browser scrolls to it once all is there.
    const top = () => { scrollTo(0, 0); get('cards').scrollTop = 0; };
    if (document.readyState === 'complete') requestAnimationFrame(top);
    else addEventListener('load', () => requestAnimationFrame(top), { once: true });
  }

  /** The way that leads to a stop, where nobody says by which one came. @private @param {number} to */
  wayTo(to) {
    const way = (this.cards[to]?.dataset.way ?? '').split(' ').filter(Boolean).map((id) => this.named(`stop-${id}`));
    return way.length ? way : [...Array(to + 1).keys()];
  }

  /** @private @param {string | null} id */
  named(id) { return this.cards.findIndex((c) => c.id === id); }

  /** What stands on the paper at the end of a way: the concepts that its stops bring, and each link between them. @private @param {number[]} path */
  standing(path) {
    const all = new Set(path.flatMap((i) => (this.cards[i].dataset.brings ?? '').split(' ').filter(Boolean)));
    for (const [id, g] of this.elements) if (id.startsWith('l-') && endsOf(g).every((e) => all.has(e))) all.add(id);
    return all;
  }

  /** @param {string} list */
  pick(list) { return list.split(' ').flatMap((id) => this.elements.get(id) ?? []); }

  /** The place of the last visit, or of the address. */
  recall() {
    const addressed = this.named(decodeURIComponent(location.hash.slice(1)));
    try {
      const [id, index, path] = JSON.parse(localStorage.getItem(this.place) ?? '[]'), kept = this.named(id);
      const way = Array.isArray(path) ? path.map((/** @type {string} */ p) => this.named(p)) : [];
      // The way that was taken counts, as long as all of it is there still.
      if (kept >= 0 && way.at(-1) === kept && way.every((i) => i >= 0)) this.came = way;
      if (addressed >= 0) return addressed;
      // A stop that is gone since leaves its place in the row.
      return kept >= 0 ? kept : Math.max(0, Math.min(this.cards.length - 1, Number(index) || 0));
    } catch {
      return Math.max(0, addressed);
    }
  }

  /** Goes to a stop. @param {number} to @param {boolean} [move] whether the view glides and the card is announced @param {number[]} [path] by which way; else by the one that leads there */
  show(to, move = true, path = this.wayTo(to)) {
    if (to < 0 || to >= this.cards.length || to === this.at && path.length === this.path.length) return;
    this.aloud.stop();
    get('told').textContent = '';
    const forth = to > this.at;
    this.at = to;
    const card = this.cards[to];
    this.cards.forEach((c, i) => { c.hidden = i !== to; });
    const before = this.standing(path.slice(0, -1));
    this.path = path;
    const stands = this.standing(path);
    this.brought = [...stands].filter((id) => !before.has(id));
    this.lookAround(false);
    document.body.dataset.layout = card.dataset.layout ?? '';
    const end = !card.dataset.next;
    document.body.classList.toggle('last-stop', end);
    for (const li of /** @type {NodeListOf<HTMLElement>} */ (card.querySelectorAll('.walk-said li'))) li.hidden = !stands.has(`l-${li.dataset.link}`);
    const next = /** @type {HTMLButtonElement} */ (get('next'));
    next.classList.toggle('again', end);
    /** @type {HTMLElement} */ (next.firstElementChild).textContent = end ? t('From the start') : t('Next');
    /** @type {HTMLProgressElement} */ (get('progress')).value = to + 1;
    document.querySelectorAll('#contents a').forEach((a, i) => {
      if (i === to) a.setAttribute('aria-current', 'step');
      else a.removeAttribute('aria-current');
    });
    get('cards').scrollTop = 0;
    history.replaceState(null, '', `#${card.id}`);
    document.dispatchEvent(new CustomEvent('mevrin:stop', { detail: { at: to, of: this.cards.length, last: end, id: card.id } })); // for whoever reports it
    try { localStorage.setItem(this.place, JSON.stringify([card.id, to, path.map((i) => this.cards[i].id)])); } catch { /* for this visit only */ }
    const leave = /** @type {HTMLAnchorElement | null} */ (document.getElementById('leave'));
    if (leave) leave.hash = card.id;
    this.count();
    const shown = () => {
      this.dress(forth && move);
      if (move || this.together.path) this.arrive(move, forth ? 0 : -1);
    };
    if (this.together.path) this.lay(shown);
    else shown();
    if (move) card.focus({ preventScroll: true });
  }

  /** Draws anew what stands at this stop, unless another one is shown meanwhile. @private @param {() => void} shown */
  async lay(shown) {
    const path = this.path, way = path.map((i) => this.cards[i].id.slice(5));
    this.laying = true;
    const put = await this.together.lay(way);
    if (this.path !== path) return;
    this.laying = false;
    put();
    shown();
    document.body.classList.add('ready');
    const next = (this.cards[this.at].dataset.next ?? '').split(' ').filter(Boolean);
    for (const id of next) this.together.fetch([...way, id]).catch(() => {});
  }

  /** Shows of the drawing what stands at this stop, and how. @private @param {boolean} appears whether what is new is seen to come */
  dress(appears) {
    const card = this.cards[this.at], stands = this.standing(this.path), fresh = new Set(this.brought);
    const meant = new Set((card.dataset.shows ?? '').split(' ')), keeps = card.dataset.keeps ? new Set(card.dataset.keeps.split(' ')) : null;
    this.fresh = this.brought.flatMap((id) => this.elements.get(id) ?? []);
    for (const [id, g] of this.elements) {
      g.classList.toggle('hid', !stands.has(id));
      g.setAttribute('aria-hidden', String(!stands.has(id)));
      g.classList.toggle('fresh', appears && fresh.has(id));
      g.classList.toggle('meant', meant.has(id));
      g.classList.toggle('faded', !!keeps && stands.has(id) && !keeps.has(id));
      if (id.startsWith('c-')) g.setAttribute('tabindex', '-1'); // reached by the arrow keys
    }
    // A region stands once all that is inside it does.
    for (const g of /** @type {NodeListOf<SVGGElement>} */ (document.querySelectorAll('#regions > .region'))) {
      const stand = (g.dataset.inside ?? '').split(' ').every((id) => stands.has(`c-${id}`));
      g.classList.toggle('hid', !stand);
      g.setAttribute('aria-hidden', String(!stand));
    }
  }

  /** @private */
  count() {
    const whole = t('%s of %s', this.at + 1, this.cards.length);
    get('count').textContent = this.views.length > 1 ? t('%s, look %s of %s', whole, this.part + 1, this.views.length) : whole;
    /** @type {HTMLButtonElement} */ (get('back')).disabled = this.path.length < 2 && this.part === 0;
  }

  /** Reads the card aloud, then the sentences that the stop brings; or falls silent. */
  read() {
    if (this.aloud.reading) return this.aloud.stop();
    const card = this.cards[this.at], shows = (card.dataset.shows ?? '').split(' ').filter(Boolean);
    const words = [card.querySelector('h2')?.lastChild?.textContent ?? '', ...[...card.querySelectorAll('.prose :is(p, li, h1, h2, h3, td, th)')].map((el) => el.textContent ?? '')];
    const asks = card.querySelector('.card-question')?.textContent;
    if (asks) words.push(asks);
    const links = [...new Set([...this.fresh.map((g) => g.id), ...shows])].filter((id) => id.startsWith('l-'));
    this.aloud.read([
      ...words.filter((w) => w.trim()).map((w) => ({ words: w.trim(), elements: shows })),
      ...links.flatMap((id) => {
        const g = this.elements.get(id);
        const ends = `${g?.dataset.from ?? ''} ${g?.dataset.to ?? ''}`.split(' ').map((e) => `c-${e.slice(e.indexOf(':') + 1)}`);
        return g ? [{ words: g.getAttribute('aria-label') ?? '', elements: [id, ...ends] }] : [];
      }),
    ], document.documentElement.lang);
  }

  /** The next look at this stop, or the next stop; after the last one the first. @param {boolean} [round] */
  next(round = true) {
    if (this.part + 1 < this.views.length) this.look(this.part + 1);
    else {
      const on = (this.cards[this.at].dataset.next ?? '').split(' ').filter(Boolean);
      if (on.length > 1) /** @type {HTMLElement | null} */ (this.cards[this.at].querySelector('.walk-choices a'))?.focus();
      else if (on.length) this.goOn(on[0]);
      else if (round) this.show(0);
    }
  }

  /** @private @param {string} stop */
  goOn(stop) {
    const to = this.named(`stop-${stop}`);
    this.show(to, true, [...this.path, to]);
  }

  before() {
    if (this.part > 0) this.look(this.part - 1);
    else if (this.path.length > 1) this.show(/** @type {number} */ (this.path.at(-2)), true, this.path.slice(0, -1));
  }

  /** @private @param {number} part */
  look(part) {
    this.part = part;
    this.count();
    this.glide(true);
  }

  /** Works out in how many looks this stop is seen, and goes to one of them. @private @param {boolean} slow @param {number} [part] counted from the end where it is less than 0 */
  arrive(slow, part = 0) {
    const card = this.cards[this.at];
    const whole = card.dataset.whole || card.dataset.distance === 'all', shows = this.pick(card.dataset.shows ?? '');
    let all = card.dataset.distance === 'close' && shows.length ? shows : [...new Set([...shows, ...this.fresh])];
    // What joins the new with what stood before belongs to it, where that leaves the words large enough.
    const joined = [...new Set([...all, ...this.fresh.flatMap((g) => this.pick(endsOf(g).join(' ')))])].filter((g) => !g.classList.contains('hid'));
    if (card.dataset.distance !== 'close' && joined.length > all.length && this.view.scaleOf(around(joined.flatMap((g) => boxOf(g) ?? []))) >= 1) all = joined;
    this.most = card.dataset.distance === 'close' ? 2.5 : 1.5;
    if (!all.length || whole) all = [...this.elements.values()].filter((g) => !g.classList.contains('hid'));
    const sizes = all.flatMap((g) => { const words = g.querySelector('.noun, .verb'); return words ? [parseFloat(getComputedStyle(words).fontSize)] : []; });
    this.least = 12 / Math.min(15, ...sizes) + 0.001; // words of 12 pixels
    const boxes = all.flatMap((g) => boxOf(g) ?? []), box = around(boxes);
    // The map as a whole is an overview: it is seen at once, however small.
    this.views = !box ? [] : whole || !(this.fresh.length || card.dataset.shows) ? [box] : this.view.scaleOf(box) >= this.least ? [box] : views(boxes, (b) => this.view.scaleOf(b), this.least);
    if (whole || !(this.fresh.length || card.dataset.shows)) this.least = 0.05;
    this.part = Math.max(0, Math.min(this.views.length - 1, part < 0 ? this.views.length + part : part));
    this.count();
    this.glide(slow);
  }

  /** Goes to what is looked at. @param {boolean} slow */
  glide(slow) { this.view.show(this.views[this.part] ?? null, slow, { most: this.most ?? 1.5, least: this.least ?? 0.8 }); }

  /** Shows the whole map where its author lets one look around it, and the stop again. @param {boolean} [on] */
  lookAround(on) {
    const button = document.getElementById('around'), open = document.body.classList.contains('around');
    if (!button || (on ?? !open) === open) return;
    const all = document.body.classList.toggle('around', on);
    button.setAttribute('aria-pressed', String(all));
    /** @type {HTMLElement} */ (button.querySelector('span')).textContent = all ? t('Back to the stop') : t('Whole map');
    for (const g of /** @type {NodeListOf<SVGGElement>} */ (document.querySelectorAll('#regions > .region, #links > g, #slips > g'))) g.setAttribute('aria-hidden', String(!all && g.classList.contains('hid')));
    if (this.together.path) { // all the map has the places of the map
      if (all) this.together.put(this.together.map);
      else return void this.lay(() => { this.dress(false); this.arrive(true, this.part); });
    }
    if (all) this.view.show(boxAround([...this.elements.values()]), true, { most: 1.25, least: 0.05 });
    else this.arrive(true, this.part);
  }

  whole() { this.view.show(boxAround([...this.elements.values()].filter((g) => document.body.classList.contains('around') || !g.classList.contains('hid'))), true, { most: 1.25, least: 0.05 }); }

  /** Concepts on the paper can be gone through by the arrow keys, in the order in which they came. @private */
  learnKeys() {
    this.row = [...new Set([...this.cards.flatMap((c) => (c.dataset.new ?? '').split(' ')), ...this.elements.keys()])].filter((id) => id.startsWith('c-'));
  }

  /** @private @param {number} by */
  along(by) {
    const standing = (this.row ?? []).flatMap((id) => this.elements.get(id) ?? []).filter((g) => document.body.classList.contains('around') || !g.classList.contains('hid')), at = standing.indexOf(/** @type {any} */ (document.activeElement));
    const next = standing[at < 0 ? (by > 0 ? 0 : standing.length - 1) : Math.max(0, Math.min(standing.length - 1, at + by))], box = next && boxOf(next);
    if (!next || !box) return;
    this.view.reveal(box);
    next.focus({ preventScroll: true });
  }

  /** The map of the hand-out: all that the route shows, on one picture. @private */
  handOut() {
    const sheet = /** @type {SVGSVGElement} */ (get('sheet').cloneNode(true)), b = boxAround([...this.elements.values()]);
    if (!b) return;
    for (const g of sheet.querySelectorAll('.hid, .meant, .fresh')) g.classList.remove('hid', 'meant', 'fresh');
    for (const g of [sheet, ...sheet.querySelectorAll('[id]')]) g.removeAttribute('id');
    sheet.setAttribute('class', 'sheet');
    sheet.setAttribute('viewBox', `${b.x - 20} ${b.y - 20} ${b.w + 40} ${b.h + 40}`);
    sheet.removeAttribute('width');
    sheet.removeAttribute('height');
    get('hand-out').replaceChildren(sheet);
  }

  /** @param {boolean} [on] */
  contents(on) {
    const list = /** @type {HTMLElement} */ (get('contents')), open = on ?? list.hidden;
    list.hidden = !open;
    if (open) drawShape(/** @type {SVGSVGElement} */ (list.querySelector('.route-shape')));
    get('contents-switch').setAttribute('aria-expanded', String(open));
    if (open) /** @type {HTMLElement | null} */ (list.querySelector('[aria-current]') ?? list.querySelector('a'))?.focus();
  }

  listen() {
    const viewer = /** @type {HTMLDialogElement} */ (get('viewer')), base = document.body.dataset.base ?? '';
    viewer.addEventListener('close', () => { viewer.replaceChildren(); });
    viewer.addEventListener('click', (e) => { if (e.target === viewer) viewer.close(); });
    document.addEventListener('click', (e) => {
      const choice = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.walk-choices a'));
      if (choice) {
        e.preventDefault();
        this.goOn(choice.dataset.to ?? '');
      }
      const source = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest(':is(.walk-sources, .card-pictures) .source'));
      if (source) view(viewer, base, source.dataset);
    });
    // A mark on a slip or at a phrase opens what it stands for, where this stop tells of it.
    this.desk.addEventListener('click', (e) => {
      const badge = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.badge, .picture')), slip = /** @type {HTMLElement | null} */ (badge?.closest('.slip, .link') ?? null);
      const card = this.cards[this.at], kind = badge?.classList.contains('picture') ? 'picture' : badge?.dataset.mark;
      if (!slip || !card) return;
      const found = /** @type {HTMLElement | null} */ (document.querySelector(`.card:not([hidden]) [data-about="${slip.id}"][data-kind="${kind}"]`) ?? (document.body.classList.contains('around') ? document.querySelector(`#desk [data-about="${slip.id}"][data-kind="${kind}"]`) : null));
      if (found instanceof HTMLMediaElement) found.play();
      else if (found) view(viewer, base, found.dataset);
    });
    get('back').addEventListener('click', () => this.before());
    get('next').addEventListener('click', () => this.next());
    get('aloud').addEventListener('click', () => this.read());
    get('print').addEventListener('click', () => { this.contents(false); print(); });
    // What is printed is dark on white, whatever the look.
    const look = document.body.className.match(/\blook-\S+/)?.[0] ?? 'look-plain';
    addEventListener('beforeprint', () => {
      document.body.classList.replace(look, 'look-plain');
      for (const c of this.cards) c.hidden = false;
      for (const said of /** @type {NodeListOf<HTMLDetailsElement>} */ (document.querySelectorAll('.walk-said'))) said.open = true;
      this.handOut();
    });
    addEventListener('afterprint', () => {
      document.body.classList.replace('look-plain', look);
      this.cards.forEach((c, i) => { c.hidden = i !== this.at; });
    });
    get('whole').addEventListener('click', () => this.whole());
    document.getElementById('around')?.addEventListener('click', () => this.lookAround());
    get('contents-switch').addEventListener('click', () => this.contents());
    get('contents').addEventListener('click', (e) => {
      const a = /** @type {Element} */ (e.target).closest('a');
      if (!a) return;
      e.preventDefault();
      this.contents(false);
      this.show([...document.querySelectorAll('#contents a')].indexOf(a));
    });
    document.addEventListener('click', (e) => {
      if (!/** @type {Element} */ (e.target).closest('#contents, #contents-switch')) this.contents(false);
    });
    addEventListener('hashchange', () => this.show(this.recall()));
    new ResizeObserver(() => { if (document.body.classList.contains('ready')) this.arrive(false, this.part); }).observe(this.desk);
    document.getElementById('keys-switch')?.addEventListener('click', () => /** @type {HTMLDialogElement} */ (get('walk-keys')).showModal());
    document.addEventListener('keydown', (e) => this.key(e));
    moves(this.desk, this.view);
    swipes(get('cards'), () => this.before(), () => this.next(false));
  }

  /** @param {KeyboardEvent} e */
  key(e) {
    if (e.ctrlKey || e.metaKey || e.altKey || e.isComposing || document.querySelector('dialog[open]') || /** @type {Element} */ (e.target).closest('input, textarea')) return;
    const list = /** @type {HTMLElement} */ (get('contents'));
    const inList = list.contains(document.activeElement);
    switch (e.key) {
      case 'ArrowRight': case 'PageDown': this.next(false); break;
      case 'ArrowLeft': case 'PageUp': this.before(); break;
      case 'Home': this.show(0); break;
      case 'End': this.show(this.cards.length - 1); break;
      case 'ArrowDown': case 'ArrowUp': {
        if (!inList && this.desk.contains(document.activeElement)) { this.along(e.key === 'ArrowDown' ? 1 : -1); break; }
        if (!inList) return; // the card scrolls
        const all = /** @type {HTMLElement[]} */ ([...list.querySelectorAll('a')]);
        all[all.indexOf(/** @type {HTMLElement} */ (document.activeElement)) + (e.key === 'ArrowDown' ? 1 : -1)]?.focus();
        break;
      }
      case 'f': this.whole(); break;
      case 'w': if (!document.getElementById('around')) return; this.lookAround(); break;
      case 'r': this.read(); break;
      case '?': /** @type {HTMLDialogElement} */ (get('walk-keys')).showModal(); break;
      case '+': this.view.zoom(1.25); break;
      case '-': this.view.zoom(0.8); break;
      case 'Escape':
        if (!list.hidden) {
          this.contents(false);
          /** @type {HTMLElement} */ (get('contents-switch')).focus();
        } else if (document.body.classList.contains('around')) this.lookAround(false);
        else /** @type {HTMLElement | null} */ (get('leave'))?.click();
        break;
      default: return;
    }
    e.preventDefault();
  }
}

Object.assign(window, { walk: new Walk() });
