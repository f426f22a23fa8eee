// @ts-check
// What can be done with a thing, offered where it is: by the right button, a
// long press, or the menu key.

import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'chosen' | 'desk' | 'hand' | 'kinds' | 'plain' | 'pointed' | 'view'>} App */

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
    ['link-in-row', 'spline', t('Link them in their order'), 'Ctrl+L'], ['merge', 'merge', t('Make one of them'), 'Ctrl+M'], ['duplicate', 'copy-plus', 'Duplicate', 'Ctrl+D'], ['tuck', 'chevrons-down-up', t('Tuck away, bring back'), 'Ctrl+Shift+↑'],
    ['pin', 'pin', t('Pin them, or let them go'), ''], ['fit-chosen', 'focus', t('Show them large'), 'Home'], ['add-stop', 'flag', t('Add as one stop'), 'Ctrl+Enter'], ['remove', 'trash-2', 'Delete', 'Del']],
  paper: [
    ['add-here', 'plus', t('New concept here'), ''], ['paste-here', 'copy', 'Paste', 'Ctrl+V'], ['tidy-again', 'network', t('Put the map in order'), 't'], ['fit', 'maximize', t('Show the whole map'), 'f'], ['bring-back', 'chevrons-up-down', t('Bring back all that is tucked away'), 'b'],
    ['find', 'search', 'Find', '/'], ['paper-alone', 'expand', t('The paper alone'), 'w'], ['undo', 'undo-2', 'Undo', 'Ctrl+Z'], ['redo', 'redo-2', 'Redo', 'Ctrl+Y'], ['keys', 'circle-help', t('All keys'), '?']],
};

/** An icon as the templates write it. @param {string} name */
function icon(name) {
  const el = document.createElementNS('http://www.w3.org/2000/svg', 'svg'), use = document.createElementNS('http://www.w3.org/2000/svg', 'use');
  el.setAttribute('class', 'icon');
  el.setAttribute('aria-hidden', 'true');
  use.setAttribute('href', `/assets/icons.svg#${name}`);
  el.append(use);
  return el;
}

/** The keys in words for the machine at hand. @param {string} key */
const worded = (key) => (/Mac|iPhone|iPad/.test(navigator.platform) ? key.replace('Ctrl', 'Command') : key);

/** @param {App} app */
export function listenForMenu(app) {
  const menu = /** @type {HTMLElement} */ (document.getElementById('menu'));
  const close = () => { menu.hidden = true; };
  /** @param {number} x @param {number} y */
  const open = (x, y) => {
    const only = app.chosen.only;
    const kind = app.chosen.list.length > 1 ? 'several' : only?.startsWith('c-') ? 'concept' : only ? 'link' : 'paper';
    menu.replaceChildren(...offers[kind].map(([what, picture, words, key]) => {
      const item = document.createElement('button');
      item.type = 'button';
      item.role = 'menuitem';
      item.dataset.do = what;
      item.append(icon(picture), Object.assign(document.createElement('span'), { textContent: words }));
      if (key) item.append(Object.assign(document.createElement('kbd'), { textContent: worded(key) }));
      return item;
    }));
    const links = kind === 'link', offered = kind === 'paper' ? [] : app.kinds.filter((k) => !!k.links === links).slice(0, 9);
    menu.append(...offered.map((k, i) => {
      const item = Object.assign(document.createElement('button'), { type: 'button', role: 'menuitem' });
      Object.assign(item.dataset, { do: 'be-of-kind', kind: k.id });
      item.append(icon('palette'), Object.assign(document.createElement('span'), { textContent: `Kind: ${k.name}` }), Object.assign(document.createElement('kbd'), { textContent: `Alt+${i + 1}` }));
      return item;
    }));
    menu.hidden = false;
    menu.style.left = `${Math.min(x, innerWidth - menu.offsetWidth - 8)}px`;
    menu.style.top = `${Math.min(y, innerHeight - menu.offsetHeight - 8)}px`;
    /** @type {HTMLElement} */ (menu.firstElementChild).focus();
  };
  app.desk.addEventListener('contextmenu', (e) => {
    if (/** @type {Element} */ (e.target).closest('.field')) return;
    e.preventDefault();
    if (!menu.hidden || app.plain) return; // a finger that stays can ask twice
    app.hand.cancel();
    const el = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.slip[data-kind], .link[data-kind]'));
    if (!el || !app.chosen.list.includes(el.id)) app.chosen.set(el ? [el.id] : []);
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
  menu.addEventListener('keydown', (e) => {
    const items = /** @type {HTMLElement[]} */ ([...menu.children]), at = items.indexOf(/** @type {HTMLElement} */ (document.activeElement));
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') items[(at + (e.key === 'ArrowDown' ? 1 : items.length - 1)) % items.length].focus();
    else if (e.key === 'Escape' || e.key === 'Tab') { close(); app.desk.focus({ preventScroll: true }); }
    else return;
    e.preventDefault();
  });
  menu.addEventListener('click', close);
  document.addEventListener('pointerdown', (e) => { if (!menu.contains(/** @type {Node} */ (e.target))) close(); }, true);
  addEventListener('blur', close);
}
