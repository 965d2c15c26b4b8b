// player runs a value from where it stands to its end, once, in some time.
export class Player {
  #frame = 0;
  #show;
  #stopped;

  // show is told each value, stopped that it stands still.
  constructor(show, stopped) {
    this.#show = show;
    this.#stopped = stopped;
  }

  get playing() { return this.#frame !== 0; }

  // play begins anew where the value is at its end already.
  play(at, end, ms) {
    const from = at >= end ? 0 : at, began = performance.now();
    const step = (now) => {
      const value = Math.min(end, from + Math.max(0, now - began) / ms * end);
      this.#show(value);
      if (value >= end) return this.stop();
      this.#frame = requestAnimationFrame(step);
    };
    this.#frame = requestAnimationFrame(step);
  }

  stop() {
    cancelAnimationFrame(this.#frame);
    this.#frame = 0;
    this.#stopped();
  }
}
