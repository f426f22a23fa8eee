// @ts-check
// The list of maps: what a page without scripts does as well, done quicker.

import { t } from '../sync/messages.js';

const file = /** @type {HTMLInputElement | null} */ (document.getElementById('file'));
document.body.classList.add('scripted');

file?.addEventListener('change', () => { if (file.files?.length) file.form?.requestSubmit(); });

// A file dropped anywhere on the page is opened.
addEventListener('dragover', (e) => { if (file && e.dataTransfer?.types.includes('Files')) e.preventDefault(); });
addEventListener('drop', (e) => {
  if (!file || !e.dataTransfer?.files.length) return;
  e.preventDefault();
  file.files = e.dataTransfer.files;
  file.form?.requestSubmit();
});

// Tab indents the lines of an outline; Escape lets Tab go on through the page.
const lines = /** @type {HTMLTextAreaElement | null} */ (document.getElementById('lines'));
let free = false;
lines?.addEventListener('focus', () => { free = false; });
lines?.addEventListener('keydown', (e) => {
  if (e.key === 'Escape') free = true;
  const outline = /** @type {HTMLInputElement | null} */ (document.querySelector('[name="begin"][value="outline"]'))?.checked;
  if (e.key !== 'Tab' || free || !outline) return;
  e.preventDefault();
  const { value, selectionStart, selectionEnd } = lines;
  const from = value.lastIndexOf('\n', selectionStart - 1) + 1;
  const block = value.slice(from, selectionEnd);
  const moved = e.shiftKey ? block.replace(/^( {1,4}|\t)/gm, '') : block.replace(/^/gm, '    ');
  lines.setSelectionRange(from, selectionEnd);
  // The browser's own undo takes it back, too.
  if (!document.execCommand('insertText', false, moved)) lines.setRangeText(moved);
  const shift = moved.length - block.length;
  const first = Math.max(from, selectionStart + (e.shiftKey ? -(/^( {1,4}|\t)/.exec(block)?.[0].length ?? 0) : 4));
  lines.setSelectionRange(selectionStart === selectionEnd ? first : from, selectionEnd + shift);
});

// What was done to a map is shown where it stands; what was refused, on a page of its own.
document.addEventListener('htmx:response:error', (e) => { if (e.target instanceof HTMLFormElement) e.target.submit(); });
document.addEventListener('htmx:after:swap', () => /** @type {HTMLElement | null} */ (document.querySelector('#told button, #told [tabindex]'))?.focus());

// What is chosen is moved, or put into the bin, together.
const several = () => /** @type {HTMLFormElement | null} */ (document.getElementById('several-form'));
const chosen = () => /** @type {HTMLInputElement[]} */ ([...document.querySelectorAll('.choose input:checked')]);
function showSeveral() {
  const form = several(), all = chosen();
  document.body.classList.toggle('choosing', all.length > 0);
  const count = form?.querySelector('.several-count');
  if (count) count.textContent = all.length ? t('%s chosen', all.length) : '';
  // Folders do not go into the bin: what is in them would be lost from sight.
  const bin = /** @type {HTMLButtonElement | null | undefined} */ (form?.querySelector('[value="bin"]'));
  if (bin) bin.disabled = all.some((one) => one.name === 'fold');
}
document.addEventListener('change', (e) => { if (/** @type {Element} */ (e.target).matches('.choose input')) showSeveral(); });
document.addEventListener('reset', (e) => { if (e.target === several()) setTimeout(() => { for (const one of chosen()) one.checked = false; showSeveral(); }); });
document.addEventListener('htmx:after:swap', showSeveral);
addEventListener('pageshow', showSeveral);

// M chooses what is focused, and asks where all that is chosen goes.
document.addEventListener('keydown', (e) => {
  const at = /** @type {HTMLElement} */ (e.target), on = /** @type {HTMLElement | null} */ (at.closest?.('[data-map], [data-fold]'));
  if (e.key.toLowerCase() !== 'm' || e.ctrlKey || e.metaKey || e.altKey || !on || at.matches('input:not([type="checkbox"]), textarea, select')) return;
  const form = several(), box = /** @type {HTMLInputElement | null} */ (on.querySelector('.choose input'));
  if (!form || !box) return;
  e.preventDefault();
  box.checked = true;
  showSeveral();
  /** @type {HTMLSelectElement} */ (form.elements.namedItem('into')).focus();
});

// A map or a folder that is dragged onto a folder goes there, with all that are chosen where it is one of them.
let dragged = { name: '', id: '' };
document.addEventListener('dragstart', (e) => {
  const on = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest?.('[data-map], [data-fold]'));
  if (!on || !e.dataTransfer) return;
  dragged = on.dataset.map ? { name: 'map', id: on.dataset.map } : { name: 'fold', id: on.dataset.fold ?? '' };
  e.dataTransfer.effectAllowed = 'move';
  e.dataTransfer.setData('text/plain', dragged.id);
  document.body.classList.add('dragging');
});
/** @param {DragEvent} e */
const under = (e) => dragged.id ? /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest?.('[data-into]')) : null;
document.addEventListener('dragover', (e) => {
  const into = under(e);
  for (const el of document.querySelectorAll('.taking')) if (el !== into) el.classList.remove('taking');
  if (!into || into.dataset.fold === dragged.id) return;
  e.preventDefault();
  into.classList.add('taking');
});
document.addEventListener('drop', (e) => {
  const into = under(e), form = several();
  if (!into || !form || into.dataset.fold === dragged.id) return;
  e.preventDefault();
  const one = /** @type {HTMLInputElement | undefined} */ ([...document.querySelectorAll('.choose input')].find((i) => /** @type {HTMLInputElement} */ (i).name === dragged.name && /** @type {HTMLInputElement} */ (i).value === dragged.id));
  if (!one) return;
  if (!one.checked) for (const other of chosen()) other.checked = false;
  one.checked = true;
  const select = /** @type {HTMLSelectElement} */ (form.elements.namedItem('into'));
  select.value = into.dataset.into ?? '';
  form.requestSubmit(/** @type {HTMLButtonElement} */ (form.querySelector('[value="file"]')));
});
document.addEventListener('dragend', () => {
  dragged = { name: '', id: '' };
  document.body.classList.remove('dragging');
  for (const el of document.querySelectorAll('.taking')) el.classList.remove('taking');
});

// A link to look at a map goes to the clipboard; where there is none it is shown to be copied by hand.
document.addEventListener('click', async (e) => {
  const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (e.target).closest('.copy-link'));
  if (!button) return;
  let words = t('The connection is away. Please try again when it is back.'), address = '';
  try {
    const response = await fetch(button.dataset.link ?? '', { method: 'POST' }), answer = await response.json();
    words = answer.said ?? answer.error ?? words;
    address = answer.address ?? '';
    if (address) await navigator.clipboard.writeText(address);
    address = '';
  } catch { /* said below */ }
  const told = document.createElement('p');
  told.className = 'banner';
  told.setAttribute('role', 'status');
  told.textContent = address ? t('Copy this link: whoever has it may look at the map, and no more.') : words;
  if (address) {
    const field = Object.assign(document.createElement('input'), { className: 'address', readOnly: true, value: address });
    field.setAttribute('aria-label', t('The address of the link'));
    told.append(field);
    setTimeout(() => field.select());
  }
  document.getElementById('told')?.replaceChildren(told);
  for (const m of menus()) m.open = false;
});

// A menu closes when another is opened, by Escape, and by a click elsewhere.
const menus = () => /** @type {NodeListOf<HTMLDetailsElement>} */ (document.querySelectorAll('.map-menu, .for-good'));
document.addEventListener('click', (e) => {
  for (const m of menus()) if (!m.contains(/** @type {Node} */ (e.target))) m.open = false;
});
document.addEventListener('keydown', (e) => {
  if (e.key !== 'Escape') return;
  if (![...menus()].some((m) => m.open)) several()?.reset();
  for (const m of menus()) {
    if (!m.open) continue;
    m.open = false;
    m.querySelector('summary')?.focus();
  }
});
