import { partsOf, type PlacedPart } from '@jolly/core/machine/facts';
import type { Warmed } from '@jolly/core/machine/machine';
import type { PartOf } from '@jolly/core/parts/part';
import type { Bodies } from './bodies';
import { type Circuit, compileCircuit } from './circuit';
import type { Live } from './live';
import { fanSpeed, lampLight } from './oneWayLoads';
import type { Doing } from './pinHolds';
import type { Pins } from './pins';
import type { PlantClock } from './plantClock';
import type { Probe } from './probe';

/** What a fan at full speed takes off a body, as a share of its own losses. */
const BLOWN: Record<string, [Warmed, number]> = { part: ['hotend', 0.12], hotend: ['hotend', 0.05] };

/** What the board's pins drive: heaters, fans, lamps, servos and its beeper. Times in s, pulses in µs. */
export class Outputs {
  /** The wiring as it is now. */
  circuit: Circuit;
  private readonly fans: readonly PlacedPart<PartOf<'fan'>>[];
  private readonly beeperPin: number | undefined;
  private beeper = 0;
  private readonly periodUs = new Map<number, number>();
  /** The part with a servo line, by pin. */
  private servoAt: ReadonlyMap<number, string>;
  private readonly servoUs = new Map<number, number>();

  constructor(
    private readonly live: Live,
    private readonly pins: Pins,
    private readonly doing: Doing,
    private readonly bodies: Bodies,
    private readonly probe: Probe | undefined,
    private readonly clock: PlantClock,
  ) {
    const { facts } = live;
    this.circuit = compileCircuit(live, doing);
    this.servoAt = this.servoLines();
    this.fans = partsOf(facts, 'fan');
    this.beeperPin = facts.board.uses?.find(({ by }) => by === 'beeper')?.pins[0];
  }

  /** What was done to the wiring takes effect. */
  rewire(): void {
    this.circuit = compileCircuit(this.live, this.doing);
    this.servoAt = this.servoLines();
    for (const [pin, us] of this.servoUs) this.tellProbe(pin, us);
    this.changed();
  }

  /** The power goes. */
  off(): void {
    this.pins.reset();
    this.changed();
  }

  pwm(pin: number, periodUs: number, highUs: number): void {
    this.pins.setPwm(pin, periodUs === 0 ? 0 : highUs / periodUs);
    this.periodUs.set(pin, periodUs);
    if (pin === this.beeperPin) this.beeper = highUs === 0 ? 0 : 1e6 / periodUs;
    if (!this.servoAt.has(pin)) return this.changed();
    this.servoUs.set(pin, highUs);
    this.tellProbe(pin, highUs);
  }

  write(pin: number, high: boolean): void {
    const before = this.pins.duty(pin);
    this.pins.write(pin, high);
    if (before !== this.pins.duty(pin)) this.changed();
  }

  /** The tone it gives; 0 while it is silent. */
  beeperHz(): number {
    return this.beeper;
  }

  fanSpeeds(): Record<string, number> {
    return Object.fromEntries(this.fans.map((part) => [part.id, fanSpeed(part, this.circuit, this.live)]));
  }

  lamps(): Record<string, number> {
    const lamps = partsOf(this.live.facts, 'lamp');
    return Object.fromEntries(lamps.map((part) => [part.id, lampLight(part, this.circuit)]));
  }

  /** Pulse width by part; 0 until it gets one. */
  servos(): Record<string, number> {
    return Object.fromEntries([...this.servoAt].map(([pin, id]) => [id, this.servoUs.get(pin) ?? 0]));
  }

  /** From one switching on of each heater to the next. */
  cyclesS(): Record<string, number> {
    const cycle = (partId: string) =>
      (this.periodUs.get(this.circuit.pinAt(partId, 'control') ?? -1) ?? 0) / 1e6;
    return Object.fromEntries(partsOf(this.live.facts, 'heater').map(({ id }) => [id, cycle(id)]));
  }

  private changed(): void {
    for (const body of this.bodies.names()) this.bodies.blow(body, this.blownAt(body));
    this.bodies.drive(this.circuit, this.clock.now);
  }

  private blownAt(body: Warmed): number {
    return this.fans.reduce((sum, part) => {
      const [at, share] = BLOWN[part.role] ?? [];
      return at === body ? sum + (share ?? 0) * fanSpeed(part, this.circuit, this.live) : sum;
    }, 0);
  }

  private tellProbe(pin: number, highUs: number): void {
    if (this.servoAt.get(pin) === this.probe?.part.id) this.probe?.servo(highUs, this.clock.now);
  }

  private servoLines(): ReadonlyMap<number, string> {
    const { facts } = this.live;
    const parts = [...partsOf(facts, 'probe'), ...partsOf(facts, 'servo')];
    return new Map(
      parts.flatMap(({ id }): [number, string][] => {
        const pin = this.circuit.pinAt(id, 'control');
        return pin === undefined ? [] : [[pin, id]];
      }),
    );
  }
}
