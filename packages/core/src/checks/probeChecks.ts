import { type Facts, partsOf } from '../machine/facts';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from './finding';

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
  const measured =
    facts.machine.probe_mount?.z_mm !== undefined || facts.machine.settings['probe.offset.z'] !== undefined;
  if (settings.get('home.z.with')?.value !== 'probe' || measured || numberOf(settings, 'travel.z.min') < 0)
    return [];
  return [
    {
      subject: { kind: 'setting', id: 'travel.z.min' },
      what: 'The lower limit of Z keeps you from going below zero while you measure the offset.',
      why: 'If the first offset is too shallow, the nozzle cannot come down to the shim. Let the travel begin at −2 mm while calibrating.',
      evidence: [`travel.z.min: ${numberOf(settings, 'travel.z.min')} mm`],
    },
  ];
}

export const probeChecks: Check[] = [
  { id: 'probe.stroke', severity: 'stop', run: stroke },
  { id: 'probe.offset-zero', severity: 'mend', run: offsetZero },
  { id: 'home.soft-limit-blocks', severity: 'note', run: softLimitBlocks },
];
