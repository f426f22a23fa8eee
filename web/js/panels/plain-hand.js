// @ts-check
// The plain hand: a few large controls over the same paper. What it does not
// offer cannot be done by keys either, and nothing it does takes anything away.

import { commenting } from '../sync/allowed.js';
import * as acts from '../commands/edits.js';
import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from './dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'desk' | 'discard' | 'model' | 'notice' | 'page' | 'pick' | 'places' | 'pointer' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'words'>} App */

/** What can be done with the plain hand, by the names of deeds. */
const offered = new Set(['undo', 'redo', 'add', 'add-here', 'child', 'sibling', 'rename', 'link-two', 'pick-none', 'zoom-in', 'zoom-out', 'zoom-one', 'fit', 'to-map', 'fit-chosen', 'tuck', 'bring-back', 'show',
  'read-aloud', 'op', 'comment', 'mention', 'plain-talk', 'note-open', 'note-close', 'plain-link', 'plain-words', 'plain-colour', 'plain-kind']);

/** What is not offered to whoever may comment and no more. */
const altering = new Set(['add', 'add-here', 'child', 'sibling', 'rename', 'link-two', 'plain-link', 'plain-words', 'plain-colour', 'plain-kind']);

export class Plain {
  /** @param {App} app @param {HTMLElement} key where the colours are offered */
  constructor(app, key) {
    this.app = app;
    this.key = key;
    document.addEventListener('pointerdown', (e) => {
      if (app.page.colours && !(/** @type {Element} */ (e.target).closest('#plain-key, [data-do="plain-colour"]'))) this.close();
    });
    key.addEventListener('keydown', (e) => {
      const all = /** @type {HTMLElement[]} */ ([...key.querySelectorAll('button')]), at = all.indexOf(/** @type {HTMLElement} */ (document.activeElement));
      const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
      if (step) all[(at + step + all.length) % all.length]?.focus();
      else if (e.key === 'Escape') { this.close(); app.desk.focus({ preventScroll: true }); } else return;
      e.preventDefault();
    });
    window.addEventListener('mevrin:head', (e) => {
      const el = document.getElementById('plain-question'), { question, title } = /** @type {CustomEvent} */ (e).detail;
      if (el) el.textContent = question || title;
    });
  }

  /** Whether a deed is one of the plain hand; says so where it is none. @param {string} what */
  allows(what) {
    if (offered.has(what) && !(commenting && altering.has(what))) return true;
    if (what === 'remove') this.app.notice(t('Nothing is deleted here. “Back” takes back what you did last.'));
    return false;
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const { app } = this;
    return {
      'plain-link': () => { this.link(); return true; },
      'plain-words': () => {
        if (app.chosen.only) acts.changeWords(app);
        else app.pick.ask(t('Whose words? Touch an idea, or words on a line.'), (element) => { app.choose(element); acts.changeWords(app); }, true);
        return true;
      },
      'plain-colour': () => { this.open(); return true; },
      'plain-kind': (control) => this.colour(control),
    };
  }

  /** Links two: those selected, or those that are touched now. @private */
  link() {
    const { app } = this, [from, to] = app.chosen.concepts();
    const second = (/** @type {string} */ first) => {
      app.choose(`c-${first}`);
      app.pick.ask(t('Where does the line from “%s” lead? Touch an idea.', app.model.slips.get(first)?.words ?? ''), (last) => acts.newLink(app, first, last));
    };
    if (from && to && app.chosen.list.length === 2) acts.newLink(app, from, to);
    else if (from) second(from);
    else if (app.model.slips.size < 2) app.notice(t('A line needs two ideas. Put down another one first.'));
    else app.pick.ask(t('Where does the line begin? Touch an idea.'), second);
  }

  /** Shows the colours of the key. @private */
  async open() {
    const { app, key } = this;
    if (app.page.colours) return this.close();
    try {
      await fetched(key, {});
    } catch {
      return app.notice(t('The connection is away. Please try again when it is back.'), undefined, true);
    }
    app.page.colours = true;
    document.body.classList.add('colouring'); // the key on the paper would say it twice
    await window.Alpine.nextTick();
    key.querySelector('button')?.focus();
  }

  close() {
    this.app.page.colours = false;
    document.body.classList.remove('colouring');
  }

  /** Gives what is selected, or what is touched next, the kind of a swatch; where
   * the map has no key yet, it gets the one that is offered. @private @param {HTMLElement} [control] */
  colour(control) {
    if (!control) return;
    const { app } = this, name = control.dataset.name ?? '';
    /** @type {Wire.Operation[]} */
    const steps = [];
    let kind = control.dataset.kind ?? '';
    if (!kind && name) {
      for (const b of /** @type {NodeListOf<HTMLElement>} */ (this.key.querySelectorAll('[data-name]'))) {
        const id = newID('k');
        if (b === control) kind = id;
        steps.push({ do: 'add-kind', id, name: b.dataset.name ?? '', colour: /** @type {Wire.Colour} */ (b.dataset.colour), outline: /** @type {Wire.Outline} */ (b.dataset.outline), reuse: true });
      }
    }
    this.close();
    const give = (/** @type {string[]} */ concepts) => {
      app.send([...steps, { do: 'assign-kind', concepts, kind }], []);
      const words = concepts.map((id) => app.model.slips.get(id)?.words).join(', ');
      app.announce(name ? `${words}: ${name}` : t('%s: no colour', words));
    };
    const chosen = app.chosen.concepts();
    if (chosen.length) give(chosen);
    else app.pick.ask(name ? t('Which idea is “%s”? Touch it.', name) : t('Which idea loses its colour? Touch it.'), (id) => { app.choose(`c-${id}`); give([id]); });
  }
}
