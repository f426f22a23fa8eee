// @ts-check
// Making one of two, and two of one: concepts, links, and what stands between.

import { askNoun, changeWords, linksMeant } from './edits.js';
import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';
import { fetched } from '../panels/dialogs.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'base' | 'choose' | 'chosen' | 'desk' | 'discard' | 'lead' | 'model' | 'notice' | 'page' | 'places' | 'pointer' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'words'>} App */

/** Puts a new concept into the middle of a link: the phrase leads to it, and a
 * new link, which asks for its words, from there on. @param {App} app */
export function insertInto(app) {
  const [link] = linksMeant(app), own = link ? app.model.links.get(link) : undefined;
  if (!own) return app.notice(t('A concept fits between two others: select the link between them.'));
  const chosen = app.chosen.concepts();
  const old = own.to.find((e) => chosen.includes(e.concept)) ?? own.to[0];
  const id = newID('c'), next = newID('l');
  const at = { x: own.gap.x + own.gap.w / 2, y: own.gap.y };
  const slip = app.provisional.slip(id, at, '');
  const back = () => { app.discard([`c-${id}`]); app.chosen.set([`l-${link}`]); };
  app.chosen.set([`c-${id}`]);
  askNoun(app, slip, '', (words) => {
    if (!words) return back();
    app.provisional.slip(id, at, words);
    app.send([{ do: 'insert-concept', link, end: old.id, concept: id, label: words, at, into: newID('e'), new: next, newFrom: newID('e'), newTo: newID('e') }], [`c-${id}`]).then((ok) => {
      if (!ok || !app.model.links.has(next)) return;
      app.choose(`l-${next}`);
      changeWords(app);
    });
  }, back);
}

/** Makes a link of its own of one end of a phrase. @param {App} app @param {string} end */
export function ownLink(app, end) {
  const [link] = app.chosen.links();
  if (link) app.send([{ do: 'split-end', link, end, new: newID('l') }], []);
}

/** Makes two links of one: one each way of one that is read both ways, else a
 * second one beside it. @param {App} app */
export function secondLink(app) {
  const [link] = linksMeant(app), own = link ? app.model.links.get(link) : undefined;
  if (!own) return app.notice(t('Select a link, or two concepts that are linked.'));
  const id = newID('l'), both = own.heads === 'both';
  app.send([{ do: 'second-link', link, new: id }], []).then((ok) => {
    if (!ok || !app.model.links.has(id)) return;
    app.choose(`l-${id}`);
    if (!both) changeWords(app);
  });
}

/** Joins links that say the same into one phrase: those selected, or all that
 * the margin names. @param {App} app @param {string} [others] */
export function joinLinks(app, others) {
  const [keep, ...more] = app.chosen.links();
  const gone = others ? others.split(' ') : more;
  if (!keep || !gone.length) return app.notice(t('Select two links that say the same from one concept, or to one.'));
  app.chosen.set([`l-${keep}`]);
  app.send(gone.map((link) => ({ do: 'merge-links', keep, gone: link })), []).then((ok) => {
    if (ok) app.notice(t('%s links are one phrase now.', gone.length + 1), { words: t('Undo'), act: () => app.back('undo') });
  });
}

/** Makes one concept of the two selected: the first stays. @param {App} app */
export function mergeTwo(app) {
  const [keep, gone] = app.chosen.concepts();
  if (app.chosen.list.length !== 2 || !gone) return app.notice(t('Select the two concepts that are one: the first keeps its words.'));
  const words = [keep, gone].map((id) => app.model.slips.get(id)?.words || t('a concept without words'));
  app.chosen.set([`c-${keep}`]);
  app.send([{ do: 'merge-concepts', keep, gone }], []).then((ok) => {
    if (ok) app.notice(t('“%s” is one with “%s” now.', words[1], words[0]), { words: t('Undo'), act: () => app.back('undo') });
  });
}

/** Links the concepts selected one after another, in the order in which they
 * were: first to second, second to third. @param {App} app */
export function linkInRow(app) {
  const all = app.chosen.concepts();
  if (all.length < 2) return app.notice(t('Select the concepts one after the other, in their order.'));
  const steps = all.slice(1).map((to, i) => ({ do: /** @type {const} */ ('add-link'), id: newID('l'), from: [{ id: newID('e'), concept: all[i] }], to: [{ id: newID('e'), concept: to }] }));
  app.send(steps, []).then((ok) => { if (ok) app.chosen.set(steps.map((s) => `l-${s.id}`)); });
}

/** Asks in a dialog which links of a concept belong to the other one that it
 * turned out to be, and what that is called. */
export class Split {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    this.concept = '';
    dialog.addEventListener('submit', (e) => {
      e.preventDefault();
      this.done();
    });
    dialog.addEventListener('close', () => app.desk.focus({ preventScroll: true }));
  }

  async open() {
    const [concept] = this.app.chosen.concepts();
    if (!concept) return;
    this.concept = concept;
    try {
      await fetched(this.dialog, { concept });
      this.dialog.showModal();
      this.dialog.querySelector('input')?.focus();
    } catch (e) {
      this.app.notice(e instanceof TypeError ? t('The server cannot be reached just now. Nothing has changed.') : String(/** @type {Error} */ (e).message), undefined, true);
    }
  }

  /** @private */
  done() {
    const words = /** @type {HTMLInputElement} */ (this.dialog.querySelector('#split-words')).value.trim();
    const fault = /** @type {HTMLElement} */ (this.dialog.querySelector('#split-fault'));
    if (!words) {
      fault.textContent = t('The second one needs words of its own.');
      fault.hidden = false;
      this.dialog.querySelector('input')?.focus();
      return;
    }
    const ends = [...this.dialog.querySelectorAll('input[type="checkbox"]:checked')].map((box) => {
      const [link, end] = /** @type {HTMLInputElement} */ (box).value.split(' ');
      return { link, end };
    });
    const slip = this.app.model.slips.get(this.concept), id = newID('c');
    this.dialog.close();
    if (!slip) return;
    this.app.send([{ do: 'split-concept', concept: this.concept, new: id, label: words, at: { x: slip.box.x + slip.box.w + 120, y: slip.box.y }, ends }], []).then((ok) => {
      if (ok && this.app.model.slips.has(id)) this.app.choose(`c-${id}`);
    });
  }
}

/** Lets one choose a concept for something that was begun: by a tap, or by the
 * arrow keys and Enter. */
export class Picking {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** @type {((concept: string) => void) | null} */
    this.wanted = null;
    this.links = false;
  }

  /** @param {string} words what is asked @param {(id: string) => void} done gets the concept; where links can be chosen too, the element
   * @param {boolean} [links] */
  ask(words, done, links = false) {
    this.wanted = done;
    this.links = links;
    this.app.desk.classList.add('choosing');
    this.app.lead.hide(); // nothing may lie over what is to be chosen
    this.app.pointer.handle.hide();
    this.app.page.picking = words;
    this.app.announce(t('%s Arrow keys and Enter choose, Escape leaves it.', words));
    this.app.desk.focus({ preventScroll: true });
  }

  end() {
    this.wanted = null;
    this.app.desk.classList.remove('choosing');
    this.app.page.picking = '';
  }

  /** @param {string} element @returns {boolean} whether it was for this */
  take(element) {
    const done = this.wanted;
    if (!done) return false;
    if (!element || (!this.links && !element.startsWith('c-'))) return true;
    this.end();
    done(this.links ? element : element.slice(2));
    return true;
  }
}
