// @ts-check
// Keys as the keyboard at hand names them: what is Ctrl elsewhere is Command on some,
// with a sign of its own.

const onMac = /Mac|iPhone|iPad/.test(globalThis.navigator?.platform ?? '');

/** A text with its keys as they are called here. @param {string} text @param {boolean} [mac] */
export const keyNames = (text, mac = onMac) => (mac ? text.replace(/\bCtrl( ?\+ ?)/g, '⌘$1').replace(/\bCtrl\b/g, 'Command') : text);

/** Lets tooltips, and the keys on the page, name them so; also those that come later.
 * @param {Document} page */
export function listenForKeyNames(page) {
  if (!onMac) return;
  const name = (/** @type {Element} */ el) => {
    const titled = el.closest('[title*="Ctrl"]');
    titled?.setAttribute('title', keyNames(titled.getAttribute('title') ?? ''));
  };
  const shown = () => { for (const el of page.querySelectorAll('.ctrl')) el.textContent = '⌘'; };
  for (const how of ['pointerover', 'focusin']) page.addEventListener(how, (e) => name(/** @type {Element} */ (e.target)));
  page.addEventListener('htmx:after:swap', shown);
  shown();
}
