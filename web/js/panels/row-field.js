// @ts-check
// A field in a line of the reading column, where words are changed in place.

import { limits } from '../sync/limits.js';

/** @typedef {'done' | 'next' | 'in' | 'out' | 'none'} How */

/** Opens a field in the stead of something. @param {HTMLElement} el @param {string} value @param {string} cls @param {string} label @param {(words: string, how: How) => void} done */
export function lineField(el, value, cls, label, done) {
  const field = document.createElement('input');
  field.className = `line-field ${cls}`;
  field.value = value;
  field.maxLength = cls === 'verb-words' ? limits.phrase : limits.label;
  field.setAttribute('aria-label', label);
  field.lang = document.documentElement.lang;
  field.spellcheck = true;
  el.hidden = true;
  el.after(field);
  field.focus();
  field.select();
  let open = true;
  const end = (/** @type {How} */ how) => {
    if (!open) return;
    open = false;
    el.hidden = false;
    field.remove();
    done(field.value.trim(), how);
  };
  field.addEventListener('keydown', (e) => {
    if (e.isComposing) return;
    e.stopPropagation();
    const how = /** @type {How | undefined} */ (e.key === 'Enter' ? 'next' : e.key === 'Escape' ? 'none' : e.key === 'Tab' ? (e.shiftKey ? 'out' : 'in') : undefined);
    if (!how) return;
    e.preventDefault();
    end(how);
  });
  field.addEventListener('blur', () => end('done'));
  return field;
}
