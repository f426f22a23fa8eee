// @ts-check
// Parts of a page that come as markup are brought up to date where they changed: what is the same keeps
// its place, its focus, and what was drawn in it.

/** @param {Element} el @returns {boolean} whether what is typed there could stand beside other words */
const typed = (el) => el.matches('form, textarea, select, input');

/** Makes what stands in the page, which came as one markup, what another says.
 * @param {ChildNode} live @param {Node} was what it came as @param {Node} now */
export function renew(live, was, now) {
  const form = live instanceof Element && typed(live);
  if (was.isEqualNode(now) && !(form && !live.contains(document.activeElement))) {
    if (!(live instanceof Element) || !live.querySelector('form')) return;
  }
  if (live.nodeName !== now.nodeName || was.nodeName !== now.nodeName || form) {
    live.replaceWith(now.cloneNode(true));
    return;
  }
  if (live instanceof CharacterData) {
    live.data = now.nodeValue ?? '';
    return;
  }
  if (live instanceof Element && was instanceof Element && now instanceof Element) {
    for (const name of new Set([...was.getAttributeNames(), ...now.getAttributeNames()])) {
      const value = now.getAttribute(name);
      if (was.getAttribute(name) === value) continue; // what the page itself set stays
      if (value === null) live.removeAttribute(name);
      else live.setAttribute(name, value);
    }
  }
  renewAll(/** @type {Element} */ (live), was, now);
}

/** The same for all that is in something. @param {Element} live @param {Node} was @param {Node} now */
export function renewAll(live, was, now) {
  const here = [...live.childNodes], before = [...was.childNodes], next = [...now.childNodes];
  if (here.length !== before.length || before.length !== next.length) live.replaceChildren(...next.map((n) => n.cloneNode(true)));
  else here.forEach((n, i) => renew(n, before[i], next[i]));
}
