// What somebody who looks at the page sees of the map, as tests ask for it: read from
// what is drawn, never from the page's own objects.
window.seen = (() => {
  const numbers = (text) => (text ?? '').split(' ').map(Number);
  const boxed = (text) => { const [x, y, w, h] = numbers(text); return { x, y, w, h }; };
  const ends = (text) => (text ? text.split(' ').map((e) => { const [id, concept] = e.split(':'); return { id, concept }; }) : []);
  // A slip that waits for the server is drawn without what the server says of it.
  const around = (el) => { const r = el.querySelector('.body, .prov-gap').getBBox(), [x, y] = (el.getAttribute('transform')?.match(/-?[\d.]+/g) ?? [0, 0]).map(Number); return { x: r.x + x, y: r.y + y, w: r.width, h: r.height }; };
  const words = (el, cls) => {
    const text = el.querySelector(`.${cls}`);
    return el.dataset.words ?? (!text ? '' : text.childElementCount ? [...text.children].map((t) => t.textContent).join(' ') : text.textContent);
  };
  const all = (selector) => [...document.querySelectorAll(`#desk g[data-id]${selector}`)];
  const concept = (el) => ({ el, id: el.dataset.id, words: words(el, 'noun'), box: el.dataset.box ? boxed(el.dataset.box) : around(el), hides: el.dataset.hides?.split(' ') ?? [], under: el.dataset.main?.split(' ')[3] ?? '', provisional: el.classList.contains('provisional') });
  const link = (el) => ({
    el, id: el.dataset.id, words: words(el, 'verb'), says: el.getAttribute('aria-label'), gap: el.dataset.gap ? boxed(el.dataset.gap) : around(el),
    from: ends(el.dataset.from), to: ends(el.dataset.to), heads: el.dataset.heads ?? 'one', line: el.dataset.line ?? '',
    bends: (el.dataset.bends?.split(';') ?? []).flatMap((part) => part.split(':')[1].split(',').map((p) => { const [x, y] = numbers(p); return { x, y }; })),
  });
  const seen = {
    /** What of that which a stop speaks of cannot be read whole: beyond the edge of the window
     * onto the paper, or with words lower than 12 pixels. @param among by default what is marked */
    cutOff: (among = [...document.querySelectorAll('#desk :is(.slip, .link).meant:not(.hid)')]) => {
      const desk = document.getElementById('desk').getBoundingClientRect();
      const room = { left: Math.max(0, desk.left), top: Math.max(0, desk.top), right: Math.min(innerWidth, desk.right), bottom: Math.min(innerHeight, desk.bottom) };
      return among.flatMap((g) => {
        const words = g.querySelector('.noun, .verb'), r = (g.querySelector('.body') ?? words ?? g).getBoundingClientRect();
        const out = r.left < room.left - 1 || r.right > room.right + 1 || r.top < room.top - 1 || r.bottom > room.bottom + 1;
        const size = words ? parseFloat(getComputedStyle(words).fontSize) * seen.scale() : 99;
        return out ? [`${g.id} is cut off`] : size < 11.9 ? [`${g.id} has words of ${size.toFixed(1)} px`] : [];
      });
    },
    /** Whether the paper has come to where it glides. */
    arrived: () => {
      const layer = document.getElementById('layer'), is = new DOMMatrix(getComputedStyle(layer).transform), to = new DOMMatrix(layer.style.transform);
      return Math.hypot(is.e - to.e, is.f - to.f) < 1 && Math.abs(is.a - to.a) < 0.002;
    },
    /** How many slips stand on the paper. */
    slips: () => document.querySelectorAll('#slips > g').length,
    /** The concepts on the paper; boxes are in units of the paper. */
    concepts: () => all('[data-kind="concept"]').map(concept),
    /** The links on the paper. */
    links: () => all('[data-kind="link"]').map(link),
    /** The concept with a label, or undefined. */
    concept: (label) => seen.concepts().find((c) => c.words === label),
    /** The link with a phrase, or undefined. */
    link: (phrase) => seen.links().find((l) => l.words === phrase),
    /** What is drawn as c-… or l-…, or undefined. */
    at: (element) => { const el = document.getElementById(element ?? ''); return el?.dataset.kind === 'concept' ? concept(el) : el?.dataset.kind === 'link' ? link(el) : undefined; },
    /** Everything that is marked as selected. */
    marked: () => [...document.querySelectorAll('#desk [id].chosen')].map((el) => el.id),
    /** The one thing that is selected, or null. */
    chosen: () => { const marked = seen.marked(); return marked.length === 1 ? marked[0] : null; },
    /** How far the paper is moved, in pixels, and its scale. */
    place: () => { const m = new DOMMatrix(document.getElementById('layer').style.transform); return { x: m.e, y: m.f, k: m.a }; },
    /** How large the paper is shown: 1 for its actual size. */
    scale: () => seen.place().k,
    /** A place of the window as a place of the paper. */
    onPaper: (x, y) => { const r = document.getElementById('desk').getBoundingClientRect(), p = seen.place(); return { x: (x - r.left - p.x) / p.k, y: (y - r.top - p.y) / p.k }; },
    /** A place of the paper as a place of the window. */
    inWindow: (x, y) => { const r = document.getElementById('desk').getBoundingClientRect(), p = seen.place(); return { x: x * p.k + p.x + r.left, y: y * p.k + p.y + r.top }; },
    /** Whether any slip is within the part of the paper that is shown. */
    inSight: () => { const d = document.getElementById('desk').getBoundingClientRect(); return seen.concepts().some((c) => { const r = c.el.getBoundingClientRect(); return r.right > d.left && r.left < d.right && r.bottom > d.top && r.top < d.bottom; }); },
    /** Whether the paper has come to rest. */
    still: () => !document.querySelector('#layer:is([data-moves], .anew)'),
    /** Whether nothing glides to its place any more. */
    calm: () => !document.getAnimations().some((a) => a.playState === 'running' && a.effect?.target?.closest?.('#desk')),
    /** Whether all that was done is saved. */
    saved: () => document.getElementById('saved').textContent.startsWith('Saved'),
    /** Whether the margin shows what is so now. */
    told: () => !document.querySelector('#margin[aria-busy]'),
    /** Does something to the map as another window would, and waits until it is seen here. */
    elsewhere: async (operations) => {
      const response = await fetch(`${document.body.dataset.base}/entries`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ id: `e${Math.random()}`.replace('.', ''), window: 'elsewhere', seen: Number(document.body.dataset.revision), operations }) });
      const { revision, error } = await response.json();
      if (!response.ok) throw new Error(error);
      while (Number(document.body.dataset.revision) < revision) await new Promise((r) => { requestAnimationFrame(r); });
      return true;
    },
    /** The pattern that is tried out, '' for that of what a branch hangs from, or null. */
    tried: () => (document.querySelector('#trial:not([hidden]) .main:not([hidden])') ? document.querySelector('.pattern[aria-pressed="true"]')?.dataset.pattern ?? '' : null),
    /** On which side of an element its knot stands, or ''. */
    knot: (element) => {
      const h = document.querySelector('.pull-handle[visibility="visible"] .dot')?.getBoundingClientRect(), el = document.getElementById(element ?? ''), r = el?.querySelector('.body, .gap, .prov-gap')?.getBoundingClientRect();
      if (!h || !r) return '';
      const x = h.x + h.width / 2, y = h.y + h.height / 2, near = 30;
      if (x < r.left - near || x > r.right + near || y < r.top - near || y > r.bottom + near) return '';
      const off = { above: r.top - y, below: y - r.bottom, left: r.left - x, right: x - r.right };
      return Object.keys(off).reduce((a, b) => (off[b] > off[a] ? b : a));
    },
  };
  return seen;
})();
