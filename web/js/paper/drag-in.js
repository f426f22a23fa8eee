// @ts-check
// Things carried onto the paper from beside it: a new concept from its button,
// a loose idea from the reading column.

import * as acts from '../commands/edits.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'announce' | 'back' | 'choose' | 'chosen' | 'desk' | 'discard' | 'pointer' | 'model' | 'notice' | 'places' | 'provisional' | 'reveal' | 'send' | 'sides' | 'tuck' | 'view' | 'words'>} App */

/** @param {App} app */
export function listenForCarrying(app) {
  const ghost = document.createElement('div');
  ghost.className = 'carried noun-words';
  /** @type {{id: string, words: string, x: number, y: number, moved: boolean, el: HTMLElement} | null} */
  let held = null;
  const under = (/** @type {PointerEvent} */ e) => document.elementsFromPoint(e.clientX, e.clientY);
  const target = (/** @type {PointerEvent} */ e) => /** @type {HTMLElement | null} */ (under(e).map((el) => el.closest('.slip')).find((el) => el && el.id !== `c-${held?.id}`) ?? null);
  const unmark = () => { for (const el of document.querySelectorAll('.slip.target')) el.classList.remove('target'); };
  document.addEventListener('pointerdown', (e) => {
    const el = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('#loose [data-element], #add, .plain-tools [data-do="add"]'));
    if (!el || e.button !== 0) return;
    held = { id: el.dataset.element?.slice(2) ?? '', words: el.dataset.element ? el.textContent?.trim() ?? '' : t('new concept'), x: e.clientX, y: e.clientY, moved: false, el };
  });
  document.addEventListener('pointermove', (e) => {
    if (!held) return;
    if (!held.moved) {
      if (Math.hypot(e.clientX - held.x, e.clientY - held.y) < 8) return;
      held.moved = true;
      ghost.textContent = held.words;
      document.body.append(ghost);
      held.el.setPointerCapture(e.pointerId);
    }
    ghost.style.left = `${e.clientX}px`;
    ghost.style.top = `${e.clientY}px`;
    unmark();
    if (held.id) target(e)?.classList.add('target');
  });
  const end = (/** @type {PointerEvent} */ e) => {
    const was = held;
    if (!was) return;
    const over = was.moved && e.type === 'pointerup' ? target(e)?.id.slice(2) ?? '' : '';
    const onPaper = was.moved && e.type === 'pointerup' && under(e).some((el) => el.closest('#desk'));
    held = null;
    ghost.remove();
    unmark();
    if (!was.moved) return;
    // The press that ends a drag is no press of the button.
    const swallow = (/** @type {Event} */ c) => { c.stopPropagation(); c.preventDefault(); };
    window.addEventListener('click', swallow, { capture: true, once: true });
    window.setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0);
    if (!onPaper) return;
    const at = app.view.toPaper(e.clientX, e.clientY);
    if (!was.id) return acts.newLoose(app, { x: at.x, y: at.y - 18 }, '', true);
    const slip = app.model.slips.get(was.id);
    if (!slip) return;
    if (over) return acts.newLink(app, over, was.id);
    app.desk.focus({ preventScroll: true });
    app.chosen.set([`c-${was.id}`]);
    acts.moveBy(app, [was.id], Math.round(at.x - (slip.box.x + slip.box.w / 2)), Math.round(at.y - (slip.box.y + slip.box.h / 2)));
  };
  document.addEventListener('pointerup', end);
  document.addEventListener('pointercancel', end);
  // A column that scrolls under a finger could not be carried from.
  document.addEventListener('touchmove', (e) => { if (held?.moved) e.preventDefault(); }, { passive: false });
}

/** Lets what a selector finds be carried onto a slip or a phrase. @param {string} selector
 * @param {(el: HTMLElement, element: string) => void} put what happens to the element (c-… or l-…) under which it is let go */
export function carriedFrom(selector, put) {
  /** @type {{el: HTMLElement, ghost: HTMLElement, x: number, y: number, moved: boolean} | null} */
  let held = null;
  const under = (/** @type {PointerEvent} */ e) => /** @type {HTMLElement | undefined} */ (document.elementsFromPoint(e.clientX, e.clientY).map((el) => /** @type {HTMLElement | null} */ (el.closest('#slips > .slip, #links > .link'))).find((el) => el) ?? undefined);
  const unmark = () => { for (const el of document.querySelectorAll('.slip.target')) el.classList.remove('target'); };
  document.addEventListener('pointerdown', (e) => {
    const el = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest(selector));
    if (!el || e.button !== 0) return;
    const ghost = document.createElement('div');
    ghost.className = 'carried';
    ghost.textContent = el.dataset.name ?? '';
    held = { el, ghost, x: e.clientX, y: e.clientY, moved: false };
  });
  document.addEventListener('pointermove', (e) => {
    if (!held || (!held.moved && Math.hypot(e.clientX - held.x, e.clientY - held.y) < 8)) return;
    if (!held.moved) document.body.append(held.ghost);
    held.moved = true;
    held.ghost.style.left = `${e.clientX}px`;
    held.ghost.style.top = `${e.clientY}px`;
    unmark();
    under(e)?.classList.add('target');
  });
  document.addEventListener('pointerup', (e) => {
    const was = held;
    held = null;
    if (!was?.moved) return;
    was.ghost.remove();
    unmark();
    // The press that ends a drag is no press of the button.
    const swallow = (/** @type {Event} */ c) => { c.stopPropagation(); c.preventDefault(); };
    window.addEventListener('click', swallow, { capture: true, once: true });
    window.setTimeout(() => window.removeEventListener('click', swallow, { capture: true }), 0);
    const to = under(e);
    if (to) put(was.el, to.id);
  });
  document.addEventListener('pointercancel', () => { held?.ghost.remove(); held = null; unmark(); });
}
