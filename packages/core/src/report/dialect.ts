import { LONGEST_LINE } from '../text/limits';
import Joi from 'joi';
import { line } from '../text/plainText';
import { once } from '../tree/once';
import { id } from '../text/id';

/** Units in force while a report is read. */
export interface ReportUnits {
  len: 'mm' | 'in';
  temp: '°C' | '°F' | 'K';
}

/** What one number stands for. `{axis}`, `{len}` and `{temp}` are filled in. */
export interface DialectValue {
  /** The kit's option key where there is one. */
  key: string;
  unit: string;
  /** What it is called where no kit has an option for it. */
  name?: string;
}

/** A command of letters and numbers: `M92 X80 Y80`. Any of the letters may be there, in any order. */
export interface CodeLine {
  code: string;
  words?: (DialectValue & { letters: string })[];
  /** Letters that name the tool the line speaks of. */
  tool?: string;
  sets?: Partial<ReportUnits>;
}

/** A line of words, each `#` in it being a number: `panel bright=#`. */
export interface TextLine {
  text: string;
  /** In the order of the `#`; null for a number that is not taken. */
  values?: (DialectValue | null)[];
  sets?: Partial<ReportUnits>;
}
export type DialectLine = CodeLine | TextLine;

/** What the lines of a firmware's settings report mean. */
export interface Dialect {
  jolly: 'dialect/1';
  id: string;
  name: string;
  lines: DialectLine[];
}

const value = once(() => ({
  key: Joi.string()
    .pattern(/^[a-z]+([.-][a-z{}]+)*$/)
    .max(60)
    .required(),
  unit: line(20).allow('').required(),
  name: line(60).optional(),
}));
const sets = once(() =>
  Joi.object<Partial<ReportUnits>>({
    len: Joi.valid('mm', 'in').optional(),
    temp: Joi.valid('°C', '°F', 'K').optional(),
  }).optional(),
);
const codeLine = once(() =>
  Joi.object<CodeLine>({
    code: Joi.string()
      .pattern(/^[GM]\d{1,4}$/)
      .required(),
    tool: Joi.string()
      .pattern(/^[A-Z]+$/)
      .optional(),
    words: Joi.array()
      .items(
        Joi.object({
          ...value(),
          letters: Joi.string()
            .pattern(/^[A-Z]+$/)
            .required(),
        }),
      )
      .optional(),
    sets: sets(),
  }),
);
const textLine = once(() =>
  Joi.object<TextLine>({
    text: line(LONGEST_LINE).min(2).required(),
    values: Joi.array().items(Joi.object(value()).allow(null)).max(20).optional(),
    sets: sets(),
  }).custom((line: TextLine, helpers) => {
    const holes = line.text.split('#').length - 1;
    const told = line.values?.length ?? 0;
    // Where one number ends and the next begins could be tried in more ways than there is time for.
    if (/#[\d.+-]*#/.test(line.text))
      return helpers.message({ custom: '{{#label}}: two numbers (#) need a word or a sign between them' });
    return holes === told
      ? line
      : helpers.message({ custom: `{{#label}}: "text" has ${holes} numbers (#), "values" names ${told}` });
  }),
);

export const dialectSchema = once(() =>
  Joi.object<Dialect>({
    jolly: Joi.valid('dialect/1').required(),
    id: id().required(),
    name: line(60).required(),
    lines: Joi.array()
      .items(
        Joi.alternatives().conditional(Joi.object({ code: Joi.exist() }).unknown(), {
          then: codeLine(),
          otherwise: textLine(),
        }),
      )
      .max(500)
      .required(),
  }),
);

const NUMBER = String.raw`([-+]?(?:\d+\.?\d*|\.\d+))`;
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, String.raw`\$&`);

/** Matches a line that ends as the text says, whatever stands before it; each `#` is a group. */
export function textPattern(text: string): RegExp {
  const body = text
    .trim()
    .split('#')
    .map((piece) =>
      piece
        .split(/\s+/)
        .map(escaped)
        .join(String.raw`\s+`),
    )
    .join(NUMBER);
  return new RegExp(String.raw`(?:^|[^A-Za-z0-9.])${body}\s*$`, 'i');
}
