// @ts-check
// What the page says, in the reader's language. A text is known by its key, which is how
// it reads in English; %s and %d are places for what it is about.

/** @typedef {{reads?: string, forms?: Record<string, string>}} Text */

/** The texts that read otherwise than their keys. @type {Record<string, Text>} */
let texts = {};
let rules = new Intl.PluralRules('en');

/** Takes the texts of a language. @param {Record<string, Text>} all @param {string} language */
export function speak(all, language) {
  texts = all;
  rules = new Intl.PluralRules(language);
}

/** A text of the catalogue; where it counts something, in the form for the first number.
 * @param {string} key @param {...(string | number | undefined)} args */
export function t(key, ...args) {
  const text = texts[key];
  let pattern = text?.reads ?? key;
  if (text?.forms) {
    const n = Number(args.find((a) => typeof a === 'number' || /^\d+$/.test(String(a))) ?? 0);
    pattern = text.forms[rules.select(n)] ?? text.forms.other ?? key;
  }
  let at = 0;
  return pattern.replace(/%(?:\[(\d+)\])?[sd%]/g, (place, which) => (place === '%%' ? '%' : String(args[which ? which - 1 : at++] ?? '')));
}

const own = globalThis.document?.querySelector('meta[name="texts"]');
if (own instanceof HTMLMetaElement) speak(JSON.parse(own.content), own.dataset.language ?? 'en');
