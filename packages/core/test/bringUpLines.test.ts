import { describe, expect, it } from 'vitest';
import { boardActions } from '../src/bringup/boardActions';
import { canHeat, coldLines, heatLine } from '../src/bringup/heatLines';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { derive } from '../src/settings/derive';
import { writeEndCode } from '../src/slicer/writeStartCode';
import { demoMachine, factsOf, own } from './fixtures/demo';

const { parts } = demoMachine('bittern');
const added = (...list: object[]): Edit[] => list.map((value, index) => ({ path: ['parts', parts.length + index], value })); // prettier-ignore
const SECOND_HOTEND = added(
  { id: 'e2-heater', part: 'cartridge-24-40', role: 'hotend-2' },
  { id: 'e2-sensor', part: 't100-a', role: 'hotend-2' },
  { id: 'e2-motor', part: 'motor-200-12', role: 'e' },
  { id: 'e2-driver', part: 'gannet-g5', role: 'e', microsteps: 16 },
);
const SECOND_MOTOR: Edit[] = [
  ...SECOND_HOTEND,
  { path: ['harness', 'e2-motor'], value: { socket: 'S5' } },
  { path: ['harness', 'e2-driver'], value: { socket: 'S5' } },
];
const bittern = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), edits));
const offered = (facts: Facts) => boardActions(facts, derive(facts)).flatMap(({ actions }) => actions);
const linesOf = (facts: Facts, label: string) => offered(facts).find((action) => action.label === label)?.lines; // prettier-ignore

describe('what is told with one key', () => {
  it('leaves no mode behind, whatever was refused on the way', () => {
    const moves = offered(bittern()).filter(({ lines }) => lines.includes('G91'));
    expect(moves.map(({ label }) => label)).toEqual([
      'X − 10',
      'X + 10',
      'Y − 10',
      'Y + 10',
      'Z − 1',
      'Z + 1',
    ]);
    for (const { lines, after } of moves) expect([lines.includes('G90'), after]).toEqual([false, ['G90']]);
  });
});

describe('every heater off', () => {
  it('names each hot end of two, whichever tool is in use', () => {
    expect(coldLines(bittern())).toEqual(['M104 S0', 'M140 S0']);
    const two = bittern(...SECOND_MOTOR);
    expect(coldLines(two)).toEqual(['M104 T0 S0', 'M104 T1 S0', 'M140 S0']);
    expect(linesOf(two, 'Cool down')).toEqual(coldLines(two));
    expect(writeEndCode(two, derive(two))).toContain('M104 T0 S0\nM104 T1 S0\nM140 S0');
  });
  it('also of a chamber, where the image knows how', () => {
    const chamber = added(
      { id: 'box-heater', part: 'cartridge-24-40', role: 'chamber' },
      { id: 'box-sensor', part: 't100-a', role: 'chamber' },
    );
    expect(linesOf(bittern(...chamber), 'Cool down')).toEqual(['M104 S0', 'M140 S0', 'M141 S0']);
    expect(linesOf(bittern(...chamber, own('guard.chamber', false)), 'Cool down')).toEqual(['M104 S0', 'M140 S0']); // prettier-ignore
  });
  it('a second hot end without a motor of its own is none the board can heat', () => {
    expect(canHeat(bittern(...SECOND_HOTEND), 'hotend-2')).toBe(false);
    expect(canHeat(bittern(...SECOND_MOTOR), 'hotend-2')).toBe(true);
    // What cannot be heated is never asked for by heating something else.
    expect(() => heatLine('spare', 50)).toThrow('nothing heats the spare');
  });
});

describe('what the board is offered to be told', () => {
  it('lets a probe out and in only where it has something to let out', () => {
    const labels = (id: string) => offered(factsOf(demoMachine(id))).map(({ label }) => label);
    expect(labels('plover')).toEqual(expect.arrayContaining(['Probe out', 'Probe in', 'Repeatability']));
    expect(labels('bittern')).not.toContain('Probe out');
    expect(labels('bittern')).not.toContain('Probe in');
    expect(labels('bittern')).toContain('Repeatability');
  });
  it('changes the tool only where there are two', () => {
    expect(linesOf(bittern(), 'Second extruder')).toBeUndefined();
    expect(linesOf(bittern(...SECOND_MOTOR), 'Second extruder')).toEqual(['T1']);
  });
});

describe('the settings of two extruders', () => {
  it('follow from the second one’s own motor, driver, plug and sensor', () => {
    const settings = derive(bittern(...SECOND_MOTOR, { path: ['parts', parts.length + 1, 'part'], value: 't100-b' }));
    const value = (key: string) => settings.get(key)?.value;
    expect(value('sensor.second-hotend')).toBe('t100-b');
    expect(value('sensor.hotend')).toBe('t100-a');
    expect(value('steps.second-e')).toBe(value('steps.e'));
    const finer = derive(bittern(...SECOND_MOTOR, { path: ['parts', parts.length + 3, 'microsteps'], value: 8 }));
    expect(Number(finer.get('steps.second-e')?.value) * 2).toBeCloseTo(Number(finer.get('steps.e')?.value), 3);
    const turned = derive(bittern(...SECOND_MOTOR, { path: ['harness', 'e2-motor', 'turned'], value: true }));
    expect(turned.get('direction.second-e')?.value).not.toBe(value('direction.second-e'));
    expect(turned.get('direction.e')?.value).toBe(value('direction.e'));
  }); // prettier-ignore
  it('let each hot end go as hot as its own parts stand', () => {
    const highest = (body: string, ...edits: Edit[]) =>
      derive(bittern(...SECOND_MOTOR, ...edits)).get(`heat.${body}.max`);
    const least = { path: ['parts', parts.length, 'part'], value: 'bed-24-300' };
    expect(Number(highest('second-hotend', least)?.value)).toBeLessThan(
      Number(highest('second-hotend')?.value),
    );
    expect(highest('second-hotend', least)?.because).toContain('stands');
    expect(highest('hotend', least)).toEqual(highest('hotend'));
  });
});
