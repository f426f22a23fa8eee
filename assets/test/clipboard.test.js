// What is copied, and what becomes of what is pasted, wherever it comes from.
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { application, bell, served } from '../testing/page.js';

const { duplicate, listenToClipboard } = await import('../../web/js/commands/clipboard.js');
const ours = 'application/x-mevrin-part+json';

const events = new Map();
// One application listens at a time: each test begins with its own.
const listen = document.addEventListener.bind(document);
document.addEventListener = (name, heard) => { if (!events.has(name)) listen(name, (e) => events.get(name)(e)); events.set(name, heard); };
const begin = (app) => { listenToClipboard(app, () => app.done.push(['removed'])); app.view = { seen: () => ({ x: 0, y: 0, w: 1000, h: 700 }) }; return app; };
const clip = (what, data = new Map(), files = []) => {
  const e = new Event(what, { bubbles: true, cancelable: true });
  Object.assign(e, { clipboardData: { setData: (kind, text) => data.set(kind, text), getData: (kind) => data.get(kind) ?? '', files } });
  document.activeElement.dispatchEvent(e);
  return data;
};
const only = (app) => { assert.equal(app.sent.length, 1); return app.sent[0]; };

test('a part leaves as an outline with its sentences', () => {
  const app = begin(bell());
  app.chosen.set(['c-bell', 'c-rim', 'c-crown']);
  const data = clip('copy');
  assert.equal(data.get('text/plain'), 'the bell\n\thas: the rim\n\thas: the crown\n\nthe bell has the rim, the crown.\nthe rim lies below the crown.');
});

test('on its own map it is copied with all that belongs to it: the core does that', async () => {
  const app = begin(bell());
  app.chosen.set(['c-rim', 'c-crown']);
  clip('paste', clip('copy'));
  const [op, ...more] = only(app);
  assert.deepEqual([op.do, op.concepts, more], ['duplicate', ['rim', 'crown'], []]);
  assert.deepEqual(Object.keys(op.as).sort(), ['below', 'crown', 'has', 'rim'], 'names for the copies of both, and of each link that may be between them');
  assert.equal(new Set(Object.values(op.as)).size, 4);
  duplicate(app);
  assert.deepEqual([app.sent[1][0].do, app.sent[1][0].by], ['duplicate', { x: 28, y: 28 }]);
  app.chosen.set(['l-has']);
  duplicate(app);
  assert.equal(app.sent.length, 2, 'a link alone is not copied');
});

const settled = () => new Promise((done) => { setTimeout(done); });

test('on another map it is asked for as it was, and put down as one', async () => {
  const from = begin(bell());
  from.road.revision = 7;
  from.chosen.set(['c-rim', 'c-crown']);
  const data = clip('copy'), app = begin(application({ base: '/maps/other' }));
  served['/maps/m/part'] = { document: { mevrin: 1 }, things: ['rim', 'crown', 'below', 'k'], at: { x: 2000, y: 10 } };
  clip('paste', data);
  await settled();
  assert.equal(served.asked, '/maps/m/part?revision=7&concepts=rim,crown');
  const [op, ...more] = only(app);
  assert.deepEqual([op.do, op.document, Object.keys(op.as), more], ['paste', { mevrin: 1 }, ['rim', 'crown', 'below', 'k'], []]);
  assert.deepEqual(op.by, { x: 500 - 2000, y: 700 / 3 - 10 }, 'where it is seen');
});

test('a copy of the map has the same ids, and is another map all the same', async () => {
  const from = begin(bell());
  from.chosen.set(['c-rim']);
  const data = clip('copy'), app = begin(bell({ base: '/maps/copy' }));
  clip('paste', data);
  await settled();
  assert.equal(only(app)[0].do, 'paste');
});

test('what was cut is asked for as it was; what cannot be had comes back as words', async () => {
  const app = begin(bell());
  app.chosen.set(['c-rim', 'c-crown']);
  const data = clip('cut');
  assert.deepEqual(app.done.at(-1), ['removed']);
  for (const id of ['c-rim', 'c-crown', 'l-has', 'l-below']) app.model.drop(id);
  clip('paste', data);
  await settled();
  assert.deepEqual(only(app).map((op) => op.do), ['paste']);
  delete served['/maps/m/part'];
  clip('paste', data);
  await settled();
  assert.deepEqual(app.done.at(-1), ['jots.paste', 'the rim\nthe crown\n\nthe rim lies below the crown.']);
});

for (const [what, text] of Object.entries({
  'no JSON': '{', nothing: 'null', 'a list': '[]', 'without concepts': '{"map":"/maps/m","revision":1,"concepts":[]}', 'somewhere else': '{"map":"//elsewhere.example/maps/m","revision":1,"concepts":["a"]}',
  'of no revision': '{"map":"/maps/m","revision":"1","concepts":["a"]}', 'with ids that are none': '{"map":"/maps/m","revision":1,"concepts":["a&b=c"]}',
})) {
  test(`a part that is ${what} is taken for text`, () => {
    const app = begin(bell());
    clip('paste', new Map([[ours, text], ['text/plain', 'the clapper']]));
    assert.deepEqual([app.sent, app.done], [[], [['jots.paste', 'the clapper']]]);
  });
}

test('files, addresses and text go where they belong', () => {
  const app = begin(bell()), files = [{ name: 'bell.png' }];
  clip('paste', new Map(), files);
  assert.deepEqual(app.done.pop(), ['sources.bring', files]);
  clip('paste', new Map([['text/plain', 'https://hollin.example/bell']]));
  assert.deepEqual(app.done.pop(), ['jots.paste', 'https://hollin.example/bell']);
  app.chosen.set(['c-rim']);
  clip('paste', new Map([['text/plain', ' https://hollin.example/bell ']]));
  assert.equal(app.done.pop()[0], 'sources.address');
  clip('paste', new Map([['text/plain', '  ']]));
  assert.equal(app.done.pop()[0], 'notice');
  const field = app.desk.appendChild(document.createElement('input'));
  field.focus();
  clip('paste', new Map([['text/plain', 'x']]));
  clip('copy');
  assert.deepEqual([app.done, app.sent], [[], []], 'what is in a field belongs to it');
});
