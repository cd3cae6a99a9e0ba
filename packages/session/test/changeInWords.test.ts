import { optionOf } from '@jolly/core/kit/optionOf';
import type { Change } from '@jolly/core/ripple/change';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { changeInWords, changeWithTitle } from '../src/changeInWords';

const facts = factsOf(demoMachine('plover'));
const { parts, boards } = facts.catalogue;
const ofKind = (kind: string) => {
  const part = parts.find((entry) => entry.kind === kind);
  if (!part) throw new Error(`no ${kind}`);
  return part;
};
const [driver, probe, heater, thermistor, fan, motor] = ['driver', 'probe', 'heater', 'thermistor', 'fan', 'motor'].map(ofKind) as [typeof parts[0], typeof parts[0], typeof parts[0], typeof parts[0], typeof parts[0], typeof parts[0]]; // prettier-ignore
const board = boards[0]!;

describe('a change in words', () => {
  it.each<[Record<string, unknown>, string]>([
    [{ kind: 'new-board', board: board.id, revision: board.revision }, `${board.name} rev ${board.revision}`],
    [{ kind: 'new-board', board: 'gone', revision: '9' }, 'gone rev 9'],
    [{ kind: 'drivers', part: driver.id, axes: ['x', 'e'], microsteps: 16 }, `${driver.name} for X, extruder, 16 microsteps`],
    [{ kind: 'drivers', part: 'unknown', axes: ['z'], microsteps: 8 }, 'unknown for Z, 8 microsteps'],
    [{ kind: 'probe-added', part: probe.id, mount: { side: 'left', face: 'front', side_mm: 38, face_mm: 9 } }, `${probe.name}, 38 mm left, 9 mm to the front`],
    [{ kind: 'probe-added', part: probe.id, mount: { side: 'left', face: 'front', side_mm: 38 } }, `${probe.name}, its mount not measured yet`],
    [{ kind: 'probe-added', part: probe.id, mount: { side: 'left', face: 'front', face_mm: 9 } }, `${probe.name}, its mount not measured yet`],
    [{ kind: 'probe-added', part: 'anvil', mount: { side: 'left', face: 'front' } }, 'Anvil nozzle switch'],
    [{ kind: 'supply', volts_v: 24, amps_a: 15 }, '24 V, 15 A'],
    [{ kind: 'frame-size', bed_mm: { x: [0, 300], y: [0, 310] }, travel_mm: { x: [0, 1], y: [0, 1], z: [0, 400] } }, 'plate to 300 × 310, Z to 400 mm'],
    [{ kind: 'hot-end', heater: heater.id, thermistor: thermistor.id }, `${heater.name}, ${thermistor.name}`],
    [{ kind: 'feature', key: 'bed.map', value: true }, 'bed.map on'],
    [{ kind: 'feature', key: 'bed.map', value: false }, 'bed.map off'],
    [{ kind: 'feature', key: 'probe.touches', value: 3 }, 'Touches a point 3'],
    [{ kind: 'kit-version', kit: 'lantern', version: '0.2.0' }, '0.2.0'],
    [{ kind: 'motor', axis: 'e', part: motor.id }, `extruder: ${motor.name}`],
    [{ kind: 'switch', axis: 'y', part: 'unknown' }, 'Y: unknown'],
    [{ kind: 'fan', role: 'part', part: fan.id }, `part: ${fan.name}`],
    [{ kind: 'heater', body: 'hotend', part: heater.id }, `hot end: ${heater.name}`],
    [{ kind: 'heater', body: 'bed', part: heater.id, relay: 'unknown' }, `bed: ${heater.name}, by unknown`],
    [{ kind: 'thermistor', body: 'bed', part: thermistor.id }, `bed: ${thermistor.name}`],
    [{ kind: 'dual-z', part: motor.id }, motor.name],
    [{ kind: 'extruder-drive' }, ''],
    [{ kind: 'extruder-drive', of: 'e2' }, 'of the second'],
    [{ kind: 'belt', axis: 'x' }, 'X'],
    [{ kind: 'nozzle' }, ''],
    [{ kind: 'same-part', part: 'bed-heater' }, 'bed-heater, Bed heater 24 V 220 W'],
    [{ kind: 'same-part', part: 'gone' }, 'gone'],
    [{ kind: 'feature', key: 'arcs.on', value: true }, `${optionOf(facts.kit, 'arcs.on')?.label} on`],
  ])('%j', (change, words) => {
    expect(changeInWords({ id: 'c', ...change } as Change, facts)).toBe(words);
  }); // prettier-ignore
  it.each<[Record<string, unknown>, string]>([
    [{ kind: 'same-board' }, 'The same board, replaced like for like'],
    [{ kind: 'belt', axis: 'x' }, 'A new belt of the same kind: X'],
  ])('with its title: %j', (change, words) => {
    expect(changeWithTitle({ id: 'c', ...change } as Change, facts)).toBe(words);
  });
});
