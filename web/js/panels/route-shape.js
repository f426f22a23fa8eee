// @ts-check
// How the ways of a route run beside the list of its stops, where it divides. The server says which
// way takes which lane; here it is measured where the rows lie.

const lane = 7, top = 17;

/** Draws the shape that an SVG names, in the room to the left of its list.
 * @param {SVGSVGElement} svg */
export function drawShape(svg) {
  const list = document.getElementById(svg.dataset.list ?? '');
  /** @type {{from: string, to: string, lane: number}[]} */
  const bends = JSON.parse(svg.dataset.shape || '[]');
  svg.replaceChildren();
  svg.toggleAttribute('hidden', !bends.length);
  if (!list || !bends.length) return;
  const lanes = Math.max(...bends.map((b) => b.lane)), wide = lanes * lane + 8, row = (/** @type {string} */ id) => /** @type {HTMLElement | null} */ (list.querySelector(`[data-stop="${CSS.escape(id)}"]`));
  list.style.paddingLeft = `${wide}px`;
  const draw = () => {
    const zero = list.getBoundingClientRect().top, at = (/** @type {string} */ id) => (row(id)?.querySelector('.grip, .number')?.getBoundingClientRect().top ?? NaN) - zero + top;
    svg.replaceChildren();
    svg.setAttribute('width', String(wide));
    svg.setAttribute('height', String(list.offsetHeight));
    const add = (/** @type {string} */ d, /** @type {string} */ cls) => {
      const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
      path.setAttribute('d', d);
      path.setAttribute('class', cls);
      svg.append(path);
    };
    for (const b of bends) {
      const from = at(b.from), to = at(b.to), x = wide - 4 - b.lane * lane, edge = wide;
      if (Number.isNaN(from) || Number.isNaN(to)) continue;
      const down = to > from ? 5 : -5;
      add(b.lane ? `M${edge} ${from + 3}H${x + 5}Q${x} ${from + 3} ${x} ${from + 3 + down}V${to - 3 - down}Q${x} ${to - 3} ${x + 5} ${to - 3}H${edge - 2}` : `M${edge - 4} ${from + 8}V${to - 9}`, 'way');
      add(b.lane ? `M${edge} ${to - 3}l-5 -3v6z` : `M${edge - 4} ${to - 6}l-3 -5h6z`, 'tip');
    }
  };
  draw();
  // A card that opens, or a margin that grows wider, moves the rows.
  const watch = new ResizeObserver(() => { if (svg.isConnected) draw(); else watch.disconnect(); });
  watch.observe(list);
}
