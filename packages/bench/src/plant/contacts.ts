import { type Facts, partsOf, type PlacedPart } from '@jolly/core/machine/facts';
import { AXES } from '@jolly/core/machine/machine';
import type { PartOf } from '@jolly/core/parts/part';
import type { Frame } from './frame';
import type { Live } from './live';
import type { PlantClock } from './plantClock';
import type { Probe } from './probe';

type Switch = PlacedPart<PartOf<'switch'>>;

/** Levers, the probe and the filament sensor, as they are pressed at this moment. */
export class Contacts {
  readonly switches: ReadonlyMap<string, Switch>;
  private readonly reached: ReadonlyMap<string, () => boolean>;

  constructor(
    private readonly live: Live,
    frame: Frame,
    private readonly probe: Probe | undefined,
    private readonly clock: PlantClock,
  ) {
    const switches = partsOf(live.facts, 'switch');
    this.switches = new Map(switches.map((part) => [part.id, part]));
    this.reached = new Map(switches.map(({ id, role }) => [id, reachedBy(live.facts, frame, role)]));
  }

  pressed({ id }: Switch): boolean {
    return this.live.held.has(id) || this.reached.get(id)?.() === true;
  }

  /** A lever's contact is closed. */
  closed(partId: string): boolean {
    const part = this.switches.get(partId);
    if (part) return this.is(part, part.type.contact === 'normally-open');
    if (this.probe?.part.id === partId) return this.probe.triggered(this.clock.now);
    return this.filamentThere(partId);
  }

  /** An electronic sensor pulls or drives its output low. */
  outputLow(partId: string): boolean {
    const part = this.switches.get(partId);
    if (part) return this.is(part, part.type.pressed === 'low');
    const { probe } = this;
    if (probe?.part.id === partId)
      return probe.triggered(this.clock.now) === (probe.part.type.triggered === 'low');
    return this.filamentThere(partId);
  }

  /** A switch pressed the one way, or with the other kind of contact not. */
  private is(part: Switch, whenPressed: boolean): boolean {
    return (this.pressed(part) === whenPressed) !== this.live.otherContact.has(part.id);
  }

  private filamentThere(partId: string): boolean {
    return !this.live.held.has(partId);
  }
}

/** Whether an axis has reached the end that has its switch. */
function reachedBy({ machine }: Facts, frame: Frame, role: string): () => boolean {
  const axis = AXES.find((entry) => entry === role);
  const side = axis && machine.frame.switch_at[axis];
  if (!axis || side === undefined) return () => false;
  const [low, high] = machine.frame.travel_mm[axis];
  return side === 'min' ? () => frame.position(axis) <= low : () => frame.position(axis) >= high;
}
