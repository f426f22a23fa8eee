// @ts-check
// The reading column: the map as text, always in step with the paper. Rows
// that did not change keep their element, and with it scroll and focus.

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'base' | 'chosen' | 'outline' | 'page' | 'sentences'>} App */

export class Column {
  /** @param {App} app */
  constructor(app) {
    this.app = app;
    this.el = /** @type {HTMLElement} */ (document.getElementById('column'));
    this.wanted = 0;
    this.asked = 0;
    /** What each row was made from. @type {WeakMap<Element, string>} */
    this.made = new WeakMap();
    /** @type {{ready: () => unknown, act: () => void}[]} */
    this.waiting = [];
  }

  get shown() { return this.app.page.column; }

  /** Fetches the map's text anew, soon. */
  refresh() {
    if (!this.shown) return;
    clearTimeout(this.wanted);
    this.wanted = window.setTimeout(async () => {
      const asked = ++this.asked;
      try {
        const response = await fetch(`${this.app.base}/column${this.app.sentences.query()}`);
        const html = await response.text();
        // An answer that was overtaken by a later one shows what was so before.
        if (response.ok && asked === this.asked) this.take(html);
      } catch { /* the state line says that the server is away */ }
    }, 60);
  }

  /** @param {string} html */
  take(html) {
    const fresh = document.createElement('template');
    fresh.innerHTML = html;
    if (!this.el.firstElementChild) this.el.append(fresh.content.cloneNode(true));
    for (const list of this.el.querySelectorAll('ul')) {
      const next = fresh.content.getElementById(list.id);
      if (next) this.patch(list, next);
    }
    this.mark(false);
    this.app.outline.drawn();
    this.waiting = this.waiting.filter(({ ready, act }) => { if (!ready()) return true; act(); return false; });
  }

  /** Does something once the column shows what it needs. @param {() => unknown} ready @param {() => void} act */
  when(ready, act) {
    if (ready()) act();
    else this.waiting = [{ ready, act }];
  }

  /** Makes a list like another, row by row. @private @param {Element} list @param {Element} next */
  patch(list, next) {
    /** @type {Map<string, Element>} */
    const old = new Map([...list.children].filter((row) => row.hasAttribute('data-key')).map((row) => [row.getAttribute('data-key') ?? '', row]));
    // A line that is being written stands among the others and is left alone.
    const onward = (/** @type {Element | null} */ row) => { while (row?.classList.contains('fresh-line')) row = row.nextElementSibling; return row; };
    let at = onward(list.firstElementChild);
    for (const row of [...next.children]) {
      const key = row.getAttribute('data-key') ?? '', html = row.outerHTML;
      let mine = old.get(key);
      old.delete(key);
      if (!mine) {
        mine = /** @type {Element} */ (row.cloneNode(true));
      } else if (this.made.get(mine) !== html && !mine.querySelector('.line-field')) {
        mine.innerHTML = row.innerHTML;
        for (const { name, value } of [...row.attributes]) mine.setAttribute(name, value);
      }
      if (!mine.querySelector('.line-field')) this.made.set(mine, html);
      // Rows that go are taken out first where they stand in the way, so that
      // those behind them need not move.
      while (at && at !== mine && !next.querySelector(`:scope > [data-key="${at.getAttribute('data-key')}"]`)) {
        const gone = at;
        at = onward(at.nextElementSibling);
        gone.remove();
      }
      if (at === mine) at = onward(at.nextElementSibling);
      else list.insertBefore(mine, at);
    }
    for (const row of old.values()) row.remove();
  }

  /** Marks what is selected. @param {boolean} reveal whether to bring it into view */
  mark(reveal) {
    if (!this.shown) return;
    for (const row of this.el.querySelectorAll('.here')) row.classList.remove('here');
    for (const element of this.app.chosen.list.slice(0, 200)) {
      const rows = this.el.querySelectorAll(`[data-element="${element}"]`);
      rows.forEach((row, i) => {
        row.classList.add('here');
        if (reveal && i === 0 && this.app.chosen.only && !this.el.contains(document.activeElement)) row.scrollIntoView({ block: 'nearest' });
      });
    }
  }

  /** @param {boolean} on */
  show(on) {
    this.app.page.column = on;
    if (on) this.refresh();
  }
}
