// @ts-check
// What is selected: elements (c-… and l-…) in the order in which they were.

export class Chosen {
  /** @param {() => void} changed @param {(id: string) => string[] | undefined} held what the box of a region holds */
  constructor(changed, held = () => undefined) {
    this.held = held;
    /** @type {string[]} */
    this.list = [];
    this.changed = changed;
  }

  /** @param {string[]} elements */
  set(elements) {
    if (elements.length === this.list.length && elements.every((e, i) => e === this.list[i])) return;
    for (const e of this.list) document.getElementById(e)?.classList.remove('chosen');
    this.list = elements;
    this.mark();
    this.changed();
  }

  /** Marks the elements again, after their drawing was replaced. */
  mark() {
    for (const e of this.list) document.getElementById(e)?.classList.add('chosen');
  }

  /** @param {string} element */
  toggle(element) { this.set(this.list.includes(element) ? this.list.filter((e) => e !== element) : [...this.list, element]); }

  /** The one thing selected, if it is one. */
  get only() { return this.list.length === 1 ? this.list[0] : null; }

  /** The concepts selected; for the box of a region, those that it holds. */
  concepts() { return [...new Set(this.list.filter((e) => e.startsWith('c-')).flatMap((e) => this.held(e.slice(2)) ?? [e.slice(2)]))]; }

  links() { return this.list.filter((e) => e.startsWith('l-')).map((e) => e.slice(2)); }
}
