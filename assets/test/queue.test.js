// The queue of edits, against a server that answers in every way that one can.
import assert from 'node:assert/strict';
import { beforeEach, mock, test } from 'node:test';

/** @type {Map<string, string>} */
const stores = { local: new Map(), session: new Map() };
const storage = (all) => new Proxy({ getItem: (k) => all.get(k) ?? null, setItem: (k, v) => all.set(k, String(v)), removeItem: (k) => all.delete(k) }, { ownKeys: () => [...all.keys()], getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }) });
Object.assign(globalThis, {
  window: globalThis, localStorage: storage(stores.local), sessionStorage: storage(stores.session), location: { protocol: 'http:', host: 'x' },
  addEventListener: () => {}, WebSocket: class { constructor() { sockets.push(this); } },
});
/** @type {any[]} */
let sockets = [];
const { Queue } = await import('../../web/js/sync/queue.js');

/** Answers to entries, the next first: a status with a body, or an error. */
let answers = [], asked = [];
globalThis.fetch = async (address, init) => {
  if (String(address).includes('/changes')) return { ok: true, json: async () => ({ revision: 90, head: {} }) };
  asked.push(JSON.parse(init.body));
  const next = answers.shift() ?? { status: 200, body: { revision: asked.length + 1, head: {} } };
  if (next instanceof Error) throw next;
  return { status: next.status, ok: next.status === 200, json: async () => { if (typeof next.body === 'string') throw new SyntaxError('no JSON'); return next.body; } };
};

/** @type {Record<string, any[]>} */
let told;
const listener = (more = {}) => Object.assign(Object.fromEntries(['answered', 'refused', 'state', 'stuck', 'told', 'viewed', 'theirs', 'failed', 'closed'].map((name) => [name, (...all) => (told[name] ??= []).push(all)])), more);
const word = () => told.state?.at(-1)?.[0];

beforeEach(() => {
  for (const all of Object.values(stores)) all.clear();
  [answers, asked, told, sockets] = [[], [], {}, []];
  mock.timers.reset();
  mock.timers.enable({ apis: ['setTimeout', 'Date'] });
});
/** Lets all that is promised happen. */
const settle = async () => { for (let i = 0; i < 20; i++) await Promise.resolve(); };
const later = async (ms) => { mock.timers.tick(ms); await settle(); };

test('one after another, in their order, each once', async () => {
  const road = new Queue('/m', 1, listener());
  const all = ['a', 'b', 'c'].map((words) => road.go([{ do: 'ask', question: words }]));
  assert.deepEqual(await Promise.all(all), [true, true, true]);
  assert.deepEqual(asked.map((a) => a.operations[0].question), ['a', 'b', 'c']);
  assert.equal(new Set(asked.map((a) => a.id)).size, 3);
  assert.equal(word(), 'saved');
  assert.equal(stores.local.size, 0);
});

for (const [what, answer] of Object.entries({
  500: { status: 500, body: { error: 'Oh.' } }, 503: { status: 503, body: { error: 'Full.' } }, 'a 413 without words': { status: 413, body: '<html>' }, 'a 422 without words': { status: 422, body: {} },
  'no answer': new TypeError('network'), 'a page': { status: 200, body: '<html>' }, 'an answer of something else': { status: 200, body: { revision: 'x' } }, 'an answer without a head': { status: 200, body: { revision: 7 } }, 204: { status: 204, body: {} }, 302: { status: 302, body: {} }, 429: { status: 429, body: { error: 'Slowly.' } },
})) {
  test(`${what}: the entry waits, and goes again as it is`, async () => {
    const road = new Queue('/m', 1, listener());
    answers = [answer, answer, answer];
    const accepted = road.go([{ do: 'ask', question: 'x' }]);
    road.go([{ do: 'ask', question: 'y' }]);
    await settle();
    for (const pause of [800, 1600, 3200]) {
      assert.equal(word(), 'waiting');
      assert.equal(JSON.parse([...stores.local.values()][0]).asked.length, 2, 'it outlives the page');
      await later(pause - 1);
      const before = asked.length;
      await later(1);
      assert.equal(asked.length > before, true, 'with growing pauses');
    }
    assert.equal(await accepted, true);
    await settle();
    assert.deepEqual(asked.map((a) => a.operations[0].question), ['x', 'x', 'x', 'x', 'y']);
    assert.equal(new Set(asked.slice(0, 4).map((a) => a.id)).size, 1);
    assert.equal(word(), 'saved');
    assert.equal(told.refused, undefined);
  });
}

for (const status of [400, 403, 404, 409, 410, 413, 415, 422]) {
  test(`${status} in words: refused for good, and the next has its turn`, async () => {
    const road = new Queue('/m', 1, listener());
    answers = [{ status, body: { error: 'No.' } }];
    const [first, second] = [road.go([{ do: 'ask', question: 'x' }]), road.go([{ do: 'ask', question: 'y' }])];
    assert.deepEqual(await Promise.all([first, second]), [false, true]);
    assert.equal(told.refused[0][0], 'No.');
    assert.equal(word(), 'saved');
  });
}

test('a fault of whoever listens stops nothing', async () => {
  const bad = () => { throw new Error('shown badly'); };
  const road = new Queue('/m', 1, listener({ answered: bad, state: bad }));
  const quiet = mock.method(console, 'error', () => {});
  assert.deepEqual(await Promise.all([road.go([]), road.go([])]), [true, true]);
  assert.equal(road.queue.length, 0);
  assert.equal(told.failed.length, 2);
  quiet.mock.restore();
});

test('what keeps others waiting is told, and can be let past', async () => {
  const road = new Queue('/m', 1, listener());
  answers = Array.from({ length: 4 }, () => ({ status: 500, body: { error: 'Oh.' } }));
  const poison = road.go([{ do: 'ask', question: 'poison' }]), next = road.go([{ do: 'ask', question: 'next' }]);
  await settle();
  for (const pause of [800, 1600, 3200]) await later(pause);
  assert.equal(told.stuck[0][1], 'Oh.');
  road.setAside(told.stuck[0][0], 'Oh.');
  assert.equal(road.skip(told.stuck[0][0]), true);
  assert.deepEqual(await Promise.all([poison, next]), [false, true]);
  assert.equal(JSON.parse([...stores.local.values()][0]).aside[0].words, 'Oh.');
  road.leave(told.stuck[0][0]);
  assert.equal(stores.local.size, 0);
});

test('what waited or was refused is taken up by the next page', async () => {
  const first = new Queue('/m', 1, listener());
  answers = [{ status: 422, body: { error: 'No.' } }, new TypeError('network')];
  first.go([{ do: 'ask', question: 'refused' }]);
  await settle();
  first.setAside(told.refused[0][1], 'No.');
  first.go([{ do: 'ask', question: 'waits' }]);
  await settle();
  const second = new Queue('/m', 5, listener());
  await settle();
  assert.deepEqual(second.aside.map((a) => a.words), ['No.']);
  assert.equal(asked.at(-1).operations[0].question, 'waits');
  assert.equal(asked.at(-1).seen, 5);
  stores.local.set('waiting:/m:other', '{"at":0,"asked":[{"id":7},null,{"id":"x","window":"w","operations":{}}],"aside":[{}]}');
  assert.equal(new Queue('/m', 5, listener()).queue.length, 0, 'what cannot be read is nothing');
});

test('a stream that was ended is not asked for again, one that broke is', async () => {
  new Queue('/m', 1, listener());
  sockets[0].onclose({ code: 1006 });
  await later(1500);
  assert.equal(sockets.length, 2);
  sockets[1].onmessage({ data: JSON.stringify({ revision: 9, window: 'other', overtook: [{ what: '“the rim”', id: 'rim' }] }) });
  assert.deepEqual(told.told, [[[{ what: '“the rim”', id: 'rim' }]]]);
  await settle();
  assert.equal(told.answered[0][1], false, 'what others did is fetched');
  sockets[1].onclose({ code: 1008 });
  await later(60_000);
  assert.equal(sockets.length, 2);
  assert.equal(told.closed.length, 1);
});
