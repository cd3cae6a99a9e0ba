/** It melts from here on; what a nozzle lets through grows with the degrees above. */
const MELTS_C = 150;
const MM_S_PER_C = 0.09;
/** Turned on the spot for so long, the wheel has ground it flat. */
const GROUND_MM = 15;
/** Melt gives a little: what counts is the speed over this long. */
const GIVES_S = 0.1;
/** Melt is pressed together before it moves: what is pushed in comes out over about this long. */
const MELT_S = 0.06;

/** Filament between drive wheel and nozzle: what the wheel turns, and what really goes. */
export class Filament {
  private went = 0;
  private vain = 0;
  private onTheSpot = 0;
  private speed = 0;
  /** mm that were drawn back and not pushed again. */
  private drawn = 0;
  /** mm pushed into the melt that had not come out when the wheel last turned, and when that was. */
  private pressed = 0;
  private turnedAt = 0;
  private left = 0;

  /** The wheel has turned so many mm by now, since it turned last, the hot end being so warm. */
  feed(way: number, hotendC: number, now: number): void {
    // Between two steps of the wheel there may be many of other motors: the time goes on.
    const seconds = Math.max(now - this.turnedAt, 1e-9);
    // Where it was drawn back from there is room: it goes there as it came.
    const freely = Math.min(Math.max(way, 0), this.drawn);
    const pushed = Math.abs(way) - freely;
    this.speed += (pushed / seconds - this.speed) * (seconds / (seconds + GIVES_S));
    const most = Math.max(0, hotendC - MELTS_C) * MM_S_PER_C;
    // Drawn back it comes freely once it has melted.
    const passes = way < 0 ? (hotendC > MELTS_C ? 1 : 0) : Math.min(1, most / Math.max(this.speed, 1e-6));
    const goes = freely + pushed * passes;
    const share = this.onTheSpot < GROUND_MM ? goes / Math.max(Math.abs(way), 1e-9) : 0;
    this.drawn = Math.max(0, this.drawn - way * share);
    const comes = this.comes(now);
    this.left += comes;
    this.pressed = this.pressed - comes + way * share;
    this.turnedAt = now;
    this.went += way * share;
    this.vain += Math.abs(way) * (1 - share);
    this.onTheSpot = share > 0.5 ? 0 : this.onTheSpot + Math.abs(way) * (1 - share);
  }

  /** mm that have left the nozzle by now: what is pushed in comes out late. */
  out(now: number): number {
    return this.left + this.comes(now);
  }

  /** mm that really went. */
  fed(): number {
    return this.went;
  }

  /** mm that the wheel turned for nothing. */
  slipped(): number {
    return this.vain;
  }

  /** The wheel has ground a flat into it and holds no more. */
  ground(): boolean {
    return this.onTheSpot >= GROUND_MM;
  }

  /** mm of what is pressed that come out by now. */
  private comes(now: number): number {
    return this.pressed * (1 - Math.exp(-Math.max(0, now - this.turnedAt) / MELT_S));
  }
}
