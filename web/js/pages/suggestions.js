// @ts-check
// What people would alter on a map: what differs is marked on the paper, and the form asks for what it needs.

const drawing = /** @type {HTMLElement} */ (document.getElementById('drawing'));
for (const [list, mark] of /** @type {const} */ ([['fresh', 'added'], ['altered', 'altered'], ['lost', 'lost']])) {
  for (const id of (drawing.dataset[list] ?? '').split(' ').filter(Boolean)) document.getElementById(id)?.classList.add(mark);
}

document.body.classList.add('scripted');
document.addEventListener('keydown', (e) => {
  const target = /** @type {Element} */ (e.target);
  if (e.key === 'Escape' && !e.isComposing && !target.matches('input, textarea, select')) /** @type {HTMLElement | null} */ (document.getElementById('leave'))?.click();
});

// Whoever has no account is known by the name that they gave the last time in this browser.
for (const field of /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll('.comment-name'))) {
  try { field.value ||= localStorage.getItem('name') ?? ''; } catch { /* not kept here */ }
  field.addEventListener('input', () => { try { localStorage.setItem('name', field.value); } catch { /* for this visit only */ } });
}
export {}; // a module, with names of its own
