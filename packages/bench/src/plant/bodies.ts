import { type Facts, heatSwitch, partFor, type PlacedPart } from '@jolly/core/machine/facts';
import { WARMED, type Warmed } from '@jolly/core/machine/machine';
import { spareSensor } from '@jolly/core/machine/spareSensor';
import { heats, isMains, type PartOf } from '@jolly/core/parts/part';
import { thermistorOhms } from '@jolly/core/heat/thermistor';
import type { Circuit } from './circuit';
import { type HeatedBody, heatedBody } from './heatedBody';
import type { Live } from './live';
import { seededRandom } from './random';
import type { Beginning } from './truth';

/** How long a thermistor lags behind its body, in s. */
const LAG_S = 0.7;
/** A sensor that slipped out hangs beside its body and feels this share of its warmth. */
const BESIDE = 0.08;
/** A loose contact adds so much of its sensor's ohms, for some tenths of a second at a time. */
const LOOSE = 0.35;
const LOOSE_EVERY_S = 0.4;
const OPEN_OHMS = 1e9;
const SHORT_OHMS = 0.2;

/** Heaters, what they warm, and the sensors in them. Times in s. */
export interface Bodies {
  /** Lets the outputs as they are now take effect. */
  drive(circuit: Circuit, now: number): void;
  temperatureC(body: Warmed, now: number): number | undefined;
  /** Of a thermistor, as its wire shows it. */
  ohms(partId: string, now: number): number;
  /** Share of full power now. */
  duty(body: Warmed): number;
  /** Fans blow at it: extra loss as a share. */
  blow(body: Warmed, share: number): void;
  names(): Warmed[];
}

interface Body {
  name: Warmed;
  heat: HeatedBody;
  heater: PlacedPart<PartOf<'heater'>>;
  /** What the board switches: the heater, or its relay. */
  switched: string;
  duty: number;
  blown: number;
}

export function bodiesOf(live: Live, ambientC: number, begins?: Beginning): Bodies {
  const { facts } = live;
  const bodies = WARMED.flatMap((name) => bodyOf(facts, name, ambientC, begins));
  const spare = spareSensor(facts)?.id;
  const sensed = new Map<string, { c: number; at: number }>();

  /** A relay passes the mains on while its coil is fed. */
  function feed(body: Body, circuit: Circuit): { power: number; share: number } {
    const { volts, share } = circuit.fed(body.switched);
    if (body.switched === body.heater.id) return { power: (volts / body.heater.type.volts) ** 2, share };
    const relay = facts.parts.find(({ id }) => id === body.switched);
    const picksUp = volts >= 0.7 * (relay?.type.supply_v ?? volts);
    const passes = picksUp ? share : 0;
    return { power: 1, share: live.stuckOn.has(body.switched) ? 1 : passes };
  }

  /** What a thermistor's bead feels: its body late, or whatever it is held at. */
  function feels(part: PlacedPart, now: number): number {
    const held = live.warmed.get(part.id) ?? live.warmed.get(part.role);
    if (held !== undefined) return held;
    const role = part.id === spare ? 'hotend' : part.role;
    const body = bodies.find(({ name }) => name === role);
    const c = body?.heat.temperatureC(now) ?? ambientC;
    const near = live.slipped.has(part.id) ? ambientC + BESIDE * (c - ambientC) : c;
    const last = sensed.get(part.id) ?? { c: near, at: now };
    const felt = near + (last.c - near) * Math.exp(-(now - last.at) / LAG_S);
    sensed.set(part.id, { c: felt, at: now });
    return felt;
  }

  return {
    drive(circuit, now) {
      for (const body of bodies) {
        const { power, share } = feed(body, circuit);
        body.heat.setPower(now, power);
        body.heat.setDuty(now, share);
        body.duty = share * Math.min(1, power);
        body.heat.cool(
          now,
          (live.chilled.get(body.name) ?? live.chilled.get(body.heater.id) ?? 0) + body.blown,
        );
      }
    },
    temperatureC(name, now) {
      return live.warmed.get(name) ?? bodies.find((body) => body.name === name)?.heat.temperatureC(now);
    },
    ohms(partId, now) {
      const wire = live.broken.get(partId);
      if (wire) return wire === 'open' ? OPEN_OHMS : SHORT_OHMS;
      const part = facts.parts.find(({ id }) => id === partId);
      const type = live.thermistors.get(partId);
      if (!part || !type) return OPEN_OHMS;
      const ohms = thermistorOhms(type, feels(part, now));
      return live.jumps.has(partId) ? ohms * (1 + LOOSE * looseAt(now)) : ohms;
    },
    duty: (name) => bodies.find((body) => body.name === name)?.duty ?? 0,
    blow(name, share) {
      for (const body of bodies) if (body.name === name) body.blown = share;
    },
    names: () => bodies.map(({ name }) => name),
  };
}

/** How a heater warms that nobody has seen warm: as one of its size usually does, by its power. */
function unseenBody({ watts, ...type }: PartOf<'heater'>): NonNullable<PartOf<'heater'>['body']> {
  return heats(type, 'hotend')
    ? { gain_c: watts * 8.5, tau_s: 180, dead_s: 3 }
    : { gain_c: watts * 0.6, tau_s: 600, dead_s: 10 };
}

function bodyOf(facts: Facts, name: Warmed, ambientC: number, begins?: Beginning): Body[] {
  const heater = partFor(facts, 'heater', name);
  if (!heater || !partFor(facts, 'thermistor', name)) return [];
  const warms = heater.type.body ?? unseenBody(heater.type);
  const was = begins?.temperatureC[name] ?? ambientC;
  const cooled = (tauS: number) => ambientC + (was - ambientC) * Math.exp(-(begins?.offS ?? 0) / tauS);
  const power = isMains(heater.type) ? 1 : 0;
  const switched = heatSwitch(facts, name)?.id ?? heater.id;
  return [
    {
      name,
      heat: heatedBody(warms, power, ambientC, cooled(warms.tau_s)),
      heater,
      switched,
      duty: 0,
      blown: 0,
    },
  ];
}

/** 0 to 1, hung on the clock so that looking changes nothing: mostly near 0. */
const looseAt = (now: number): number => seededRandom(Math.floor(now / LOOSE_EVERY_S) ^ 0x100c)() ** 3;
