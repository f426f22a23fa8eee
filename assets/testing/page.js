// A page without a browser: a paper with slips and links on it, and an application that
// keeps what it is asked to do. Imported before any script of the page.
import { JSDOM, VirtualConsole } from 'jsdom';

const { window } = new JSDOM('<!doctype html><body><section id="desk" tabindex="0"><svg><g id="links"></g><g id="slips"></g><g id="provisional"></g></svg></section></body>', { url: 'http://x/maps/m', virtualConsole: new VirtualConsole() });
for (const name of ['document', 'HTMLElement', 'HTMLInputElement', 'HTMLTextAreaElement', 'HTMLMetaElement', 'SVGElement', 'Event', 'KeyboardEvent']) globalThis[name] = window[name];
globalThis.SVGPathElement = class {};
globalThis.window = globalThis;
window.SVGElement.prototype.getComputedTextLength = function () { return 8 * this.textContent.length; };

const { Model } = await import('../../web/js/paper/model.js');
const { Chosen } = await import('../../web/js/paper/chosen.js');
const { Places } = await import('../../web/js/paper/places.js');
const { Provisional } = await import('../../web/js/paper/provisional.js');

/** What takes any call, and notes it under its name. */
const note = (done, name) => new Proxy(() => {}, {
  get: (_, key) => (typeof key === 'symbol' ? undefined : note(done, `${name}.${key}`)),
  apply: (_, __, all) => { done.push([name, ...all]); },
});

/** An application with an empty paper. What it is asked for and does not have itself is
 * noted in done; what it sends, in sent. @param {Record<string, any>} [own] */
export function application(own = {}) {
  for (const id of ['links', 'slips', 'provisional']) document.getElementById(id).replaceChildren();
  /** @type {any[]} */
  const done = [], sent = [], model = new Model();
  const desk = document.getElementById('desk').cloneNode(true);
  document.getElementById('desk').replaceWith(desk);
  desk.focus();
  const road = { queue: [], revision: 1, idle: async () => {} };
  const app = new Proxy({
    road,
    done, sent, model, desk, base: '/maps/m', plain: false, kinds: [], settings: { branch: false, below: false }, chosen: new Chosen(() => {}), provisional: new Provisional(document.getElementById('provisional'), model),
    aim: { key: () => false, open: note(done, 'aim.open') }, tidy: { on: false, working: false, take: note(done, 'tidy.take'), leave: note(done, 'tidy.leave') }, pointer: { gesture: null, handle: { rest() {} } }, pick: { wanted: null }, lens: { close: () => false },
    do: (/** @type {string} */ what) => { done.push(['do', what]); },
    send: async (/** @type {any[]} */ operations, /** @type {string[]} */ made, /** @type {any} */ regain) => { sent.push(operations); app.lastMade = made; app.lastRegain = regain; return true; },
    discard: (/** @type {string[]} */ elements) => { app.provisional.forget(elements); app.chosen.set(app.chosen.list.filter((/** @type {string} */ e) => !elements.includes(e))); },
    choose: (/** @type {string[]} */ ...elements) => app.chosen.set(elements),
    ...own,
  }, { get: (all, key) => (key in all || key === 'places' ? all[key] : key === 'then' ? undefined : note(done, String(key))) });
  app.places ??= new Places(app);
  return app;
}

/** What the server answers in these pages: an address or its beginning, and what is
 * there. */
export const served = {};
globalThis.fetch = async (/** @type {string} */ address) => {
  const found = Object.keys(served).find((begin) => address.startsWith(begin));
  served.asked = address;
  return { ok: found !== undefined, json: async () => served[found ?? ''] };
};

/** Draws a slip as the server does. */
export function slip(app, id, words, [x, y, w, h], more = {}) {
  const el = document.createElementNS('http://www.w3.org/2000/svg', 'g');
  Object.assign(el.dataset, { kind: 'concept', id, box: `${x} ${y} ${w} ${h}`, ...more });
  el.id = `c-${id}`;
  el.setAttribute('class', 'slip');
  el.innerHTML = `<text class="noun">${words}</text>`;
  document.getElementById('slips').append(el);
  app.model.read(el);
}

/** Draws a link between slips; ends are e:concept, set apart by blanks. */
export function link(app, id, words, from, to, more = {}) {
  const el = document.createElementNS('http://www.w3.org/2000/svg', 'g');
  Object.assign(el.dataset, { kind: 'link', id, from, to, gap: '0 0 40 20', ...more });
  el.id = `l-${id}`;
  el.innerHTML = `<text class="verb">${words}</text>`;
  document.getElementById('links').append(el);
  app.model.read(el);
}

/** A bell with a rim and a crown below it, and a loose frame. */
export function bell(own) {
  const app = application(own);
  slip(app, 'bell', 'the bell', [100, 0, 100, 40]);
  slip(app, 'crown', 'the crown', [200, 200, 100, 40], { main: 'has e2 b bell' });
  slip(app, 'frame', 'the frame', [600, 0, 100, 40]);
  slip(app, 'rim', 'the rim', [0, 200, 100, 40], { main: 'has e1 a bell' });
  link(app, 'has', 'has', 'f:bell', 'e1:rim e2:crown');
  link(app, 'below', 'lies below', 'f:rim', 't:crown');
  return app;
}
