import type { Severity, Spoken } from '../finding/finding';
import { aboutSetting, asSet, inWords, resetRemedy } from '../finding/settingFinding';
import { optionOf } from '../kit/optionOf';
import type { SettingValue } from '../kit/settingValue';
import type { Facts } from '../machine/facts';
import { AXES, WARMED } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { hearingOf } from '../settings/hearing';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';

/** A setting that only the machine decides: an own value that says otherwise is wrong, or the description is. */
interface Decided {
  key: string;
  why: string;
  severity?: Severity;
  /** So far an own number may be from what the facts give. */
  within?: number;
  /** The value with which it is left out, which is a choice and worth a note. */
  leftOut?: { value: SettingValue; why: string };
}

/** The pulse that turns a servo about ten degrees further, µs. */
const A_NUDGE_US = 120;

const DECIDED: readonly Decided[] = [
  { key: 'frame.kinematics', why: 'Two motors would turn where one moves the axis, or one where two do: every move goes aslant, and homing runs into the frame.' },
  { key: 'probe.kind', leftOut: { value: 'none', why: 'It is wired, and nobody reads it: it takes no map and does not find Z.' }, why: 'A probe that is asked in another way is not put out or not read, and the nozzle goes into the plate.' },
  { key: 'driver.line', why: 'The drivers are told neither current nor mode, or are told it in a way they do not hear.' },
  { key: 'second-z.on', why: 'One side of the axis would move and the other stand, and the gantry bends; or the build fails for want of a second motor.' },
  { key: 'extruder.second', why: 'A wired extruder would stand still, or the build fails for want of one.' },
  ...WARMED.map((body) => ({ key: `sensor.${heatKey(body)}`, severity: 'mend' as const, why: 'Read by the table of another sensor every temperature is wrong, and the heater may go far beyond what is shown. If another sensor sits there, say so among the parts.' })),
  ...AXES.map((axis) => ({ key: `switch.${axis}.pressed`, severity: 'mend' as const, why: 'Read the wrong way round the axis counts as home where it stands, or is not stopped by its switch. Press it by hand at Bring-up before you home.' })),
  { key: 'filament.reads', severity: 'mend', why: 'Read the wrong way round every print pauses at once, or none does when the filament ends.' },
  { key: 'bed.heated', severity: 'mend', why: 'The firmware would leave a heater alone that is wired, or heat one that is not there.' },
  { key: 'probe.deploy', severity: 'mend', within: A_NUDGE_US, why: 'At another pulse the pin may not come out, and the nozzle goes into the plate. See it come out before you home Z.' },
  { key: 'probe.stow', severity: 'mend', within: A_NUDGE_US, why: 'At another pulse the pin may stay out, and is dragged through the print. See it go in before you print.' },
]; // prettier-ignore

/** Own values of what only the machine decides. */
function overruled({ kit }: Facts, settings: Settings): Spoken[] {
  return DECIDED.flatMap(({ key, why, severity, within = 0, leftOut }): Spoken[] => {
    const setting = settings.get(key);
    const facts = setting?.hidden;
    if (!setting || facts?.source !== 'derived' || facts.value === setting.value) return [];
    if (Math.abs(Number(setting.value) - Number(facts.value)) <= within) return [];
    const isLeftOut = setting.value === leftOut?.value;
    return [
      {
        ...(isLeftOut ? { severity: 'note' } : severity && { severity }),
        subject: aboutSetting(key),
        what: `${optionOf(kit, key)?.label ?? key} is set to ${inWords(setting.value)}; by what is known of the machine it is ${inWords(facts.value)}.`,
        why: isLeftOut ? leftOut.why : why,
        evidence: [asSet(settings, key), `by the facts: ${facts.because}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

/** Options that other checks hold against their parts. */
const HELD_ELSEWHERE: readonly string[] = [...DECIDED.map(({ key }) => key), ...WARMED.map((body) => `guard.${heatKey(body)}`)]; // prettier-ignore

/** Features that were switched on by hand, for parts that the machine does not have. */
function withoutPart(facts: Facts, settings: Settings): Spoken[] {
  const { kit, machine } = facts;
  const served = new Set(facts.parts.map((part) => hearingOf(facts, part)?.by));
  return [...new Set(kit.hears.map(({ by }) => by))].flatMap((by): Spoken[] => {
    const option = by === undefined ? undefined : optionOf(kit, by);
    if (option?.kind !== 'flag' && option?.kind !== 'choice') return [];
    const { key, label } = option;
    const setting = settings.get(key);
    if (setting?.source !== 'override' || !isOn(settings, key)) return [];
    if (served.has(key) || HELD_ELSEWHERE.includes(key)) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `${label} is set to ${inWords(setting.value)}, and ${machine.name} has no part for it.`,
        why: 'Nothing comes of it: no pin of the board leads to one. Add the part at Survey, or let the facts decide.',
        evidence: [asSet(settings, key), `parts: ${machine.parts.map(({ id }) => id).join(', ')}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

/** Own values that the machine itself contradicts. */
export const overruledChecks: Check[] = [
  { id: 'fact.overruled', severity: 'stop', run: overruled },
  { id: 'kit.without-part', severity: 'mend', run: withoutPart },
];
