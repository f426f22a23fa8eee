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
  const most = Number(slider.max), step = Math.max(1, Math.round(most / steps));
  let at = Number(slider.value) >= most ? 0 : Number(slider.value);
  replay.setAttribute('aria-pressed', 'true');
  running = window.setInterval(() => {
    at = Math.min(most, at + step);
    slider.value = String(at);
    show();
    if (at >= most) stop();
  }, pace);
});
for (const id of (drawing.dataset.fresh ?? '').split(' ').filter(Boolean)) document.getElementById(id)?.classList.add('added');
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape' && !e.isComposing) /** @type {HTMLElement | null} */ (document.getElementById('leave'))?.click();
});
