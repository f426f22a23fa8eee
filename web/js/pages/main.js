// @ts-check
// The page on which a map is made: brings its parts together.

import * as acts from '../commands/edits.js';
import { Arrival } from '../paper/arrival.js';
import { AtHand } from '../paper/at-hand.js';
import { Aim } from '../paper/side-choice.js';
import { Aloud, markRead } from '../commands/aloud.js';
import { Answers } from '../sync/answers.js';
import { listenForCarrying } from '../paper/drag-in.js';
import { Cards } from '../paper/cards.js';
import { Recording } from '../panels/recording.js';
import { WritingDesk } from '../panels/writing-desk.js';
import { RouteLine } from '../paper/route-line.js';
import { Chosen } from '../paper/chosen.js';
import { listenToClipboard } from '../commands/clipboard.js';
import { Column } from '../panels/column.js';
import { deedsOf } from '../commands/controls.js';
import { Filters } from '../panels/filters.js';
import { Found } from '../paper/found.js';
import { Find } from '../panels/find.js';
import { Ground } from '../paper/dress.js';
import { Guide } from '../panels/routes.js';
import { Pointer } from '../paper/pointer.js';
import { helpIn } from '../panels/help.js';
import { FirstHints } from '../panels/first-hints.js';
import { hintsFor } from '../commands/hints.js';
import { Jots } from '../panels/gather.js';
import { Picking, Split } from '../commands/joins.js';
import { keyNames, listenForKeyNames } from '../panels/key-names.js';
import { listenToKeys } from '../commands/keys.js';
import { listenToUndoKeys } from '../commands/undo-keys.js';
import { Lead } from '../paper/bending.js';
import { Lens } from '../paper/lens.js';
import { Looks } from '../panels/looks.js';
import { Margin } from '../panels/margin.js';
import { listenForMenu } from '../commands/menu.js';
import { Meaning } from '../panels/meaning.js';
import { Model } from '../paper/model.js';
import { showNotice } from '../panels/notices.js';
import { Outline } from '../panels/outline.js';
import { Notes } from '../paper/notes.js';
import { Places } from '../paper/places.js';
import { Overview } from '../paper/overview.js';
import { Pad } from '../panels/drawing-pad.js';
import { Plain } from '../panels/plain-hand.js';
import { Phrases } from '../panels/phrases.js';
import { Provisional } from '../paper/provisional.js';
import { Queue } from '../sync/queue.js';
import { Score } from '../panels/score.js';
import { Chain } from '../panels/chain.js';
import { Brief } from '../panels/brief.js';
import { Raters } from '../panels/raters.js';
import { Round } from '../panels/round.js';
import { Say } from '../commands/sentence-bar.js';
import { Sheets } from '../panels/sheets.js';
import { Sentences } from '../panels/sentences.js';
import { Theirs } from '../sync/presence.js';
import { Tidy } from '../panels/tidy.js';
import { Sources } from '../panels/sources.js';
import { Table } from '../paper/table.js';
import { Talk } from '../panels/talk.js';
import { Tuck } from '../paper/folding.js';
import { Sides } from '../commands/labels.js';
import { View } from '../paper/view.js';
import { Words } from '../paper/words.js';
import { Writing } from '../panels/margin-fields.js';
import { tellOfFaults } from '../panels/dialogs.js';
import { t } from '../sync/messages.js';

/** @typedef {import('../sync/queue.js').Answer} Answer */

/** @template {Element} E @param {string} id @returns {E} */
function get(id) {
  const el = document.getElementById(id);
  if (!el) throw new Error(`the page has no #${id}`);
  return /** @type {any} */ (el);
}

/** The width of a window, in pixels, from which both sides are shown at once. */
const roomy = 1500;
/** The width up to which the paper has no room for anything beside it. */
const narrow = 760;

export class App {
  constructor() {
    const data = document.body.dataset;
    this.base = data.base ?? '';
    /** The kinds of the map in the order of its key. @type {{id: string, name: string, links?: boolean}[]} */
    this.kinds = JSON.parse(data.kinds ?? '[]');
    /** Whether a few large controls are all there are. */
    this.plain = data.hand === 'plain' || data.hand === 'comment';
    /** What stands around the paper, as templates show it. */
    this.page = window.Alpine.store('page');
    this.settings = window.Alpine.store('settings');
    this.desk = /** @type {HTMLElement} */ (get('desk'));
    this.overlay = /** @type {SVGSVGElement} */ (get('overlay'));
    this.lifted = /** @type {SVGGElement} */ (get('lifted'));
    this.marks = /** @type {SVGGElement} */ (get('marks'));
    this.view = new View(this.desk, get('layer'), get('above'), `place:${data.map}`);
    this.model = new Model();
    for (const el of document.querySelectorAll('#links > g, #slips > g')) this.model.read(/** @type {SVGGElement} */ (el));
    /** What of a large map is not on the paper yet. */
    this.arrival = new Arrival(this, /** @type {HTMLTemplateElement | null} */ (document.getElementById('rest')));
    this.provisional = new Provisional(get('provisional'), this.model);
    this.words = new Words(get('words'), this.desk);
    this.chosen = new Chosen(() => this.selectionChanged(), (id) => { const s = this.model.slips.get(id); return s?.region ? s.hides : undefined; });
    /** What each gesture on the road shows provisionally. @type {Map<Wire.Operation[], string[]>} */
    this.made = new Map();
    this.answers = new Answers(this);
    this.road = new Queue(this.base, Number(data.revision), {
      answered: (a, own) => this.answers.take(a, own),
      refused: (words, asked, late) => this.answers.refused(words, asked, late),
      stuck: (asked, words) => this.answers.stuck(asked, words),
      failed: (fault) => this.answers.failed(fault),
      closed: () => this.answers.closed(),
      state: (word, waiting) => this.showState(word, waiting),
      viewed: () => this.redraw(),
      theirs: (window, chosen) => this.theirs.take(window, chosen),
      here: (seats) => this.theirs.here(seats),
      spot: (window, at) => this.theirs.spot(window, at),
      told: (what) => this.answers.overtaken(what),
    });
    this.words.tooLong = (words, shorten) => this.notice(t('That is long: %s letters, and there is room for %s here.', words.length, this.words.typing?.most ?? 0), { words: t('Shorten it; the note keeps all'), act: shorten });
    this.places = new Places(this);
    this.ground = new Ground(this);
    this.aim = new Aim(this);
    this.lead = new Lead(this);
    this.sides = new Sides(this);
    this.atHand = new AtHand(this, get('at-hand'));
    this.tuck = new Tuck(this);
    this.lens = new Lens(this, get('bands'), get('figures'));
    this.round = new Round(this, get('round'));
    this.brief = new Brief(this, get('brief'), get('briefs'), get('brief-line'));
    this.chain = new Chain(this, get('chain'));
    this.score = new Score(this, get('score'));
    this.raters = new Raters(this, get('raters'));
    this.found = new Found(this, get('margin'), get('found-marks'));
    this.tidy = new Tidy(this);
    this.pick = new Picking(this);
    this.split = new Split(this, get('split'));
    this.overview = new Overview(this, get('overview'));
    this.scaleShown = 0;
    this.theirs = new Theirs(this, get('here'), get('theirs-marks'));
    this.pointer = new Pointer(this);
    /** Where on the paper a menu was asked for. */
    this.pointed = { x: 0, y: 0 };
    this.find = new Find(this);
    this.say = new Say(this);
    this.column = new Column(this);
    this.sentences = new Sentences(this, get('column'));
    this.outline = new Outline(this, get('column'), get('order'));
    this.phase = this.recallPhase();
    this.writing = new Writing(this, get('margin'));
    this.guide = new Guide(this, get('margin'));
    this.routeLine = new RouteLine(this, get('route-way'), get('numbers'));
    this.recording = new Recording(this);
    this.writingDesk = new WritingDesk(this, get('writing-desk'));
    this.jots = new Jots(this, get('margin'), get('pasted'));
    this.phrases = new Phrases(this, get('phrases'), get('margin'));
    this.gentle = new Plain(this, get('plain-key'));
    this.aloud = new Aloud({ mark: markRead, state: (on) => this.showReading(on), failed: (words) => this.notice(words, undefined, true) });
    this.meaning = new Meaning(this, get('icons'));
    this.looks = new Looks(this);
    this.sources = new Sources(this, get);
    this.pad = new Pad(this, get('pad'));
    this.table = new Table(this, get('table'));
    this.filters = new Filters(this, get('filter'));
    this.notes = new Notes(this, get('notes'));
    this.talk = new Talk(this, get('talk'));
    this.cards = new Cards(this, get('cards'));
    this.sheets = new Sheets(this, document.getElementById('sheet-grip'));
    this.deeds = deedsOf(this);
    this.margin = new Margin(this, get('margin'));
    listenToKeys(this);
    this.menu = listenForMenu(this);
    this.firstHints = new FirstHints(this, get('first-hints'));
    this.help = helpIn(this, get('help'));
    if (!this.plain) listenToClipboard(this, () => acts.remove(this));
    listenForCarrying(this);
    tellOfFaults((words) => this.notice(words, undefined, true), t('The connection is away. Please try again when it is back.'));
    if (innerWidth < narrow && !this.plain) this.showMargin(false); // there the paper comes first
    this.listen();
    this.flags(data.undo === 'true', data.redo === 'true');
    this.markPhase();
    const focus = this.model.slips.get(data.focus ?? '');
    if (!this.view.recall() || !this.inSight()) {
      this.view.open(this.model.bounds(), focus?.box ?? null, data.grows);
      if (this.plain && this.view.k < 1.25) this.view.zoom(1.25 / this.view.k, ...this.onScreen(focus?.box));
    }
    this.view.listeners.push(() => { this.ground.grid(); this.showScale(); this.overview.fresh(); this.atHand.hide(); this.firstHints.show(); });
    this.view.atRest.push(() => { this.lead.show(); this.sides.show(); this.atHand.show(); });
    this.arrival.begin();
    this.overview.fresh();
    this.ground.grid();
    this.showScale();
    this.selectionChanged();
    document.body.classList.add('ready');
    this.guide.returned();
    this.answers.showAside();
    this.desk.focus({ preventScroll: true });
    if (focus && !focus.words && this.model.slips.size === 1) {
      this.choose(`c-${focus.id}`);
      acts.changeWords(this);
    }
  }

  /** Where the middle of a box, or else of the paper, is in the window. @private @param {import('../paper/view.js').Box} [box] @returns {[number, number]} */
  onScreen(box) {
    const r = this.desk.getBoundingClientRect(), s = this.view.seen();
    if (!box) return [r.x + r.width / 2, r.y + r.height / 2];
    return [r.x + (box.x + box.w / 2 - s.x) * this.view.k, r.y + (box.y + box.h / 2 - s.y) * this.view.k];
  }

  /** Whether anything of the map is seen. */
  inSight() {
    const b = this.model.bounds(), s = this.view.seen();
    return !b || (b.x < s.x + s.w && s.x < b.x + b.w && b.y < s.y + s.h && s.y < b.y + b.h);
  }

  /** @private */
  listen() {
    document.addEventListener('click', (e) => {
      const el = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-do]'));
      // A control worked by keys keeps them.
      if (el) this.do(el.dataset.do ?? '', el, e.detail === 0 && !el.closest('#menu'));
      if (el?.closest('#tools') && el.dataset.do !== 'setting') this.page.sheet = '';
    });
    // A press on a control would take the keyboard away from the paper.
    document.addEventListener('pointerdown', (e) => {
      if (/** @type {Element} */ (e.target).closest('.margin [data-do], .foot [data-do], .top-tools [data-do]') && this.words.field) this.words.finish('away');
    });
    document.addEventListener('keydown', (e) => {
      if (e.target !== document.body || e.key !== '?') return;
      this.do('keys');
    });
    listenToUndoKeys(this);
    // The browser ends its full screen by Escape, and tells of it only afterwards.
    document.addEventListener('fullscreenchange', () => {
      if (!document.fullscreenElement && document.body.classList.contains('paper-alone')) this.do('paper-alone', undefined, true);
    });
    // Nothing needs saving; who asks for it all the same gets an answer.
    document.addEventListener('keydown', (e) => {
      if (!(e.ctrlKey || e.metaKey) || e.shiftKey || e.key.toLowerCase() !== 's') return;
      e.preventDefault();
      this.do('saved');
    });
    document.addEventListener('change', (e) => {
      const el = /** @type {HTMLSelectElement} */ (e.target);
      if (el.dataset?.change === 'level' && el.value !== '0') this.tuck.see(Number(el.value) > 0 ? { level: Number(el.value) } : { all: true });
      if (el.dataset?.change === 'rule-least') this.send([{ do: 'set-rule-least', rule: el.dataset.rule ?? '', least: Number(el.value) || null }], []);
      this.guide.planned(el);
      if (el.dataset?.change === 'synonyms') this.myRules({ what: 'synonyms', synonyms: el.value });
      if (el.dataset?.change === 'language') this.send([{ do: 'set-language', language: el.value }], []).then((ok) => { if (ok) document.documentElement.lang = el.value; });
    });
    document.addEventListener('keydown', (e) => {
      if (e.key !== 'Enter' || !(e.target instanceof HTMLInputElement) || e.target.id !== 'source' && e.target.id !== 'stop-source') return;
      e.preventDefault();
      /** @type {HTMLElement | null} */ (e.target.closest('.jot-row')?.querySelector('button'))?.click();
    });
    window.addEventListener('mevrin:asked', (e) => this.send([{ do: 'ask', question: /** @type {CustomEvent} */ (e).detail }], []));
    listenForKeyNames(document);
  }

  /** Sends a gesture down the road. @param {Wire.Operation[]} operations @param {string[]} made what stands for it until it is answered
   * @param {() => boolean} [regain] gives words that were refused back to whoever typed them; whether it could */
  async send(operations, made, regain) {
    this.tidy.leave();
    operations = this.words.shortening(operations);
    this.answers.note(operations);
    this.made.set(operations, made);
    if (regain) this.answers.regain.set(operations, regain);
    const accepted = await this.road.go(operations);
    this.made.delete(operations);
    return accepted;
  }

  /** @param {'undo' | 'redo'} which */
  back(which) {
    this.words.finish('away');
    this.tidy.leave();
    this.road.back(which);
  }

  /** Draws what came while the hand was busy. */
  drawWaiting() { this.answers.drawWaiting(); }

  /** Replaces what an answer says is drawn otherwise now. @param {Answer} answer @param {boolean} [glide] what moved is seen to move */
  patch(answer, glide) { this.answers.patch(answer, glide); }

  /** Fetches the whole drawing anew, after something was shown that is not so. */
  redraw() { return this.answers.redraw(); }

  /** Takes back what was only shown. @param {string[]} elements */
  discard(elements) {
    this.provisional.forget(elements);
    this.chosen.set(this.chosen.list.filter((e) => !elements.includes(e)));
  }

  /** Selects elements and brings the first into view. @param {string[]} elements */
  choose(...elements) {
    this.chosen.set(elements);
    const b = this.model.boxOf(elements[0]);
    if (b) this.reveal(b);
  }

  /** Keeps what is selected in sight where the map was put in order, with what it hangs
   * from where both have room. */
  follow() {
    const slip = this.chosen.only ? this.model.slips.get(this.chosen.only.slice(2)) : null, s = this.view.seen();
    if (!slip || this.words.field && this.words.typing?.voice !== 'verb') return;
    const above = this.model.slips.get(this.model.parent(slip) ?? ''), boxes = above ? [slip.box, above.box] : [slip.box];
    const x = Math.min(...boxes.map((b) => b.x)), y = Math.min(...boxes.map((b) => b.y));
    const all = { x, y, w: Math.max(...boxes.map((b) => b.x + b.w)) - x, h: Math.max(...boxes.map((b) => b.y + b.h)) - y };
    this.view.follow(all.w < s.w - 60 && all.h < s.h - 80 ? all : slip.box);
  }

  /** @param {import('../paper/view.js').Box} box */
  reveal(box) { this.view.reveal(box); }

  /** @private */
  selectionChanged() {
    this.pointer?.handle.rest();
    this.lead.show();
    this.sides.show();
    this.atHand.show();
    this.firstHints?.show();
    this.desk.classList.toggle('holding', this.chosen.list.length > 0);
    this.theirs.tell();
    this.margin?.fresh(false);
    this.talk?.fresh();
    this.column?.mark(true);
    this.recording?.looked();
    const only = this.chosen.only, thing = only && this.model.get(only);
    if (thing) {
      const what = only.startsWith('c-') ? 'Concept' : 'Link';
      this.announce(`${what}: ${thing.el.getAttribute('aria-label') || thing.words || t('without words')}`);
    }
    this.page.hints = this.plain ? '' : keyNames(hintsFor(this.chosen.list));
  }

  /** Fetches the margin for what is selected now, soon. */
  /** Changes how the author wants the rules on all maps. @param {Record<string, string>} what */
  async myRules(what) {
    try {
      const response = await fetch('/rules', { method: 'POST', body: new URLSearchParams(what) });
      if (!response.ok) this.notice((await response.json()).error, undefined, true);
      this.freshMargin();
    } catch {
      this.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  freshMargin() { this.margin.fresh(); }

  /** The phase of the last visit. @private */
  recallPhase() {
    try { return localStorage.getItem(`phase:${this.base}`) ?? 'gather'; } catch { return 'gather'; }
  }

  /** Goes to another phase: the margin offers what serves it. @param {string} phase */
  setPhase(phase) {
    this.writing.send();
    this.phase = phase;
    try { localStorage.setItem(`phase:${this.base}`, phase); } catch { /* for this visit only */ }
    this.markPhase();
    if (!this.page.margin) this.showMargin(true);
    else this.freshMargin();
  }

  /** @private */
  markPhase() {
    document.body.dataset.phase = this.page.phase = this.phase;
  }

  /** Goes to a phase if it is another one. @param {string} phase */
  showPhase(phase) { if (this.phase !== phase) this.setPhase(phase); }

  /** @param {boolean} on */
  showMargin(on) {
    this.page.margin = on;
    // A school laptop has room for one side beside the paper.
    if (on && innerWidth < roomy) this.column.show(false);
    this.freshMargin();
  }

  /** @param {boolean} on */
  showColumn(on) {
    this.column.show(on);
    if (on && innerWidth < roomy) this.showMargin(false);
  }

  /** @param {boolean} undo @param {boolean} redo */
  flags(undo, redo) {
    Object.assign(this.page, { undo, redo });
  }

  /** @private @param {string} word @param {number} waiting */
  showState(word, waiting) {
    const { aside } = this.road ?? { aside: [] };
    this.page.saved = word === 'saved' ? t('Saved%s', aside.length ? t(', %s not taken', aside.length) : '') : word === 'saving' ? t('Saving…') : t('Waiting to be saved (%s)', waiting);
    this.page.trouble = word === 'waiting' || aside.length > 0;
    if (word !== 'waiting') this.answers.moved();
    if (word !== 'saved') this.flags(true, false);
  }

  /** @private @param {boolean} on */
  showReading(on) {
    this.page.reading = on;
  }

  /** Reads aloud what is selected, or the whole map; or falls silent. */
  async readAloud() {
    if (this.aloud.reading) return this.aloud.stop();
    try {
      const response = await fetch(`${this.base}/aloud?chosen=${this.chosen.only ?? ''}`);
      const { sentences, language } = await response.json();
      if (!sentences?.length) return this.notice(t('There is nothing to read yet.'));
      this.aloud.read(sentences, language);
    } catch {
      this.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** @private */
  showScale() {
    // Not in every frame of a gesture: it lays out the foot of the page.
    this.scaleShown ||= window.setTimeout(() => {
      this.scaleShown = 0;
      this.page.scale = `${Math.round(this.view.k * 100)} %`;
    }, 100);
  }

  /** @param {string} words */
  announce(words) { get('announce').textContent = words; }

  /** Says something that stays for a while. @param {string} words @param {{words: string, act: () => void}} [offer] @param {boolean} [fault] @param {boolean | (() => void)} [stays] until it is put away, which may be told */
  notice(words, offer, fault, stays) {
    showNotice(this, words, offer, fault, stays);
  }

  /** Does what a control names. @param {string} what @param {HTMLElement} [control] @param {boolean} [stay] */
  do(what, control, stay) {
    if (this.plain && !this.gentle.allows(what)) return;
    if (!this.deeds[what]?.(control) && !stay) this.desk.focus({ preventScroll: true });
  }
}

const app = new App();
// When the first picture stands: a benchmark asks for it.
requestAnimationFrame(() => {
  const painted = new MessageChannel();
  painted.port1.onmessage = () => performance.mark('ready');
  painted.port2.postMessage(0);
});
// For whoever tests the page: its state can be asked for, not only seen.
Object.assign(window, { mevrin: app });
