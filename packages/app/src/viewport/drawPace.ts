/** Drawings that the page waits for no longer than this follow each other at once, in ms. */
const SHORT = 200;
const LONGEST_PAUSE = 1000;

/**
 * When the next drawing may begin. Without a graphics card the page waits for each: a bake whose frames come faster than they are drawn would leave it no time
 * for anything else, a press of a button least of all. So after a long one the page has about as long for itself.
 */
export class DrawPace {
  #pause = 0;
  #ended = 0;
  #frame = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Draws in the next frame of the page in which it may. */
  soon(draw: () => void): void {
    const wait = this.#ended + this.#pause - performance.now();
    const ask = () => (this.#frame = requestAnimationFrame(() => this.#measured(draw)));
    if (wait > 0) this.#timer = setTimeout(ask, wait);
    else ask();
  }

  cancel(): void {
    clearTimeout(this.#timer);
    cancelAnimationFrame(this.#frame);
  }

  #measured(draw: () => void): void {
    const began = performance.now();
    draw();
    // What was drawn is waited for when the page's frame ends.
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      this.#ended = performance.now();
      this.#pause = pauseAfter(this.#ended - began);
    };
    port2.postMessage(null);
  }
}

/** How long the page has for itself after a drawing that it waited for, both in ms. */
function pauseAfter(waited: number): number {
  return waited <= SHORT ? 0 : Math.min(LONGEST_PAUSE, waited);
}
