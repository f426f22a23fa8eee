// @ts-check
// What can be done with a thing, offered where it is: by the right button, a
// long press, or the menu key.

/** @typedef {import('./main.js').App} App */

/** @type {Record<string, [string, string, string][]>} what can be done, in words, with its key */
const offers = {
  concept: [['child', 'Linked concept', 'Tab'], ['sibling', 'Another beside it', 'Enter'], ['rename', 'Change its words', 'F2'], ['duplicate', 'Duplicate', 'Ctrl+D'], ['branch', 'Select all below it', 'Ctrl+Shift+↓'], ['focus-concept', 'Make it the focus', ''], ['add-stop', 'Add as a stop', 'Ctrl+Enter'], ['remove', 'Delete', 'Del']],
  link: [['rename', 'Change the phrase', 'F2'], ['insert', 'Put a concept in between', ''], ['reverse', 'Turn it round', ''], ['heads-one', 'One arrow', ''], ['heads-both', 'Arrows both ways', ''], ['heads-none', 'No arrow', ''], ['add-stop', 'Add as a stop', 'Ctrl+Enter'], ['remove', 'Delete', 'Del']],
  several: [['link-two', 'Link first to second', 'Ctrl+L'], ['merge-two', 'Merge into the first', ''], ['duplicate', 'Duplicate', 'Ctrl+D'], ['add-stop', 'Add as one stop', 'Ctrl+Enter'], ['remove', 'Delete', 'Del']],
  paper: [['add-here', 'New concept here', ''], ['fit', 'Show the whole map', 'f'], ['find', 'Find', '/'], ['undo', 'Undo', 'Ctrl+Z'], ['redo', 'Redo', 'Ctrl+Y'], ['keys', 'All keys', '?']],
};

/** @param {App} app */
export function listenForMenu(app) {
  const menu = /** @type {HTMLElement} */ (document.getElementById('menu'));
  const close = () => { menu.hidden = true; };
  /** @param {number} x @param {number} y */
  const open = (x, y) => {
    const only = app.chosen.only;
    const kind = app.chosen.list.length > 1 ? 'several' : only?.startsWith('c-') ? 'concept' : only ? 'link' : 'paper';
    menu.replaceChildren(...offers[kind].map(([what, words, key]) => {
      const item = document.createElement('button');
      item.type = 'button';
      item.role = 'menuitem';
      item.dataset.do = what;
      item.append(words);
      if (key) item.append(Object.assign(document.createElement('kbd'), { textContent: key }));
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
    app.hand.cancel();
    const el = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('[data-kind]'));
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
