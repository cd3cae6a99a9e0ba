import { type Kit, macroOf } from '../kit/kit';
import { storedName, storedSettings } from '../kit/storedSettings';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { cDefine, cFloat, cInteger, cList, type CLine, cName, cString, type CValue } from './cText';

/**
 * The table of stored settings as the firmware reads it: each setting's place by name, the rows (range, built-in value,
 * type, letter, decimals, name in the store) and the lines (command and its rows) of the options that are on.
 */
export function settingsTable(kit: Kit, decided: Settings): CLine[] {
  const settings = storedSettings(kit);
  const rows = settings.map(({ option, letter, decimals }) =>
    cList([
      cFloat(option.range[0]),
      cFloat(option.range[1]),
      cName(macroOf(option.key)),
      cName(option.whole ? 'SETTING_WHOLE' : 'SETTING_NUMBER'),
      letterOf(letter),
      cInteger(decimals),
      cInteger(storedName(option)),
    ]),
  );
  const known = kit.stored.filter(({ by }) => by === undefined || isOn(decided, by));
  const lines = known.map(({ say, words, live }) => {
    const first = settings.findIndex((entry) => entry.say === say);
    const coded = /^([GM])(\d+)$/.exec(say);
    const command = coded
      ? [cName('NULL'), letterOf(coded[1] ?? ''), cInteger(Number(coded[2]))]
      : [cString(say), cInteger(0), cInteger(0)];
    return cList([...command, cInteger(first), cInteger(Object.keys(words).length), cInteger(live ? 1 : 0)]);
  });
  return [
    cDefine('SETTINGS_COUNT', cInteger(settings.length)),
    cDefine('SETTINGS_LINE_COUNT', cInteger(lines.length)),
    ...settings.map(({ option }, place) =>
      cDefine(`SET_${macroOf(option.key)}`, cInteger(place), option.key),
    ),
    cDefine('SETTINGS_ROWS', cList(rows)),
    cDefine('SETTINGS_LINES', cList(lines)),
  ];
}

const letterOf = (letter: string): CValue => cInteger(letter.charCodeAt(0));
