import type { Spoken } from '../finding/finding';
import { aboutSetting, resetRemedy } from '../finding/settingFinding';
import { optionOf } from '../kit/optionOf';
import type { Facts } from '../machine/facts';
import { atomsInWords, factAtoms, factInWords, type FactKey, sameInWords } from '../machine/touched';
import { measuredBy } from '../settings/measured';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { inSeries } from '../text/inSeries';
import type { Check } from './check';

/** What a measured value takes part in, where its option does not say so: it hurts nobody while that is off. */
const TAKES_PART: readonly (readonly [value: RegExp, feature: string])[] = [
  [/^probe\.offset\./, 'probe.kind'],
  [/^nudge\./, 'nudge.on'],
  [/^lead\.time/, 'lead.on'],
  [/^stall\./, 'driver.line'],
];

function takesPart({ kit }: Facts, settings: Settings, key: string): boolean {
  const option = optionOf(kit, key);
  const feature = option?.by ?? TAKES_PART.find(([looks]) => looks.test(key))?.[1];
  return option !== undefined && (feature === undefined || isOn(settings, feature));
}

const isPid = (key: string): boolean => key.startsWith('pid.');

/** What of a fact matters to a value: steps of an extruder hang on what a driver divides, not on its make. */
function whatMatters(key: string, fact: FactKey, words: string): string {
  if (measuredBy(key)?.then !== 'rescale' || !fact.startsWith('driver.')) return words;
  return words
    .split(', ')
    .filter((piece) => piece.endsWith(' microsteps'))
    .join();
}

/** A measured value that was found with something that is another one now. */
function foreign(facts: Facts, key: string): Pick<Spoken, 'what' | 'evidence'> | undefined {
  const now = factAtoms(facts);
  const measured = Object.entries(facts.machine.settings[key]?.measured_with ?? {});
  const other = measured.find(
    ([fact, was]) =>
      !sameInWords(whatMatters(key, fact, atomsInWords(now.get(fact))), whatMatters(key, fact, was)),
  );
  if (!other) return undefined;
  const [fact, was] = other;
  return {
    what: `${key} was measured with another state of ${factInWords(fact)}.`,
    evidence: [`then: ${was}`, `now: ${atomsInWords(now.get(fact))}`],
  };
}

function pidForeign(facts: Facts): Spoken[] {
  return Object.keys(facts.machine.settings)
    .filter(isPid)
    .flatMap((key) => {
      const other = foreign(facts, key);
      if (!other) return [];
      const why = 'PID belongs to heater, sensor, supply and board. Measure it again, or let the kit decide until then.'; // prettier-ignore
      const remedies = [{ label: 'Let the kit decide', edits: [{ path: ['settings', key] }] }];
      return [{ subject: aboutSetting(key), ...other, why, remedies }];
    });
}

function valueForeign(facts: Facts, settings: Settings): Spoken[] {
  return Object.keys(facts.machine.settings)
    .filter((key) => !isPid(key) && takesPart(facts, settings, key))
    .flatMap((key) => {
      const other = foreign(facts, key);
      const measured = measuredBy(key);
      const is = settings.get(key);
      // A value that would be so anyway is nobody's measurement: no nudge at all, say.
      if (!other || !measured || is?.value === is?.hidden?.value) return [];
      const why = `It goes with ${inSeries(measured.restsOn.map(factInWords))}, and may be wrong by any amount now. Measure it again at Calibrate before you rely on it.`;
      // Reckoned for these parts it is right; what the kit gives is nobody's measurement, and an offset of the mount as old as this.
      const reckoned = is?.hidden?.source === 'derived' && !key.startsWith('probe.');
      return [
        { subject: aboutSetting(key), ...other, why, remedies: reckoned ? resetRemedy(settings, key) : [] },
      ];
    });
}

export const foreignChecks: Check[] = [
  { id: 'heat.pid-foreign', severity: 'mend', run: pidForeign },
  { id: 'measured.foreign', severity: 'mend', run: valueForeign },
];
