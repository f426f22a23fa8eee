// @ts-check
// A note opened beside the slip that it belongs to, to be read there.

/** Room between the slip and the note, and between the note and the edge of the page, in pixels. */
const air = 10;

/** Shows the note that the margin has, beside an element of the paper. @param {HTMLElement} margin @param {Element} slip */
export function noteBeside(margin, slip) {
  const field = /** @type {HTMLTextAreaElement | null} */ (margin.querySelector('#note'));
  if (!field) return;
  const write = () => { field.scrollIntoView({ block: 'center' }); field.focus(); };
  if (!field.value.trim()) return write();
  const card = document.createElement('aside'), body = document.createElement('div'), edit = document.createElement('button');
  card.id = 'note-beside';
  card.popover = 'auto';
  card.setAttribute('aria-label', 'Note');
  card.tabIndex = -1;
  body.className = 'prose';
  const read = margin.querySelector('.note-read:has(~ .written #note)');
  // What needs no formatting is not sent a second time as markup.
  if (read) body.append(...read.cloneNode(true).childNodes);
  else body.append(Object.assign(document.createElement('p'), { textContent: field.value }));
  edit.type = 'button';
  edit.className = 'button';
  edit.textContent = 'Change it';
  edit.addEventListener('click', () => { card.hidePopover(); write(); });
  card.append(body, edit);
  // The paper moves from under it.
  document.getElementById('desk')?.addEventListener('wheel', () => card.isConnected && card.hidePopover(), { once: true, passive: true });
  card.addEventListener('toggle', (e) => { if (/** @type {ToggleEvent} */ (e).newState === 'closed') card.remove(); });
  document.getElementById('note-beside')?.remove();
  document.body.append(card);
  card.showPopover();
  const at = slip.getBoundingClientRect(), own = card.getBoundingClientRect(), right = at.right + air;
  const left = right + own.width + air <= innerWidth ? right : Math.max(air, at.left - air - own.width);
  card.style.left = `${left}px`;
  card.style.top = `${Math.max(air, Math.min(at.top, innerHeight - own.height - air))}px`;
  card.focus();
}
