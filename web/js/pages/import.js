// @ts-check
// Looking at files before they are taken: other wishes show at once what they would make.

const form = /** @type {HTMLFormElement | null} */ (document.getElementById('import'));

form?.addEventListener('change', (e) => {
  if (!/** @type {Element} */ (e.target).matches('[data-wish]')) return;
  const asked = new URLSearchParams(location.search);
  asked.delete('file'); // the page may answer a form, and have no address of its own
  for (const file of /** @type {NodeListOf<HTMLInputElement>} */ (form.querySelectorAll('[name="file"]'))) asked.append('file', file.value);
  for (const field of /** @type {NodeListOf<HTMLInputElement | HTMLSelectElement>} */ (form.querySelectorAll('[data-wish]'))) {
    asked.delete(field.name);
    if (!(field instanceof HTMLInputElement) || field.checked) asked.set(field.name, field.value);
  }
  location.search = asked.toString();
});
addEventListener('dragover', (e) => { if (document.getElementById('files')) e.preventDefault(); });
addEventListener('drop', (e) => {
  const files = /** @type {HTMLInputElement | null} */ (document.getElementById('files'));
  if (!files || !e.dataTransfer?.files.length) return;
  e.preventDefault();
  files.files = e.dataTransfer.files;
  files.form?.requestSubmit();
});
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape' && !e.isComposing) /** @type {HTMLElement | null} */ (document.getElementById('leave'))?.click();
});
