// @ts-check
// The state of what stands around the paper: panels, switches, the menu, what is said in
// passing, the heading. Templates bind to it; the page's modules read and set it. Loaded
// before Alpine, which takes it up when it starts.

document.addEventListener('alpine:init', () => {
  const { Alpine } = window;

  /** Panels and tools of the head and the foot. */
  Alpine.store('page', /** @type {PageState} */ ({
    margin: true, column: false, phase: 'gather', found: 0,
    saved: document.getElementById('saved')?.textContent ?? '', trouble: false, undo: false, redo: false, reading: false, scale: '100 %', hints: '', finding: false, talking: false, colours: false, kept: document.body.dataset.kept === 'true', sheet: '', said: '', picking: '', trial: '', tried: false, lens: null,
  }));

  /** What this viewer has switched on or off about the page; kept in the browser. */
  const kept = ['branch', 'snap', 'grid', 'below', 'hints', 'overview', 'verdicts', 'names', 'talked'];
  Alpine.store('settings', {
    /** A dragged concept takes along what is below it. */
    branch: false,
    /** What is dragged snaps to its neighbours. */
    snap: true,
    /** A grid, shown and snapped to. */
    grid: false,
    /** What hangs from a concept follows when it is painted. */
    below: false,
    /** The hints at the foot of the paper. */
    hints: true,
    /** The small overview of large maps. */
    overview: true,
    /** Names stand at what others do. */
    names: true,
    /** Marks of what people said stand on the paper. */
    talked: true,
    /** What was judged stands on the paper while one checks. */
    verdicts: true,
    /** A tap adds to what is selected; for those without keys to hold. Not kept. */
    several: false,
    /** Dragging the paper draws a frame; not kept. */
    frame: false,
    init() {
      const all = /** @type {Record<string, any>} */ (this);
      try {
        const was = JSON.parse(localStorage.getItem('settings') ?? '{}');
        for (const name of kept) if (typeof was?.[name] === 'boolean') all[name] = was[name];
      } catch { /* as shipped */ }
      this.dress();
    },
    /** @param {string} name */
    toggle(name) {
      const all = /** @type {Record<string, any>} */ (this);
      if (typeof all[name] !== 'boolean') return;
      all[name] = !all[name];
      try { localStorage.setItem('settings', JSON.stringify(Object.fromEntries(kept.map((k) => [k, all[k]])))); } catch { /* for this visit only */ }
      this.dress();
    },
    dress() {
      document.body.classList.toggle('no-hints', !this.hints);
      document.body.classList.toggle('gridded', this.grid);
      document.body.classList.toggle('no-verdicts', !this.verdicts);
      document.body.classList.toggle('no-names', !this.names);
      document.body.classList.toggle('no-talk', !this.talked);
    },
  });

  /** What can be done here, where that was asked for. */
  Alpine.store('menu', { open: false, items: /** @type {MenuItem[]} */ ([]) });

  /** What is said in passing, the latest last. */
  Alpine.store('notices', {
    all: /** @type {Notice[]} */ ([]),
    /** @param {Notice} notice */
    add(notice) {
      const passing = this.all.filter((n) => !n.stays && n.words !== notice.words).slice(-2);
      this.all = [...this.all.filter((n) => n.stays || passing.includes(n)), notice];
    },
    /** @param {number} id */
    remove(id) { this.all = this.all.filter((n) => n.id !== id); },
  });

  /** The question of the map, which is changed where it stands. */
  Alpine.data('heading', () => ({
    question: '',
    title: '',
    editing: false,
    init() {
      this.question = this.$el.dataset.question ?? '';
      this.title = this.$el.dataset.title ?? '';
      window.addEventListener('mevrin:head', (e) => {
        const { question, title } = /** @type {CustomEvent} */ (e).detail;
        Object.assign(this, { question, title });
      });
      window.addEventListener('mevrin:ask', () => this.edit());
    },
    edit() {
      this.editing = true;
      const field = /** @type {HTMLInputElement} */ (this.$refs.field);
      field.value = this.question;
      this.$nextTick(() => { field.focus(); field.select(); });
    },
    done() {
      if (!this.editing) return;
      this.editing = false;
      const words = /** @type {HTMLInputElement} */ (this.$refs.field).value.trim();
      if (words === this.question) return;
      this.question = words;
      window.dispatchEvent(new CustomEvent('mevrin:asked', { detail: words }));
    },
    cancel() { this.editing = false; },
  }));

  /** The sheet of keys: what is typed into its field leaves only the lines that hold it. */
  Alpine.data('shortcuts', () => ({
    sought: '',
    count: '',
    none: false,
    seek() {
      const words = this.sought.trim().toLocaleLowerCase().split(/\s+/), sheet = this.$root;
      let n = 0;
      for (const line of sheet.querySelectorAll('dl > div')) {
        const text = (line.textContent ?? '').toLocaleLowerCase(), fits = words.every((w) => text.includes(w));
        line.toggleAttribute('hidden', !fits);
        if (fits) n++;
      }
      for (const dl of sheet.querySelectorAll('dl')) dl.previousElementSibling?.toggleAttribute('hidden', !dl.querySelector(':scope > div:not([hidden])'));
      this.count = words[0] && n ? String(n) : '';
      this.none = !!words[0] && !n;
    },
    clear() {
      this.sought = '';
      this.seek();
    },
  }));
});
