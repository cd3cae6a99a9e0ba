import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { endpoint, json } from '../endpoint';
import { id, words } from '../params';
import { count, flag, list, nullable, object, of, optional, settingValue, text, type TypeOf } from '../shape';

/** One setting, wanted on several machines. */
const wanted = object({
  key: of<string>(() => line(60)),
  value: settingValue,
  machines: of<string[]>(() => Joi.array().items(id.joi).unique().min(1).max(200)),
});

/** What the setting would make of one machine. */
const shared = object({
  machine: object({ id: text, name: text, version: count }),
  /** Missing where its kit has no such setting. */
  before: optional(settingValue),
  /** Why it is left out: its policy, its kit, or a value it cannot take. */
  leftOut: optional(text),
  /** Findings that would be new, and those that would be gone. */
  brings: list(object({ severity: text, what: text })),
  settles: list(object({ severity: text, what: text })),
  /** A new image is needed for it to count. */
  build: flag,
});
export type SharedSetting = TypeOf<typeof shared>;

/** How the settings of one machine differ from another's, which it is held against. */
const differing = object({ key: text, here: nullable(settingValue), there: nullable(settingValue) });

export const fleet = {
  trySetting: endpoint('post /fleet/setting/try', {
    summary: 'What one setting would make of several machines; nothing is changed',
    body: wanted,
    answer: json(list(shared)),
    refusals: ['bad-value'],
  }),
  shareSetting: endpoint('post /fleet/setting', {
    summary: 'Set one setting on several machines, all or nothing; each change can be undone at its machine',
    body: object({
      key: of<string>(() => line(60)),
      value: settingValue,
      because: words,
      /** The version of each machine that the preview was of. */
      versions: of<Record<string, number>>(() => Joi.object().pattern(id.joi, Joi.number().integer().min(1)).min(1).max(200)),
    }),
    answer: json(list(shared)),
    refusals: ['bad-value', 'stale'],
  }),
  settingsApart: endpoint('get /fleet/apart/{id}/{other}', {
    summary: 'Settings in which two machines differ, those that say who or how large a machine is left out',
    params: { id, other: id },
    answer: json(list(differing)),
  }),
}; // prettier-ignore
