// What somebody who looks at the page sees of the map, as tests ask for it.
window.seen = {
  /** How many slips stand on the paper. */
  slips: () => document.querySelectorAll('#slips > g').length,
  /** The one thing that is selected, or null. */
  chosen: () => {
    const all = document.querySelectorAll('#desk [id].chosen');
    return all.length === 1 ? all[0].id : null;
  },
  /** How large the paper is shown: 1 for its actual size. */
  scale: () => new DOMMatrix(document.getElementById('layer').style.transform).a,
};
