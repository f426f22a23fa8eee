// @ts-check
// What can be done with a thing, offered where it is: by the right button, a
// long press, or the menu key.

import { keyNames } from '../panels/key-names.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'chosen' | 'desk' | 'pointer' | 'kinds' | 'notice' | 'plain' | 'pointed' | 'view'>} App */

/** @type {Record<string, [string, string, string, string][]>} what can be done, its icon, its words, its key */
const offers = {
  concept: [
    ['child', 'corner-down-right', t('Linked concept'), 'Tab'], ['sibling', 'plus', t('Another beside it'), 'Enter'], ['aim', 'navigation', t('On a side…'), 'Ctrl+.'], ['link-to', 'spline', t('Link to…'), ''],
    ['rename', 'pencil', t('Change its words'), 'F2'], ['duplicate', 'copy-plus', 'Duplicate', 'Ctrl+D'], ['branch', 'network', t('Select all below it'), 'Ctrl+Shift+↓'], ['tuck', 'chevrons-down-up', t('Tuck away, bring back'), 'Ctrl+Shift+↑'],
    ['open-attached', 'paperclip', t('Open what is attached'), 'Space'], ['comment-on', 'message-circle', 'Comment, vote', ''], ['pin', 'pin', t('Pin it, or let it go'), ''], ['split', 'scissors', t('Split in two…'), ''], ['focus-concept', 'crosshair', t('Make it the focus'), ''], ['add-stop', 'flag', t('Add as a stop'), 'Ctrl+Enter'], ['remove', 'trash-2', 'Delete', 'Del']],
  link: [
    ['rename', 'pencil', t('Change the phrase'), 'F2'], ['insert', 'square-plus', t('Put a concept in between'), 'Ctrl+Shift+↓'], ['reverse', 'repeat-2', t('Turn it round'), 'Ctrl+Shift+←'], ['heads-next', 'arrow-left-right', t('One arrow, both, none'), 'Ctrl+Shift+→'],
    ['second-link', 'split', t('Make two links of it'), 'Ctrl+Shift+↑'], ['free-lines', 'rotate-ccw', t('As it runs by itself'), ''], ['open-attached', 'paperclip', t('Open what is attached'), 'Space'], ['comment-on', 'message-circle', 'Comment', ''], ['add-stop', 'flag', t('Add as a stop'), 'Ctrl+Enter'], ['remove', 'trash-2', 'Delete', 'Del']],
  several: [
    ['link-in-row', 'spline', t('Link them in their order'), 'Ctrl+K'], ['merge', 'merge', t('Make one of them'), 'Ctrl+M'], ['duplicate', 'copy-plus', 'Duplicate', 'Ctrl+D'], ['tuck', 'chevrons-down-up', t('Tuck away, bring back'), 'Ctrl+Shift+↑'],
    ['pin', 'pin', t('Pin them, or let them go'), ''], ['fit-chosen', 'focus', t('Show them large'), 'Home'], ['add-stop', 'flag', t('Add as one stop'), 'Ctrl+Enter'], ['remove', 'trash-2', 'Delete', 'Del']],
  paper: [
    ['add-here', 'plus', t('New concept here'), ''], ['paste-here', 'copy', 'Paste', 'Ctrl+V'], ['tidy-again', 'network', t('Put the map in order'), 't'], ['fit', 'maximize', t('Show the whole map'), 'f'], ['bring-back', 'chevrons-up-down', t('Bring back all that is tucked away'), 'b'],
    ['find', 'search', 'Find', '/'], ['paper-alone', 'expand', t('The paper alone'), 'w'], ['undo', 'undo-2', 'Undo', 'Ctrl+Z'], ['redo', 'redo-2', 'Redo', 'Ctrl+Y'], ['keys', 'circle-help', t('All shortcuts'), '?']],
};

/** @param {App} app @returns {{more: (c?: HTMLElement) => boolean | void, kinds: (c?: HTMLElement) => boolean | void}} what opens it at a control: all of it, or the kinds */
export function listenForMenu(app) {
  const menu = window.Alpine.store('menu'), el = /** @type {HTMLElement} */ (document.getElementById('menu'));
  const close = () => { menu.open = false; };
  /** @param {number} x @param {number} y @param {boolean} [byKind] the kinds alone */
  const open = async (x, y, byKind = false) => {
    const only = app.chosen.only;
    const what = app.chosen.list.length > 1 ? 'several' : only?.startsWith('c-') ? 'concept' : only ? 'link' : 'paper';
    const links = what === 'link', kinds = what === 'paper' ? [] : app.kinds.filter((k) => !!k.links === links).slice(0, 9);
    menu.items = [
      ...(byKind ? [] : offers[what]).map(([deed, icon, words, key]) => ({ deed, kind: '', icon: `/assets/icons.svg#${icon}`, words, key: keyNames(key) })),
      ...kinds.map((k, i) => ({ deed: 'be-of-kind', kind: k.id, icon: '/assets/icons.svg#palette', words: t('Kind: %s', k.name), key: `Alt+${i + 1}` })),
    ];
    menu.open = true;
    await window.Alpine.nextTick();
    el.style.left = `${Math.min(x, innerWidth - el.offsetWidth - 8)}px`;
    el.style.top = `${Math.min(y, innerHeight - el.offsetHeight - 8)}px`;
    el.querySelector('button')?.focus();
  };
  app.desk.addEventListener('contextmenu', (e) => {
    if (/** @type {Element} */ (e.target).closest('.field')) return;
    e.preventDefault();
    if (menu.open || app.plain) return; // a finger that stays can ask twice
    app.pointer.cancel();
    const at = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.slip[data-kind], .link[data-kind]'));
    if (!at || !app.chosen.list.includes(at.id)) app.chosen.set(at ? [at.id] : []);
    app.pointed = app.view.toPaper(e.clientX, e.clientY);
    open(e.clientX, e.clientY);
  });
  // The menu key, where no pointer says what is meant.
  const atChosen = () => {
    const r = (document.getElementById(app.chosen.only ?? '') ?? app.desk).getBoundingClientRect();
    const s = app.view.seen();
    app.pointed = { x: s.x + s.w / 2, y: s.y + s.h / 2 };
    open(r.left + Math.min(r.width, 60), r.top + Math.min(r.height, 60));
  };
  app.desk.addEventListener('keydown', (e) => {
    if (app.plain) return;
    if (e.key === 'ContextMenu' || (e.key === 'F10' && e.shiftKey)) {
      e.preventDefault();
      atChosen();
    }
  });
  el.addEventListener('keydown', (e) => {
    const items = /** @type {HTMLElement[]} */ ([...el.querySelectorAll('button')]), at = items.indexOf(/** @type {HTMLElement} */ (document.activeElement));
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') items[(at + (e.key === 'ArrowDown' ? 1 : items.length - 1)) % items.length].focus();
    else if (e.key === 'Escape' || e.key === 'Tab') { close(); app.desk.focus({ preventScroll: true }); }
    else return;
    e.preventDefault();
  });
  el.addEventListener('click', close);
  document.addEventListener('pointerdown', (e) => { if (!el.contains(/** @type {Node} */ (e.target))) close(); }, true);
  addEventListener('blur', close);
  // From the actions at hand: all that can be done, or the kinds.
  /** @param {HTMLElement | undefined} control @param {boolean} byKind */
  const from = (control, byKind) => {
    if (byKind && !app.kinds.some((k) => !k.links)) return app.notice(t('This map has no kinds yet: “Key” in the margin makes them, or brings a set of them.'));
    const r = (control ?? app.desk).getBoundingClientRect();
    open(r.left, r.bottom + 4, byKind);
    return true;
  };
  return { more: (/** @type {HTMLElement | undefined} */ c) => from(c, false), kinds: (/** @type {HTMLElement | undefined} */ c) => from(c, true) };
}
