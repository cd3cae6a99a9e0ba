import type { Facts } from '@jolly/core/machine/facts';
import type { Frame } from './frame';

/** No place of a plate stands higher above the low end of Z than this. */
const PLATE_WITHIN_MM = 1;
/** A nozzle that keeps its height is looked at so often, in s. */
const LOOKED_AT_S = 0.01;

/** Height of the plate at a place of it, mm, as warm as it is; undefined beside it. */
export type PlateHeight = (x: number, y: number) => number | undefined;
type Place = { x: number; y: number };

const AT_NOZZLE: Place = { x: 0, y: 0 };

/** How the nozzle stands to the plate below it, and what it did to it. Lengths in mm. */
export class Nozzle {
  /** Above this it is clear of any plate. */
  private readonly clearFrom: number;
  private readonly middle: number;
  private readonly width: number;
  private deepest = 0;
  private touchedAt: Place | undefined;
  private drags = false;
  private notedZ = NaN;
  private notedAt = 0;

  constructor(
    { machine: { frame: built } }: Facts,
    private readonly frame: Frame,
    private readonly plate: PlateHeight,
  ) {
    const { x, z } = built.travel_mm;
    this.clearFrom = z[0] + PLATE_WITHIN_MM;
    this.middle = (x[0] + x[1]) / 2;
    this.width = x[1] - x[0];
  }

  /** Between a place beside the nozzle and the plate below it; undefined beside the plate. */
  gap(beside: Place = AT_NOZZLE): number | undefined {
    const x = this.frame.position('x');
    const below = this.plate(x + beside.x, this.frame.position('y') + beside.y);
    return below === undefined ? undefined : this.frame.position('z') + this.leans(x) - below;
  }

  /** Looks what it does to the plate, where it came near. */
  note(now: number): void {
    const z = this.frame.position('z');
    if (z >= this.clearFrom || (z === this.notedZ && now - this.notedAt < LOOKED_AT_S)) return;
    this.notedZ = z;
    this.notedAt = now;
    this.touch();
  }

  /** How deep it was pushed in, at worst. */
  inPlate(): number {
    return this.deepest;
  }

  /** It touches the plate and was moved along it. */
  dragged(): boolean {
    return this.drags;
  }

  private touch(): void {
    const gap = this.gap();
    if (gap === undefined) return;
    this.deepest = Math.max(this.deepest, -gap);
    if (gap > 0) {
      this.drags = false;
      this.touchedAt = undefined;
      return;
    }
    const here = { x: this.frame.position('x'), y: this.frame.position('y') };
    const before = this.touchedAt;
    if (before && (before.x !== here.x || before.y !== here.y)) this.drags = true;
    this.touchedAt = here;
  }

  /** A gantry on two motors that do not stand level is higher on one side. */
  private leans(x: number): number {
    return (this.frame.tilt() * (x - this.middle)) / this.width;
  }
}
