import type { Facts } from '@jolly/core/machine/facts';
import { WARMED } from '@jolly/core/machine/machine';
import { faultNamed } from '../faults/faults';
import { type Live, liveOf } from '../plant/live';
import { faultsLaid, type HandAct, handOf, withAct } from '@jolly/core/bringup/handAct';

/** What hands have done to a machine and not taken back. */
export interface Hands {
  /** @throws with what was expected, when there is nothing of that name */
  take(act: HandAct): void;
  /** Takes back whatever was done under a name: a fault, a held part, a warmed or cooled body, a pulled lead. */
  takeBack(name: string): void;
  /** The machine as its facts say, with all that was done to it since. */
  apply(live: Live): void;
  /** What stands, so that it can be done again. */
  acts(): HandAct[];
  /** Names of the faults that are laid. */
  laid(): string[];
}

/** Hands at the machine that these facts describe; nothing has been done yet. */
export function handsAt(facts: Facts): Hands {
  let done: HandAct[] = [];
  const leads = liveOf(facts).leads;

  function partNamed(name: string): string {
    if (facts.parts.some(({ id }) => id === name)) return name;
    throw new Error(`there is no part "${name}"; there are ${facts.parts.map(({ id }) => id).join(', ')}`);
  }

  /** The heated body that a heater or sensor belongs to. */
  const roleOf = (name: string): string | undefined => {
    const part = facts.parts.find(({ id }) => id === name);
    return part?.type.kind === 'heater' || part?.type.kind === 'thermistor' ? part.role : undefined;
  };

  /** A heated body by its own name, or by that of its heater or sensor. */
  function bodyOf(name: string): string {
    const body = WARMED.find((entry) => entry === name) ?? roleOf(name);
    if (body === undefined) throw new Error(`"${name}" is neither heater, sensor, ${WARMED.join(' nor ')}`);
    return body;
  }

  function leadNamed(lead: string): string {
    const [name = '', role] = lead.split('.');
    const known = leads.get(partNamed(name)) ?? {};
    if (role === undefined || role in known) return lead;
    throw new Error(`${name} has no lead "${role}"; it has ${Object.keys(known).join(', ')}`);
  }

  function faultOf(name: string): string {
    if (faultNamed(name)) return name;
    throw new Error(`there is no fault "${name}"`);
  }

  /** An act with its thing by its full name. */
  function named(act: HandAct): HandAct {
    if ('hold' in act) return { ...act, hold: partNamed(act.hold) };
    if ('warm' in act) {
      // Fingers warm a sensor alone; anything else is the body as a whole.
      const isSensor = facts.parts.some(({ id, type }) => id === act.warm && type.kind === 'thermistor');
      return { ...act, warm: isSensor ? act.warm : bodyOf(act.warm) };
    }
    if ('cool' in act) return { ...act, cool: bodyOf(act.cool) };
    if ('pull' in act) return { ...act, pull: leadNamed(act.pull) };
    if ('screw' in act) return act;
    return { ...act, lay: faultOf(act.lay) };
  }

  return {
    take: (act) => void (done = withAct(done, named(act))),
    takeBack(name) {
      const left = done.filter((act) => ![name, roleOf(name)].includes(handOf(act).what));
      if (left.length === done.length) throw new Error(`nothing is wrong with "${name}"`);
      done = left;
    },
    apply(live) {
      Object.assign(live, liveOf(facts));
      // Faults last: they may lie in what a hand has moved.
      const isFault = (act: HandAct) => 'lay' in act;
      for (const act of [...done.filter((one) => !isFault(one)), ...done.filter(isFault)]) effect(act, live);
    },
    acts: () => [...done],
    laid: () => faultsLaid(done),
  };
}

function effect(act: HandAct, live: Live): void {
  if ('hold' in act) live.held.add(act.hold);
  else if ('warm' in act) live.warmed.set(act.warm, act.c ?? NaN);
  else if ('cool' in act) live.chilled.set(act.cool, act.share);
  else if ('pull' in act) pull(act.pull, live);
  else if ('screw' in act) live.screws.set(act.screw, { x: act.x, y: act.y, z: act.up });
  else faultNamed(act.lay)?.inMachine?.(live);
}

function pull(lead: string, live: Live): void {
  const [id = '', role] = lead.split('.');
  // By role, as every lead.
  const { [role ?? '']: _gone, ...left } = { ...live.leads.get(id) } as Record<string, string>;
  live.leads.set(id, role === undefined ? {} : left);
}
