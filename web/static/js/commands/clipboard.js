// @ts-check
// Copies of parts of a map: within it, to another map or window, and as an
// outline with its sentences to any other program. What comes from outside is
// concepts, or a source of the concept selected.

import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'base' | 'chosen' | 'desk' | 'jots' | 'model' | 'notice' | 'reveal' | 'send' | 'sources' | 'view'>} App */
/** @typedef {{map?: string, concepts: {id: string, label: string, x: number, y: number}[], links: {from: string[], to: string[], phrase: string, heads: string}[]}} Part */

const ours = 'application/x-mevrin-part+json';

/** What is selected, with the links wholly inside it. @param {App} app @returns {Part} */
function part(app) {
  const ids = new Set(app.chosen.concepts());
  const inside = (/** @type {{concept: string}[]} */ ends) => ends.every((e) => ids.has(e.concept));
  return {
    map: app.base,
    concepts: [...ids].flatMap((id) => {
      const s = app.model.slips.get(id);
      return s ? [{ id, label: s.words, x: s.box.x + s.box.w / 2, y: s.box.y }] : [];
    }),
    links: [...app.model.links.values()].filter((l) => inside(l.from) && inside(l.to))
      .map((l) => ({ from: l.from.map((e) => e.concept), to: l.to.map((e) => e.concept), phrase: l.words, heads: l.heads })),
  };
}

/** The concepts copied as an outline, each below the one that it hangs from, and
 * below that what is said of them. @param {App} app @param {Part} p */
function asText(app, p) {
  const ids = new Set(p.concepts.map((c) => c.id)), { model } = app;
  const above = (/** @type {string} */ id) => { const s = model.slips.get(id), up = s && model.parent(s); return up && ids.has(up) ? up : null; };
  const rank = (/** @type {string} */ id) => model.slips.get(id)?.main?.rank ?? '~';
  const label = new Map(p.concepts.map((c) => [c.id, c.label.replace(/\n/g, ' ')]));
  /** @type {string[]} */
  const lines = [];
  const write = (/** @type {string} */ id, /** @type {number} */ depth) => {
    const s = model.slips.get(id), link = depth && s?.main ? model.links.get(s.main.link) : undefined;
    lines.push(`${'\t'.repeat(depth)}${link?.words && link.to.some((e) => e.concept === id) ? `${link.words.replace(/\n/g, ' ')}: ` : ''}${label.get(id)}`);
    if (depth < 40) [...ids].filter((c) => above(c) === id).sort((a, b) => (rank(a) < rank(b) ? -1 : 1)).forEach((c) => write(c, depth + 1));
  };
  for (const id of ids) if (!above(id)) write(id, 0);
  const said = p.links.length ? `\n\n${sentences(p)}` : '';
  return lines.join('\n') + said;
}

/** @param {Part} p */
function sentences(p) {
  const label = new Map(p.concepts.map((c) => [c.id, c.label.replace(/\n/g, ' ')]));
  const names = (/** @type {string[]} */ ids) => ids.map((id) => label.get(id)).join(', ');
  return p.links.map((l) => `${names(l.from)} ${l.phrase || '…'} ${names(l.to)}.`).join('\n');
}

/** Whether something from a clipboard is a part of a map; it may come from anywhere. @param {any} p @returns {p is Part} */
function sound(p) {
  const text = (/** @type {any} */ v) => typeof v === 'string';
  return Array.isArray(p?.concepts) && Array.isArray(p?.links)
    && p.concepts.every((/** @type {any} */ c) => text(c?.id) && text(c.label) && Number.isFinite(c.x) && Number.isFinite(c.y))
    && p.links.every((/** @type {any} */ l) => [l?.from, l?.to].every((ends) => Array.isArray(ends) && ends.length > 0 && ends.every(text)) && text(l.phrase) && text(l.heads));
}

/** Puts a copy down, shifted as a whole until it covers nothing. @param {App} app @param {Part} p @param {{x: number, y: number}} by */
function putDown(app, p, by) {
  const size = (/** @type {string} */ id) => app.model.slips.get(id)?.box ?? { w: 160, h: 40 };
  const covers = () => p.concepts.some((c) => app.model.taken({ x: c.x + by.x - size(c.id).w / 2 - 6, y: c.y + by.y - 6, w: size(c.id).w + 12, h: size(c.id).h + 12 }));
  for (let i = 0; i < 80 && covers(); i++) by = { x: by.x + 16, y: by.y + 24 };
  /** @type {Map<string, string>} */
  const fresh = new Map(p.concepts.map((c) => [c.id, newID('c')]));
  const ends = (/** @type {string[]} */ ids) => ids.flatMap((id) => (fresh.has(id) ? [{ id: newID('e'), concept: fresh.get(id) ?? '' }] : []));
  /** @type {Wire.Operation[]} */
  const steps = [
    ...p.concepts.map((c) => /** @type {Wire.Operation} */ ({ do: 'add-concept', id: fresh.get(c.id) ?? '', label: c.label, at: { x: c.x + by.x, y: c.y + by.y } })),
    ...p.links.map((l) => ({ do: /** @type {const} */ ('add-link'), id: newID('l'), from: ends(l.from), to: ends(l.to), phrase: l.phrase, heads: /** @type {Wire.Heads} */ (l.heads) })).filter((l) => l.from.length && l.to.length),
  ];
  app.send(steps, []).then(() => show(app, [...fresh.values()]));
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
    e.clipboardData.setData('text/plain', asText(app, p));
    e.preventDefault();
    return true;
  };
  document.addEventListener('copy', (e) => { if (copy(e)) app.announce(t('Copied.')); });
  document.addEventListener('cut', (e) => { if (copy(e)) remove(); });
  document.addEventListener('paste', (e) => {
    if (!here() || !e.clipboardData) return;
    e.preventDefault();
    try {
      const p = JSON.parse(e.clipboardData.getData(ours));
      if (!sound(p)) throw new Error('no part of a map');
      const s = app.view.seen(), x = p.concepts.reduce((a, c) => a + c.x, 0) / p.concepts.length, y = Math.min(...p.concepts.map((c) => c.y));
      const inSight = p.concepts.some((c) => c.x > s.x && c.x < s.x + s.w && c.y > s.y && c.y < s.y + s.h);
      const by = inSight ? { x: 28, y: 28 } : { x: s.x + s.w / 2 - x, y: s.y + s.h / 3 - y };
      // What stands on this map is copied with all that belongs to it; a selection that
      // came from elsewhere, or is gone by now, brings its words and links.
      if (p.map === app.base && p.concepts.every((c) => app.model.slips.has(c.id))) copyOf(app, p.concepts.map((c) => c.id), by);
      else putDown(app, p, by);
    } catch {
      const files = [...e.clipboardData.files], text = e.clipboardData.getData('text/plain');
      if (files.length && !text.trim()) app.sources.bring(files);
      else takeText(app, text);
    }
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
