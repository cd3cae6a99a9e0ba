import { type Kit, macroOf } from '../kit/kit';
import { layoutMark, storedSettings } from '../kit/storedSettings';
import { cDefine, cFloat, cInteger, cList, type CLine, cName, cString, type CValue } from './cText';

/**
 * The table of stored settings as the firmware reads it: each setting's place by name, the rows (range, built-in value,
 * type, letter, decimals), the lines (command and its rows) and the mark of the layout.
 */
export function settingsTable(kit: Kit): CLine[] {
  const settings = storedSettings(kit);
  const rows = settings.map(({ option, letter, decimals }) =>
    cList([
      cFloat(option.range[0]),
      cFloat(option.range[1]),
      cName(macroOf(option.key)),
      cName(option.whole ? 'SETTING_WHOLE' : 'SETTING_NUMBER'),
      letterOf(letter),
      cInteger(decimals),
    ]),
  );
  const lines = kit.stored.map(({ say, words }) => {
    const first = settings.findIndex((entry) => entry.say === say);
    const coded = /^([GM])(\d+)$/.exec(say);
    const command = coded
      ? [cName('NULL'), letterOf(coded[1] ?? ''), cInteger(Number(coded[2]))]
      : [cString(say), cInteger(0), cInteger(0)];
    return cList([...command, cInteger(first), cInteger(Object.keys(words).length)]);
  });
  return [
    cDefine('SETTINGS_MARK', cInteger(layoutMark(kit)), 'of this set of settings in this order'),
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
