// @ts-check
// What the controls of the page do, by the names that they carry (data-do).
// A deed that answers true keeps the keyboard where it is; after all others it
// goes back to the paper.

import * as acts from './acts.js';
import { duplicate } from './clip.js';

/** @typedef {import('./main.js').App} App */
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
    'add-here': () => { acts.newLoose(app, { x: app.pointed.x, y: app.pointed.y - 18 }); return true; },
    duplicate: () => duplicate(app),
    find: () => { app.find.open(); return true; },
    say: () => { app.say.from.focus(); return true; },
    child: () => { if (concept()) acts.newLinked(app, concept()); return true; },
    sibling: () => { if (concept()) acts.newSibling(app, concept()); return true; },
    rename: () => { acts.changeWords(app); return true; },
    remove: () => acts.remove(app),
    reverse: () => acts.reverse(app),
    'heads-one': () => acts.setHeads(app, 'one'),
    'heads-both': () => acts.setHeads(app, 'both'),
    'heads-none': () => acts.setHeads(app, 'none'),
    'focus-concept': () => { if (concept()) app.send([{ do: 'set-focus', concept: concept() }], []); },
    'link-two': () => {
      const [a, b] = app.chosen.concepts();
      if (app.chosen.list.length !== 2 || !b) return app.notice('Select two concepts, one after the other, to link the first to the second.');
      acts.newLink(app, a, b);
      return true;
    },
    'merge-two': () => acts.mergeTwo(app),
    insert: () => { acts.insertInto(app); return true; },
    branch: () => { if (concept()) app.chosen.set(app.model.branch(concept()).map((id) => `c-${id}`)); },
    'own-link': (control) => acts.ownLink(app, control?.dataset.end ?? ''),
    'take-off': (control) => {
      app.send([{ do: 'remove-end', link: app.chosen.links()[0], end: control?.dataset.end }], []);
    },
    show: (control) => {
      const all = (control?.dataset.elements || control?.dataset.element || '').split(' ').filter((e) => app.model.get(e));
      if (all.length) app.choose(...all);
      return !!control?.closest('#column'); // the hand stays in the column
    },
    ask: () => { window.dispatchEvent(new CustomEvent('mevrin:ask')); return true; },
    mend: (control) => mend(app, control),
    rule: (control) => {
      app.send([{ do: 'set-rule', rule: control?.dataset.rule, on: control?.dataset.on === 'true' }], []);
      return true;
    },
    phase: (control) => { app.setPhase(control?.dataset.phase ?? ''); return true; },
    'zoom-in': () => view.zoom(1.25),
    'zoom-out': () => view.zoom(0.8),
    'zoom-one': () => view.zoom(1 / view.k),
    fit: () => view.fit(app.model.bounds()),
    keys: () => { /** @type {HTMLDialogElement} */ (document.getElementById('keys')).showModal(); return true; },
    margin: () => app.showMargin(!!document.getElementById('margin')?.hidden),
    column: () => app.showColumn(!app.column.shown),
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
    case 'sentence':
      if (element) app.choose(element);
      app.say.propose(from ?? '', to ?? '');
      return true;
  }
  if (steps) {
    app.send(JSON.parse(steps), []).then((ok) => {
      if (ok) app.notice(`${control?.textContent ?? 'Done'}: done.`, { words: 'Undo', act: () => app.back('undo') });
    });
  }
  return true;
}
