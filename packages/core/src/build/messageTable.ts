import type { Kit } from '../kit/kit';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { cDefine, type CLine, cString } from './cText';

/** What the board says when it refuses or stops, by name: in words with long replies, else its number. */
export function messageTable(kit: Kit, settings: Settings): CLine[] {
  const long = isOn(settings, 'reply.long');
  return kit.messages.map(({ name, say }, place) =>
    cDefine(`MSG_${name}`, cString(long ? say : `${place + 1}`), long ? undefined : say),
  );
}
