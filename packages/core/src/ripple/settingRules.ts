import { settingOf } from '../settings/setting';
import { measuredBy } from '../settings/measured';
import type { Setting } from '../settings/setting';
import type { Said } from './consequence';
import type { Stage } from './stage';
import { factInWords, touchedBy } from '../machine/touched';

/** A setting that no fact decides and that is worth another look when one of these facts changes. */
interface Decision {
  key: string;
  on: string[];
  because: string;
}

const DECISIONS: ReadonlyMap<string, Decision> = new Map(
  // A literal list, so that a misspelt cause does not compile.
  ([
  { key: 'machine.name', on: ['board', 'kit'], because: 'a date or version in the name lets the board prove which image runs' },
  { key: 'link.baud', on: ['chip'], because: 'another chip makes other rates exactly; the host must use the same' },
  { key: 'store.kept', on: ['kit', 'board'], because: 'another image takes over the stored settings it knows, with their old values' },
  { key: 'probe.clear', on: ['probe'], because: 'the nozzle must be lifted by more than the probe reaches below it' },
  { key: 'home.speed.z', on: ['probe', 'switch.z'], because: 'what finds Z also says how fast it may be approached' },
  { key: 'speed.x', on: ['driver.x', 'supply', 'motor.x'], because: 'quiet drivers and lower voltages lose force at speed' },
  { key: 'speed.y', on: ['driver.y', 'supply', 'motor.y', 'frame.bed'], because: 'quiet drivers, lower voltages and a heavier plate lose steps at speed' },
  { key: 'accel.y', on: ['frame.bed'], because: 'a bigger plate weighs more' },
  { key: 'control.bed', on: ['heater.bed'], because: 'a slow heater may be steadier on and off' },
  { key: 'heat.second-hotend.max', on: ['hotend'], because: 'what else in the hot end stands less heat than heater and sensor' },
  { key: 'heat.hotend.max', on: ['hotend'], because: 'what else in the hot end stands less heat than heater and sensor' },
] as Decision[]).map((entry) => [entry.key, entry]),
); // prettier-ignore

/** Settings that change by themselves, and settings that somebody must decide. */
export function settingRules(stage: Stage): Said[] {
  const { settingsBefore, settingsAfter, after } = stage;
  const said: Said[] = [];
  for (const option of after.kit.options) {
    const was = settingsBefore.get(option.key);
    const is = settingOf(settingsAfter, option.key);
    const own = ownValue(stage, is, option.label);
    if (was && was.value !== is.value)
      said.push({
        kind: 'setting',
        subject: option.key,
        title: option.label,
        from: inWords(was.value),
        to: inWords(is.value),
        because: option.from
          ? `${is.because}; ${after.kit.name} ${after.kit.version} does not read it yet`
          : is.because,
      });
    else if (own) said.push(own);
    else if (!was)
      said.push({
        kind: 'decide',
        subject: option.key,
        title: option.label,
        from: 'not known to the kit before',
        to: inWords(is.value),
        because: `${after.kit.name} ${after.kit.version} has this option; nothing has decided it yet`,
      });
    else said.push(...decision(stage, is, option.label));
  }
  return said;
}

/** A value of the machine's own stays, but what it was based on may have changed under it. */
function ownValue({ touched, settingsBefore }: Stage, is: Setting, label: string): Said | undefined {
  const was = settingsBefore.get(is.key);
  if (!is.hidden || !was?.hidden) return undefined;
  const measured = measuredBy(is.key);
  const fact = measured && touchedBy(touched, measured.restsOn);
  const derivedChanged = was.hidden.value !== is.hidden.value;
  if (!fact && !derivedChanged) return undefined;
  return {
    kind: 'decide',
    subject: is.key,
    title: `Keep your own value of “${label}”?`,
    from: inWords(is.value),
    to: `${inWords(is.hidden.value)} by the facts`,
    because: fact
      ? `it was measured with another state of ${factInWords(fact)}${measured.then === 'rescale' ? '; it scales with steps and gears' : ''}`
      : `what it replaces was ${inWords(was.hidden.value)} and is now ${inWords(is.hidden.value)}`,
  };
}

function decision({ touched }: Stage, is: Setting, label: string): Said[] {
  const found = DECISIONS.get(is.key);
  return found && !is.hidden && touchedBy(touched, found.on)
    ? [{ kind: 'decide', subject: is.key, title: label, from: inWords(is.value), because: found.because }]
    : [];
}

const inWords = (value: Setting['value']) =>
  value === true ? 'on' : value === false ? 'off' : String(value);
