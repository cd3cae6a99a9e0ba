import { pinTable } from '../harness/pinTable';
import type { Facts } from '../machine/facts';
import { HEATED } from '../machine/machine';
import { macroOf, type Option, readNow } from '../kit/kit';
import { sensorInput, thermistorsOf } from '../settings/sensorInput';
import type { Setting, Settings } from '../settings/setting';
import type { GeneratedFile, GeneratedLine } from './generatedFile';
import { sensorTable } from './sensorTable';

/**
 * The firmware files generated for a machine: one header per option group and one per group of pins, so that a
 * changed setting recompiles only the sources that include its group. Every line names what it came from.
 */
export function write(facts: Facts, settings: Settings): GeneratedFile[] {
  const options = readNow(facts.kit);
  const groups = [...new Set(options.map((option) => option.group))];
  return [
    ...groups.map((group) =>
      optionHeader(
        group,
        options.filter((option) => option.group === group),
        facts,
        settings,
      ),
    ),
    ...Object.entries(pinTable(facts)).map(([group, rows]) =>
      header(
        `pins_${group}`,
        rows.map((row) => ({ text: `#define ${row.name} ${row.pin} /* ${row.because} */`, key: row.name })),
      ),
    ),
  ];
}

function header(name: string, lines: GeneratedLine[]): GeneratedFile {
  return {
    path: `${name}.h`,
    lines: [
      { text: `/* ${name}.h: written by Jolly Cog from the machine file. */` },
      { text: '#pragma once' },
      ...lines,
    ],
  };
}

function optionHeader(group: string, options: Option[], facts: Facts, settings: Settings): GeneratedFile {
  return header(
    `option_${group}`,
    options.flatMap((option) => optionLines(option, settings.get(option.key)!, facts)),
  );
}

function optionLines(option: Option, setting: Setting, facts: Facts): GeneratedLine[] {
  const { key } = option;
  const macro = macroOf(key);
  const line = (text: string): GeneratedLine => ({ text, key });
  switch (option.kind) {
    case 'number':
      return [
        line(
          `#define ${macro} ${option.whole ? String(setting.value) : floatLiteral(setting.value as number)} /* ${key}, ${option.unit || 'no unit'} */`,
        ),
      ];
    case 'flag':
      return [line(`#define ${macro} ${setting.value ? 1 : 0} /* ${key} */`)];
    case 'text':
      return [line(`#define ${macro} ${JSON.stringify(setting.value)} /* ${key} */`)];
    case 'choice':
      return choiceLines(option, setting, macro).map(line);
    case 'sensor':
      return sensorLines(key, String(setting.value), facts).map(line);
  }
}

function floatLiteral(value: number): string {
  const text = String(value);
  return /[.e]/.test(text) ? `${text}f` : `${text}.0f`;
}

/** Choices that are numbers are written as they are; words get a numbered name each. */
function choiceLines(option: Option & { kind: 'choice' }, setting: Setting, macro: string): string[] {
  if (typeof setting.value === 'number') return [`#define ${macro} ${setting.value} /* ${option.key} */`];
  const names = option.choices.map((choice, index) => `#define ${macro}_${macroOf(String(choice))} ${index}`);
  return [...names, `#define ${macro} ${macro}_${macroOf(String(setting.value))} /* ${option.key} */`];
}

function sensorLines(key: string, sensorId: string, facts: Facts): string[] {
  const body = HEATED.find((entry) => key.endsWith(entry)) ?? 'hotend';
  const type = thermistorsOf(facts.catalogue).find(({ id }) => id === sensorId);
  const macro = macroOf(key);
  if (!type) return [`#error "[${key}] no thermistor ${sensorId} in the catalogue"`];
  const { bits, pullupOhms } = sensorInput(facts, body);
  const rows = sensorTable(type, pullupOhms, bits);
  return [
    `#define ${macro}_LIMIT_C ${type.max_c} /* ${key}: ${type.name} */`,
    `#define ${macro}_ROWS ${rows.length} /* ${key} */`,
    `#define ${macro}_TABLE { ${rows.map((row) => `{${row.raw},${row.deciC}}`).join(', ')} } /* ${key}, count and tenths of °C */`,
  ];
}
