// @ts-check
// What stands on the paper besides concepts and links: the key, which can be
// moved, folded and used, and the tabs of regions, by which all that is inside is
// taken hold of.


/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'chosen' | 'lens' | 'margin' | 'send' | 'settings' | 'showMargin' | 'view'>} App */
/** @typedef {import('./pointer.js').Gesture} Gesture */

/** Whether a press concerns the key or a region; if so, what comes of it. The
 * kind of gesture that the hand is to go on with, or nothing.
 * @param {App} app @param {Element} target @param {PointerEvent} e */
export function pressed(app, target, e) {
  const key = /** @type {HTMLElement | null} */ (target.closest('.paper-key'));
  if (key) return { kind: 'key', element: '', key, row: /** @type {HTMLElement | null} */ (target.closest('.key-row')) };
  const card = /** @type {HTMLElement | null} */ (target.closest('.small-card'));
  if (card) return { kind: 'card', element: '', card: card.dataset.stop ?? '' };
  const region = /** @type {HTMLElement | null} */ (target.closest('.region'));
  if (!region) return null;
  const badge = /** @type {HTMLElement | null} */ (target.closest('.badge'))?.dataset.mark;
  if (badge) return { kind: 'badge', element: '', region: region.dataset.id ?? '', badge };
  const inside = (region.dataset.inside ?? '').split(' ').map((id) => `c-${id}`);
  const fold = !!target.closest('.fold-sign, .fold-touch');
  if (!fold) {
    if (e.shiftKey || e.ctrlKey || e.metaKey || app.settings.several) app.chosen.set([...new Set([...app.chosen.list, ...inside])]);
    else app.chosen.set(inside);
  }
  return { kind: fold ? 'tab' : 'region', element: inside[0], region: region.dataset.id ?? '' };
}

/** A press on the key that became a drag: of the whole key by its head, of a kind
 * or tag onto a slip by its row. @param {App} app @param {Gesture} g @param {HTMLElement} key @param {HTMLElement | null} row */
export function dragKey(app, g, key, row) {
  if (row) return carry(app, g, row);
  const [x, y] = (key.dataset.box ?? '').split(' ').map(Number), k = app.view.k;
  const at = (/** @type {number} */ cx, /** @type {number} */ cy) => ({ x: Math.round(x + (cx - g.startX) / k), y: Math.round(y + (cy - g.startY) / k) });
  const put = (/** @type {{x: number, y: number}} */ p) => key.setAttribute('transform', `translate(${p.x} ${p.y})`);
  g.drag = (cx, cy) => put(at(cx, cy));
  g.drop = (cx, cy) => { app.send([{ do: 'place-key', at: at(cx, cy) }], []); };
  g.stop = () => put({ x, y });
}

/** Carries what a row of the key stands for onto a slip or a phrase. @param {App} app @param {Gesture} g @param {HTMLElement} row */
function carry(app, g, row) {
  const ghost = document.createElement('div');
  ghost.className = 'carried';
  ghost.textContent = row.querySelector('.key-words')?.textContent ?? '';
  document.body.append(ghost);
  const under = (/** @type {number} */ x, /** @type {number} */ y) => /** @type {HTMLElement | undefined} */ (document.elementsFromPoint(x, y).map((el) => /** @type {HTMLElement | null} */ (el.closest('#slips > .slip, #links > .link'))).find((el) => el));
  const unmark = () => { for (const el of document.querySelectorAll('.slip.target')) el.classList.remove('target'); };
  const end = () => { ghost.remove(); unmark(); };
  g.drag = (x, y) => {
    ghost.style.left = `${x}px`;
    ghost.style.top = `${y}px`;
    unmark();
    under(x, y)?.classList.add('target');
  };
  g.drop = (x, y) => {
    const el = under(x, y);
    end();
    if (el) give(app, row.dataset, el.id);
  };
  g.stop = end;
}

/** Gives a kind or a tag to an element, or to all selected where it is one of them.
 * @param {App} app @param {DOMStringMap} what @param {string} element */
export function give(app, what, element) {
  const many = app.chosen.list.includes(element);
  const ids = many ? app.chosen.concepts() : [element.slice(2)];
  if (what.tag) return app.send([{ do: 'assign-tag', concepts: ids, tag: what.tag, on: true }], []);
  if (element.startsWith('l-')) return app.send([{ do: 'assign-kind', links: many ? app.chosen.links() : ids, kind: what.kind ?? '' }], []);
  return app.send([{ do: 'assign-kind', concepts: ids, kind: what.kind ?? '' }], []);
}

/** A press on the key that stayed in its place: its head folds it, a row shows
 * what is of that kind alone. @param {App} app @param {HTMLElement} key @param {HTMLElement | null} row */
export function clickKey(app, key, row) {
  if (row) return app.lens.filter(row.dataset.tag ? `tag=${row.dataset.tag}` : `kind=${row.dataset.kind}`);
  app.send([{ do: 'place-key', folded: key.dataset.folded !== 'true' }], []);
}

/** Goes to where the title of a region is written. @param {App} app @param {string} region */
export async function titleRegion(app, region) {
  app.showMargin(true);
  const field = /** @type {HTMLInputElement | null} */ (await app.margin.reach(['regions'], `#region-${region}`));
  field?.focus();
  field?.select();
}
