import type { Facts } from '@jolly/core/machine/facts';
import type { Frame } from './frame';
import type { Outputs } from './outputs';
import type { Pins } from './pins';
import type { PlantClock } from './plantClock';
import { stallLinesOf } from './stallLines';

/** A pin reads high above the first share of its chip's level, low below the second, and anything between. */
const HIGH_FROM = 0.6;
const LOW_BELOW = 0.3;
/** Counts an ADC wanders by, of 4096; at either end of its range it does not. */
const ADC_NOISE = 1.2;
const ADC_RANGE = 4095;
const AT_END = 0.001;

/** What the board reads at its pins. */
export class Inputs {
  private readonly levelV: number;
  private readonly fullCount: number;
  private readonly stallLines: ReturnType<typeof stallLinesOf>;

  /** @param noise 0 to 1, anew each time */
  constructor(
    facts: Facts,
    private readonly pins: Pins,
    private readonly outputs: Outputs,
    private readonly frame: Frame,
    private readonly clock: PlantClock,
    private readonly noise: () => number,
  ) {
    this.levelV = facts.chip.level_v;
    this.fullCount = 2 ** facts.chip.adc_bits - 1;
    this.stallLines = stallLinesOf(facts);
  }

  /** Whether it reads high; what nothing holds reads anything. */
  read(pin: number): boolean {
    if (this.pins.isOutput(pin)) return this.pins.level(pin);
    const socket = this.stallLines.get(pin);
    if (socket !== undefined) return this.frame.stalled(socket, this.clock.now);
    const share = (this.volts(pin) ?? NaN) / this.levelV;
    if (share >= HIGH_FROM) return true;
    if (share <= LOW_BELOW) return false;
    return this.noise() < 0.5;
  }

  /** Counts, from 0 to what the chip's ADC has. */
  adc(pin: number): number {
    const share = (this.volts(pin) ?? this.levelV * this.noise()) / this.levelV;
    const wander = (this.noise() + this.noise() - 1) * ADC_NOISE * (this.fullCount / ADC_RANGE);
    const wanders = share > AT_END && share < 1 - AT_END;
    const count = this.fullCount * share + (wanders ? wander : 0);
    return Math.round(Math.min(this.fullCount, Math.max(0, count)));
  }

  private volts(pin: number): number | undefined {
    return this.outputs.circuit.volts(pin, this.pins.pulledUp(pin));
  }
}
