// What the server answers takes its place on the page, whatever stands in the way.
import assert from 'node:assert/strict';
import { beforeEach, test } from 'node:test';
import { bell } from '../testing/page.js';

const { Answers } = await import('../../web/js/sync/answers.js');

for (const id of ['blank', 'notices']) document.body.append(Object.assign(document.createElement('div'), { id }));
const group = (id, words, box = '0 0 50 40') => `<g id="c-${id}" class="slip" data-kind="concept" data-id="${id}" data-box="${box}"><text class="noun">${words}</text></g>`;
let app, answers, whole, fetched;
globalThis.fetch = async (address) => { fetched.push(String(address)); return { ok: true, json: async () => whole }; };
globalThis.CustomEvent = window.CustomEvent ?? class extends Event { constructor(name, all) { super(name); this.detail = all?.detail; } };
globalThis.dispatchEvent = () => true;
console.error = () => {};
const settle = async () => { for (let i = 0; i < 10; i++) await Promise.resolve(); };
const notices = () => app.done.filter(([name]) => name === 'notice').map(([, words, offer, fault, stays]) => ({ words, offer, fault, stays }));

beforeEach(() => {
  app = bell();
  Object.assign(app, { words: { field: null }, made: new Map() });
  app.road = { queue: [], aside: [], setAside: (asked, words) => app.road.aside.push({ asked, words }), leave: (asked) => { app.road.aside = app.road.aside.filter((a) => a.asked !== asked); }, skip: () => true };
  [answers, whole, fetched] = [new Answers(app), { slips: {}, links: {} }, []];
});

test('what is drawn replaces what was there, in the order of ids, and what is gone goes', () => {
  answers.take({ revision: 2, head: null, slips: { rim: group('rim', 'the lip'), clapper: group('clapper', 'the clapper') }, gone: ['c-frame', 'l-below'] }, true);
  assert.deepEqual([...document.querySelectorAll('#slips > g')].map((g) => g.id), ['c-bell', 'c-clapper', 'c-crown', 'c-rim']);
  assert.equal(app.model.slips.get('rim').words, 'the lip');
  assert.deepEqual([app.model.slips.has('frame'), app.model.links.has('below'), document.getElementById('c-frame')], [false, false, null]);
});

test('while something is dragged nothing is drawn under the hand', () => {
  app.pointer.gesture = { moved: true };
  answers.take({ revision: 2, head: null, slips: { rim: group('rim', 'the lip') } }, false);
  assert.equal(app.model.slips.get('rim').words, 'the rim');
  app.pointer.gesture = null;
  answers.drawWaiting();
  assert.equal(app.model.slips.get('rim').words, 'the lip');
});

test('a concept made here that was there already gives way to that one', () => {
  app.provisional.slip('new', { x: 0, y: 400 }, 'The Rim');
  app.chosen.set(['c-new']);
  answers.take({ revision: 2, head: null, moved: [{ kind: 'concept', old: 'new', new: 'rim' }] }, true);
  assert.deepEqual([app.chosen.list, app.model.slips.has('new')], [['c-rim'], false]);
});

test('a fault in one step stops no other; the whole is fetched once, and given up with words', async () => {
  app.column = { refresh() { throw new Error('broken'); } };
  answers.take({ revision: 2, head: null, slips: { bad: '', rim: group('rim', 'the lip') } }, true);
  assert.equal(app.model.slips.get('rim').words, 'the lip');
  await settle();
  assert.equal(fetched.length, 1);
  assert.match(notices().at(-1).words, /could not be brought up to date. What you did is saved/);
});

test('what is refused is taken back, and words that were typed are never lost', async () => {
  const operations = [{ do: 'name-concept', concept: 'rim', label: 'the lip' }], asked = { id: 'g1', operations };
  app.made.set(operations, ['c-x']);
  app.provisional.slip('x', { x: 0, y: 400 }, 'the lip');
  let back = 0;
  answers.regain.set(operations, () => { back++; return true; });
  answers.refused('No.', asked, false);
  assert.equal(app.model.slips.has('x'), false);
  assert.deepEqual([back, app.road.aside.length, notices().map((n) => n.words)], [1, 0, ['No.']], 'back in the field');
  answers.refused('No.', asked, true);
  assert.deepEqual([back, app.road.aside.length], [1, 1], 'long after, it stays in sight');
  const shown = notices().at(-1);
  assert.equal(shown.words, 'The words “the lip” waited to be saved and could not be done. No.');
  shown.offer.act();
  assert.deepEqual([app.sent, app.road.aside], [[operations], []]);
  answers.refused('No.', { id: 'g2', operations: [{ do: 'move', places: {} }] }, false);
  assert.equal(app.road.aside.length, 0, 'what holds no words is said and forgotten');
});

test('words for a concept that is gone can become an idea of their own', () => {
  const asked = { id: 'g1', operations: [{ do: 'name-concept', concept: 'gone', label: 'the lip' }] };
  answers.refused('It is gone.', asked, false);
  notices().at(-1).offer.act();
  assert.deepEqual([app.sent[0][0].do, app.sent[0][0].words], ['jot', 'the lip']);
});
