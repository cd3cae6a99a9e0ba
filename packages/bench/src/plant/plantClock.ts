/** What warms slowly is worked out anew so often, in s. */
const WARMS_SLOWLY_S = 0.2;

/** The time that the machine around a board goes by, in s of the virtual clock. */
export class PlantClock {
  now = 0;
  private looking = false;

  /** Looking changes nothing: what the machine goes by is as it was before. */
  look<T>(at: number, see: () => T): T {
    const before = this.now;
    this.now = at;
    this.looking = true;
    const seen = see();
    this.looking = false;
    this.now = before;
    return seen;
  }

  /** A temperature that needs not be worked out for every stretch of steps. */
  nowAndThen(temperatureC: (now: number) => number): () => number {
    let c = 0;
    let at = -Infinity;
    return (): number => {
      if (!this.looking && Math.abs(this.now - at) < WARMS_SLOWLY_S) return c;
      const seen = temperatureC(this.now);
      if (this.looking) return seen;
      at = this.now;
      return (c = seen);
    };
  }
}
