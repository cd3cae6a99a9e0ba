/** Filament between drive wheel and nozzle: what the wheel turns, and what really goes. */
export interface Filament {
  /** The wheel turned so many mm in so many seconds, the hot end being so warm. */
  feed(way: number, seconds: number, hotendC: number, now: number): void;
  /** mm that have left the nozzle by now: what is pushed in comes out late. */
  out(now: number): number;
  /** mm that really went. */
  fed(): number;
  /** mm that the wheel turned for nothing. */
  slipped(): number;
  /** The wheel has ground a flat into it and holds no more. */
  ground(): boolean;
  take(away: boolean): void;
}

/** It melts from here on; what a nozzle lets through grows with the degrees above. */
const MELTS_C = 150;
const MM_S_PER_C = 0.09;
/** Turned on the spot for so long, the wheel has ground it flat. */
const GROUND_MM = 15;
/** Melt gives a little: what counts is the speed over this long. */
const GIVES_S = 0.1;
/** Melt is pressed together before it moves: what is pushed in comes out over about this long. */
const MELT_S = 0.06;

export function filament(): Filament {
  let fed = 0;
  let slipped = 0;
  let onTheSpot = 0;
  let there = true;
  let speed = 0;
  /** mm pushed into the melt that have not come out, and when that was. */
  let pressed = 0;
  let pressedAt = 0;
  let left = 0;
  const letOut = (now: number) => {
    const comes = pressed * (1 - Math.exp(-Math.max(0, now - pressedAt) / MELT_S));
    return { comes, stays: pressed - comes };
  };
  return {
    out: (now) => left + letOut(now).comes,
    feed(way, seconds, hotendC, now) {
      speed += (Math.abs(way) / seconds - speed) * (seconds / (seconds + GIVES_S));
      const most = Math.max(0, hotendC - MELTS_C) * MM_S_PER_C;
      // Drawn back it comes freely once it has melted.
      const passes = way < 0 ? (hotendC > MELTS_C ? 1 : 0) : Math.min(1, most / Math.max(speed, 1e-6));
      const share = there && onTheSpot < GROUND_MM ? passes : 0;
      const { comes, stays } = letOut(now);
      left += comes;
      pressed = stays + way * share;
      pressedAt = now;
      fed += way * share;
      slipped += Math.abs(way) * (1 - share);
      onTheSpot = share > 0.5 ? 0 : onTheSpot + Math.abs(way) * (1 - share);
    },
    fed: () => fed,
    slipped: () => slipped,
    ground: () => onTheSpot >= GROUND_MM,
    take: (away) => void (there = !away),
  };
}
