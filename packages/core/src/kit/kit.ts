import Joi from 'joi';
import { line } from '../text/plainText';
import type { SettingValue } from './settingValue';
import { once } from '../tree/once';

interface Told {
  key: string;
  label: string;
  /** The generated header the option is written to: a changed setting recompiles only that header's readers. */
  group: string;
  /** The part of the machine a person looks for it under. */
  part: string;
  for: string;
  without?: string;
  /** What it is worth to most users, 0 to 9, where an image can do without it. */
  worth?: number;
  /** Its value when it is left out; false where nothing is said. */
  less?: string;
  /** The flag without which it decides nothing. */
  by?: string;
  /** The kit version that will read it; missing where this one does. */
  from?: string;
  /** A value that only a chip of so many bits can carry. */
  wants_bits?: { value: SettingValue; bits: number };
}
export interface NumberOption extends Told {
  kind: 'number';
  unit: string;
  range: [number, number];
  whole?: boolean;
  default: number;
}
export interface FlagOption extends Told {
  kind: 'flag';
  default: boolean;
}
export interface TextOption extends Told {
  kind: 'text';
  longest: number;
  default: string;
}
export interface ChoiceOption extends Told {
  kind: 'choice';
  choices: (string | number)[];
  default: string | number;
}
/** Chosen among the catalogue's thermistors; written as a table, not as a number. */
export interface SensorOption extends Told {
  kind: 'sensor';
  default: string;
}
export type Option = NumberOption | FlagOption | TextOption | ChoiceOption | SensorOption;

/** Something the image can be told, as a line begins: `G28`, `map take`. */
export interface KitCommand {
  say: string;
  /** What it is for, as in "M106 is for the part fan". */
  does: string;
  /** The option that brings it; always there when missing. */
  by?: string;
  /** The value of it that does, where it is not any that is on. */
  value?: string;
  /** The kit version that will know it; missing where this one does. */
  from?: string;
  /** Letters that stand behind it with a number, small ones where it is said in words. What a command takes is not judged where this is missing. */
  takes?: string;
  /** More of them, by the option that brings them. */
  takes_with?: Record<string, string>;
  /** Letters that stand alone. */
  alone?: string;
  /** Letters without which it is refused. */
  needs?: string;
  /** From and to, by letter. */
  ranges?: Record<string, [number, number]>;
  /** Axes that are homed before it: it goes from place to place, or to a height. */
  homed?: string;
}

/** A part that is wired beside what every image steers, and the option that speaks to it. */
export interface Hearing {
  /** Kind, or kind and role or mode: `fan.hotend`, `driver.serial`, `lamp`. */
  part: string;
  /** Missing where no option speaks to it: every image does, or none. */
  by?: string;
  /** What it means where this version does not speak to it. */
  without: string;
}

/** What a linked image is asked before a build is called done. */
export interface KitGuards {
  /** Functions that must be in the image; those with `by` only where one of these options is on. */
  linked: (string | { name: string; by: string[] })[];
  /** Options whose values the image tells out of the tables its guards work with, in the order it numbers them. */
  told: string[];
}

/** Settings that can be changed over the link and stored: the command that sets and tells them, and their letters. */
export interface StoredLine {
  say: string;
  /** By letter, the key of a number. */
  words: Record<string, string>;
  /** With how many they are told. */
  decimals: number;
  /** The option without which the image does not know the line. */
  by?: string;
  /** It takes effect while the machine moves; others wait until nothing does. */
  live?: boolean;
  /** The board finds the values itself; what a machine file says of them counts for nothing. */
  own?: boolean;
}

/** Why something is refused, or why everything stopped; without long replies a board says its place in the list. */
export interface Message {
  name: string;
  say: string;
}

export interface Kit {
  jolly: 'kit/1';
  id: string;
  name: string;
  version: string;
  targets: { board: string; revision: string }[];
  stack_bytes: number;
  /** Steps a second of one motor beyond which it builds no image. */
  step_rate_hz: number;
  stored: StoredLine[];
  messages: Message[];
  guards: KitGuards;
  commands: KitCommand[];
  hears: Hearing[];
  options: Option[];
}

/** As written in a kit file: one entry may stand for several options, `{each}` being replaced in turn. */
type WrittenOption = Option & { each?: string[] };

const VERSION = /^\d+\.\d+\.\d+$/;
const told = once(() => ({
  key: Joi.string()
    .pattern(/^[a-z]+([.-][a-z{}]+)*$/)
    .required(),
  label: line(60).required(),
  group: Joi.string()
    .pattern(/^[a-z]+$/)
    .required(),
  part: line(20).required(),
  for: line(200).required(),
  without: line(200),
  worth: Joi.number().min(0).max(9),
  less: line(60),
  by: line(60),
  from: Joi.string().pattern(VERSION).max(20),
  wants_bits: Joi.object({
    value: Joi.alternatives(Joi.number(), Joi.boolean(), line(60)).required(),
    bits: Joi.valid(8, 32).required(),
  }),
  each: Joi.array().items(line(40)).min(1),
  kind: line(20).required(),
}));
const optionSchema = once(() =>
  Joi.alternatives().conditional('.kind', {
    switch: [
      {
        is: 'number',
        then: Joi.object({
          ...told(),
          unit: line(20).allow('').required(),
          range: Joi.array().ordered(Joi.number().required(), Joi.number().required()).length(2).required(),
          whole: Joi.boolean(),
          default: Joi.number().required(),
        }),
      },
      { is: 'flag', then: Joi.object({ ...told(), default: Joi.boolean().required() }) },
      {
        is: 'text',
        then: Joi.object({
          ...told(),
          longest: Joi.number().integer().min(1).required(),
          default: line(60).required(),
        }),
      },
      {
        is: 'choice',
        then: Joi.object({
          ...told(),
          choices: Joi.array().items(line(60), Joi.number()).min(2).required(),
          default: Joi.alternatives(line(60), Joi.number()).required(),
        }),
      },
      { is: 'sensor', then: Joi.object({ ...told(), default: line(60).required() }) },
    ],
    otherwise: Joi.forbidden(),
  }),
);

const letters = () =>
  Joi.string()
    .pattern(/^[A-Z]+$/)
    .max(26);

export const kitSchema = once(() =>
  Joi.object({
    jolly: Joi.valid('kit/1').required(),
    id: line(40).required(),
    name: line(60).required(),
    version: line(20).required(),
    targets: Joi.array()
      .items(Joi.object({ board: line(40).required(), revision: line(12).required() }))
      .required(),
    stack_bytes: Joi.number().integer().min(256).required(),
    step_rate_hz: Joi.number().integer().min(1).required(),
    stored: Joi.array()
      .items(
        Joi.object<StoredLine>({
          say: Joi.string()
            .pattern(/^([GM]\d+|[a-z]{1,15})$/)
            .required(),
          words: Joi.object()
            .pattern(/^[A-Z]$/, line(60))
            .min(1)
            .required(),
          decimals: Joi.number().integer().min(0).max(4).required(),
          by: line(60),
          live: Joi.boolean(),
          own: Joi.boolean(),
        }),
      )
      .unique('say')
      .min(1)
      .required(),
    messages: Joi.array()
      .items(
        Joi.object<Message>({
          name: Joi.string()
            .pattern(/^[A-Z][A-Z0-9_]*$/)
            .max(40)
            .required(),
          say: line(100).required(),
        }),
      )
      .unique('name')
      .min(1)
      .required(),
    guards: Joi.object<KitGuards>({
      linked: Joi.array()
        .items(
          line(40),
          Joi.object({ name: line(40).required(), by: Joi.array().items(line(60)).min(1).required() }),
        )
        .min(1)
        .required(),
      told: Joi.array().items(line(60)).min(1).required(),
    }).required(),
    commands: Joi.array()
      .items(
        Joi.object<KitCommand>({
          say: Joi.string()
            .pattern(/^([GMT]\d+|[a-z]+( [a-z]+)*)$/)
            .required(),
          does: line(60).required(),
          by: line(60),
          value: line(60),
          from: Joi.string().pattern(VERSION).max(20),
          takes: letters().allow(''),
          takes_with: Joi.object().pattern(line(60), letters()),
          alone: letters(),
          needs: letters(),
          ranges: Joi.object().pattern(letters(), Joi.array().items(Joi.number()).length(2)),
          homed: letters(),
        }),
      )
      .unique('say')
      .required(),
    hears: Joi.array()
      .items(
        Joi.object<Hearing>({
          part: line(60).required(),
          by: line(60),
          without: line(200).required(),
        }),
      )
      .unique('part')
      .required(),
    options: Joi.array().items(optionSchema()).required(),
  }),
);

/** Replaces every option written with `each` by one option per entry. */
export function expandOptions(written: WrittenOption[]): Option[] {
  // Without what repeats it, it is one option.
  return written.flatMap(({ each, ...option }) => (each ?? ['']).map((item) => fill(option as Option, item)));
}

function fill(option: Option, item: string): Option {
  const put = (text: string) =>
    text.replaceAll('{each}', item).replaceAll('{Each}', EACH_LABEL[item] ?? item.toUpperCase());
  return {
    ...option,
    key: put(option.key),
    label: put(option.label),
    part: put(option.part),
    for: put(option.for),
    ...(option.without && { without: put(option.without) }),
  };
}
const EACH_LABEL: Record<string, string> = {
  hotend: 'Hot end',
  bed: 'Bed',
  chamber: 'Chamber',
  e: 'Extruder',
};

/** Options that this version of the kit reads; the others are kept for a later one. */
export const readNow = (kit: Kit): Option[] => kit.options.filter(({ from }) => from === undefined);
/** Whether this version of the kit reads an option. */
export const isRead = (kit: Kit, key: string): boolean =>
  kit.options.some((option) => option.key === key && option.from === undefined);

/** The preprocessor name of an option: `steps.x` → `STEPS_X`. */
export function macroOf(key: string): string {
  return key.toUpperCase().replace(/[.-]/g, '_');
}

/** A number as it stands in the image: whole where the option is. */
export const heldNumber = (option: Option | undefined, value: number): number =>
  option?.kind === 'number' && option.whole ? Math.round(value) : value;

/** Why a value is refused by an option, or undefined when it is fine. */
export function refusal(option: Option, value: SettingValue): string | undefined {
  switch (option.kind) {
    case 'number':
      if (typeof value !== 'number' || !Number.isFinite(value))
        return `${option.key} must be a number from ${option.range[0]} to ${option.range[1]} ${option.unit}`.trim();
      if (value < option.range[0] || value > option.range[1])
        return `${option.key} is ${value}; it must be from ${option.range[0]} to ${option.range[1]} ${option.unit}`.trim();
      return option.whole && !Number.isInteger(value)
        ? `${option.key} is ${value}; it must be a whole number`
        : undefined;
    case 'flag':
      return typeof value === 'boolean' ? undefined : `${option.key} must be on (true) or off (false)`;
    case 'text':
      if (typeof value !== 'string') return `${option.key} must be text`;
      if (!/^[ -~]*$/.test(value)) return `${option.key} may hold plain letters, digits and punctuation only`;
      return value.length >= 1 && value.length <= option.longest
        ? undefined
        : `${option.key} must be 1 to ${option.longest} characters; it has ${value.length}`;
    case 'choice':
      return option.choices.some((choice) => choice === value)
        ? undefined
        : `${option.key} must be one of ${option.choices.join(', ')}`;
    case 'sensor':
      return typeof value === 'string' ? undefined : `${option.key} must be the id of a thermistor`;
  }
}
