// @ts-check
// What whoever has the page open may do with the map, as the server said in the page. It holds all else off itself.

import { t } from './messages.js';

/** One may say what one thinks of the map, and alter nothing. */
export const commenting = document.body.dataset.hand === 'comment';

/** Tells whether one may say what one thinks of the map and alter nothing; it says what can be done instead. @param {Pick<import('../pages/main.js').App, 'chosen' | 'notice'>} app */
export function barred(app) {
  if (!commenting) return false;
  const on = app.chosen.only;
  app.notice(t('You can comment on this map, and suggest changes to whom it belongs to.'), { words: t('Suggest a change'), act: () => { location.href = `${document.body.dataset.base}/suggestions${on ? `?on=${on}` : ''}`; } });
  return true;
}
