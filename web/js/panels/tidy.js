// @ts-check
// Putting the map in order: a pattern is tried out on the paper first, and then
// taken or left. What moves glides to its new place.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'chosen' | 'desk' | 'firstHints' | 'model' | 'notice' | 'page' | 'patch' | 'send' | 'view' | 'words'>} App */
/** @typedef {import('../sync/queue.js').Answer} Answer */
/** @typedef {import('../paper/view.js').Box} Box */

/** How long a slip glides, in milliseconds; and how many do, at most. */
const glide = 230, most = 400;

/** Lets slips that stand elsewhere now glide there from where they were.
 * @param {App} app @param {Map<string, Box>} was */
export function glideFrom(app, was) {
  if (matchMedia('(prefers-reduced-motion: reduce)').matches) return;
  const seen = app.view.seen(), far = (/** @type {Box} */ b) => b.x > seen.x + seen.w || b.y > seen.y + seen.h || b.x + b.w < seen.x || b.y + b.h < seen.y;
  const moved = [...was].flatMap(([id, from]) => {
    const slip = app.model.slips.get(id);
    return slip && (from.x !== slip.box.x || from.y !== slip.box.y) && !(far(from) && far(slip.box)) ? [{ slip, from }] : [];
  });
  if (moved.length > most) return;
  const ids = new Set(moved.map(({ slip }) => slip.id));
  for (const { slip, from } of moved) {
    slip.el.animate([{ transform: `translate(${from.x - slip.drawn.x}px, ${from.y - slip.drawn.y}px)` }, { transform: `translate(${slip.box.x - slip.drawn.x}px, ${slip.box.y - slip.drawn.y}px)` }], { duration: glide, easing: 'ease-in-out' });
  }
  // Lines come when what they join has arrived.
  for (const link of app.model.linksAt(ids)) link.el.animate([{ opacity: 0 }, { opacity: 0, offset: 0.7 }, { opacity: 1 }], { duration: glide * 1.5 });
}

export class Tidy {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** @type {'map' | 'branch'} */
    this.scope = 'map';
    /** Siblings may change places; as the map has it until somebody says otherwise here. @type {boolean | null} */
    this.freely = null;
    /** What was placed by hand stays. */
    this.hand = false;
    /** What is being tried out: how to take it, and what was drawn before.
     * @type {{operations: Wire.Operation[], before: Answer, view: {x: number, y: number, k: number}, pattern: string} | null} */
    this.on = null;
    /** Counts what was asked for, so that only the last answer is shown. */
    this.asked = 0;
    /** What is under way at the server, which ends when it is not wanted any more. @type {AbortController | null} */
    this.working = null;
    this.clock = 0;
  }

  /** The concept whose branch is meant, or nothing. */
  get branch() {
    const [id] = this.app.chosen.concepts();
    return this.scope === 'branch' && this.app.chosen.list.length === 1 && id ? id : '';
  }

  /** Shows what operations would make of the map. @param {Wire.Operation[]} operations @param {string} words @param {string} pattern */
  async try(operations, words, pattern) {
    const { app } = this;
    app.words.finish('away');
    this.leave();
    const asked = ++this.asked, working = this.working = new AbortController(), begun = Date.now();
    this.say(t('Putting it in order…'), false);
    this.clock = window.setInterval(() => this.say(t('Putting %s concepts in order: %s s…', app.model.slips.size, Math.round((Date.now() - begun) / 1000)), false), 1000);
    try {
      const response = await fetch(`${app.base}/tried`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ operations }), signal: working.signal });
      const answer = await response.json();
      if (asked !== this.asked) return;
      this.rest();
      if (!response.ok) {
        this.app.page.trial = '';
        return app.notice(answer.error, undefined, true);
      }
      const view = { x: app.view.x, y: app.view.y, k: app.view.k };
      this.on = { operations, before: this.drawn(answer), view, pattern };
      app.patch(answer, true);
      if (!this.branch) this.fit();
      this.say(words, true);
      this.mark();
      app.announce(t('%s: shown, not taken yet. Enter takes it, Escape leaves it.', words));
      app.desk.focus({ preventScroll: true });
    } catch {
      if (asked !== this.asked) return; // it was left
      this.rest();
      this.app.page.trial = '';
      app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
  }

  /** Nothing is under way any more. @private */
  rest() {
    clearInterval(this.clock);
    this.working = null;
  }

  /** Brings all of the map into view, if it is not. @private */
  fit() {
    const { view, model } = this.app, b = model.bounds(), s = view.seen();
    if (!b || (b.x >= s.x && b.y >= s.y && b.x + b.w <= s.x + s.w && b.y + b.h <= s.y + s.h)) return;
    view.fit({ ...b, h: b.h * 1.12 }); // below stands the bar
  }

  /** What an answer is going to replace, as it is drawn now. @private @param {Answer} answer @returns {Answer} */
  drawn(answer) {
    const { model } = this.app;
    const of = (/** @type {Record<string, string> | undefined} */ list, /** @type {string} */ prefix) => Object.fromEntries(Object.keys(list ?? {}).flatMap((id) => {
      const el = model.get(prefix + id)?.el;
      return el ? [[id, el.outerHTML]] : [];
    }));
    return /** @type {Answer} */ ({ revision: answer.revision, slips: of(answer.slips, 'c-'), links: of(answer.links, 'l-') });
  }

  /** Takes what is shown. */
  take() {
    const on = this.on;
    if (!on) return;
    this.on = null;
    this.app.page.trial = '';
    this.mark();
    this.app.send(on.operations, []).then((ok) => { if (ok) this.app.notice(t('The map is in order.'), { words: t('Undo'), act: () => this.app.back('undo') }); });
  }

  /** Leaves the map as it was. */
  leave() {
    this.asked++;
    this.working?.abort();
    this.rest();
    this.app.page.trial = '';
    const on = this.on;
    if (!on) return false;
    this.on = null;
    this.app.patch(on.before, true);
    this.app.view.set(on.view.x, on.view.y, on.view.k);
    this.mark();
    this.app.announce(t('As it was.'));
    return true;
  }

  /** @private @param {string} words @param {boolean} done */
  say(words, done) {
    Object.assign(this.app.page, { trial: words, tried: done });
  }

  /** Shows on the patterns which is on, and how the switches stand. */
  mark() {
    const branch = !!this.branch;
    for (const el of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('.pattern'))) {
      const now = this.on ? el.dataset.pattern === this.on.pattern : (branch ? el.dataset.ofBranch : el.dataset.ofMap) === 'true';
      el.setAttribute('aria-pressed', String(now));
    }
    for (const el of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-do="tidy-scope"]'))) el.setAttribute('aria-pressed', String(el.dataset.scope === this.scope));
    for (const el of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-do="tidy-switch"]'))) {
      const on = el.dataset.name === 'hand' ? this.hand : this.freely ?? el.dataset.stored === 'true';
      el.setAttribute('aria-pressed', String(on));
    }
  }

  /** @private @param {string} pattern @param {string} words */
  ask(pattern, words) {
    const stored = document.querySelector('[data-name="freely"]')?.getAttribute('data-stored') === 'true';
    const branch = this.branch;
    this.try([{ do: 'tidy', pattern: /** @type {Wire.Pattern} */ (pattern), hand: this.hand, ...(branch ? { branch } : { freely: this.freely ?? stored }) }], words, pattern);
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    const concepts = () => app.chosen.concepts();
    const move = (/** @type {Wire.Operation} */ op) => { app.send([op], []); };
    return {
      'tidy-try': (c) => { this.ask(c?.dataset.pattern ?? '', c?.textContent?.trim() ?? ''); return true; },
      'tidy-inherit': () => { this.scope = 'branch'; this.ask('', t('As what it hangs from')); return true; },
      'tidy-again': () => {
        const now = /** @type {HTMLElement | null} */ (document.querySelector('.pattern[data-of-map="true"]'));
        this.scope = 'map';
        this.ask(now?.dataset.pattern ?? 'levels', now?.textContent?.trim() ?? 'Levels, down');
        return true;
      },
      'tidy-take': () => this.take(),
      'tidy-leave': () => { this.leave(); },
      'tidy-scope': (c) => { this.scope = c?.dataset.scope === 'branch' ? 'branch' : 'map'; this.mark(); return true; },
      'tidy-switch': (c) => {
        if (c?.dataset.name === 'hand') this.hand = !this.hand;
        else this.freely = !(this.freely ?? c?.dataset.stored === 'true');
        this.mark();
        return true;
      },
      'keep-tidy': () => {
        this.app.firstHints.did('order');
        const on = !app.page.kept;
        move({ do: 'keep-tidy', on });
        app.announce(on ? t('The map keeps itself in order.') : t('All stays as it stands.'));
        return true;
      },
      pin: () => {
        const ids = concepts();
        if (!ids.length) return app.notice(t('Select the concepts first that are to stay where they are.'));
        const on = ids.some((id) => !app.model.slips.get(id)?.el.classList.contains('pinned'));
        move({ do: 'pin', concepts: ids, on });
        app.announce(on ? t('Pinned.') : t('No longer pinned.'));
      },
      'let-stand': () => {
        if (concepts().length) move({ do: 'pin', concepts: concepts(), on: false });
        app.announce(t('The map keeps it in order again.'));
      },
      'line-up': (c) => { if (concepts().length > 1) move({ do: 'line-up', concepts: concepts(), way: c?.dataset.way ?? '' }); },
      'make-room': () => { if (concepts().length) move({ do: 'make-room', concepts: concepts() }); },
      closer: () => { if (concepts()[0]) move({ do: 'stretch', concept: concepts()[0], by: 0.8 }); },
      further: () => { if (concepts()[0]) move({ do: 'stretch', concept: concepts()[0], by: 1.25 }); },
    };
  }
}
