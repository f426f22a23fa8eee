// @ts-check
// Judging a map under a link: its sentences one at a time, and the map behind them.

import { View } from '../paper/view.js';
import { Round } from '../panels/round.js';
import { newID } from '../sync/ids.js';
import { t } from '../sync/messages.js';

/** @template {Element} E @param {string} id @returns {E} */
const get = (id) => /** @type {any} */ (document.getElementById(id));

const base = document.body.dataset.base ?? '';
const desk = /** @type {HTMLElement} */ (get('desk')), welcome = /** @type {HTMLElement} */ (get('welcome'));
const view = new View(desk, get('layer'), get('above'), '');
const elements = new Map([...document.querySelectorAll('#links > g, #slips > g')].map((g) => [g.id, /** @type {SVGGElement} */ (g)]));

/** The box of a slip or a phrase, on the paper. @param {string} id */
function boxOf(id) {
  const g = elements.get(id);
  const [x, y, w, h] = (g?.dataset.box ?? g?.dataset.gap ?? '').split(' ').map(Number);
  return Number.isFinite(x + y + w + h) ? { x, y, w, h } : undefined;
}

/** @param {string} words */
function fault(words) {
  const el = get('judge-fault');
  el.textContent = words;
  /** @type {HTMLElement} */ (el).hidden = !words;
}

/** Shows all of the map. */
function whole() {
  const boxes = [...elements.keys()].flatMap((id) => boxOf(id) ?? []);
  if (!boxes.length) return;
  const x0 = Math.min(...boxes.map((b) => b.x)), y0 = Math.min(...boxes.map((b) => b.y));
  const w = Math.max(...boxes.map((b) => b.x + b.w)) - x0, h = Math.max(...boxes.map((b) => b.y + b.h)) - y0;
  const room = desk.getBoundingClientRect(), k = Math.min(1, (room.width - 40) / w, (room.height - 40) / h);
  view.set(room.width / 2 - (x0 + w / 2) * k, room.height / 2 - (y0 + h / 2) * k, k);
}

const round = new Round({
  base, desk, view,
  announce: (words) => { get('told').textContent = words; },
  called: () => /** @type {HTMLInputElement} */ (get('called')).value.trim(),
  freshMargin: () => {},
  left: () => { location.reload(); },
  lens: {
    light: (lit) => {
      document.body.classList.add('lensed');
      for (const [id, g] of elements) g.classList.toggle('kept', lit.includes(id));
    },
    close: () => { document.body.classList.remove('lensed'); },
  },
  model: { boxOf },
  notice: fault,
  send: async (ops) => {
    fault('');
    const entry = { id: newID('g'), window: 'judge', seen: 0, operations: ops };
    for (const last of [false, true]) {
      try {
        const response = await fetch(`${base}/judgements`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(entry) });
        if (response.ok) return true;
        fault((await response.json()).error);
        return false;
      } catch { // the same entry once more: it counts once
        if (last) fault(t('The connection is away. Nothing is lost: press it again when it is back.'));
      }
    }
    return false;
  },
}, get('round'));

/** @type {HTMLFormElement | null} */ (get('welcome-form'))?.addEventListener('submit', async (e) => {
  e.preventDefault();
  await round.begin('reading');
  welcome.hidden = round.open;
});
const deeds = round.deeds();
document.addEventListener('click', (e) => {
  const control = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-do]'));
  if (control) deeds[control.dataset.do ?? '']?.(control);
});
whole();
addEventListener('resize', () => { if (!round.open) whole(); });
get('sheet').classList.add('ready');
document.body.classList.add('ready');
Object.assign(window, { judging: round });
