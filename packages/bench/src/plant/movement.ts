import type { Driven, Pulses } from '../board/runs';
import type { Filament } from './filament';
import type { Frame } from './frame';
import type { Nozzle } from './nozzle';
import type { PlantClock } from './plantClock';

/** Filament on its way through a hot end. */
export interface Strand {
  filament: Filament;
  hotendC: () => number;
  /** mm that really go for each mm the drive wheel turns. */
  bite: number;
}

/** What pulses move: frame, filament, and the nozzle over its plate. A class, for the reason that `RunPlayer` tells. */
export class Movement implements Driven {
  constructor(
    private readonly clock: PlantClock,
    private readonly frame: Frame,
    private readonly nozzle: Nozzle,
    private readonly first: Strand,
    private readonly second: Strand,
  ) {}

  move(pulses: readonly Pulses[], entries: number, seconds: number, at: number): void {
    this.clock.now = at;
    const first = this.frame.position('e');
    const second = this.frame.secondFilament();
    this.frame.move(pulses, entries, seconds, at);
    this.feed(this.first, this.frame.position('e') - first);
    this.feed(this.second, this.frame.secondFilament() - second);
    this.nozzle.note(at);
  }

  mark(): void {
    this.frame.mark();
  }

  rewind(): void {
    this.frame.rewind();
  }

  private feed({ filament, hotendC, bite }: Strand, way: number): void {
    if (way !== 0) filament.feed(way * bite, hotendC(), this.clock.now);
  }
}
