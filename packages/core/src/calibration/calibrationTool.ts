import type { Picture } from '../bringup/picture';
import { type Answer, NO_ANSWER, type Procedure } from '../bringup/procedure';
import { commandOf } from '../bringup/boardActions';
import type { Remedy } from '../finding/finding';
import type { Edit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { Heights } from '../plate/heights';
import { GAVE_UP } from '../proofs/proof';
import type { Settings } from '../settings/setting';
import { notUnderstood } from '../settings/understands';

/** Something that is chosen before a tool begins: a number in its range, or one of some choices. */
export type Choosing =
  | {
      key: string;
      label: string;
      unit: string;
      range: readonly [number, number];
      value: number;
      help?: string;
    }
  | {
      key: string;
      label: string;
      choices: readonly ChoiceBefore[];
      value: string;
      help?: string;
    };
/** One of the choices there are before a tool begins. */
export interface ChoiceBefore {
  id: string;
  label: string;
  /** What it comes to. Where one choice says so, all are laid side by side. */
  why?: string;
  /** It is known, and cannot be taken here; `why` says why. */
  notHere?: true;
}
/** What was chosen, by key. */
export type Chosen = Readonly<Record<string, number | string>>;

/** A number that was found, for the record: what it is called there and its unit. */
export interface Figure {
  id: string;
  label: string;
  value: number;
  unit: string;
}

/** What a tool has come to. Nothing is set by it yet. */
export interface Found {
  /** `poor`: measured, and not good enough to go by. `ended`: given up, refused or stopped; nothing was measured. */
  outcome: 'found' | 'poor' | 'ended';
  /** What it means, in words. */
  words: string;
  evidence: readonly string[];
  figures: readonly Figure[];
  /** What it makes of the machine file. */
  edits: readonly Edit[];
  /** Settings it gives a value, with the words for where the value is from. */
  values: readonly { key: string; value: number; because: string }[];
  /** Lines by which the running board takes the same values. */
  lines: readonly string[];
  picture?: Picture;
  map?: Heights;
  /** What would make a poor outcome good, for the machine file: it is shown before it is made. */
  remedy?: Remedy;
  /** What may be behind a poor outcome, the likeliest first, with where to look. */
  causes?: readonly { cause: string; look: string }[];
}

/** One way to measure something of a machine: what it is for, what is to hand, and how it goes. */
export interface CalibrationTool {
  /** The calibration it measures; see calibrations.ts. */
  id: string;
  title: string;
  /** What for, and when. */
  what: string;
  toHand: readonly string[];
  caution?: string;
  choosing: readonly Choosing[];
  /** Steps of bring-up that it trusts. */
  after: readonly string[];
  /** The extruder it works with, where there are two; the first one when it is not said. */
  tool?: 'T0' | 'T1';
  /** Why the image as it is set cannot do it. */
  missing?: string;
  run(chosen: Chosen): Procedure<Found>;
}

/** A number that was chosen, or the value it began with. */
export const numberIn = (tool: Pick<CalibrationTool, 'choosing'>, chosen: Chosen, key: string): number =>
  Number(chosen[key] ?? tool.choosing.find((one) => one.key === key)?.value);
export const choiceIn = (tool: Pick<CalibrationTool, 'choosing'>, chosen: Chosen, key: string): string =>
  String(chosen[key] ?? tool.choosing.find((one) => one.key === key)?.value);

/** A minus before a number is one, and no hyphen. */
export const withMinus = (text: string): string => text.replace(/(?<![\w.)])-(?=\d)/g, '−');

/** An outcome with what most outcomes have none of. */
export const found = (
  words: string,
  more: Partial<Omit<Found, 'words' | 'outcome'>> = {},
  outcome: Found['outcome'] = 'found',
): Found => ({
  outcome,
  words: withMinus(words),
  figures: [],
  edits: [],
  values: [],
  lines: [],
  ...more,
  evidence: (more.evidence ?? []).map(withMinus),
});

/** A board that was stopped, and sleeps since, takes nothing back until it is woken. */
const STOPPED = /^(stopped:|error: asleep since the stop)/;

/** It ended early: what the board said, or that the person gave up. */
export function endedBy({ problem = NO_ANSWER, lines }: Answer): Found {
  const words =
    problem === GAVE_UP
      ? 'You gave up; nothing was set.'
      : `It ended early: ${problem.replace(/^(error|stopped): /, '')}. ${STOPPED.test(problem) ? 'Nothing was set for good: what was tried may still be on the board, and is gone at power-off.' : 'Nothing was set.'}`;
  return found(
    words,
    { evidence: [problem, ...lines.filter((line) => line !== problem)].slice(0, 6) },
    'ended',
  );
}

/** The first of some lines that the image, as it is set, does not understand: why; undefined when it knows all. */
export const missingOf = (facts: Facts, settings: Settings, lines: readonly string[]): string | undefined =>
  lines.map((line) => notUnderstood(facts, settings, commandOf(line))).find((why) => why !== undefined);

/** A number with so many digits after the point, never a minus zero. */
export const round = (value: number, digits: number): number => Number(value.toFixed(digits)) + 0;
/** With its sign in front, for what is a difference. */
export const signed = (value: number, digits: number): string =>
  `${value > 0 ? '+' : ''}${round(value, digits).toFixed(digits)}`.replace('-', '−');
