import type { HandWork } from './procedure';

/** Something a hand does at the machine, or takes back: by part id, and for warming and cooling by a heated body as well. */
export type HandAct =
  | { hold: string; on: boolean }
  /** Held at so many °C; null lets go. */
  | { warm: string; c: number | null }
  /** Something takes heat away, as a share of the body's own losses; 0 takes it away. */
  | { cool: string; share: number }
  /** All leads of a part, or one: `part` or `part.role`. */
  | { pull: string; out: boolean }
  /** A screw of the plate and where it stands, by how much it was turned up since it was found, mm. */
  | { screw: string; up: number; x: number; y: number }
  /** A fault by its name. */
  | { lay: string; on: boolean };

/** What an act is about and whether it stands after it. */
export function handOf(act: HandAct): { does: string; what: string; stands: boolean } {
  if ('hold' in act) return { does: 'hold', what: act.hold, stands: act.on };
  if ('warm' in act) return { does: 'warm', what: act.warm, stands: act.c !== null };
  if ('cool' in act) return { does: 'cool', what: act.cool, stands: act.share > 0 };
  if ('pull' in act) return { does: 'pull', what: act.pull, stands: act.out };
  // One that was turned back again holds the plate all the same.
  if ('screw' in act) return { does: 'screw', what: act.screw, stands: true };
  return { does: 'lay', what: act.lay, stands: act.on };
}

const keyOf = (act: HandAct): string => {
  const { does, what } = handOf(act);
  return `${does} ${what}`;
};

/** What stands after one more act: it takes the place of one of the same kind on the same thing. */
export const withAct = (acts: readonly HandAct[], act: HandAct): HandAct[] => [
  ...acts.filter((other) => keyOf(other) !== keyOf(act)),
  ...(handOf(act).stands ? [act] : []),
];

/** Whether an act of the same kind on the same thing stands. */
export const standsIn = (acts: readonly HandAct[], act: HandAct): boolean =>
  acts.some((other) => keyOf(other) === keyOf(act));

/** Names of the faults among what hands have laid. */
export const faultsLaid = (acts: readonly HandAct[]): string[] =>
  acts.flatMap((act) => ('lay' in act ? [act.lay] : []));

/** As warm as fingers make a sensor, in °C. */
const BY_HAND_C = 34;
/** What ice water takes off a body, as a share of its own losses. */
const ICE_WATER = 40;
const ACTS: Readonly<Record<HandWork['do'], (part: string, on: boolean) => HandAct>> = {
  press: (part, on) => ({ hold: part, on }),
  warm: (part, on) => ({ warm: part, c: on ? BY_HAND_C : null }),
  cool: (part, on) => ({ cool: part, share: on ? ICE_WATER : 0 }),
  pull: (part, on) => ({ pull: part, out: on }),
};
/** What the bench's hand does for a work that a person is told, or takes back. */
export const actOf = ({ do: what, part }: HandWork, on: boolean): HandAct => ACTS[what](part, on);
