import Joi from 'joi';
import { line } from '../text/plainText';
import { once } from '../tree/once';
import { id } from '../text/id';

/** What a chip pin can do. `pwm` pins of one timer group share a frequency. */
export type Capability = 'out' | 'in' | 'adc' | 'pwm' | 'uart';

/** What a chip may hold that belongs to the way back. */
export const READABLE = ['image', 'bootloader', 'options', 'store'] as const;
export type Readable = (typeof READABLE)[number];

export interface PinGroup {
  /** First and last pin number, inclusive. */
  pins: [number, number];
  can: Capability[];
  tolerates_v: number;
  timer?: number;
}

export interface Programming {
  /** By which a tool knows the chip; hexadecimal digits. */
  signature: string;
  page_bytes: number;
  /** As it is sold, its lock words keep a tool out of the bootloader. */
  locked_as_sold?: boolean;
  /** Unlocking erases all of the flash. */
  unlock_erases?: boolean;
}

export interface Chip {
  jolly: 'chip/1';
  id: string;
  name: string;
  marking: string;
  word_bits: 8 | 32;
  clock_hz: number;
  /** Room for an image, behind the bootloader. */
  flash_bytes: number;
  ram_bytes: number;
  /** First address of flash and RAM. */
  flash_at: number;
  ram_at: number;
  /** By which a drive of this chip knows UF2 blocks that are for it; missing where it takes any. */
  uf2_family?: number;
  /** What a foreign image begins with: the entry address, or first where the stack starts and then the entry. */
  vector: 'entry' | 'stack and entry';
  /** What can be read out of it with a programmer or probe. */
  gives: Readable[];
  /** Why reading out may destroy what is read, where that is so. */
  read_out_caution?: string;
  /** How its flash is written. */
  programming?: Programming;
  /** `writes`: how often one place of it can be written before it wears out; missing where nobody has said. */
  store: { kind: 'eeprom' | 'emulated'; bytes: number; writes?: number };
  adc_bits: number;
  level_v: number;
  step_rate_hz: number;
  /** Pins whose numbers leave the same rest share one interrupt line; missing where every pin has its own. */
  interrupt_lines?: number;
  pin_groups: PinGroup[];
}

/** No chip of this trade holds more. */
const LARGEST_MEMORY = 64 * 2 ** 20;
const address = () => Joi.number().integer().min(0).max(0xffff_ffff);

export const chipSchema = once(() =>
  Joi.object<Chip>({
    jolly: Joi.valid('chip/1').required(),
    id: id().required(),
    name: line(60).required(),
    marking: line(60).required(),
    word_bits: Joi.valid(8, 32).required(),
    clock_hz: Joi.number().min(1e5).max(5e9).required(),
    flash_bytes: Joi.number().integer().min(1024).max(LARGEST_MEMORY).required(),
    ram_bytes: Joi.number().integer().min(256).max(LARGEST_MEMORY).required(),
    flash_at: address().required(),
    uf2_family: Joi.number().integer().min(1).max(0xffff_ffff),
    ram_at: address().required(),
    vector: Joi.valid('entry', 'stack and entry').required(),
    gives: Joi.array()
      .items(Joi.valid(...READABLE))
      .unique()
      .required(),
    read_out_caution: line(200),
    programming: Joi.object<Programming>({
      signature: Joi.string()
        .pattern(/^[0-9a-f]{6,8}$/)
        .required(),
      page_bytes: Joi.number().integer().min(16).max(4096).required(),
      locked_as_sold: Joi.boolean(),
      unlock_erases: Joi.boolean(),
    }),
    store: Joi.object({
      kind: Joi.valid('eeprom', 'emulated').required(),
      bytes: Joi.number().integer().min(0).max(65536).required(),
      writes: Joi.number().integer().min(100).max(1e9),
    }).required(),
    // The kit's tables hold counts of 16 bits.
    adc_bits: Joi.number().integer().min(6).max(16).required(),
    level_v: Joi.number().greater(0).max(24).required(),
    step_rate_hz: Joi.number().min(100).max(1e8).required(),
    interrupt_lines: Joi.number().integer().min(1).max(256),
    pin_groups: Joi.array()
      .items(
        Joi.object<PinGroup>({
          pins: Joi.array()
            .ordered(
              Joi.number().integer().min(0).max(255).required(),
              Joi.number().integer().min(0).max(255).required(),
            )
            .length(2)
            .required(),
          can: Joi.array()
            .items(Joi.valid('out', 'in', 'adc', 'pwm', 'uart'))
            .min(1)
            .required(),
          tolerates_v: Joi.number().greater(0).max(60).required(),
          timer: Joi.number().integer().min(0).max(255),
        }),
      )
      .min(1)
      .max(256)
      .required(),
  }),
);

/** The group a pin number belongs to, or undefined when the chip has no such pin. */
export function pinGroup(chip: Chip, pin: number): PinGroup | undefined {
  return chip.pin_groups.find((group) => pin >= group.pins[0] && pin <= group.pins[1]);
}

/** The interrupt line a pin reports on. */
export function interruptLine(chip: Chip, pin: number): number {
  return chip.interrupt_lines === undefined ? pin : pin % chip.interrupt_lines;
}
