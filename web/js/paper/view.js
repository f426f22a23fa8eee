// @ts-check
// What part of the paper is seen, and how large. The layer is moved by a CSS
// transform; nothing is drawn anew for panning and zooming.

/** @typedef {{x: number, y: number, w: number, h: number}} Box */

const least = 0.01, most = 3;

/** Below this scale words on slips would be lower than 6 pixels: boxes and lines alone
 * are drawn. */
const legible = 6 / 15;

/** What a browser takes for animated it moves without looking at all that is drawn, which on
 * large maps takes longer than a frame. So what moves is put under an animation that adds
 * nothing, until that is cancelled. @param {Element[]} moving */
export function hold(moving) {
  return moving.map((el) => {
    const animation = el.animate({ transform: ['none', 'none'] }, { duration: 1e9, composite: 'add' });
    animation.pause();
    return animation;
  });
}

/** Does a thing some frames from now. @param {number} n @param {() => void} then */
function frames(n, then) {
  if (n === 0) then();
  else requestAnimationFrame(() => frames(n - 1, then));
}

export class View {
  /**
   * @param {HTMLElement} desk the window onto the paper
   * @param {HTMLElement} layer the paper, which is moved
   * @param {HTMLElement} above what is in the hand, moved alike but drawn on its own
   * @param {string} key under which the place is kept for this viewer
   */
  constructor(desk, layer, above, key) {
    /** What lies over the lower edge of the paper, in pixels. */
    this.foot = 0;
    this.desk = desk;
    this.layer = layer;
    this.above = above;
    this.key = key;
    this.x = 0;
    this.y = 0;
    this.k = 1;
    this.rest = 0;
    /** Whether it is at rest, and has been drawn so. */
    this.still = true;
    /** How often it has been moved. @private */
    this.moved = 0;
    /** What tells the browser that the paper moves. @type {Animation[]} */
    this.holds = [];
    /** At which scale the browser has drawn the paper. */
    this.drawnAt = 0;
    /** @type {(() => void)[]} */
    this.listeners = [];
    /** What waits until the paper is still. @type {(() => void)[]} */
    this.atRest = [];
  }

  apply() {
    // On whole pixels words stay sharp.
    this.layer.style.transform = this.above.style.transform = `translate(${Math.round(this.x)}px, ${Math.round(this.y)}px) scale(${this.k})`;
    if (!document.body.classList.contains('ready')) this.drawnAt = this.k; // nothing has been painted yet
    this.still = false;
    this.moved++;
    this.take();
    clearTimeout(this.rest);
    this.rest = window.setTimeout(() => {
      this.layer.classList.toggle('far', this.k < legible); // not in a gesture: it draws all anew
      const { moved } = this;
      this.sharpen(() => { this.still = moved === this.moved; });
      this.release();
      for (const listen of this.atRest) listen();
      if (this.key) try { localStorage.setItem(this.key, JSON.stringify([this.x, this.y, this.k])); } catch { /* kept for this visit only */ }
    }, 400);
    for (const listen of this.listeners) listen();
  }

  /** @private */
  take() {
    if (this.holds.length) return;
    this.layer.dataset.moves = '1';
    this.holds = hold([this.layer, this.above]);
  }

  /** @private */
  release() {
    delete this.layer.dataset.moves;
    for (const animation of this.holds) animation.cancel();
    this.holds = [];
  }

  /** The paper is one picture, which the browser keeps and moves; at rest after a change of
   * scale it is drawn anew, sharp at the scale that is seen now. @private @param {() => void} done called when that can be seen */
  sharpen(done) {
    if (this.drawnAt === this.k) return done();
    const layers = [this.layer, this.above], { k, moved } = this;
    for (const l of layers) l.classList.add('anew');
    // The frame after the next comes when all that is in sight has been drawn.
    frames(2, () => {
      for (const l of layers) l.classList.remove('anew');
      if (moved === this.moved) this.drawnAt = k; // what moves meanwhile is drawn at whatever scale
      frames(2, done);
    });
  }

  /** Goes to a place and a scale that were seen before. @param {number} x @param {number} y @param {number} k */
  set(x, y, k) {
    this.hurry();
    [this.x, this.y, this.k] = [x, y, k];
    this.apply();
  }

  /** Takes up the place of the last visit; false where there was none. */
  recall() {
    try {
      const [x, y, k] = JSON.parse(localStorage.getItem(this.key) ?? 'null') ?? [];
      if (![x, y, k].every(Number.isFinite) || k < least || k > most) return false;
      [this.x, this.y, this.k] = [x, y, k];
      this.apply();
      return true;
    } catch {
      return false;
    }
  }

  /** A place on the screen as a place on the paper.
   * @param {number} clientX @param {number} clientY */
  toPaper(clientX, clientY) {
    const r = this.desk.getBoundingClientRect();
    return { x: (clientX - r.left - this.x) / this.k, y: (clientY - r.top - this.y) / this.k };
  }

  /** What is seen, on the paper. @returns {Box} */
  seen() {
    return { x: -this.x / this.k, y: -this.y / this.k, w: this.desk.clientWidth / this.k, h: this.desk.clientHeight / this.k };
  }

  /** A hand on the paper ends a glide. @private */
  hurry() { for (const l of [this.layer, this.above]) l.classList.remove('gliding'); }

  /** @param {number} dx @param {number} dy in pixels of the screen */
  pan(dx, dy) {
    this.hurry();
    this.x += dx;
    this.y += dy;
    this.apply();
  }

  /** Zooms by a factor; the given place of the screen stays where it is.
   * @param {number} factor @param {number} [clientX] @param {number} [clientY] */
  zoom(factor, clientX, clientY) {
    const r = this.desk.getBoundingClientRect();
    const px = (clientX ?? r.left + r.width / 2) - r.left;
    const py = (clientY ?? r.top + r.height / 2) - r.top;
    this.hurry();
    const k = Math.min(most, Math.max(least, this.k * factor));
    this.x = px - (px - this.x) * (k / this.k);
    this.y = py - (py - this.y) * (k / this.k);
    this.k = k;
    this.apply();
  }

  /** Shows a box whole, in the middle, at most at a scale.
   * @param {Box | null} box @param {number} [largest] */
  fit(box, largest = 1) {
    if (!box) {
      this.k = 1;
      this.x = this.desk.clientWidth / 2;
      this.y = this.desk.clientHeight / 3;
    } else {
      const margin = 36;
      this.k = Math.max(least, Math.min(largest, (this.desk.clientWidth - 2 * margin) / box.w, (this.desk.clientHeight - 2 * margin) / box.h));
      this.middle(box);
    }
    this.apply();
  }

  /** Shows a box whole in the middle, between two scales, moving there as long as one needs to see
   * from where. @param {Box | null} box @param {boolean} slow @param {{most: number, least: number}} bounds */
  show(box, slow, { most: largest, least: smallest }) {
    for (const l of [this.layer, this.above]) l.classList.toggle('gliding', slow && !matchMedia('(prefers-reduced-motion: reduce)').matches);
    if (!box) return this.fit(null);
    this.k = Math.max(smallest, Math.min(largest, this.scaleOf(box)));
    this.middle(box);
    this.apply();
  }

  /** The scale at which a box fills the window but for its edges. @param {Box | null} box */
  scaleOf(box) {
    const { clientWidth: w, clientHeight: h } = this.desk, edge = Math.min(80, w * 0.06, h * 0.08);
    return box ? Math.min((w - 2 * edge) / box.w, (h - this.foot - 2 * edge) / box.h) : 1;
  }

  /** @param {Box} box */
  middle(box) {
    this.x = this.desk.clientWidth / 2 - (box.x + box.w / 2) * this.k;
    this.y = (this.desk.clientHeight - this.foot) / 2 - (box.y + box.h / 2) * this.k;
  }

  /** The first look at a map: all of it where that can be read, else its
   * focus concept in the middle of the upper half, at a size that can.
   * @param {Box | null} all @param {Box | null} focus @param {string} [grows] to which side of it the map grows */
  open(all, focus, grows = 'around') {
    this.fit(all);
    if (all && focus && all.w <= focus.w && all.h <= focus.h) return this.begin(focus, grows);
    const readable = 0.75; // 14 px and more for the focus concept
    if (all && focus && this.k < readable) {
      this.k = readable;
      this.middle(focus);
      // Paper above the map is of no use to anyone.
      const top = (all.y - 36 - focus.y) * this.k;
      const want = this.desk.clientHeight / 2 - focus.h * this.k / 2;
      this.y -= Math.max(0, want + top);
      this.apply();
    }
  }

  /** Puts the first concept where there is room for what comes. @private @param {Box} box @param {string} grows */
  begin(box, grows) {
    const far = 0.16, { clientWidth: w, clientHeight: h } = this.desk;
    this.middle(box);
    if (grows === 'down') this.y -= h * (0.5 - far);
    if (grows === 'up') this.y += h * (0.5 - far);
    if (grows === 'right') this.x -= w * (0.5 - far);
    if (grows === 'left') this.x += w * (0.5 - far);
    this.apply();
  }

  /** Moves just as far as needed to show a box. @param {Box} box */
  reveal(box) {
    const { dx, dy } = this.outOfSight(box);
    if (dx || dy) this.pan(dx, dy);
  }

  /** Does so, seen to move. @param {Box} box */
  follow(box) {
    const { dx, dy } = this.outOfSight(box);
    if (!dx && !dy) return;
    for (const l of [this.layer, this.above]) l.classList.toggle('gliding', !matchMedia('(prefers-reduced-motion: reduce)').matches);
    this.x += dx;
    this.y += dy;
    this.apply();
  }

  /** How far the paper has to be moved to show a box. @private @param {Box} box */
  outOfSight(box) {
    const edge = 28, foot = 44, find = document.getElementById('find'), above = find?.hidden === false ? find.offsetTop + find.offsetHeight + edge / 2 : edge; // the find bar lies over the paper
    const left = box.x * this.k + this.x, right = (box.x + box.w) * this.k + this.x;
    const top = box.y * this.k + this.y, bottom = (box.y + box.h) * this.k + this.y;
    let dx = 0, dy = 0;
    if (right > this.desk.clientWidth - edge) dx = this.desk.clientWidth - edge - right;
    if (left + dx < edge) dx = edge - left;
    if (bottom > this.desk.clientHeight - foot) dy = this.desk.clientHeight - foot - bottom; // hints lie there
    if (top + dy < above) dy = above - top;
    return { dx, dy };
  }
}
