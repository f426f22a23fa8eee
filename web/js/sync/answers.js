// @ts-check
// What the server answers takes its place on the page. No fault in showing an
// answer stops the rest of it, or what waits behind it: the page then fetches the
// whole drawing.

import { described, typedIn } from './described.js';
import { put, take } from './fragments.js';
import { newID } from './ids.js';
import { showNotice } from '../panels/notices.js';
import { glideFrom } from '../panels/tidy.js';
import { t } from './messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'arrival' | 'announce' | 'atHand' | 'back' | 'base' | 'cards' | 'choose' | 'chosen' | 'column' | 'desk' | 'discard' | 'firstHints' | 'found' | 'flags' | 'follow' | 'freshMargin' | 'ground' | 'routeLine' | 'jots' | 'kinds' | 'lead' | 'lens' | 'made' | 'model' | 'notes' | 'notice' | 'overview' | 'page' | 'patch' | 'pointer' | 'provisional' | 'road' | 'send' | 'sides' | 'talk' | 'theirs' | 'tidy' | 'view' | 'words'>} App */
/** @typedef {import('./queue.js').Answer} Answer */
/** @typedef {import('./queue.js').Asked} Asked */

export class Answers {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    /** What was called how from here, by what it is. @type {Map<string, Wire.Operation>} */
    this.named = new Map();
    /** Answers that came while the hand was busy. @type {Answer[]} */
    this.held = [];
    /** Who gets words back that are refused. @type {WeakMap<Wire.Operation[], () => boolean>} */
    this.regain = new WeakMap();
    /** Whether something could not be shown since the whole was last fetched. */
    this.broken = false;
    this.mending = false;
    /** The notice of what keeps waiting. @type {{remove: () => void} | null} */
    this.waits = null;
    this.said = false;
  }

  /** Does one step of showing an answer; a fault in it is noted and goes no further.
   * @private @param {() => void} step */
  step(step) {
    try {
      step();
    } catch (fault) {
      console.error(fault);
      this.broken = true;
    }
  }

  /** @param {Answer} answer @param {boolean} own */
  take(answer, own) {
    const { app } = this;
    if (!own) this.step(() => app.tidy.leave()); // what was tried out was made for another map
    if (app.pointer.gesture?.moved) this.held.push(answer);
    else this.patch(answer, answer.glide);
    if (own && answer.glide) this.step(() => app.follow());
    for (const m of answer.moved ?? []) if (m.kind === 'concept') this.step(() => this.meant(m.old, m.new));
    for (const words of answer.notices ?? []) this.step(() => app.notice(words));
    this.step(() => app.flags(answer.undo || app.road.queue.length > 0, answer.redo));
    document.body.dataset.revision = String(answer.revision);
    this.mend();
  }

  /** The concept that was made here is there under another name. @private @param {string} old @param {string} heir */
  meant(old, heir) {
    const { app } = this;
    if (!app.model.slips.get(old)?.provisional) return;
    const chosen = app.chosen.only === `c-${old}`, words = app.model.slips.get(heir)?.words;
    app.provisional.forget([`c-${old}`]);
    if (chosen) {
      app.choose(`c-${heir}`);
      app.notice(t('“%s” is on the map already: linked to it.', words));
    }
    app.jots.known(old, heir);
  }

  /** Keeps what is called how here, in case that somebody else writes over it. @param {Wire.Operation[]} operations */
  note(operations) {
    for (const op of operations) {
      if (op.do === 'name-concept') this.named.set(op.concept, op);
      else if (op.do === 'name-link') this.named.set(op.link, op);
      else if (op.do === 'add-concept' && op.label) this.named.set(op.id, { do: 'name-concept', concept: op.id, label: op.label });
      else if (op.do === 'add-link' && op.phrase) this.named.set(op.id, { do: 'name-link', link: op.id, phrase: op.phrase });
    }
  }

  /** Somebody else has written over words of this window: they can be brought back.
   * @param {{what: string, id: string}[]} all */
  overtaken(all) {
    const mine = all.flatMap(({ id }) => this.named.get(id) ?? []);
    const back = { words: t('Bring mine back'), act: () => { this.app.send(mine, []); } };
    this.app.notice(t('%s: somebody else has changed that too, and the later words stand.', all.map((o) => o.what).join(', ')), mine.length ? back : undefined);
  }

  /** Draws what came while the hand was busy. */
  drawWaiting() {
    for (const a of this.held.splice(0)) this.patch(a);
  }

  /** Replaces what an answer says is drawn otherwise now. @param {Answer} answer @param {boolean} [glide] what moved is seen to move */
  patch(answer, glide) {
    const { app } = this;
    app.arrival.finish();
    const was = new Map(glide ? Object.keys(answer.slips ?? {}).flatMap((id) => {
      const b = app.model.slips.get(id)?.box;
      return b ? [[id, b]] : [];
    }) : []);
    if (answer.whole) {
      for (const el of document.querySelectorAll('#links > g, #slips > g')) {
        const id = /** @type {HTMLElement} */ (/** @type {unknown} */ (el)).dataset.id ?? '';
        if (!(el.id.startsWith('c-') ? answer.slips : answer.links)?.[id]) this.step(() => take(app, el.id));
      }
    }
    for (const element of answer.gone ?? []) this.step(() => take(app, element));
    for (const [id, drawn] of Object.entries(answer.slips ?? {})) this.step(() => put(app, `c-${id}`, drawn, 'slips'));
    for (const [id, drawn] of Object.entries(answer.links ?? {})) this.step(() => put(app, `l-${id}`, drawn, 'links'));
    for (const step of this.steps(answer)) this.step(step);
    if (was.size) this.step(() => glideFrom(app, was));
    this.mend();
  }

  /** What follows the drawing. @private @param {Answer} answer @returns {(() => void)[]} */
  steps(answer) {
    const { app } = this, { head } = answer;
    return [
      () => app.chosen.set(app.chosen.list.filter((e) => app.model.get(e))),
      () => app.chosen.mark(), () => app.theirs.mark(), () => { if (!app.words.field) app.pointer.handle.rest(); },
      () => app.lead.show(), () => app.sides.show(), () => app.atHand.show(), () => app.firstHints.show(), () => app.overview.fresh(), () => app.lens.fresh(), () => app.found.mark(), () => app.column.refresh(),
      () => app.routeLine.fresh(), () => app.notes.fresh(), () => app.talk.fresh(), () => app.cards.fresh(),
      () => { if (head) app.ground.take(head); },
      () => { if (head) app.kinds = head.kinds; },
      () => { if (head) [app.page.kept, document.body.dataset.grows] = [head.kept, head.grows]; },
      () => { if (head) window.dispatchEvent(new CustomEvent('mevrin:head', { detail: head })); },
      () => app.freshMargin(),
      () => /** @type {HTMLElement} */ (document.getElementById('blank')).toggleAttribute('hidden', app.model.slips.size > 0),
    ];
  }

  /** Fetches the whole drawing anew, after something was shown that is not so. */
  async redraw() {
    if (this.mending) return;
    this.mending = true;
    this.broken = false;
    try {
      const response = await fetch(`${this.app.base}/changes?since=999999999`);
      if (response.ok) this.patch(await response.json());
    } catch (fault) {
      console.error(fault); // the next answer mends it
    }
    this.mending = false;
    if (this.broken) this.giveUp();
  }

  /** Something failed while an answer was taken. @param {unknown} fault */
  failed(fault) {
    console.error(fault);
    this.broken = true;
    this.mend();
  }

  /** @private */
  mend() { if (this.broken && !this.mending) this.redraw(); }

  /** Something could not be shown, whatever was tried: what was done is safe all the
   * same. @private */
  giveUp() {
    if (this.said) return;
    this.said = true;
    this.app.notice(t('A part of the page could not be brought up to date. What you did is saved.'), { words: t('Load the page anew'), act: () => location.reload() }, true, () => { this.said = false; });
  }

  /** The map may not be seen any more. */
  closed() {
    this.app.notice(t('This map cannot be reached any more: its link was closed, it is shared with you no longer, or it is in the bin. What you did before is saved.'), undefined, true, true);
  }

  /** The server refused a gesture for good. Its words go back to where they were
   * typed, or stay in sight until they are used again or left. @param {string} words @param {Asked} asked @param {boolean} late */
  refused(words, asked, late) {
    const { app } = this, { operations } = asked;
    const made = operations && app.made.get(operations);
    if (made) app.discard(made);
    this.redraw();
    const regain = operations && this.regain.get(operations);
    if (!late && ((regain && regain()) || !typedIn(operations))) return app.notice(words, undefined, true);
    app.road.setAside(asked, words);
    this.showOne(asked, words, late);
  }

  /** Shows what was refused in an earlier visit and is still neither done nor left. */
  showAside() {
    for (const { asked, words } of this.app.road.aside) this.showOne(asked, words, true);
  }

  /** @private @param {Asked} asked @param {string} words @param {boolean} late */
  showOne(asked, words, late) {
    const { app } = this, { operations } = asked, leave = () => app.road.leave(asked);
    const offer = operations && { words: t('Do it again'), act: () => { leave(); app.send(operations, []); } };
    app.notice(t('%s %scould not be done. %s', described(operations), late ? t('waited to be saved and ') : '', words), this.asIdea(operations, leave) ?? offer, true, leave);
  }

  /** Words for something that is gone can stand on the map by themselves.
   * @private @param {Wire.Operation[]} [operations] @param {() => void} [leave] */
  asIdea(operations, leave) {
    const { app } = this, op = /** @type {any} */ (operations?.[0]);
    const gone = op?.do === 'name-concept' ? !app.model.slips.has(op.concept) : false;
    if (!gone || operations?.length !== 1) return undefined;
    return { words: t('Put it down as a new idea'), act: () => { leave?.(); app.send(app.model.slips.has(op.concept) ? operations : [{ do: 'jot', concept: newID('c'), words: op.label, at: app.jots.place('') }], []); } };
  }

  /** An entry keeps waiting, since the server gives no answer to it; others behind it
   * can be let pass. @param {Asked} asked @param {string} words */
  stuck(asked, words) {
    const { app } = this, others = app.road.queue.length > 1;
    this.waits?.remove();
    this.waits = showNotice(app, t('%s is not saved yet. %s', described(asked.operations), words || t('The server gives no answer to it. It is tried again.')), others ? {
      words: t('Save the others first'), act: () => { if (app.road.skip(asked)) { app.road.setAside(asked, words); this.showOne(asked, words, true); } },
    } : undefined, true);
  }

  /** What waited has an answer. */
  moved() {
    this.waits?.remove();
    this.waits = null;
  }
}
