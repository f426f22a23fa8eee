// @ts-check
// Fields of the margin that write to the map: what is typed is sent when the
// hand rests or leaves the field, and is never lost to a newer margin.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'desk' | 'send'>} App */
/** @typedef {HTMLInputElement | HTMLTextAreaElement} Field */

const restAfter = 900;

export class Writing {
  /** @param {App} app @param {HTMLElement} margin */
  constructor(app, margin) {
    this.app = app;
    this.margin = margin;
    this.rest = 0;
    /** The field being written in, with words that are not sent yet. @type {Field | null} */
    this.open = null;
    const field = (/** @type {Event} */ e) => /** @type {Field} */ (e.target);
    margin.addEventListener('input', (e) => {
      if (field(e).matches('.keep')) this.keep(field(e));
      if (!field(e).matches('[data-write]')) return;
      this.open = field(e);
      clearTimeout(this.rest);
      this.rest = window.setTimeout(() => this.send(), restAfter);
    });
    margin.addEventListener('focusout', (e) => { if (e.target === this.open) this.send(); });
    margin.addEventListener('keydown', (e) => {
      if (!field(e).matches('input, textarea') || e.isComposing) return;
      if (e.key === 'Escape' || (e.key === 'Enter' && e.target instanceof HTMLInputElement)) {
        e.preventDefault();
        this.send();
        app.desk.focus({ preventScroll: true });
      }
    });
    margin.addEventListener('paste', (e) => { if (field(e).matches('textarea[data-write="set-note"]')) this.passage(/** @type {HTMLTextAreaElement} */ (e.target), e); });
    addEventListener('pagehide', () => this.send());
    this.restore('');
  }

  /** Sends what is typed. */
  send() {
    clearTimeout(this.rest);
    const f = this.open;
    this.open = null;
    if (!f) return;
    const { write, key, thing, thingId, source, field, id, part } = f.dataset;
    /** @type {Record<string, any>} */
    const op = { do: write, [key ?? 'words']: f.value };
    if (thingId) Object.assign(op, { on: { kind: thing, id: thingId }, id: source });
    else if (thing) op.on = { kind: { l: 'link', r: 'region', m: 'map' }[thing[0]] ?? 'concept', id: thing.slice(2) };
    if (field) op[field] = id;
    if (part) op.part = part;
    this.app.send([/** @type {Wire.Operation} */ (/** @type {unknown} */ (op))], []); // its control says which it is
  }

  /** Puts a passage of a page into a note with its links. Without them it is pasted as ever.
   * @private @param {HTMLTextAreaElement} note @param {ClipboardEvent} e */
  async passage(note, e) {
    const page = e.clipboardData?.getData('text/html') ?? '', words = e.clipboardData?.getData('text/plain') ?? '';
    if (!/<a\s[^>]*href/i.test(page)) return;
    e.preventDefault();
    const response = await fetch(`${this.app.base}/passage`, { method: 'POST', body: new URLSearchParams({ page }) }).catch(() => null);
    const text = response?.ok ? await response.text() : words;
    // As if it were typed, so that the field's own undo takes it back.
    note.focus();
    if (!document.execCommand('insertText', false, text)) note.setRangeText(text, note.selectionStart, note.selectionEnd, 'end');
    note.dispatchEvent(new Event('input', { bubbles: true }));
  }

  /** Puts signs around what is selected in the note, or where the cursor is. @param {HTMLElement} control */
  markUp(control) {
    const field = /** @type {HTMLTextAreaElement | null} */ (control.closest('section, details')?.querySelector('#note') ?? document.getElementById('note'));
    if (!field) return;
    const { selectionStart: from, selectionEnd: to, value } = field, chosen = value.slice(from, to), lineStart = value.lastIndexOf('\n', from - 1) + 1;
    const around = (/** @type {string} */ sign, /** @type {string} */ otherwise) => ({ text: sign + (chosen || otherwise) + sign, at: from, end: to, select: [sign.length, sign.length + (chosen || otherwise).length] });
    const block = (/** @type {string} */ text) => ({ text: (from && value[from - 1] !== '\n' ? '\n\n' : '') + text, at: from, end: to, select: [text.length, text.length] });
    const lead = (/** @type {string} */ sign) => ({ text: value.slice(lineStart, to).split('\n').map((l) => sign + l).join('\n'), at: lineStart, end: to, select: [sign.length, sign.length] });
    /** @type {Record<string, () => {text: string, at: number, end: number, select: number[]}>} */
    const ways = {
      bold: () => around('**', 'words'), italic: () => around('*', 'words'), formula: () => around('$', 'f = v/lambda'), heading: () => lead('# '), list: () => lead('- '),
      link: () => ({ text: `[${chosen || 'words'}](https://)`, at: from, end: to, select: [1, 1 + (chosen || 'words').length] }),
      table: () => block('| part | of |\n| --- | --- |\n| rim | bronze |\n'),
    };
    const made = ways[control.dataset.mark ?? '']?.();
    if (!made) return;
    field.focus();
    field.setRangeText(made.text, made.at, made.end);
    field.setSelectionRange(made.at + made.select[0], made.at + made.select[1]);
    field.dispatchEvent(new Event('input', { bubbles: true }));
  }

  /** Keeps a field's words in the browser, for as long as they are on the way to
   * nowhere yet. @param {Field} f */
  keep(f) {
    try { localStorage.setItem(`${f.id}:${this.app.base}`, f.value); } catch { /* kept for this visit only */ }
  }

  /** The field that has the keyboard, which a newer margin must not take away. */
  held() {
    const f = /** @type {Field | null} */ (document.activeElement);
    return f?.id && this.margin.contains(f) && f.matches('input, textarea') ? f.id + (f.dataset.id ?? f.dataset.thing ?? '') : '';
  }

  /** Takes up a newer margin. Words typed into a field that it keeps are kept
   * with it. @param {string} held */
  restore(held) {
    for (const f of /** @type {NodeListOf<Field>} */ (this.margin.querySelectorAll('input, textarea'))) {
      if (f.matches('.keep')) {
        try { f.value = localStorage.getItem(`${f.id}:${this.app.base}`) ?? ''; } catch { /* nothing was kept */ }
      }
      if (held && f.id + (f.dataset.id ?? f.dataset.thing ?? '') === held && document.activeElement === document.body) f.focus({ preventScroll: true });
    }
  }
}
