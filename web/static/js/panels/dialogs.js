// @ts-check
// Dialogs whose content the server sends: their fields say in attributes what is fetched,
// where it goes, and when; "shown" is when the dialog is opened.

/** Opens a dialog with its fields empty, and fetches what it offers. @param {HTMLDialogElement} dialog */
export function showDialog(dialog) {
  for (const form of dialog.querySelectorAll('form')) form.reset();
  dialog.showModal();
  for (const el of dialog.querySelectorAll('[hx-get]')) el.dispatchEvent(new Event('shown'));
}

/** Tells where something could not be fetched. @param {(words: string) => void} tell @param {string} words */
export function tellOfFaults(tell, words) {
  for (const what of ['htmx:error', 'htmx:response:error']) document.addEventListener(what, (e) => { if (/** @type {Element} */ (e.target).closest?.('dialog')) tell(words); });
}
