// @ts-check
// Copies of parts of a map: within it, to another map or window, and as an
// outline with its sentences to any other program. What comes from outside is
// concepts, or a source of the concept selected.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'desk' | 'jots' | 'model' | 'notice' | 'reveal' | 'road' | 'send' | 'sources' | 'view'>} App */
/** What the clipboard holds of a map: where it is, and as it was when. @typedef {{map: string, revision: number, concepts: string[]}} Part */

const ours = 'application/x-mevrin-part+json';

/** What is selected, to be asked for where it is pasted. @param {App} app @returns {Part} */
const part = (app) => ({ map: app.base, revision: app.road.revision, concepts: app.chosen.concepts() });

/** The concepts copied as an outline, each below the one that it hangs from, and
 * below that what is said of them. @param {App} app @param {string[]} concepts */
function asText(app, concepts) {
  const ids = new Set(concepts), { model } = app;
  const above = (/** @type {string} */ id) => { const s = model.slips.get(id), up = s && model.parent(s); return up && ids.has(up) ? up : null; };
  const label = (/** @type {string} */ id) => model.slips.get(id)?.words.replace(/\n/g, ' ') ?? '';
  /** @type {string[]} */
  const lines = [];
  const write = (/** @type {string} */ id, /** @type {number} */ depth) => {
    const s = model.slips.get(id), link = depth && s?.main ? model.links.get(s.main.link) : undefined;
    lines.push(`${'\t'.repeat(depth)}${link?.words && link.to.some((e) => e.concept === id) ? `${link.words.replace(/\n/g, ' ')}: ` : ''}${label(id)}`);
    if (depth < 40) for (const c of model.children(id)) if (ids.has(c.id)) write(c.id, depth + 1);
  };
  for (const id of ids) if (!above(id)) write(id, 0);
  const within = [...model.links.values()].filter((l) => [...l.from, ...l.to].every((e) => ids.has(e.concept)));
  const names = (/** @type {{concept: string}[]} */ ends) => ends.map((e) => label(e.concept)).join(', ');
  const said = within.map((l) => `${names(l.from)} ${l.words || '…'} ${names(l.to)}.`);
  return [lines.join('\n'), ...(said.length ? ['', said.join('\n')] : [])].join('\n');
}

/** Whether something from a clipboard is a part of a map; it may come from anywhere. @param {any} p @returns {p is Part} */
function sound(p) {
  const id = (/** @type {any} */ v) => typeof v === 'string' && /^[A-Za-z0-9_-]{1,80}$/.test(v);
  return typeof p?.map === 'string' && /^\/maps\/[A-Za-z0-9_-]{1,80}$/.test(p.map) && Number.isInteger(p.revision)
    && Array.isArray(p.concepts) && p.concepts.length > 0 && p.concepts.every(id);
}

/** Puts down a part of another map, or of this one as it was when it was copied.
 * @param {App} app @param {Part} p @param {string} text what to take in its place where it cannot be had */
async function putDown(app, p, text) {
  let came;
  try {
    if (p.map === app.base) await app.road.idle();
    const response = await fetch(`${p.map}/part?revision=${p.revision}&concepts=${p.concepts.join(',')}`);
    came = response.ok ? await response.json() : null;
  } catch { /* its words are there all the same */ }
  if (!came) return takeText(app, text);
  const s = app.view.seen(), { at } = came;
  const inSight = at.x > s.x && at.x < s.x + s.w && at.y > s.y && at.y < s.y + s.h;
  /** Names for all that is made. @type {Record<string, string>} */
  const as = Object.fromEntries(came.things.map((/** @type {string} */ id) => [id, newID('c')]));
  const by = inSight ? { x: 28, y: 28 } : { x: s.x + s.w / 2 - at.x, y: s.y + s.h / 3 - at.y };
  if (await app.send([{ do: 'paste', document: came.document, as, by }], [])) show(app, p.concepts.flatMap((id) => as[id] ?? []));
}

/** Selects what was put down and brings it into view. @param {App} app @param {string[]} concepts */
function show(app, concepts) {
  const boxes = concepts.flatMap((id) => app.model.slips.get(id)?.box ?? []);
  app.chosen.set(concepts.filter((id) => app.model.slips.has(id)).map((id) => `c-${id}`));
  if (!boxes.length) return;
  const x = Math.min(...boxes.map((b) => b.x)), y = Math.min(...boxes.map((b) => b.y));
  app.reveal({ x, y, w: Math.max(...boxes.map((b) => b.x + b.w)) - x, h: Math.max(...boxes.map((b) => b.y + b.h)) - y });
}

/** A copy of concepts of this map, beside them. @param {App} app @param {string[]} concepts @param {{x: number, y: number}} [by] */
function copyOf(app, concepts, by = { x: 28, y: 28 }) {
  /** Names for the copies. @type {Record<string, string>} */
  const as = Object.fromEntries(concepts.map((id) => [id, newID('c')]));
  const copies = Object.values(as);
  for (const l of app.model.linksAt(new Set(concepts))) as[l.id] = newID('l');
  app.send([{ do: 'duplicate', concepts, as, by }], []).then(() => show(app, copies));
}

/** A copy of what is selected, beside it. @param {App} app */
export function duplicate(app) {
  const concepts = app.chosen.concepts();
  if (concepts.length) copyOf(app, concepts);
}

/** @param {App} app @param {() => void} remove */
export function listenToClipboard(app, remove) {
  const here = () => document.activeElement === app.desk;
  const copy = (/** @type {ClipboardEvent} */ e) => {
    const p = part(app);
    if (!here() || !p.concepts.length || !e.clipboardData) return false;
    e.clipboardData.setData(ours, JSON.stringify(p));
    e.clipboardData.setData('text/plain', asText(app, p.concepts));
    e.preventDefault();
    return true;
  };
  document.addEventListener('copy', (e) => { if (copy(e)) app.announce(t('Copied.')); });
  document.addEventListener('cut', (e) => { if (copy(e)) remove(); });
  document.addEventListener('paste', (e) => {
    if (!here() || !e.clipboardData) return;
    e.preventDefault();
    const text = e.clipboardData.getData('text/plain'), files = [...e.clipboardData.files];
    /** @type {any} */
    let p = null;
    try { p = JSON.parse(e.clipboardData.getData(ours)); } catch { /* it comes from elsewhere */ }
    // What stands on this map is copied where it stands; what came from elsewhere, or is
    // gone by now, is asked for.
    if (!sound(p)) {
      if (files.length && !text.trim()) app.sources.bring(files);
      else takeText(app, text);
    } else if (p.map === app.base && p.concepts.every((c) => app.model.slips.has(c))) copyOf(app, p.concepts);
    else putDown(app, p, text);
  });
}

/** What comes from outside. @param {App} app @param {string} text */
function takeText(app, text) {
  if (!text.trim()) return app.notice(t('There is nothing on the clipboard that could go on a map.'));
  if (app.chosen.only && /^(https?:\/\/|www\.)\S+$/i.test(text.trim())) return app.sources.address(text);
  app.jots.paste(text);
}

/** Pastes where there is no key for it: the browser asks first whether it may.
 * @param {App} app */
export async function pasteHere(app) {
  try {
    takeText(app, await navigator.clipboard.readText());
  } catch {
    app.notice(t('The browser keeps the clipboard to itself here: press Ctrl+V instead.'));
  }
}
