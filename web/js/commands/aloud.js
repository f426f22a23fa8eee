// @ts-check
// Reading aloud by the browser's own voice, sentence by sentence; what is being
// read is marked.

import { t } from '../sync/messages.js';

/** @typedef {{words: string, elements: string[]}} Spoken */

/** How long a voice may take to begin, in ms, before it is taken to be missing. */
const patience = 5000;

export class Aloud {
  /** Mark is told what is read, which sentence that is, and from where to where its word goes, where the voice tells.
   * @param {{mark: (elements: string[], at?: number, from?: number, to?: number) => void, state: (reading: boolean) => void, failed: (words: string) => void}} on */
  constructor(on) {
    this.on = on;
    this.reading = false;
    /** Tells one reading from those before it. */
    this.turn = 0;
    // A voice would go on after its page.
    addEventListener('pagehide', () => this.stop());
  }

  /** Reads sentences one after another. @param {Spoken[]} sentences @param {string} language */
  read(sentences, language) {
    this.stop();
    const speech = window.speechSynthesis;
    if (!speech) return this.on.failed(t('This browser cannot read aloud.'));
    const turn = ++this.turn;
    let begun = false;
    this.reading = true;
    this.on.state(true);
    const step = (/** @type {number} */ i) => {
      if (turn !== this.turn) return;
      const sentence = sentences[i];
      if (!sentence) return this.stop();
      this.on.mark(sentence.elements, i);
      const said = new SpeechSynthesisUtterance(sentence.words);
      said.lang = language;
      said.rate = 0.95;
      said.onstart = () => { begun = true; };
      said.onboundary = (e) => {
        if (turn === this.turn && e.name === 'word') this.on.mark(sentence.elements, i, e.charIndex, e.charIndex + (e.charLength || (/^\S+/.exec(sentence.words.slice(e.charIndex))?.[0].length ?? 0)));
      };
      said.onend = () => { begun = true; step(i + 1); };
      said.onerror = (e) => {
        if (turn !== this.turn || e.error === 'canceled' || e.error === 'interrupted') return;
        this.stop();
        this.on.failed(t('This browser has no voice to read with.'));
      };
      speech.speak(said);
    };
    step(0);
    window.setTimeout(() => {
      if (turn !== this.turn || begun || !this.reading) return;
      this.stop();
      this.on.failed(t('This browser has no voice to read with.'));
    }, patience);
  }

  stop() {
    if (!this.reading) return;
    this.reading = false;
    this.turn++;
    window.speechSynthesis?.cancel();
    this.on.mark([]);
    this.on.state(false);
  }
}

/** Marks the elements that are being read, and no others. @param {string[]} elements */
export function markRead(elements) {
  for (const el of document.querySelectorAll('.being-read')) el.classList.remove('being-read');
  for (const id of elements) document.getElementById(id)?.classList.add('being-read');
}
