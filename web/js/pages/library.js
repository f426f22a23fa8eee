// @ts-check
// The list of maps: what a page without scripts does as well, done quicker.

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

// A menu closes when another is opened, by Escape, and by a click elsewhere.
const menus = () => /** @type {NodeListOf<HTMLDetailsElement>} */ (document.querySelectorAll('.map-menu, .for-good'));
document.addEventListener('click', (e) => {
  for (const m of menus()) if (!m.contains(/** @type {Node} */ (e.target))) m.open = false;
});
document.addEventListener('keydown', (e) => {
  if (e.key !== 'Escape') return;
  for (const m of menus()) {
    if (!m.open) continue;
    m.open = false;
    m.querySelector('summary')?.focus();
  }
});
