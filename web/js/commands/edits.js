// @ts-check
// What one can do to a map, whichever way the hand asks for it.

import { barred } from '../sync/allowed.js';
import { newID } from '../sync/ids.js';
import { heads, limits } from '../sync/limits.js';
import { linesOf, put } from '../paper/model.js';
import { geometry, middle } from '../paper/provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'choose' | 'chosen' | 'discard' | 'pointer' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'words'>} App */
/** @typedef {import('../paper/model.js').Slip} Slip */

/** Asks for the words of a thing that does not exist yet, or may be one that is there. @param {App} app @param {Slip} slip @param {string} value what stands there already
 * @param {(words: string, how: import('../paper/words.js').How) => void} done @param {() => void} cancelled @param {boolean} [known] whether those that are there are offered */
export function askNoun(app, slip, value, done, cancelled, known = true) {
  slip.el.classList.add('waiting');
  app.reveal(slip.box);
  return app.words.open({
    voice: 'noun', x: slip.box.x + slip.box.w / 2, y: slip.box.y, value, most: limits.label, label: t('Words of the new concept'), known,
    done, cancelled,
  });
}

/** Words that were refused stand in the field again, unless another one is open by
 * now. @param {App} app @param {() => void} open */
export const regain = (app, open) => () => {
  if (app.words.field) return false;
  open();
  return true;
};

/** A new idea, linked to nothing. @param {App} app @param {{x: number, y: number}} at its top centre @param {string} [value] @param {boolean} [hand] the place was chosen by hand */
export function newLoose(app, at, value = '', hand = false) {
  if (barred(app)) return;
  const id = newID('c');
  const slip = app.provisional.slip(id, at, '');
  app.chosen.set([`c-${id}`]);
  askNoun(app, slip, value, (words, how) => {
    if (!words) return app.discard([`c-${id}`]);
    app.provisional.slip(id, at, words);
    app.send([{ do: 'add-concept', id, label: words, at, makeRoom: true, hand }], [`c-${id}`], regain(app, () => newLoose(app, at, words, hand)));
    app.chosen.mark();
    if (how === 'tab') newLinked(app, id);
  }, () => app.discard([`c-${id}`]), false);
}

/** A new concept linked from another: first the phrase, then the noun. What was
 * typed of it already can be given.
 * @param {App} app @param {string} parent @param {{x: number, y: number} | import('../paper/places.js').Side} [place] @param {{phrase: string, words: string}} [typed] */
export function newLinked(app, parent, place = 'child', typed) {
  if (barred(app)) return;
  const from = app.model.slips.get(parent);
  if (!from) return;
  // What is added to a branch that is tucked away should be seen.
  if (from.hides.length) {
    app.tuck.toggle([parent]).then(() => { if (!app.model.slips.get(parent)?.hides.length) newLinked(app, parent, place); });
    return;
  }
  const id = newID('c'), link = newID('l'), e1 = newID('e'), e2 = newID('e');
  const ends = [[{ id: e1, concept: parent }], [{ id: e2, concept: id }]];
  const made = [`c-${id}`, `l-${link}`];
  const back = () => { app.discard(made); app.chosen.set([`c-${parent}`]); };
  /** Draws both as far as they are known. @param {string} phrase @param {string} words */
  const draw = (phrase, words) => {
    slip = app.provisional.slip(id, at, words);
    slip.main = { link, end: e2, parent };
    line = app.provisional.link(link, ends[0], ends[1], phrase);
  };
  let at = typeof place !== 'string' ? place : app.places.at(`c-${parent}`, place, (free) => {
    if (sent || !app.model.get(`c-${id}`)) return;
    at = free;
    draw(line.words, slip.words);
    app.chosen.mark();
    if (app.words.typing === typing) app.words.moveTo(...(typing?.voice === 'verb' ? spot(middle(line.gap)) : spot({ x: at.x, y: at.y })));
    app.reveal(slip.box);
  });
  let sent = false, typing = app.words.typing;
  /** @type {Slip} */
  let slip;
  /** @type {import('../paper/model.js').Link} */
  let line;
  draw('', '');
  app.chosen.set([`c-${id}`]);
  app.reveal(app.model.boxOf(`c-${id}`) ?? { ...at, w: 0, h: 0 });
  /** Puts both on the map; a concept without words waits for them there.
   * @param {string} phrase @param {string} words */
  const put = (phrase, words) => {
    sent = true;
    draw(phrase, words);
    app.send([
      { do: 'add-concept', id, ...(words ? { label: words, reuse: true } : {}), at, makeRoom: true, hand: typeof place !== 'string' },
      { do: 'add-link', id: link, from: ends[0], to: ends[1], phrase },
    ], made, regain(app, () => newLinked(app, parent, place, { phrase, words })));
    app.chosen.mark();
  };
  /** The hand went elsewhere before the concept had words: the phrase is kept.
   * @param {string} phrase */
  const keepPhrase = (phrase) => {
    put(phrase, '');
    app.notice(t('“%s” leads to a concept without words yet.', phrase), { words: t('Name it'), act: () => { app.choose(`c-${id}`); changeWords(app); } });
  };
  const askPhrase = () => typing = app.words.open({
    voice: 'verb', ...middle(line.gap), value: typed?.phrase ?? '', most: limits.phrase, label: t('Phrase from %s to the new concept', from.words || t('this concept')),
    done: (phrase, how) => {
      // A click on the new slip goes on to its words.
      if (how === 'away' && !app.pointer.pressedOn(slip)) return phrase ? keepPhrase(phrase) : app.discard(made);
      draw(phrase, '');
      askWords(phrase);
    },
    cancelled: back,
  });
  /** @param {string} phrase */
  const askWords = (phrase) => typing = askNoun(app, slip, typed?.words ?? '', (words, how) => {
    if (!words && phrase) {
      if (how === 'away') return keepPhrase(phrase);
      app.notice(t('What does the phrase lead to? Type the concept, or press Escape.'));
      return askWords(phrase);
    }
    if (!words) return back();
    put(phrase, words);
    app.announce(t('%s linked to %s%s', words, from.words, phrase ? ` with ${phrase}` : t(', without words yet')));
    if (how === 'tab') newLinked(app, id);
  }, back);
  if (!typed) return void askPhrase();
  draw(typed.phrase, '');
  askWords(typed.phrase);
}

/** @param {{x: number, y: number}} p @returns {[number, number]} */
const spot = (p) => [p.x, p.y];

/** Another concept beside this one: one more end of the phrase that it hangs from. @param {App} app @param {string} concept @param {string} [value] */
export function newSibling(app, concept, value = '') {
  if (barred(app)) return;
  const own = app.model.slips.get(concept);
  if (!own) return;
  if (own.focus) return newLinked(app, concept);
  const parent = app.model.parent(own);
  if (!parent) return newLoose(app, app.places.at(`c-${concept}`, 'right'), value);
  const id = newID('c'), at = app.places.at(`c-${concept}`, 'right');
  const hung = { link: own.main?.link ?? '', end: '', parent };
  const slip = app.provisional.slip(id, at, '');
  slip.main = hung;
  app.chosen.set([`c-${id}`]);
  const back = () => { app.discard([`c-${id}`]); app.chosen.set([`c-${concept}`]); };
  askNoun(app, slip, value, (words, how) => {
    if (!words) return back();
    app.provisional.slip(id, at, words).main = hung;
    app.send([{ do: 'add-sibling', concept: id, label: words, share: true, beside: concept, link: newID('l'), own: newID('e'), above: newID('e') }], [`c-${id}`], regain(app, () => newSibling(app, concept, words)));
    app.chosen.mark();
    app.announce(t('%s added beside %s', words, own.words));
    if (how === 'tab') newLinked(app, id);
  }, back);
}

/** Leads an end of a link to a new concept. @param {App} app @param {string} link @param {string} end @param {{x: number, y: number}} at @param {string} [value] */
export function endToNew(app, link, end, at, value = '') {
  if (barred(app)) return;
  const id = newID('c');
  const slip = app.provisional.slip(id, at, '');
  app.chosen.set([`c-${id}`]);
  const back = () => { app.discard([`c-${id}`]); app.chosen.set([`l-${link}`]); };
  askNoun(app, slip, value, (words) => {
    if (!words) return back();
    app.provisional.slip(id, at, words);
    app.send([{ do: 'add-concept', id, label: words, at, makeRoom: true, hand: true, reuse: true }, { do: 'move-end', link, old: end, end: { id: newID('e'), concept: id } }], [`c-${id}`],
      regain(app, () => endToNew(app, link, end, at, words)));
    app.chosen.mark();
  }, back);
}

/** Joins two concepts with a phrase; where none is given it is asked for first, so that
 * both are one step.
 * @param {App} app @param {string} from @param {string} to @param {string} [phrase] @param {string} [typed] words of it that were typed already */
export function newLink(app, from, to, phrase = '', typed = '') {
  if (barred(app)) return;
  const id = newID('l'), a = [{ id: newID('e'), concept: from }], b = [{ id: newID('e'), concept: to }];
  const line = app.provisional.link(id, a, b, phrase);
  app.chosen.set([`l-${id}`]);
  const put = (/** @type {string} */ words) => {
    app.provisional.link(id, a, b, words);
    app.send([{ do: 'add-link', id, from: a, to: b, phrase: words }], [`l-${id}`], regain(app, () => newLink(app, from, to, '', words)));
    app.chosen.mark();
  };
  if (phrase) return put(phrase);
  const words = (/** @type {string} */ concept) => app.model.slips.get(concept)?.words || t('this concept');
  app.words.open({
    voice: 'verb', ...middle(line.gap), value: typed, most: limits.phrase, label: t('Phrase from %s to %s', words(from), words(to)),
    done: put,
    cancelled: () => {
      app.discard([`l-${id}`]);
      app.chosen.set([`c-${from}`]);
    },
  });
}

/** Leads a phrase to one more concept. @param {App} app @param {string} link @param {string} to */
export function addEnd(app, link, to) {
  app.send([{ do: 'add-end', link, side: 'to', end: { id: newID('e'), concept: to } }], []);
}

/** A new concept as one more end of a phrase. @param {App} app @param {string} link @param {{x: number, y: number}} [place] @param {string} [value] */
export function newEnd(app, link, place, value = '') {
  const own = app.model.links.get(link);
  if (!own) return;
  const at = place ?? app.places.at(`l-${link}`, 'below');
  const id = newID('c'), end = { id: newID('e'), concept: id };
  const slip = app.provisional.slip(id, at, '');
  app.chosen.set([`c-${id}`]);
  const back = () => { app.discard([`c-${id}`]); app.chosen.set([`l-${link}`]); };
  askNoun(app, slip, value, (words) => {
    if (!words) return back();
    app.provisional.slip(id, at, words);
    app.send([{ do: 'add-concept', id, label: words, at, makeRoom: true, hand: !!place, reuse: true }, { do: 'add-end', link, side: 'to', end }], [`c-${id}`], regain(app, () => newEnd(app, link, place, words)));
    app.chosen.mark();
  }, back);
}

/** Opens the words of the one thing selected. @param {App} app @param {string} [value] words instead of those that it has */
export function changeWords(app, value) {
  if (barred(app)) return;
  const element = app.chosen.only;
  const thing = element && app.model.get(element);
  if (!element || !thing) return;
  const noun = element.startsWith('c-');
  const b = app.model.boxOf(element);
  if (!b) return;
  thing.el.classList.add(noun ? 'waiting' : 'editing');
  app.reveal(b);
  const restore = () => app.model.get(element)?.el.classList.remove('waiting', 'editing');
  const focus = noun && /** @type {Slip} */ (thing).focus;
  app.words.open({
    voice: noun ? 'noun' : 'verb', x: b.x + b.w / 2, y: noun ? b.y : b.y + b.h / 2, value: value ?? thing.words, all: value === undefined,
    focus, like: noun ? thing.el.querySelector('.noun') : null, width: noun && thing.el.dataset.wide ? b.w : 0, most: noun ? limits.label : limits.phrase, label: noun ? t('Words of the concept') : t('Linking phrase'),
    placeholder: noun && !thing.words ? t('Your main idea') : '',
    done: (words, how) => {
      restore();
      if (words !== thing.words && (words || !noun)) {
        const before = thing.words;
        app.send(noun ? [{ do: 'name-concept', concept: thing.id, label: words }] : [{ do: 'name-link', link: thing.id, phrase: words }], [], () => {
          if (!app.model.get(element) || app.words.field) return false; // gone: the words stay in sight
          preview(app, element, before);
          app.choose(element);
          changeWords(app, words);
          return true;
        });
        preview(app, element, words);
      } else if (!words && thing.words) {
        app.notice(t('A concept needs at least one word. Delete takes it off the map.'));
      }
      if (how === 'tab' && noun) newLinked(app, thing.id);
    },
    cancelled: restore,
  });
}

/** Shows new words at once, until the server has drawn them. @param {App} app @param {string} element @param {string} words */
function preview(app, element, words) {
  const thing = app.model.get(element);
  if (!thing) return;
  thing.words = words;
  linesOf(thing.el, element.startsWith('c-') ? 'noun' : 'verb').forEach((s, i) => { s.textContent = i ? '' : words.replace(/\n/g, ' '); });
}

/** Takes what is selected off the map. @param {App} app */
export function remove(app) {
  const seen = app.chosen.concepts(), links = app.chosen.links();
  if (!seen.length && !links.length) return;
  // What is tucked away below a concept goes with it.
  const below = [...new Set(seen.flatMap((id) => app.model.slips.get(id)?.hides ?? []))].filter((id) => !seen.includes(id));
  const concepts = [...seen, ...below];
  const first = app.model.slips.get(concepts[0]), stood = [...app.model.links.keys()];
  for (const e of [...concepts.map((c) => `c-${c}`), ...links.map((l) => `l-${l}`)]) app.model.get(e)?.el.classList.add('waiting');
  app.chosen.set([]);
  app.send([{ do: 'remove', concepts, links }], []).then((accepted) => {
    if (!accepted) return;
    // What went along is seen by what stands no more.
    const taken = stood.filter((id) => !app.model.links.has(id)).length;
    const count = (/** @type {number} */ n, /** @type {string} */ what) => (n === 1 ? `a ${what}` : `${n} ${what}s`);
    const parts = [];
    if (seen.length === 1 && first?.words) parts.push(`“${first.words}”${below.length ? t(' with %s tucked away', below.length) : ''}`);
    else if (seen.length) parts.push(count(concepts.length, 'concept'));
    if (taken) parts.push(count(taken, 'link'));
    app.notice(t('%s deleted.', parts.join(' and ')), { words: t('Undo'), act: () => app.back('undo') });
  });
}

/** The links meant: those selected, or those between the two concepts that are.
 * @param {App} app @returns {string[]} */
export function linksMeant(app) {
  const links = app.chosen.links(), [a, b] = app.chosen.concepts();
  if (links.length || app.chosen.list.length !== 2 || !b) return links;
  const has = (/** @type {{concept: string}[]} */ ends, /** @type {string} */ c) => ends.some((e) => e.concept === c);
  return [...app.model.links.values()].filter((l) => (has(l.from, a) && has(l.to, b)) || (has(l.from, b) && has(l.to, a))).map((l) => l.id);
}

const which = t('Select a link, or two concepts that are linked.');

/** @param {App} app @param {Wire.Heads} next */
export function setHeads(app, next) {
  const links = linksMeant(app);
  if (!links.length) return app.notice(which);
  app.send(links.map((link) => ({ do: 'set-heads', link, heads: next })), []);
}

/** The next of those that there are. @param {App} app */
export function nextHeads(app) {
  const l = app.model.links.get(linksMeant(app)[0] ?? '');
  if (!l) return app.notice(which);
  const next = heads[(heads.indexOf(/** @type {Wire.Heads} */ (l.heads)) + 1) % heads.length];
  setHeads(app, next);
  app.announce({ one: t('One arrow'), both: t('Arrows both ways'), none: t('No arrow') }[next] ?? '');
}

/** @param {App} app */
export function reverse(app) {
  const links = linksMeant(app);
  if (!links.length) return app.notice(which);
  app.send(links.map((link) => ({ do: 'reverse-link', link })), []);
}

/** @param {App} app @param {Wire.Line} line */
export function setLine(app, line) {
  const links = linksMeant(app);
  if (links.length) app.send([{ do: 'set-line', links, line }], []);
}

/** Lets lines run by themselves again. @param {App} app */
export function freeLines(app) {
  const links = linksMeant(app);
  if (links.length) app.send([{ do: 'free-lines', links }], []);
}

/** Puts a concept earlier or later among its siblings. @param {App} app @param {string} concept @param {number} step -1 or 1 */
export function rank(app, concept, step) {
  const own = app.model.slips.get(concept);
  const parent = own && app.model.parent(own);
  if (!own || !parent) return app.announce(t('It has no siblings.'));
  app.send([{ do: 'step-rank', concept, step }], []);
}

/** Hangs a concept one level higher, below its parent's parent, or one lower,
 * below the sibling before it. @param {App} app @param {string} concept @param {'up' | 'down'} way */
export function shiftLevel(app, concept, way) {
  app.send([{ do: 'shift-level', concept, way, link: newID('l'), own: newID('e'), parent: newID('e') }], []);
}

/** Moves concepts by a distance and says so. @param {App} app @param {string[]} concepts @param {number} dx @param {number} dy */
export function move(app, concepts, dx, dy) {
  /** @type {Record<string, {x: number, y: number}>} */
  const places = {};
  for (const id of concepts) {
    const s = app.model.slips.get(id);
    if (!s) continue;
    s.box = { ...s.box, x: s.box.x + dx, y: s.box.y + dy };
    put(s);
    places[id] = { x: s.box.x + s.box.w / 2, y: s.box.y };
  }
  drawLinks(app, new Set(concepts));
  // What can be taken hold of stands where the slip does.
  app.pointer.handle.rest();
  app.sides.show();
  return places;
}

/** Moves concepts for good, with what is tucked away below them. @param {App} app @param {string[]} concepts @param {number} dx @param {number} dy */
export function moveBy(app, concepts, dx, dy) {
  const seen = concepts.filter((id) => app.model.slips.has(id)), away = concepts.filter((id) => !app.model.slips.has(id)), by = { x: dx, y: dy };
  /** @type {Wire.Operation[]} */
  const steps = [
    ...(seen.length ? [/** @type {const} */ ({ do: 'move', places: move(app, seen, dx, dy) })] : []),
    ...(away.length ? [/** @type {const} */ ({ do: 'shift', concepts: away, by })] : []), // in the box of a region
    ...hiddenBy(app, seen, by),
  ];
  app.send(steps, []);
}

/** The step that takes along what is tucked away below concepts. @param {App} app @param {string[]} concepts @param {{x: number, y: number}} by @returns {Wire.Operation[]} */
export function hiddenBy(app, concepts, by) {
  const below = [...new Set(concepts.flatMap((id) => app.model.slips.get(id)?.hides ?? []))];
  return below.length ? [{ do: 'shift', concepts: below, by }] : [];
}

/** Draws the links at some concepts provisionally in their place. @param {App} app @param {Set<string>} concepts */
function drawLinks(app, concepts) {
  for (const l of app.model.linksAt(concepts)) {
    const { hub, d } = geometry(app.model, l);
    const shift = { x: hub.x - (l.gap.x + l.gap.w / 2), y: hub.y - (l.gap.y + l.gap.h / 2) };
    l.el.querySelectorAll('.line, .between, .dart, .knot').forEach((p, i) => { if (i === 0 && p instanceof SVGPathElement) p.setAttribute('d', d); else p.remove(); });
    l.el.querySelector('.prov-line, .reach')?.setAttribute('d', d);
    for (const t of l.el.querySelectorAll('text, .gap, .rule, .prov-gap')) t.setAttribute('transform', `translate(${shift.x} ${shift.y})`);
    const gap = /** @type {SVGElement | null} */ (l.el.querySelector('.gap'));
    if (gap) gap.style.fillOpacity = '1';
  }
}
