import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import type { Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { buildInput } from '../../server/src/build/buildInput';
import { unitsOf } from '../../server/src/build/units';
import { loadKitSources } from '../../server/src/files/catalogue';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { demoFacts, own, root } from './fixtures/builtMachine';

const compiler = compilerForTests();
const turn = { owner: 'refused', signal: new AbortController().signal };

/** What a source says to a machine with these settings, by key; nothing when it compiles. */
async function saidBy(source: string, machine: string, edits: readonly Edit[]): Promise<string[]> {
  const facts = await demoFacts(machine, ...edits);
  const input = buildInput(facts, derive(facts), await loadKitSources(root, facts.kit.id));
  const unit = unitsOf(input).find((each) => each.source === source);
  if (!unit) throw new Error(`there is no ${source}`);
  const { failed, log } = await compiler.compile({ sources: [source], files: unit.files, effort: input.effort }, turn);
  const keys = [...log.matchAll(/error: static assertion failed[^[\n]*\[([a-z0-9.-]+)\]/g)].map(([, key = '']) => key);
  if (failed !== undefined && keys.length === 0) throw new Error(log);
  return keys;
} // prettier-ignore

/** What stops the build of a machine with these settings, before anything is built. */
async function stoppedBy(machine: string, edits: readonly Edit[]): Promise<string[]> {
  const facts = await demoFacts(machine, ...edits);
  return stopping(check(facts, derive(facts))).map(({ id, what }) => `${id}: ${what}`);
}

/** Settings as [key, value]; the first row of each is refused by that key, the second is just allowed. */
type Values = Record<string, string | number | boolean>;
const edits = (values: Values): Edit[] => Object.entries(values).map(([key, value]) => own(key, value));
const fast = (axis: string): [Values, Values] => [
  { [`steps.${axis}`]: 5000, [`speed.${axis}`]: 100.5 },
  { [`steps.${axis}`]: 5000, [`speed.${axis}`]: 100 },
];
const CASES: [key: string, source: string, refused: Values, allowed: Values, machine?: string, more?: Edit[]][] = [
  ...['x', 'y', 'z', 'e'].map((axis): [string, string, Values, Values] => [`speed.${axis}`, 'core/settings.c', ...fast(axis)]),
  ['speed.second-e', 'core/settings.c', ...fast('second-e'), 'bittern', TWO_EXTRUDERS],
  ...['x', 'y', 'z'].map((axis): [string, string, Values, Values] => [
    `travel.${axis}.max`, 'motion/limits.c', { [`travel.${axis}.min`]: 60, [`travel.${axis}.max`]: 60 }, { [`travel.${axis}.min`]: 60, [`travel.${axis}.max`]: 61 },
  ]),
  ['bed.x.max', 'core/identity.c', { 'bed.x.min': 60, 'bed.x.max': 60 }, { 'bed.x.min': 60, 'bed.x.max': 61 }, 'dunlin'],
  ['bed.x.max', 'core/identity.c', { 'bed.y.min': 60, 'bed.y.max': 60 }, { 'bed.y.min': 60, 'bed.y.max': 61 }, 'dunlin'],
  ...['x', 'y'].map((axis): [string, string, Values, Values] => [
    `map.${axis}.max`, 'bed/map.c', { [`map.${axis}.min`]: 60, [`map.${axis}.max`]: 60 }, { [`map.${axis}.min`]: 60, [`map.${axis}.max`]: 61 },
  ]),
  ['heat.hotend.max', 'heat/heat.c', { 'heat.hotend.max': 500 }, { 'heat.hotend.max': 250 }],
  ['heat.bed.max', 'heat/heat.c', { 'heat.bed.max': 400 }, { 'heat.bed.max': 110 }],
  ['heat.second-hotend.max', 'heat/heat.c', { 'heat.second-hotend.max': 500 }, { 'heat.second-hotend.max': 250 }, 'bittern', TWO_EXTRUDERS],
  ['link.display-port', 'panel/serial_panel.c', { 'link.display-port': 'first' }, { 'link.display-port': 'first', 'link.host-port': 'second' }],
  ['link.display-port', 'panel/serial_panel.c', { 'link.display-port': 'second', 'link.host-port': 'second' }, { 'link.display-port': 'second' }],
  ['tilt.by', 'bed/tilt.c', { 'tilt.by': 'three-point' }, { 'tilt.by': 'by-hand' }, 'dunlin'],
  ['home.z.with', 'motion/homing.c', { 'home.z.with': 'probe' }, { 'home.z.with': 'switch' }, 'dunlin'],
  ['extruder.second', 'motion/motors.c', { 'extruder.second': true }, { 'extruder.second': false }],
  ['second-z.on', 'motion/motors.c', { 'second-z.on': true }, { 'second-z.on': false }],
]; // prettier-ignore

describe('what cannot be is refused by the C itself, and stops the build before it begins', () => {
  it.each(CASES)('%s in %s', async (key, source, refused, allowed, machine = 'plover', more = []) => {
    expect(await saidBy(source, machine, [...more, ...edits(refused)])).toEqual([key]);
    expect(await saidBy(source, machine, [...more, ...edits(allowed)])).toEqual([]);
    expect(await stoppedBy(machine, [...more, ...edits(refused)])).not.toEqual(
      await stoppedBy(machine, more),
    );
  });
});
