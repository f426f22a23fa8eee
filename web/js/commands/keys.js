// @ts-check
// The keys of the paper.

import { barred } from '../sync/allowed.js';
import * as acts from './edits.js';
import { t } from '../sync/messages.js';

/** What this needs of the page. @typedef {Pick<import('../pages/main.js').App, 'aim' | 'announce' | 'back' | 'choose' | 'chosen' | 'desk' | 'discard' | 'do' | 'pointer' | 'kinds' | 'lead' | 'lens' | 'meaning' | 'model' | 'notice' | 'page' | 'pick' | 'places' | 'plain' | 'provisional' | 'reveal' | 'send' | 'settings' | 'sides' | 'tidy' | 'tuck' | 'view' | 'words'>} App */

const arrows = /** @type {Record<string, [number, number]>} */ ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] });

// With Ctrl and Shift: of one concept, and of a link or two linked concepts.
const ofConcept = { ArrowUp: 'tuck', ArrowDown: 'branch' };
const ofLink = { ArrowRight: 'heads-next', ArrowLeft: 'reverse', ArrowDown: 'insert', ArrowUp: 'second-link' };

/** @param {App} app */
export function listenToKeys(app) {
  let nudged = 0;
  /** @type {{ids: string[], places: Record<string, {x: number, y: number}>, by: {x: number, y: number}} | null} */
  let pending = null;
  // One press after another is one move, sent when the hand rests.
  const sendNudge = () => {
    clearTimeout(nudged);
    if (pending) app.send([{ do: 'move', places: pending.places }, ...acts.hiddenBy(app, pending.ids, pending.by)], []);
    pending = null;
  };
  /** @param {number} dx @param {number} dy */
  const nudge = (dx, dy) => {
    const ids = app.settings.branch ? [...new Set(app.chosen.concepts().flatMap((id) => app.model.branch(id)))] : app.chosen.concepts();
    if (barred(app)) return;
    if (!ids.length) return app.lead.nudge(dx, dy);
    if (pending && pending.ids.join() !== ids.join()) sendNudge();
    const by = { x: (pending?.by.x ?? 0) + dx * 8, y: (pending?.by.y ?? 0) + dy * 8 };
    pending = { ids, places: acts.move(app, ids, dx * 8, dy * 8), by };
    clearTimeout(nudged);
    nudged = window.setTimeout(sendNudge, 350);
  };

  app.desk.addEventListener('keydown', (e) => {
    if (e.target !== app.desk || e.isComposing) return;
    const only = app.chosen.only, concept = only?.startsWith('c-') ? only.slice(2) : null;
    const ctrl = e.ctrlKey || e.metaKey;
    if (app.aim.key(e)) { e.preventDefault(); return; }
    if ((app.tidy.on && (e.key === 'Enter' || e.key === 'Escape')) || (app.tidy.working && e.key === 'Escape')) {
      e.preventDefault();
      if (e.key === 'Enter') app.tidy.take();
      else app.tidy.leave();
      return;
    }
    if (!(arrows[e.key] && e.shiftKey)) sendNudge();
    const took = ctrl ? withControl(e) : arrows[e.key] ? arrow(e) : e.key === 'Escape' ? escape() : plain(e);
    if (took) e.preventDefault();

    /** @param {KeyboardEvent} e */
    function withControl(e) {
      if (app.plain && !['z', 'y', 'k'].includes(e.key.toLowerCase())) return false;
      switch (e.key.toLowerCase()) {
        case 'z': app.back(e.shiftKey ? 'redo' : 'undo'); return true;
        case 'y': app.back('redo'); return true;
        case 'a': app.chosen.set([...app.model.slips.keys()].map((id) => `c-${id}`)); return true;
        case 'k': app.do('link-two'); return true;
        case 'd': app.do('duplicate'); return true;
        case 'm': if (e.shiftKey) return false; app.do('merge'); return true;
        case 'enter': app.do('add-stop'); return true;
        case '.': if (concept) app.aim.open(concept); return true;
        case 'b': app.do('type-bold'); return true;
        case 'i': app.do('type-italic'); return true;
        case '>': app.do('type-larger'); return true;
        case '<': app.do('type-smaller'); return true;
      }
      if (!arrows[e.key]) return false;
      if (e.shiftKey) app.do(/** @type {Record<string, string>} */ (concept ? ofConcept : ofLink)[e.key] ?? '');
      else if (concept && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) acts.shiftLevel(app, concept, e.key === 'ArrowUp' ? 'up' : 'down');
      else if (concept) acts.rank(app, concept, e.key === 'ArrowLeft' ? -1 : 1);
      return true;
    }

    /** @param {KeyboardEvent} e */
    function arrow(e) {
      const [dx, dy] = arrows[e.key];
      if (!app.chosen.list.length) app.view.pan(-dx * 60, -dy * 60);
      else if (e.shiftKey) nudge(dx, dy);
      else {
        const slip = concept ? app.model.slips.get(concept) : app.model.slips.get(app.model.links.get(only?.slice(2) ?? '')?.[dx + dy > 0 ? 'to' : 'from'][0].concept ?? '');
        const next = concept && slip ? app.model.towards(slip, dx, dy, app.page.kept ? document.body.dataset.grows ?? '' : '') : slip;
        if (next) app.choose(`c-${next.id}`);
      }
      return true;
    }

    function escape() {
      if (app.pointer.gesture) app.pointer.cancel();
      else if (app.pick.wanted) app.pick.end();
      else if (document.body.classList.contains('paper-alone') && !app.chosen.list.length) app.do('paper-alone');
      else if (app.chosen.list.length) app.chosen.set([]);
      else if (app.lens.close()) app.announce(t('The whole map again.'));
      else {
        app.desk.blur();
        app.announce(t('Left the paper. Tab goes on through the page.'));
      }
      return true;
    }

    /** @param {KeyboardEvent} e */
    function plain(e) {
      if (e.altKey && /^Digit[1-9]$/.test(e.code) && app.chosen.list.length && !app.plain) {
        const links = !app.chosen.concepts().length, kind = app.kinds.filter((k) => !!k.links === links)[Number(e.code.slice(5)) - 1];
        if (kind) app.meaning.beOf(kind.id);
        return true;
      }
      if (e.altKey) return false;
      if (e.key === ' ' && only && !app.plain && app.model.get(only)?.el.querySelector('.badge, .picture, .rows-grid')) {
        app.do('open-attached');
        return true;
      }
      if (e.key === 'Home') {
        app.do('fit-chosen');
        return true;
      }
      if (!app.chosen.list.length) return unselected(e);
      switch (e.key) {
        case 'Tab':
          if (e.shiftKey || !concept) return false;
          acts.newLinked(app, concept);
          return true;
        case 'Enter':
          if (app.pick.wanted) return app.pick.take(only ?? '');
          if (concept) acts.newSibling(app, concept);
          else if (only) acts.changeWords(app);
          return true;
        case 'F2': acts.changeWords(app); return true;
        case 'Delete':
        case 'Backspace': app.do('remove'); return true;
      }
      // The character itself goes into the field, where it replaces the words.
      if (only && e.key.length === 1) acts.changeWords(app);
      return false;
    }

    /** @param {KeyboardEvent} e */
    function unselected(e) {
      switch (e.key) {
        case 'Tab': {
          if (e.shiftKey) return false;
          const first = [...app.model.slips.values()].sort((a, b) => Number(b.focus) - Number(a.focus))[0];
          if (first) app.choose(`c-${first.id}`);
          else app.do('add');
          return true;
        }
        case '+': case '=': app.view.zoom(1.25); return true;
        case '-': app.view.zoom(0.8); return true;
        case '0': app.do('zoom-one'); return true;
        case 'f': app.do('fit'); return true;
        case '/': app.do('find'); return true;
        case 's': app.do('say'); return true;
        case 'b': app.do('bring-back'); return true;
        case 't': app.do('tidy-again'); return true;
        case 'w': app.do('paper-alone'); return true;
        case '?': app.do('keys'); return true;
      }
      if (/^[1-9]$/.test(e.key)) {
        app.tuck.see({ level: Number(e.key) });
        return true;
      }
      return false;
    }
  });
}
