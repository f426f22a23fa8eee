// What is shown before the server has answered: it stands where it will, becomes one
// entry, and leaves nothing behind where it is given up or refused.
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { bell, link, served, slip } from '../testing/page.js';

const acts = await import('../../web/js/commands/edits.js');
const { along, border, geometry } = await import('../../web/js/paper/provisional.js');
const drawn = () => document.getElementById('provisional').querySelectorAll('g').length;
/** The field that was opened last, and how many were. */
const field = (app) => app.done.findLast(([name]) => name === 'words.open')?.[1];
const fields = (app) => app.done.filter(([name]) => name === 'words.open').length;
const begin = () => bell({ words: undefined });
const open = (own) => {
  const app = bell(own);
  app.words = { field: null, open: (asked) => app.done.push(['words.open', asked]) };
  app.pointer.pressedOn = () => false;
  return app;
};

test('lines leave a slip at its border, and a phrase stands on the way', () => {
  const box = { x: 0, y: 0, w: 100, h: 40 };
  assert.deepEqual(border(box, { x: 50, y: 200 }), { x: 50, y: 40 });
  assert.deepEqual(border(box, { x: 500, y: 20 }), { x: 100, y: 20 });
  assert.deepEqual(border(box, { x: 60, y: 20 }), { x: 60, y: 20 }, 'never beyond what it leads to');
  assert.deepEqual(along([{ x: 0, y: 0 }, { x: 0, y: 0 }, { x: 10, y: 0 }, { x: 10, y: 30 }], 0.5), { x: 10, y: 10 });
  assert.deepEqual(along([{ x: 3, y: 4 }], 0.5), { x: 3, y: 4 });
  const app = begin();
  const { hub, ways } = geometry(app.model, app.model.links.get('has'));
  assert.equal(ways.length, 3, 'one for each end');
  for (const way of ways) assert.deepEqual(way.at(-1), hub);
  link(app, 'bent', 'hangs in', 'f:bell', 't:frame', { bends: 'f:300 90' });
  assert.ok(geometry(app.model, app.model.links.get('bent')).d.includes('L300 90'));
  assert.deepEqual(geometry(app.model, { from: [{ id: 'x', concept: 'gone' }], to: [], led: { line: '', bends: {}, along: 0, hub: null } }).ways, []);
});

test('a linked concept is one entry, after its phrase and its words', () => {
  const app = open();
  acts.newLinked(app, 'bell');
  assert.deepEqual([drawn(), app.sent, field(app).voice], [2, [], 'verb']);
  const id = app.chosen.only.slice(2);
  field(app).done('is cast of', 'enter');
  assert.equal(field(app).voice, 'noun');
  field(app).done('bronze', 'enter');
  const [[concept, joined]] = app.sent;
  assert.deepEqual([concept.do, concept.id, concept.label, concept.reuse, joined.do, joined.phrase, joined.from[0].concept, joined.to[0].concept], ['add-concept', id, 'bronze', true, 'add-link', 'is cast of', 'bell', id]);
  assert.deepEqual([app.model.parent(app.model.slips.get(id)), app.model.slips.get(id).words], ['bell', 'bronze']);
  // What the server draws takes its place.
  slip(app, id, 'bronze', [150, 200, 90, 40], { main: `${joined.id} e bell` });
  assert.equal(app.model.slips.get(id).provisional, undefined);
});

test('given up, it was never there; left with a phrase, it waits for its words', () => {
  const app = open(), was = app.model.slips.size;
  for (const give of [() => field(app).cancelled(), () => field(app).done('', 'away'), () => { field(app).done('', 'enter'); field(app).done('', 'enter'); }]) {
    acts.newLinked(app, 'bell');
    give();
    assert.deepEqual([drawn(), app.model.slips.size, app.model.links.size, app.sent], [0, was, 2, []]);
  }
  acts.newLinked(app, 'bell');
  field(app).done('is hung from', 'away');
  const [[concept, joined]] = app.sent;
  assert.deepEqual([concept.label, joined.phrase], [undefined, 'is hung from'], 'what was typed is kept');
});

test('words that were refused stand in the field again, unless another is open', () => {
  const app = open();
  acts.newLinked(app, 'bell');
  field(app).done('is cast of', 'enter');
  field(app).done('bronze', 'enter');
  app.discard(app.lastMade);
  assert.equal(drawn(), 0);
  assert.equal(app.lastRegain(), true);
  assert.deepEqual([field(app).value, app.model.slips.size], ['bronze', 5]);
  const many = fields(app);
  field(app).done('bell bronze', 'enter');
  app.discard(app.lastMade);
  app.words.field = {};
  assert.equal(app.lastRegain(), false);
  assert.equal(fields(app), many, 'what is being typed is left alone');
});

test('typing begins at a rough place; the free one is the server’s', async () => {
  const app = open(), moved = [];
  app.words = { typing: null, open: (asked) => { app.words.typing = asked; return asked; }, moveTo: (...at) => moved.push(at) };
  served['/maps/m/places?of=c-bell'] = { child: { x: 700, y: 300 } };
  acts.newLinked(app, 'bell');
  const id = app.chosen.only.slice(2), middle = () => { const b = app.model.slips.get(id).box; return [b.x + b.w / 2, b.y]; };
  assert.notDeepEqual(middle(), [700, 300]);
  await new Promise((done) => { setTimeout(done); });
  assert.deepEqual(middle(), [700, 300]);
  assert.equal(moved.length, 1, 'the field goes along');
  app.words.typing.done('is cast of', 'enter');
  app.words.typing.done('bronze', 'enter');
  assert.deepEqual(app.sent[0][0].at, { x: 700, y: 300 });
  acts.newLinked(app, 'bell');
  assert.deepEqual(app.places.at('c-bell', 'child'), { x: 700, y: 300 }, 'what is known serves at once');
});

test('a sibling shares the phrase of the one beside it: the core does that', () => {
  const app = open();
  acts.newSibling(app, 'crown');
  field(app).done('the lip', 'enter');
  const [[op, ...more]] = app.sent;
  assert.deepEqual([op.do, op.label, op.beside, op.share, more], ['add-sibling', 'the lip', 'crown', true, []]);
  app.discard(app.lastMade);
  app.lastRegain();
  assert.equal(field(app).value, 'the lip');
});

test('what is deleted takes what is tucked away below it along, and says how much it was', async () => {
  const app = open({ send: async (operations) => { app.sent.push(operations); for (const id of ['has', 'below']) app.model.drop(`l-${id}`); return true; } });
  slip(app, 'bell', 'the bell', [100, 0, 100, 40], { hides: 'rim crown' });
  app.chosen.set(['c-bell']);
  acts.remove(app);
  assert.deepEqual(app.sent, [[{ do: 'remove', concepts: ['bell', 'rim', 'crown'], links: [] }]]);
  await Promise.resolve();
  const [, words, undo] = app.done.find(([name]) => name === 'notice');
  assert.match(words, /“the bell” with 2 tucked away and 2 links deleted/);
  undo.act();
  assert.deepEqual(app.done.at(-1), ['back', 'undo']);
  app.chosen.set([]);
  acts.remove(app);
  assert.equal(app.sent.length, 1);
});
