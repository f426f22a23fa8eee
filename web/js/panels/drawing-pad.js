// @ts-check
// A drawing pad: a quick sketch by hand that becomes a picture of a concept.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'desk' | 'notice' | 'sources'>} App */
/** @typedef {{colour: string, wide: number, rub: boolean, points: {x: number, y: number, p: number}[]}} Stroke */

const width = 720, height = 440;
const inks = ['#1d2f52', '#b0582f', '#0e7a65', '#7b4f9e', '#c9ae1c', '#3176a6'];

export class Pad {
  /** @param {App} app @param {HTMLDialogElement} dialog */
  constructor(app, dialog) {
    this.app = app;
    this.dialog = dialog;
    /** @type {Stroke[]} */
    this.strokes = [];
    /** @type {Stroke[]} */
    this.undone = [];
    this.colour = inks[0];
    this.wide = 4;
    this.rub = false;
    dialog.addEventListener('keydown', (e) => {
      if (!(e.ctrlKey || e.metaKey) || !['z', 'y'].includes(e.key.toLowerCase())) return;
      e.preventDefault();
      e.stopPropagation();
      this.back(e.key.toLowerCase() === 'y' || e.shiftKey);
    });
    dialog.addEventListener('close', () => app.desk.focus({ preventScroll: true }));
  }

  open() {
    this.strokes = [];
    this.undone = [];
    this.dialog.innerHTML = `<form method="dialog"><button class="tool close" aria-label="${t('Close')}">×</button></form><h2 id="pad-title">${t('Sketch')}</h2>
      <canvas class="pad-canvas" width="${width * 2}" height="${height * 2}" aria-label="${t('Draw here with a pen, a finger or the mouse')}"></canvas>
      <div class="pad-tools"><span class="pad-inks" role="group" aria-label="${t('Ink')}">${inks.map((c, i) => `<button type="button" class="hue" data-do="pad-ink" data-ink="${c}" aria-label="${t('Ink %s', i + 1)}" aria-pressed="${!i}"></button>`).join('')}</span>
      <button type="button" class="button" data-do="pad-wide" data-wide="2">${t('thin')}</button><button type="button" class="button" data-do="pad-wide" data-wide="4">${t('pen')}</button><button type="button" class="button" data-do="pad-wide" data-wide="10">${t('thick')}</button>
      <button type="button" class="button" data-do="pad-rub" aria-pressed="false">${t('rubber')}</button><button type="button" class="button" data-do="pad-undo" title="${t('Ctrl+Z')}">${t('back')}</button><button type="button" class="button" data-do="pad-redo" title="${t('Ctrl+Y')}">${t('again')}</button></div>
      <label class="written"><span>${t('What it shows, for those who cannot see it')}</span><input class="own-source pad-says" maxlength="1000" autocomplete="off"></label>
      <div class="dialog-actions"><button type="button" class="button main" data-do="pad-done">${t('Put it on the map')}</button></div>`;
    for (const b of /** @type {NodeListOf<HTMLElement>} */ (this.dialog.querySelectorAll('.pad-inks .hue'))) b.style.background = b.dataset.ink ?? '';
    const c = this.canvas;
    c.addEventListener('pointerdown', (e) => {
      e.preventDefault();
      c.setPointerCapture(e.pointerId);
      this.undone = [];
      this.strokes.push({ colour: this.colour, wide: this.rub ? 26 : this.wide, rub: this.rub, points: [this.at(e)] });
      this.draw();
    });
    c.addEventListener('pointermove', (e) => {
      if (!c.hasPointerCapture(e.pointerId)) return;
      for (const one of e.getCoalescedEvents?.() ?? [e]) this.strokes.at(-1)?.points.push(this.at(one));
      this.draw();
    });
    this.draw();
    this.dialog.showModal();
  }

  /** @private @returns {HTMLCanvasElement} */
  get canvas() { return /** @type {HTMLCanvasElement} */ (this.dialog.querySelector('canvas')); }

  /** @private @param {PointerEvent} e */
  at(e) {
    const r = this.canvas.getBoundingClientRect();
    return { x: ((e.clientX - r.x) / r.width) * width, y: ((e.clientY - r.y) / r.height) * height, p: e.pointerType === 'pen' ? e.pressure * 1.6 : 1 };
  }

  /** @private */
  draw() {
    const g = /** @type {CanvasRenderingContext2D} */ (this.canvas.getContext('2d'));
    g.setTransform(2, 0, 0, 2, 0, 0);
    g.clearRect(0, 0, width, height);
    [g.lineCap, g.lineJoin] = ['round', 'round'];
    for (const s of this.strokes) {
      g.globalCompositeOperation = s.rub ? 'destination-out' : 'source-over';
      g.strokeStyle = s.colour;
      s.points.forEach((p, i) => {
        const q = s.points[Math.max(0, i - 1)];
        g.lineWidth = s.wide * p.p;
        g.beginPath();
        g.moveTo(q.x, q.y);
        g.lineTo(p.x + (i ? 0 : 0.01), p.y);
        g.stroke();
      });
    }
    g.globalCompositeOperation = 'source-over';
  }

  /** @private @param {boolean} again */
  back(again) {
    const one = (again ? this.undone : this.strokes).pop();
    if (one) (again ? this.strokes : this.undone).push(one);
    this.draw();
  }

  /** Cuts the sketch to what is drawn and brings it as a picture. @private */
  async done() {
    const c = this.canvas, data = /** @type {CanvasRenderingContext2D} */ (c.getContext('2d')).getImageData(0, 0, c.width, c.height).data;
    let x0 = c.width, y0 = c.height, x1 = -1, y1 = -1;
    for (let i = 3; i < data.length; i += 4) {
      if (!data[i]) continue;
      const x = ((i - 3) / 4) % c.width, y = Math.floor((i - 3) / 4 / c.width);
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
    }
    if (x1 < 0) return this.app.notice(t('There is nothing on the pad yet.'));
    const cut = document.createElement('canvas'), room = 8;
    [cut.width, cut.height] = [x1 - x0 + 1 + 2 * room, y1 - y0 + 1 + 2 * room];
    cut.getContext('2d')?.drawImage(c, room - x0, room - y0);
    const says = /** @type {HTMLInputElement} */ (this.dialog.querySelector('.pad-says')).value.trim();
    const blob = await new Promise((made) => { cut.toBlob(made); });
    this.dialog.close();
    if (blob) this.app.sources.bring([new File([blob], 'sketch.png', { type: 'image/png' })], undefined, says);
  }

  /** @returns {Record<string, import('../commands/controls.js').Deed>} */
  deeds() {
    const press = (/** @type {string} */ group, /** @type {HTMLElement | undefined} */ control) => { for (const b of this.dialog.querySelectorAll(`[data-do="${group}"]`)) b.setAttribute('aria-pressed', String(b === control)); };
    return {
      pad: () => { this.open(); return true; },
      'pad-ink': (c) => { this.colour = c?.dataset.ink ?? inks[0]; this.rub = false; press('pad-ink', c); press('pad-rub', undefined); return true; },
      'pad-wide': (c) => { this.wide = Number(c?.dataset.wide); this.rub = false; press('pad-wide', c); press('pad-rub', undefined); return true; },
      'pad-rub': (c) => { this.rub = !this.rub; c?.setAttribute('aria-pressed', String(this.rub)); return true; },
      'pad-undo': () => { this.back(false); return true; },
      'pad-redo': () => { this.back(true); return true; },
      'pad-done': () => { this.done(); return true; },
    };
  }
}
