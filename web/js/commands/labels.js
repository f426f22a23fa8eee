// @ts-check
// How labels are set: size, weight, slant, side, and the width of their lines,
// by the margin, by keys, and by dragging a side of a slip.

import { svg } from '../paper/provisional.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'chosen' | 'marks' | 'model' | 'notice' | 'plain' | 'send' | 'view' | 'words'>} App */
/** @typedef {import('../paper/pointer.js').Gesture} Gesture */
/** @typedef {import('../paper/model.js').Slip} Slip */

const around = 35; // of the words in an ordinary slip, as the server draws it

/** Sets the labels of all concepts selected. @param {App} app @param {object} how */
function setType(app, how) {
  const concepts = app.chosen.concepts();
  if (!concepts.length) return app.notice(t('Select a concept first.'));
  app.send([{ do: 'set-type', concepts, ...how }], []);
}

/** Whether the first label selected is set in a way, as drawn. @param {App} app @param {string} cls */
const has = (app, cls) => !!app.model.slips.get(app.chosen.concepts()[0] ?? '')?.el.querySelector(`.noun.${cls}`);

/** A step larger or smaller, each from its own size. @param {App} app @param {number} by */
function step(app, by) {
  /** @type {Map<number, string[]>} */
  const bySize = new Map();
  for (const id of app.chosen.concepts()) {
    const size = Number(app.model.slips.get(id)?.el.dataset.size ?? 0), next = Math.max(-2, Math.min(4, size + by));
    if (next !== size) bySize.set(next, [...(bySize.get(next) ?? []), id]);
  }
  if (!bySize.size) return app.notice(by > 0 ? t('That is as large as a label gets.') : t('That is as small as a label gets.'));
  app.send([...bySize].map(([size, concepts]) => ({ do: 'set-type', concepts, size })), []);
}

/** @param {App} app @returns {Record<string, (control?: HTMLElement) => void>} */
export function typeDeeds(app) {
  return {
    'type-larger': () => step(app, 1),
    'type-smaller': () => step(app, -1),
    'type-bold': () => setType(app, { bold: !has(app, 'bold') }),
    'type-italic': () => setType(app, { italic: !has(app, 'italic') }),
    'type-align': (control) => setType(app, { align: control?.dataset.align ?? '' }),
    'type-narrower': () => setWidth(app, -20),
    'type-wider': () => setWidth(app, 20),
    'type-plain': () => setType(app, { size: 0, bold: false, italic: false, align: '', width: 0 }),
  };
}

/** @param {App} app @param {number} by */
function setWidth(app, by) {
  const steps = app.chosen.concepts().flatMap((id) => {
    const s = app.model.slips.get(id);
    return s ? [({ do: /** @type {const} */ ('set-type'), concepts: [id], width: Math.max(40, Math.min(900, Math.round((s.box.w - around + by) / 2) * 2)) })] : [];
  });
  if (steps.length) app.send(steps, []);
}

/** The two sides by which the slip selected can be made wider. */
export class Sides {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.group = svg('g', { class: 'sides' });
    this.drawn = '';
    app.marks.prepend(this.group);
  }

  hide() {
    if (this.drawn) this.group.replaceChildren();
    this.drawn = '';
  }

  show() {
    const only = this.app.chosen.only, slip = only?.startsWith('c-') ? this.app.model.slips.get(only.slice(2)) : undefined;
    if (!slip || this.app.plain || slip.provisional || this.app.words.field) return this.hide();
    const b = slip.box, k = 1 / this.app.view.k, p = this.picture(slip), key = JSON.stringify([slip.id, b, k, p]);
    if (key === this.drawn) return;
    this.drawn = key;
    this.group.replaceChildren(...[b.x, b.x + b.w].map((x, i) => {
      const el = svg('rect', { class: 'side', 'data-side': i ? 'right' : 'left', x: x - 6 * k, y: b.y + 10 * k, width: 12 * k, height: Math.max(8 * k, b.h - 20 * k) });
      el.append(svg('title', {}, t('Drag to set the width; double-click for as wide as suits the words')));
      return el;
    }));
    if (!p) return;
    const corner = svg('path', { class: 'side corner', 'data-side': 'picture', d: `M${p.x + p.w - 11 * k} ${p.y + p.h}h${11 * k}v${-11 * k}`, 'stroke-width': 3 * k });
    const reach = svg('rect', { class: 'side reach', 'data-side': 'picture', x: p.x + p.w - 16 * k, y: p.y + p.h - 16 * k, width: 24 * k, height: 24 * k });
    reach.append(svg('title', {}, t('Drag to make the picture larger or smaller')));
    this.group.append(corner, reach);
  }

  /** The picture on a slip: its source, and where it stands. @private @param {import('../paper/model.js').Slip} slip */
  picture(slip) {
    const el = /** @type {SVGImageElement | null} */ (slip.el.querySelector('image.picture')), of = (/** @type {string} */ name) => Number(el?.getAttribute(name));
    return el && { source: el.dataset.source ?? '', x: of('x') + slip.box.x - slip.drawn.x, y: of('y') + slip.box.y - slip.drawn.y, w: of('width'), h: of('height') };
  }

  /** Takes hold of the corner of a picture. @private @param {Gesture} g @param {import('../paper/model.js').Slip} slip */
  takePicture(g, slip) {
    const { app } = this, p = this.picture(slip);
    if (!p) return;
    const frame = svg('rect', { class: 'width-frame' });
    app.marks.append(frame);
    // It stays in the middle of its slip, so both sides move.
    const wide = (/** @type {number} */ x) => Math.round(Math.max(24, Math.min(600, p.w + (2 * (x - g.startX)) / app.view.k)));
    g.drag = (x) => {
      const w = wide(x);
      for (const [key, value] of Object.entries({ x: p.x + p.w / 2 - w / 2, y: p.y, width: w, height: (w * p.h) / p.w })) frame.setAttribute(key, String(value));
    };
    g.drop = (x) => {
      frame.remove();
      if (g.moved) app.send([{ do: 'set-source', on: { kind: 'concept', id: slip.id }, id: p.source, wide: wide(x) }], []);
    };
    g.stop = () => frame.remove();
  }

  /** Takes hold of a side. @param {Gesture} g @param {Element} el */
  take(g, el) {
    const { app } = this, id = app.chosen.concepts()[0], slip = app.model.slips.get(id ?? '');
    if (!slip) return;
    g.element = `c-${id}`;
    if (/** @type {SVGElement} */ (el).dataset.side === 'picture') return this.takePicture(g, slip);
    const way = /** @type {SVGElement} */ (el).dataset.side === 'left' ? -1 : 1, box = { ...slip.box };
    const frame = svg('rect', { class: 'width-frame' });
    app.marks.append(frame);
    // Both sides move: a slip stands by its middle.
    const wide = (/** @type {number} */ x) => Math.max(40 + around, Math.min(900, box.w + (2 * way * (x - g.startX)) / app.view.k));
    g.drag = (x) => {
      const w = wide(x);
      for (const [key, value] of Object.entries({ x: box.x + box.w / 2 - w / 2, y: box.y, width: w, height: box.h })) frame.setAttribute(key, String(value));
    };
    g.drop = (x) => {
      frame.remove();
      if (!g.moved) {
        const twice = performance.now() - this.tapped < 400;
        this.tapped = performance.now();
        if (twice) setType(app, { width: 0 });
        return;
      }
      app.send([{ do: 'set-type', concepts: [id], width: Math.round((wide(x) - around) / 2) * 2 }], []);
    };
    g.stop = () => frame.remove();
  }

  tapped = 0;
}
