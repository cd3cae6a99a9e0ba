import { TOLERANCE } from '../calculation/calculation';
import { overrideEdit } from '../machine/edit';
import { type Facts, partsOf } from '../machine/facts';
import { probeAt, touchesWithNozzle } from '../settings/probeAt';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

function offsetZero(facts: Facts, settings: Settings): Spoken[] {
  const probe = partsOf(facts, 'probe')[0];
  if (!probe || probe.type.sense === 'nozzle' || settings.get('probe.kind')?.value === 'none') return [];
  const zero = numberOf(settings, 'probe.offset.z') === 0;
  if (!zero) return [];
  return [
    {
      subject: { kind: 'setting', id: 'probe.offset.z' },
      what: 'No Z offset is measured for the probe.',
      why: 'Until it is, the nozzle does not know how far below the trigger point the plate is. Measure it with a shim before the first layer.',
      evidence: ['probe.offset.z: 0 mm', probe.type.name],
    },
  ];
}

/** A probe of which nobody said or measured where it meets the plate. */
function placeUnknown(facts: Facts, settings: Settings): Spoken[] {
  const probe = partsOf(facts, 'probe')[0];
  const measured = (['x', 'y'] as const).every((axis) => settings.get(`probe.offset.${axis}`)?.hidden);
  const asked = facts.machine.not_known?.some((id) => id.startsWith('mount.'));
  if (!probe || probeAt(facts) || measured || asked) return [];
  return [
    {
      subject: { kind: 'part', id: probe.id },
      what: 'Where does the probe hang, seen from the nozzle?',
      why: 'Until somebody says so it counts as sitting at the nozzle: Z is found beside the spot that is asked for, and points of the map may miss the plate. Say it with “Signs of the probe offset” at Settings, or measure it at Calibrate.',
      evidence: ['the machine file has neither a mount nor an offset of its own', asSet(settings, 'probe.offset.x', 'mm'), asSet(settings, 'probe.offset.y', 'mm')],
    },
  ];
} // prettier-ignore

/** A ruler beside a mount errs by less, mm. */
const RULED_XY_MM = 3;
const RULED_Z_MM = 1;

/** What an offset that is off by so much is, and what comes of it, if what else is known of it is right. */
function offsetOff(axis: 'x' | 'y' | 'z', off: number, nozzle: boolean): Pick<Spoken, 'what' | 'why'> {
  const by = `${Math.abs(off).toFixed(1)} mm`;
  const across = `The probe offset in ${axis.toUpperCase()} is ${by} from where`;
  if (nozzle)
    return {
      what: `${across} the nozzle is, and the nozzle itself touches the plate.`,
      why: 'Heights are taken to be where they are not, and Z is found beside the spot that is asked for.',
    };
  if (axis !== 'z')
    return {
      what: `${across} the mount holds the probe.`,
      why: 'If the mount is right, heights are taken to be where they are not. Measure the offset again, or the mount.',
    };
  return {
    what: `The Z offset is ${by} ${off < 0 ? 'deeper' : 'less deep'} than the mount says.`,
    why:
      off < 0
        ? 'If the mount is right, the nozzle goes that far into the plate. Measure the offset again with a shim, or the mount.'
        : 'If the mount is right, heights are taken to be where they are not. Measure the offset again, or the mount.',
  };
}

/** Own offsets that are far from where the mount holds the probe. */
function offsetFar(facts: Facts, settings: Settings): Spoken[] {
  if (!partsOf(facts, 'probe')[0]) return [];
  const nozzle = touchesWithNozzle(facts);
  // Of a nozzle that is its own probe a mount says nothing of Z.
  const axes = nozzle ? (['x', 'y'] as const) : (['x', 'y', 'z'] as const);
  return axes.flatMap((axis) => {
    const key = `probe.offset.${axis}`;
    const mount = settings.get(key)?.hidden;
    const off = numberOf(settings, key) - Number(mount?.value);
    if (mount?.source !== 'derived' || Math.abs(off) <= (axis === 'z' ? RULED_Z_MM : RULED_XY_MM)) return [];
    return [
      {
        subject: aboutSetting(key),
        ...offsetOff(axis, off, nozzle),
        evidence: [asSet(settings, key, 'mm'), `by the facts: ${mount.because}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

/** A nozzle on a switch, and the plate under it, give by less before it triggers, mm. */
const GIVES_MM = 0.5;

/** A nozzle that is its own probe is where the plate is when it triggers. */
function nozzleOffset(facts: Facts, settings: Settings): Spoken[] {
  const z = numberOf(settings, 'probe.offset.z');
  if (!touchesWithNozzle(facts) || Math.abs(z) <= GIVES_MM) return [];
  return [
    {
      subject: aboutSetting('probe.offset.z'),
      what: `The nozzle itself touches the plate, and the Z offset is ${z} mm.`,
      why: `After homing it would ${z < 0 ? 'go that far into the plate' : 'stay that far above the plate'}. Begin with 0, and measure it with a shim.`,
      evidence: [asSet(settings, 'probe.offset.z', 'mm')],
      remedies: [{ label: 'Set it to 0 mm', edits: [overrideEdit('probe.offset.z', 0, 'the nozzle itself touches the plate')] }],
    },
  ];
} // prettier-ignore

/** The probe must trigger before the nozzle meets the plate, and not farther below it than it is lifted. */
function offsetSign(facts: Facts, settings: Settings): Spoken[] {
  const probe = partsOf(facts, 'probe')[0];
  if (!probe || probe.type.sense === 'nozzle' || settings.get('probe.kind')?.value === 'none') return [];
  const [z, clear] = [numberOf(settings, 'probe.offset.z'), numberOf(settings, 'probe.clear')];
  const evidence = [asSet(settings, 'probe.offset.z', 'mm'), asSet(settings, 'probe.clear', 'mm')];
  const about = {
    subject: aboutSetting('probe.offset.z'),
    evidence,
    remedies: resetRemedy(settings, 'probe.offset.z'),
  };
  if (z > TOLERANCE)
    return [
      {
        ...about,
        what: `The probe would trigger ${z} mm above the tip of the nozzle: the nozzle lands first.`,
        why: 'Homing would push the nozzle into the plate. The trigger point lies below the nozzle, so the offset is negative: measure it again, or mount the probe lower.',
      },
    ];
  if (-z > clear + TOLERANCE)
    return [
      {
        ...about,
        what: `The probe triggers ${-z} mm below the nozzle, farther than it is lifted between points (${clear} mm).`,
        why: 'It would be dragged over the plate. Raise the clearance, or measure the offset again.',
      },
    ];
  return [];
}

function stroke(facts: Facts, settings: Settings): Spoken[] {
  const probe = partsOf(facts, 'probe')[0];
  if (!probe || probe.type.stroke_mm === 0) return [];
  const clear = numberOf(settings, 'probe.clear');
  if (clear >= probe.type.stroke_mm) return [];
  return [
    {
      subject: { kind: 'setting', id: 'probe.clear' },
      what: `The probe is lifted ${clear} mm between points; its pin is ${probe.type.stroke_mm} mm long.`,
      why: 'The deployed pin would be dragged over the plate and bend.',
      evidence: [`probe.clear: ${clear} mm`, `${probe.type.name}: stroke ${probe.type.stroke_mm} mm`],
    },
  ];
}

function softLimitBlocks(facts: Facts, settings: Settings): Spoken[] {
  if (settings.get('home.z.with')?.value !== 'probe' || numberOf(settings, 'travel.z.min') < 0) return [];
  if (isOn(settings, 'limits.lift')) return [];
  const measured =
    facts.machine.probe_mount?.z_mm !== undefined || facts.machine.settings['probe.offset.z'] !== undefined;
  return [
    {
      subject: { kind: 'setting', id: 'travel.z.min' },
      what: 'The lower limit of Z keeps you from going below zero while you measure the offset.',
      why: `If the ${measured ? 'offset that stands now' : 'first offset'} is too shallow, the nozzle cannot come down to the shim. Let limits be lifted, let the travel begin at −2 mm while calibrating, or begin with an offset that is too deep.`,
      evidence: [asSet(settings, 'travel.z.min', 'mm'), asSet(settings, 'limits.lift')],
    },
  ];
}

function stowedLow({ machine, parts }: Facts): Spoken[] {
  const probe = parts.find(({ type }) => type.kind === 'probe');
  const mount = machine.probe_mount;
  if (probe?.type.kind !== 'probe' || probe.type.sense !== 'pin' || !mount) return [];
  const stowed = mount.stowed_mm;
  const subject = { kind: 'fact' as const, id: 'probe_mount.stowed_mm' };
  if (stowed === undefined)
    return [
      {
        severity: 'question',
        subject,
        what: 'How far does the stowed tip of the probe stand above the nozzle?',
        why: 'If it hangs lower, it is dragged through every print. Measure it with the probe stowed.',
        evidence: [probe.type.name],
      },
    ];
  if (stowed > 0) return [];
  return [
    {
      subject,
      what: `The stowed probe hangs ${stowed === 0 ? 'as low as' : `${-stowed} mm lower than`} the nozzle.`,
      why: 'It is dragged through every print. Mount it higher, or check that it really stows.',
      evidence: [`stowed tip ${stowed} mm above the nozzle`, probe.type.name],
    },
  ];
}

function plugChoice(_facts: Facts, settings: Settings): Spoken[] {
  const setting = settings.get('probe.plug');
  if (setting?.hidden?.source !== 'derived' || setting.hidden.value === setting.value) return [];
  return [
    {
      subject: aboutSetting('probe.plug'),
      what: `The probe is read from the ${setting.value === 'own-header' ? "probe's header" : "Z switch's header"}, and is plugged into the other.`,
      why: 'The board would never see it trigger, and the nozzle would go into the plate.',
      evidence: [asSet(settings, 'probe.plug'), setting.hidden.because],
      remedies: resetRemedy(settings, 'probe.plug'),
    },
  ];
}

function inversion(facts: Facts, settings: Settings): Spoken[] {
  if (partsOf(facts, 'probe').length === 0) return [];
  return ['probe.triggered', 'probe.pull-up'].flatMap((key) => {
    const setting = settings.get(key);
    if (setting?.hidden?.source !== 'derived' || setting.hidden.value === setting.value) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `${key} is not what sensor and header ask for.`,
        why: 'A probe that reads the wrong way round lets the nozzle into the plate, or never lets it down. Prove it in mid-air at Bring-up before you home Z.',
        evidence: [asSet(settings, key), `by the facts: ${setting.hidden.because}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

export const probeChecks: Check[] = [
  { id: 'probe.place-unknown', severity: 'question', run: placeUnknown },
  { id: 'probe.offset-sign', severity: 'stop', run: offsetSign },
  { id: 'probe.offset-nozzle', severity: 'stop', run: nozzleOffset },
  { id: 'probe.stroke', severity: 'stop', run: stroke },
  { id: 'probe.stowed-low', severity: 'stop', run: stowedLow },
  { id: 'probe.plug-choice', severity: 'stop', run: plugChoice },
  { id: 'probe.offset-far', severity: 'mend', run: offsetFar },
  { id: 'probe.inversion', severity: 'mend', run: inversion },
  { id: 'probe.offset-zero', severity: 'mend', run: offsetZero },
  { id: 'home.soft-limit-blocks', severity: 'note', run: softLimitBlocks },
];
