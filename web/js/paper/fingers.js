// @ts-check
// Fingers and the mouse on a drawing that is looked at: they move it, make it larger, and turn cards.

/** One finger or the mouse moves the paper, two zoom it, the wheel as well.
 * @param {HTMLElement} desk @param {import('./view.js').View} view */
export function moves(desk, view) {
  /** @type {Map<number, {x: number, y: number}>} */
  const down = new Map();
  desk.addEventListener('pointerdown', (e) => {
    if (/** @type {Element} */ (e.target).closest('button, .walk-key')) return;
    down.set(e.pointerId, { x: e.clientX, y: e.clientY });
    desk.setPointerCapture(e.pointerId);
  });
  desk.addEventListener('pointermove', (e) => {
    const was = down.get(e.pointerId);
    if (!was) return;
    const others = [...down].filter(([id]) => id !== e.pointerId).map(([, p]) => p);
    const now = { x: e.clientX, y: e.clientY };
    if (others.length) {
      const o = others[0], before = Math.hypot(was.x - o.x, was.y - o.y), after = Math.hypot(now.x - o.x, now.y - o.y);
      if (before > 0) view.zoom(after / before, (now.x + o.x) / 2, (now.y + o.y) / 2);
      view.pan((now.x - was.x) / 2, (now.y - was.y) / 2);
    } else view.pan(now.x - was.x, now.y - was.y);
    down.set(e.pointerId, now);
  });
  for (const what of /** @type {const} */ (['pointerup', 'pointercancel'])) desk.addEventListener(what, (e) => { down.delete(e.pointerId); });
  desk.addEventListener('wheel', (e) => {
    e.preventDefault();
    view.zoom(Math.exp(-e.deltaY / 400), e.clientX, e.clientY);
  }, { passive: false });
}

/** A finger drawn across the card turns to the next stop or the one before.
 * @param {HTMLElement} card @param {() => void} before @param {() => void} next */
export function swipes(card, before, next) {
  /** @type {{x: number, y: number} | null} */
  let from = null;
  card.addEventListener('pointerdown', (e) => { from = e.pointerType === 'mouse' ? null : { x: e.clientX, y: e.clientY }; });
  card.addEventListener('pointercancel', () => { from = null; });
  card.addEventListener('pointerup', (e) => {
    if (!from) return;
    const dx = e.clientX - from.x, dy = e.clientY - from.y;
    from = null;
    if (Math.abs(dx) < 48 || Math.abs(dx) < 2 * Math.abs(dy)) return;
    if (dx > 0) before();
    else next();
  });
}
