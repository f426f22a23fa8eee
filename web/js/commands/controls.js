// @ts-check
// What the controls of the page do, by the names that they carry (data-do).
// A deed that answers true keeps the keyboard where it is; after all others it
// goes back to the paper.

import * as acts from './edits.js';
import { duplicate, pasteHere } from './clipboard.js';
import { newID } from '../sync/ids.js';
import * as joins from './joins.js';
import { typeDeeds } from './labels.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'aim' | 'aloud' | 'announce' | 'back' | 'base' | 'brief' | 'cards' | 'recording' | 'routeLine' | 'writingDesk' | 'chain' | 'choose' | 'chosen' | 'column' | 'desk' | 'discard' | 'filters' | 'find' | 'gentle' | 'ground' | 'guide' | 'help' | 'pointer' | 'jots' | 'lead' | 'lens' | 'looks' | 'marks' | 'meaning' | 'menu' | 'myRules' | 'model' | 'notes' | 'notice' | 'outline' | 'overview' | 'pad' | 'page' | 'phrases' | 'pick' | 'places' | 'plain' | 'pointed' | 'provisional' | 'raters' | 'readAloud' | 'reveal' | 'road' | 'round' | 'say' | 'score' | 'send' | 'sentences' | 'setPhase' | 'settings' | 'sheets' | 'showColumn' | 'showMargin' | 'sides' | 'sources' | 'split' | 'table' | 'talk' | 'tidy' | 'tuck' | 'view' | 'words' | 'writing'>} App */
/** @typedef {(control?: HTMLElement) => boolean | void} Deed */

/** @param {App} app @returns {Record<string, Deed>} */
export function deedsOf(app) {
  const concept = () => app.chosen.concepts()[0];
  const { view } = app;
  return {
    undo: () => app.back('undo'),
    redo: () => app.back('redo'),
    add: () => {
      const s = view.seen();
      acts.newLoose(app, { x: s.x + s.w / 2, y: s.y + s.h / 2 - 18 });
      return true;
    },
    'add-here': () => { acts.newLoose(app, { x: app.pointed.x, y: app.pointed.y - 18 }, '', true); return true; },
    duplicate: () => duplicate(app),
    'paste-here': () => { pasteHere(app); },
    find: () => { app.find.open(); return true; },
    'find-on': () => { app.find.step(1); return true; },
    'find-back': () => { app.find.step(-1); return true; },
    'find-close': () => app.find.close(),
    replace: () => { app.find.preview(); return true; },
    'put-replaced': () => { app.find.put(); return true; },
    'drop-replaced': () => { app.find.dialog.close(); return true; },
    say: () => { app.say.open(); return true; },
    child: () => { if (concept()) acts.newLinked(app, concept()); return true; },
    sibling: () => { if (concept()) acts.newSibling(app, concept()); return true; },
    saved: () => {
      app.words.finish('away');
      app.writing.send();
      const waiting = app.road.queue.length;
      app.notice(waiting ? t('%s of your changes %s on the way, kept in this browser until they arrive.', waiting, waiting === 1 ? 'is' : 'are') : t('All is saved. Every change is, as soon as it is made.'));
      return true;
    },
    help: (control) => { app.help(control?.dataset.page); return true; },
    'more-of-it': (control) => app.menu.more(control),
    'kinds-for-it': (control) => app.menu.kinds(control),
    'note-for-it': () => { if (concept()) app.notes.write(`c-${concept()}`); return true; },
    rename: () => { acts.changeWords(app); return true; },
    remove: () => acts.remove(app),
    reverse: () => acts.reverse(app),
    'heads-one': () => acts.setHeads(app, 'one'),
    'heads-both': () => acts.setHeads(app, 'both'),
    'heads-none': () => acts.setHeads(app, 'none'),
    'focus-concept': () => { if (concept()) app.send([{ do: 'set-focus', concept: concept() }], []); },
    'heads-next': () => acts.nextHeads(app),
    line: (control) => acts.setLine(app, /** @type {Wire.Line} */ (control?.dataset.line ?? '')),
    'free-lines': () => acts.freeLines(app),
    'link-two': () => linkChosen(app),
    'link-in-row': () => linkChosen(app),
    'link-to': () => {
      const from = concept();
      if (from) app.pick.ask(t('Link it to which concept?'), (to) => acts.newLink(app, from, to));
      return true;
    },
    'lead-end': (control) => {
      const [link] = app.chosen.links(), end = control?.dataset.end ?? '';
      if (link) app.pick.ask(t('Lead this end to which concept?'), (target) => {
        const l = app.model.links.get(link);
        if (l) app.lead.endTo(l, end, { target, x: 0, y: 0 });
        app.choose(`l-${link}`);
      });
      return true;
    },
    'pick-none': () => app.pick.end(),
    aim: () => { if (concept()) app.aim.open(concept()); },
    merge: () => (app.chosen.links().length ? joins.joinLinks(app) : joins.mergeTwo(app)),
    'join-alike': (control) => joins.joinLinks(app, control?.dataset.links),
    insert: () => { joins.insertInto(app); return true; },
    'second-link': () => { joins.secondLink(app); return true; },
    split: () => { app.split.open(); return true; },
    'close-split': () => { app.split.dialog.close(); return true; },
    tuck: () => { app.tuck.toggle(app.chosen.concepts()); },
    'bring-back': () => { app.tuck.see({ all: true }); },
    'set-opening': (control) => { app.send([{ do: 'set-opening', tucked: (control?.dataset.tucked ?? '').split(' ').filter(Boolean) }], []); },
    select: (control) => select(app, control?.dataset.what ?? ''),
    setting: (control) => {
      app.settings.toggle(control?.dataset.name ?? '');
      app.overview.fresh();
      app.ground.grid();
      return true;
    },
    branch: () => { if (concept()) app.chosen.set(app.model.branch(concept()).map((id) => `c-${id}`)); },
    'own-link': (control) => joins.ownLink(app, control?.dataset.end ?? ''),
    'take-off': (control) => {
      app.send([{ do: 'remove-end', link: app.chosen.links()[0], end: control?.dataset.end ?? '' }], []);
    },
    show: (control) => {
      const all = (control?.dataset.elements || control?.dataset.element || '').split(' ').filter(Boolean);
      // What is tucked away is brought back to be shown.
      app.tuck.bring(all).then(() => {
        const there = all.filter((e) => app.model.get(e));
        if (there.length) app.choose(...there);
      });
      return !!control?.closest('#column'); // the hand stays in the column
    },
    ask: () => { window.dispatchEvent(new CustomEvent('mevrin:ask')); return true; },
    mend: (control) => mend(app, control),
    dismiss: (control) => {
      const row = /** @type {HTMLElement | null | undefined} */ (control?.closest('li[data-rule]'));
      const reason = /** @type {HTMLInputElement | null | undefined} */ (row?.querySelector('.leave-why'))?.value.trim() ?? '';
      if (!row) return;
      app.send([{ do: 'dismiss-finding', id: newID('d'), rule: row.dataset.rule ?? '', on: JSON.parse(row.dataset.things || '[]') ?? [], reason }], []).then((ok) => {
        if (ok) app.notice(t('It is left as it is.'), { words: t('Undo'), act: () => app.back('undo') });
      });
      return true;
    },
    rule: (control) => {
      app.send([{ do: 'set-rule', rule: control?.dataset.rule ?? '', on: control?.dataset.on === 'true' }], []);
      return true;
    },
    'my-rule': (control) => { app.myRules({ rule: control?.dataset.rule ?? '', what: control?.dataset.what ?? '', least: control?.dataset.least ?? '' }); return true; },
    phase: (control) => { app.setPhase(control?.dataset.phase ?? ''); return true; },
    export: (control) => { // what is selected can be taken alone
      if (control instanceof HTMLAnchorElement) control.href = `${app.base}/export?chosen=${app.chosen.list.filter((e) => e.startsWith('c-')).slice(0, 300).join(',')}`;
      return true;
    },
    'zoom-in': () => view.zoom(1.25),
    'zoom-out': () => view.zoom(0.8),
    'zoom-one': () => view.zoom(1 / view.k),
    fit: () => view.fit(app.model.bounds()),
    'to-map': () => view.fit(app.model.bounds()),
    'fit-chosen': () => {
      const boxes = app.chosen.list.map((e) => app.model.boxOf(e)).filter((b) => b !== undefined);
      if (!boxes.length) return view.fit(app.model.bounds());
      const x = Math.min(...boxes.map((b) => b.x)), y = Math.min(...boxes.map((b) => b.y));
      view.fit({ x, y, w: Math.max(...boxes.map((b) => b.x + b.w)) - x, h: Math.max(...boxes.map((b) => b.y + b.h)) - y }, 1.6);
    },
    'paper-alone': () => {
      const alone = document.body.classList.toggle('paper-alone');
      if (alone) document.documentElement.requestFullscreen?.().catch(() => { /* the window itself will do */ });
      else if (document.fullscreenElement) document.exitFullscreen();
      app.announce(alone ? t('The paper alone. Escape brings the page back.') : t('The whole page.'));
    },
    keys: () => { /** @type {HTMLDialogElement} */ (document.getElementById('keys')).showModal(); return true; },
    margin: () => app.showMargin(!app.page.margin),
    column: () => {
      document.body.classList.remove('column-large');
      app.showColumn(!app.column.shown);
    },
    'column-large': (control) => {
      const large = document.body.classList.toggle('column-large');
      control?.setAttribute('aria-pressed', String(large));
      app.announce(large ? t('The reading column alone.') : t('The paper is back.'));
      return true;
    },
    'read-aloud': () => { app.readAloud(); return true; },
    'read-way': () => {
      const { aloud } = app, steps = /** @type {HTMLElement[]} */ ([...document.querySelectorAll('.margin .way [data-element]')]);
      if (aloud.reading) aloud.stop();
      else aloud.read([{ words: steps.map((el) => el.textContent?.replace('↑', '').trim()).join(' '), elements: steps.map((el) => el.dataset.element ?? '') }], document.documentElement.lang);
      return true;
    },
    'hand-link': () => { app.guide.links(`${app.base}/hand-links`, {}, 'hand-links'); return true; },
    'close-hand-link': (c) => { app.guide.links(`${app.base}/grants/${c?.dataset.grant}/close`, { allows: 'hand' }, 'hand-links'); return true; },
    'take-back': (c) => { app.guide.takeBack(c?.dataset.visitor ?? ''); return true; },
    'give-kind': (control) => {
      const concepts = app.chosen.concepts();
      if (!concepts.length) return app.notice(t('Select the concepts first that are of this kind.'));
      app.send([{ do: 'assign-kind', concepts, kind: control?.dataset.kind ?? '' }], []);
    },
    'set-hand': (control) => { app.send([{ do: 'set-hand', hand: control?.dataset.hand === 'plain' ? 'plain' : '' }], []); return true; },
    ...typeDeeds(app),
    ...app.meaning.deeds(),
    ...app.looks.deeds(),
    ...app.notes.deeds(),
    ...app.talk.deeds(),
    ...app.cards.deeds(),
    ...app.routeLine.deeds(),
    ...app.recording.deeds(),
    ...app.writingDesk.deeds(),
    ...app.sheets.deeds(),
    ...app.sources.deeds(),
    ...app.table.deeds(),
    ...app.pad.deeds(),
    ...app.filters.deeds(),
    ...app.tidy.deeds(),
    ...app.lens.deeds(),
    ...app.brief.deeds(),
    ...app.chain.deeds(),
    ...app.score.deeds(),
    ...app.raters.deeds(),
    ...app.round.deeds(),
    ...app.gentle.deeds(),
    ...app.outline.deeds(),
    ...app.sentences.deeds(),
    ...app.guide.deeds(),
    ...app.jots.deeds(),
    ...app.phrases.deeds(),
  };
}

/** Mends a finding: at once where the steps are known, or by asking for what
 * only a person can say. @param {App} app @param {HTMLElement} [control] */
function mend(app, control) {
  const { ask, element, steps, from, to } = control?.dataset ?? {};
  switch (ask) {
    case 'question': window.dispatchEvent(new CustomEvent('mevrin:ask')); return true;
    case 'words':
      if (element) app.choose(element);
      acts.changeWords(app);
      return true;
    case 'says':
      if (element) app.sources.describe(element);
      else /** @type {HTMLElement | null} */ (control?.closest('li')?.querySelector('[data-do="go-stop"]'))?.click(); // on the card of a stop
      return true;
    case 'sentence':
      if (element) app.choose(element);
      app.say.propose(from ?? '', to ?? '');
      return true;
  }
  if (steps) {
    app.send(JSON.parse(steps), []).then((ok) => {
      if (ok) app.notice(t('%s: done.', control?.textContent ?? 'Done'), { words: t('Undo'), act: () => app.back('undo') });
    });
  }
  return true;
}

/** Links what is selected: the first to the second, which asks for its words;
 * more of them in a row. @param {App} app */
function linkChosen(app) {
  const all = app.chosen.concepts();
  if (all.length > 2) return joins.linkInRow(app);
  if (all.length !== 2) return app.notice(t('Select two concepts, one after the other, to link the first to the second.'));
  acts.newLink(app, all[0], all[1]);
  return true;
}

/** Selects all of a kind. @param {App} app @param {string} what */
function select(app, what) {
  const links = [...app.model.links.values()], slips = [...app.model.slips.values()];
  const all = what === 'open' ? links.filter((l) => l.el.classList.contains('open')).map((l) => `l-${l.id}`)
    : what === 'cross' ? links.filter((l) => l.el.querySelector('.line.cross')).map((l) => `l-${l.id}`)
      : slips.filter((s) => what === 'all' || s.el.classList.contains('loose')).map((s) => `c-${s.id}`);
  if (!all.length) return app.notice(t('There are none on the paper now.'));
  app.chosen.set(all);
  app.announce(t('%s selected.', all.length));
}
