// @ts-check
// The room screen: the map and the card, as whoever guides shows them.

import { Stage, follow } from '../paper/stage.js';
import { t } from '../sync/messages.js';

const base = document.body.dataset.base ?? '';
const told = /** @type {HTMLElement} */ (document.getElementById('told'));
const stage = new Stage(base);
let lost = 0;

const line = follow(`${base}/live`, (frame) => {
  if (frame.ended) {
    document.body.classList.add('over');
    told.textContent = t('The presentation is over.');
  } else if ('version' in frame) stage.show(frame);
  else stage.spot(frame.spot);
}, (away) => {
  clearTimeout(lost);
  // A moment without a connection is nobody's business.
  if (away) lost = window.setTimeout(() => { told.textContent = t('The connection is away. It is sought again.'); }, 3000);
  else told.textContent = '';
}, async () => {
  const response = await fetch(base, { headers: { Accept: 'application/json' } }).catch(() => null);
  document.body.classList.add('over');
  told.textContent = response && !response.ok ? (await response.json()).error : t('The presentation is over.');
});

Object.assign(window, { room: { stage, line } });
