// @ts-check
// What whoever has the page open may do with the map, as the server said in the page. It holds all else off itself.

/** One may say what one thinks of the map, and alter nothing. */
export const commenting = document.body.dataset.hand === 'comment';
