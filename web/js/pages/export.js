// @ts-check
// Exporting: the page works without scripts; with them making a file shows that it goes on and can be
// stopped, and pictures can be copied.

import { t } from '../sync/messages.js';

/** @param {string} id */
const get = (id) => document.getElementById(id);

/** Shows the buttons for which this browser has what they need. */
function dress() {
  const copy = get('copy-picture'), print = get('print-it');
  if (copy) copy.hidden = !(navigator.clipboard && 'ClipboardItem' in window);
  if (print) print.hidden = false;
}

/** Fetches a file, and says so where that takes long. @param {string} href @returns {Promise<Response | null>} null where it was stopped or refused */
async function made(href) {
  const making = /** @type {HTMLElement} */ (get('making')), stop = new AbortController();
  const button = Object.assign(document.createElement('button'), { type: 'button', className: 'button', textContent: t('Cancel') });
  button.addEventListener('click', () => stop.abort());
  making.textContent = '';
  const told = setTimeout(() => making.replaceChildren(document.createElement('progress'), t('The file is being made…'), button), 700);
  try {
    const response = await fetch(href, { signal: stop.signal, headers: { Accept: 'application/json' } });
    if (response.ok) return response;
    making.textContent = (await response.json()).error ?? t('That did not work.');
  } catch {
    clearTimeout(told);
    making.textContent = stop.signal.aborted ? t('Stopped. Nothing was saved.') : t('The connection is away. Please try again when it is back.');
    return null;
  } finally {
    clearTimeout(told);
    if (making.querySelector('progress')) making.textContent = '';
  }
  return null;
}

document.addEventListener('click', async (e) => {
  const target = /** @type {Element} */ (e.target), take = /** @type {HTMLAnchorElement | null} */ (get('take'));
  if (!take) return;
  if (target.closest('#take')) {
    e.preventDefault();
    const response = await made(take.href);
    if (!response) return;
    const blob = await response.blob(), a = document.createElement('a');
    a.href = URL.createObjectURL(blob);
    a.download = take.download;
    a.click();
    setTimeout(() => URL.revokeObjectURL(a.href), 60_000);
    /** @type {HTMLElement} */ (get('making')).textContent = t('“%s” is saved where this browser keeps what it loads.', take.download);
  }
  if (target.closest('#copy-picture')) {
    // The clipboard is asked for at once, within the press: some browsers close it while one waits.
    const response = made(take.href), picture = response.then((r) => r?.blob() ?? Promise.reject(new Error('refused')));
    try {
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': picture })]);
      /** @type {HTMLElement} */ (get('making')).textContent = t('The picture is copied.');
    } catch {
      if (await response) /** @type {HTMLElement} */ (get('making')).textContent = t('This browser does not let pictures be copied here. Save it instead.');
    }
  }
  if (target.closest('#print-it')) {
    const address = new URL(take.href);
    address.searchParams.set('format', 'pdf');
    const response = await made(address.href);
    if (!response) return;
    open(URL.createObjectURL(await response.blob()), '_blank');
  }
});
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape' && !e.isComposing) /** @type {HTMLElement | null} */ (get('leave'))?.click();
});
document.addEventListener('htmx:after:swap', dress);
dress();
