// @ts-check
// Within a package for a learning platform: tells the platform how far somebody came. The body says by
// which standard: SCORM 1.2, SCORM 2004 or cmi5.

/** What a walk tells at each stop. @typedef {{at: number, of: number, last: boolean, id: string}} Stop */

const kind = document.body.dataset.report ?? '', began = Date.now();
/** @type {Set<number>} */
const seen = new Set();
let over = false;

/** The interface of the platform: in this window or one that holds it (SCORM 2004 RTE, 3.3). @param {string} name */
function found(name) {
  for (const first of [window, window.opener]) {
    /** @type {any} */
    let w = first;
    for (let n = 0; w && n < 10; n++) {
      try { if (w[name]) return w[name]; } catch { break; } // of another origin
      if (w.parent === w) break;
      w = w.parent;
    }
  }
  return null;
}

/** Seconds as hours, minutes and seconds. @param {number} s */
const clock = (s) => [Math.floor(s / 3600), Math.floor(s / 60) % 60, Math.floor(s % 60)].map((n) => String(n).padStart(2, '0')).join(':');

/** Which part of the stops was seen. @param {Stop} s */
const share = (s) => Math.min(1, seen.size / s.of);

/** How one standard is told. @typedef {{stop: (s: Stop) => void, answer: (id: string, words: string) => void, end: () => void, where: () => string, kept: () => string}} Way */

/** @returns {Way | null} */
function scorm12() {
  const api = found('API');
  if (!api) return null;
  api.LMSInitialize('');
  if (!['completed', 'passed'].includes(api.LMSGetValue('cmi.core.lesson_status'))) api.LMSSetValue('cmi.core.lesson_status', 'incomplete');
  let answers = 0;
  return {
    where: () => api.LMSGetValue('cmi.core.lesson_location'),
    kept: () => api.LMSGetValue('cmi.suspend_data'),
    stop(s) {
      api.LMSSetValue('cmi.suspend_data', [...seen].join(','));
      api.LMSSetValue('cmi.core.lesson_location', s.id);
      for (const [field, value] of [['min', 0], ['max', 100], ['raw', Math.round(100 * share(s))]]) api.LMSSetValue(`cmi.core.score.${field}`, String(value));
      if (s.last) api.LMSSetValue('cmi.core.lesson_status', 'completed');
      api.LMSCommit('');
    },
    answer(id, words) {
      const one = `cmi.interactions.${answers++}`;
      api.LMSSetValue(`${one}.id`, id);
      api.LMSSetValue(`${one}.type`, 'fill-in');
      api.LMSSetValue(`${one}.student_response`, words.slice(0, 255));
      api.LMSCommit('');
    },
    end() {
      api.LMSSetValue('cmi.core.session_time', clock((Date.now() - began) / 1000));
      api.LMSSetValue('cmi.core.exit', 'suspend');
      api.LMSFinish('');
    },
  };
}

/** @returns {Way | null} */
function scorm2004() {
  const api = found('API_1484_11');
  if (!api) return null;
  api.Initialize('');
  if (api.GetValue('cmi.completion_status') !== 'completed') api.SetValue('cmi.completion_status', 'incomplete');
  let answers = 0;
  return {
    where: () => api.GetValue('cmi.location'),
    kept: () => api.GetValue('cmi.suspend_data'),
    stop(s) {
      api.SetValue('cmi.suspend_data', [...seen].join(','));
      const part = share(s);
      api.SetValue('cmi.location', s.id);
      api.SetValue('cmi.progress_measure', part.toFixed(2));
      for (const [field, value] of [['min', '0'], ['max', '100'], ['raw', String(Math.round(100 * part))], ['scaled', part.toFixed(2)]]) api.SetValue(`cmi.score.${field}`, value);
      if (s.last) api.SetValue('cmi.completion_status', 'completed');
      api.Commit('');
    },
    answer(id, words) {
      const one = `cmi.interactions.${answers++}`;
      api.SetValue(`${one}.id`, id);
      api.SetValue(`${one}.type`, 'fill-in');
      api.SetValue(`${one}.learner_response`, words.slice(0, 250));
      api.Commit('');
    },
    end() {
      api.SetValue('cmi.session_time', `PT${Math.round((Date.now() - began) / 1000)}S`);
      api.SetValue('cmi.exit', 'suspend');
      api.Terminate('');
    },
  };
}

/** @returns {Way | null} */
function cmi5() {
  const asked = new URLSearchParams(location.search), endpoint = asked.get('endpoint');
  if (!endpoint) return null;
  const actor = JSON.parse(asked.get('actor') ?? '{}'), registration = asked.get('registration') ?? undefined, activity = asked.get('activityId') ?? '';
  const token = fetch(asked.get('fetch') ?? '', { method: 'POST' }).then((r) => r.json()).then((a) => a['auth-token'] ?? '');
  let done = false;
  const category = [{ id: 'https://w3id.org/xapi/cmi5/context/categories/cmi5' }];
  /** @param {string} verb @param {object} [result] @param {boolean} [ours] a statement of cmi5 itself */
  const say = async (verb, result, ours = true) => fetch(`${endpoint.replace(/\/$/, '')}/statements`, {
    method: 'POST', keepalive: true,
    headers: { 'Content-Type': 'application/json', 'X-Experience-API-Version': '1.0.3', Authorization: `Basic ${await token}` },
    body: JSON.stringify({ id: crypto.randomUUID?.() ?? String(Math.random()), timestamp: new Date().toISOString(), actor, verb: { id: verb, display: { en: verb.split('/').pop() } }, object: { id: activity, objectType: 'Activity' }, result, context: { registration, contextActivities: ours ? { category } : undefined } }),
  }).catch(() => null);
  const lasted = () => `PT${Math.round((Date.now() - began) / 1000)}S`;
  say('http://adlnet.gov/expapi/verbs/initialized');
  return {
    where: () => '',
    kept: () => '',
    stop(s) {
      const part = share(s);
      say('http://adlnet.gov/expapi/verbs/progressed', { extensions: { 'https://w3id.org/xapi/cmi5/result/extensions/progress': Math.round(100 * part) } }, false);
      if (s.last && !done) {
        done = true;
        say('http://adlnet.gov/expapi/verbs/completed', { completion: true, duration: lasted() });
      }
    },
    answer(id, words) { say('http://adlnet.gov/expapi/verbs/answered', { response: words, extensions: { 'urn:mevrin:stop': id } }, false); },
    end() { say('http://adlnet.gov/expapi/verbs/terminated', { duration: lasted() }); },
  };
}

/** @type {Record<string, () => Way | null>} */
const ways = { scorm12, scorm2004, cmi5 };
const way = ways[kind]?.() ?? null;
if (way) {
  // Whoever comes back has seen what they saw before (stops are kept by their places in the walk).
  for (const one of way.kept()?.split(',') ?? []) if (/^\d+$/.test(one)) seen.add(Number(one));
  const at = way.where();
  if (at && !location.hash) location.hash = at;
  document.addEventListener('mevrin:stop', (e) => {
    const s = /** @type {CustomEvent<Stop>} */ (e).detail;
    seen.add(s.at);
    way.stop(s);
  });
  // What somebody thinks before the answer is uncovered is kept as theirs.
  document.addEventListener('toggle', (e) => {
    const asks = /** @type {Element} */ (e.target).closest?.('.card-asks');
    if (asks && /** @type {HTMLDetailsElement} */ (e.target).open) way.answer(asks.closest('.card')?.id ?? '', /** @type {HTMLTextAreaElement | null} */ (asks.querySelector('textarea'))?.value ?? '');
  }, true);
  addEventListener('pagehide', () => { if (!over) { over = true; way.end(); } });
}
