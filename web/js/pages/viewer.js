// @ts-check
// Opens what is attached in place: pictures full window, sounds and films played
// clean of anything foreign, addresses shown before one goes there.

import { t } from '../sync/messages.js';

/** Whether the owner allows what lies at an address to be shown in place. @param {string} url */
function allowed(url) {
  try {
    const at = new URL(url);
    return at.protocol === 'https:' && (document.body.dataset.films ?? '').split(' ').includes(at.host);
  } catch {
    return false;
  }
}

/** Opens a source in place: what can be shown is shown, and closing leads back.
 * @param {HTMLDialogElement} viewer @param {string} base the address of what files belong to @param {DOMStringMap} s */
export function view(viewer, base, s) {
  const href = !s.href ? '' : s.href.startsWith('data:') ? s.href : `${base}/${s.href}`; // it may be in the page itself
  const title = `<h2 id="viewer-title"></h2>`;
  const elsewhere = s.kind === 'web', inPlace = elsewhere && allowed(s.url ?? ''), shown = inPlace ? s.leads : s.kind;
  const body = shown === 'picture' ? '<img alt="">' : shown === 'sound' ? '<audio controls autoplay></audio>' : shown === 'video' ? '<video controls autoplay></video>' : '<p class="viewer-address"></p>';
  viewer.innerHTML = `<form method="dialog" class="viewer-head">${title}<button class="tool close" aria-label="${t('Close (Escape)')}">×</button></form><div class="viewer-body">${body}</div><p class="viewer-says"></p><div class="dialog-actions"></div>`;
  /** @type {HTMLElement} */ (viewer.querySelector('h2')).textContent = s.name ?? '';
  /** @type {HTMLElement} */ (viewer.querySelector('.viewer-says')).textContent = [s.says, s.licence && `Licence: ${s.licence}`].filter((w) => w).join(' · ');
  const media = /** @type {HTMLImageElement | HTMLMediaElement | null} */ (viewer.querySelector('img, audio, video'));
  if (media) {
    media.src = inPlace ? s.url ?? '' : href;
    if (inPlace && media instanceof HTMLImageElement) media.referrerPolicy = 'no-referrer';
    if (media instanceof HTMLImageElement) media.alt = s.says || s.name || '';
  }
  const actions = /** @type {HTMLElement} */ (viewer.querySelector('.dialog-actions'));
  const link = (/** @type {string} */ to, /** @type {string} */ words) => {
    const a = document.createElement('a');
    a.className = 'button main';
    a.href = to;
    a.target = '_blank';
    a.rel = 'noopener noreferrer nofollow';
    a.textContent = words;
    actions.append(a);
  };
  const says = viewer.querySelector('.viewer-address');
  if (inPlace && says) {
    const frame = document.createElement('iframe');
    Object.assign(frame, { src: s.url, title: s.name ?? '', referrerPolicy: 'no-referrer', allowFullscreen: true });
    says.replaceWith(frame);
  } else if (elsewhere) {
    if (says) says.textContent = s.url ?? '';
    link(s.url ?? '', says ? { picture: t('Look at the picture, in a new tab'), sound: t('Hear it, in a new tab'), video: t('See the film, in a new tab'), file: t('Read it, in a new tab') }[s.leads ?? ''] ?? t('Go there, in a new tab') : t('Go there, in a new tab'));
  } else if (s.kind === 'cite' && says) says.textContent = s.name ?? '';
  else if (s.kind === 'file') {
    if (says) says.textContent = s.type ?? '';
    link(href, s.type === 'application/pdf' ? t('Read it') : t('Save it'));
  }
  viewer.classList.toggle('full', shown === 'picture' || shown === 'video' || !!viewer.querySelector('iframe'));
  viewer.showModal();
}
