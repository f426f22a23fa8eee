// @ts-check
// The states in which a map was: the slider shows each as it is moved, and lets the map grow.

const slider = /** @type {HTMLInputElement} */ (document.getElementById('at'));
const drawing = /** @type {HTMLElement} */ (document.getElementById('drawing'));
const replay = /** @type {HTMLButtonElement} */ (document.getElementById('replay'));
const told = /** @type {HTMLOutputElement} */ (document.querySelector('.versions-slide output'));
const steps = 40, pace = 250;
let shown = slider.value, busy = false, running = 0;

/** Shows the state that the slider stands at; while one is on its way, the last that is asked for waits. */
async function show() {
  told.value = `${slider.value} / ${slider.max}`;
  if (busy || slider.value === shown) return;
  busy = true;
  const asked = slider.value;
  try {
    const response = await fetch(`${slider.dataset.drawing}?at=${asked}`);
    if (response.ok) drawing.innerHTML = await response.text();
    markTheirs();
    count();
  } catch { /* the next one shows it */ }
  shown = asked;
  busy = false;
  show();
}

function stop() {
  clearInterval(running);
  running = 0;
  replay.setAttribute('aria-pressed', 'false');
}

slider.addEventListener('input', () => { stop(); show(); });
slider.addEventListener('change', () => slider.form?.requestSubmit());
document.body.classList.add('scripted');
replay.hidden = false;
replay.addEventListener('click', () => {
  if (running) return stop();
  const most = Number(slider.max), theirs = revisions(), step = Math.max(1, Math.round((theirs?.length ?? most) / steps));
  let at = Number(slider.value) >= (theirs?.at(-1) ?? most) ? 0 : Number(slider.value);
  replay.setAttribute('aria-pressed', 'true');
  running = window.setInterval(() => {
    // By one person, it goes from one of their changes to the next.
    const next = theirs?.filter((r) => r > at).slice(0, step).at(-1);
    at = theirs ? next ?? most : Math.min(most, at + step);
    slider.value = String(at);
    show();
    if (at >= (theirs?.at(-1) ?? most)) stop();
  }, pace);
});
for (const [list, mark] of /** @type {const} */ ([['fresh', 'added'], ['altered', 'altered'], ['lost', 'lost']])) {
  for (const id of (drawing.dataset[list] ?? '').split(' ').filter(Boolean)) document.getElementById(id)?.classList.add(mark);
}

// How it grew lies over the slider, whose states are its width.
const growth = document.getElementById('growth'), figures = /** @type {HTMLDetailsElement | null} */ (document.getElementById('growth-figures'));
/** Says how large the map was in the state that is drawn. */
function count() {
  const counts = /** @type {HTMLDataElement | null} */ (document.getElementById('counts'))?.value.split(' ') ?? [];
  document.querySelectorAll('#growth-says b').forEach((b, i) => { b.textContent = counts[i] ?? ''; });
}
async function grow() {
  if (!growth || !figures) return;
  const response = await fetch(growth.dataset.from ?? '');
  if (!response.ok) return;
  growth.innerHTML = await response.text();
  const strip = /** @type {HTMLElement} */ (document.getElementById('growth-strip'));
  slider.before(strip);
  strip.addEventListener('click', (e) => {
    const r = /** @type {Element} */ (strip.firstElementChild).getBoundingClientRect();
    slider.value = String(Math.round((e.clientX - r.left) / r.width * Number(slider.max)));
    slider.form?.requestSubmit();
  });
  figures.lastElementChild?.replaceWith(/** @type {Element} */ (document.getElementById('growth-table')));
  growth.hidden = figures.hidden = false;
  count();
}
grow().catch(() => { /* the page does without */ });

const hand = /** @type {HTMLSelectElement | null} */ (document.getElementById('hand'));
const whose = () => hand?.selectedOptions[0];
/** The revisions of whoever is chosen; nothing for all. */
function revisions() {
  const list = whose()?.dataset.revisions;
  return list ? list.split(' ').map(Number) : undefined;
}
/** Marks what the one who is chosen put there. */
function markTheirs() {
  const made = new Set((whose()?.dataset.made ?? '').split(' ').filter(Boolean));
  drawing.classList.toggle('by-one', made.size > 0);
  for (const el of drawing.querySelectorAll('.slip, .link')) el.classList.toggle('made-by', made.has(el.id));
}
hand?.addEventListener('change', () => { stop(); markTheirs(); });
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape' && !e.isComposing) /** @type {HTMLElement | null} */ (document.getElementById('leave'))?.click();
});
