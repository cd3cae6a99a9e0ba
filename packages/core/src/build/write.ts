import { settingOf } from '../settings/setting';
import { pinTable } from '../circuit/pinTable';
import type { Facts } from '../machine/facts';
import type { SettingValue } from '../kit/settingValue';
import { boardText } from '../text/boardText';
import {
  type CLine,
  cComment,
  cDefine,
  cError,
  cFloat,
  cInteger,
  cList,
  cName,
  cOnce,
  cString,
} from './cText';
import { heldNumber, macroOf, type Option, readNow } from '../kit/kit';
import { sensorInput, thermistorsOf } from '../settings/sensorInput';
import type { Setting, Settings } from '../settings/setting';
import type { CFile, GeneratedLine } from './generatedFile';
import { sensorTable } from './sensorTable';
import { driverTable } from './driverTable';
import { messageTable } from './messageTable';
import { settingsTable } from './settingsTable';

/**
 * The firmware files generated for a machine: one header per option group and one per group of pins, so that a
 * changed setting recompiles only the sources that include its group; and the table of stored settings. Every line names
 * what it came from.
 */
export function write(facts: Facts, settings: Settings): CFile[] {
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
        rows.map((row) => ({ text: cDefine(row.name, cInteger(row.pin), row.because), key: row.name })),
      ),
    ),
    header(
      'settings_table',
      settingsTable(facts.kit, settings).map((text) => ({ text })),
    ),
    header(
      'driver_table',
      driverTable(facts).map((text) => ({ text })),
    ),
    header(
      'messages',
      messageTable(facts.kit, settings).map((text) => ({ text })),
    ),
  ];
}

function header(name: string, lines: GeneratedLine<CLine>[]): CFile {
  return {
    path: `${name}.h`,
    lines: [
      { text: cComment(`${name}.h: written by Jolly Cog from the machine file.`) },
      { text: cOnce },
      ...lines,
    ],
  };
}

function optionHeader(group: string, options: Option[], facts: Facts, settings: Settings): CFile {
  return header(
    `option_${group}`,
    options.flatMap((option) => optionLines(option, settingOf(settings, option.key), facts)),
  );
}

function optionLines(option: Option, setting: Setting, facts: Facts): GeneratedLine<CLine>[] {
  return linesOf(option, setting, facts).map((text) => ({ text, key: option.key }));
}

function linesOf(option: Option, { value }: Setting, facts: Facts): CLine[] {
  const { key } = option;
  const macro = macroOf(key);
  switch (option.kind) {
    case 'number':
      return [numberLine(option, Number(value))];
    case 'flag':
      return [cDefine(macro, cInteger(value ? 1 : 0), key)];
    case 'text':
      return [cDefine(macro, cString(boardText(String(value), option.longest)), key)];
    case 'choice':
      return choiceLines(option, value, macro);
    case 'sensor':
      return sensorLines(key, String(value), facts);
  }
}

/** A number that no C type holds fails the build at its setting. */
function numberLine(option: Option & { kind: 'number' }, told: number): CLine {
  const { key, unit, whole } = option;
  const value = heldNumber(option, told);
  const most = whole ? 2 ** 31 - 1 : 3.4e38;
  return Math.abs(value) <= most
    ? cDefine(macroOf(key), (whole ? cInteger : cFloat)(value), `${key}, ${unit || 'no unit'}`)
    : cError(`[${key}] comes out as ${value}, which the board cannot hold`);
}

/** Choices that are numbers are written as they are; words get a numbered name each. */
function choiceLines(option: Option & { kind: 'choice' }, value: SettingValue, macro: string): CLine[] {
  if (typeof value === 'number') return [cDefine(macro, cInteger(value), option.key)];
  const nameOf = (choice: unknown) => `${macro}_${macroOf(String(choice))}`;
  return [
    ...option.choices.map((choice, index) => cDefine(nameOf(choice), cInteger(index))),
    cDefine(macro, cName(nameOf(value)), option.key),
  ];
}

function sensorLines(key: string, sensorId: string, facts: Facts): CLine[] {
  const type = thermistorsOf(facts.catalogue).find(({ id }) => id === sensorId);
  const macro = macroOf(key);
  if (!type) return [cError(`[${key}] no thermistor ${sensorId} in the catalogue`)];
  const { bits, pullupOhms } = sensorInput(facts, key.replace(/^sensor\./, ''));
  const rows = sensorTable(type, pullupOhms, bits);
  const table = rows.map(({ raw, deciC }) => cList([cInteger(raw), cInteger(deciC)]));
  return [
    cDefine(`${macro}_LIMIT_C`, cFloat(type.max_c), `${key}: ${type.name}`),
    cDefine(`${macro}_ROWS`, cInteger(rows.length), key),
    cDefine(`${macro}_TABLE`, cList(table), `${key}, count and tenths of °C`),
  ];
}
