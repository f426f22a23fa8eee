// @ts-check
// Fields of the margin that write to the map: what is typed is sent when the
// hand rests or leaves the field, and is never lost to a newer margin.

/** @typedef {import('./main.js').App} App */
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
    this.app.send([op], []);
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
