import { applyEdits } from '@jolly/core/machine/edit';
import { thermistorOhms } from '@jolly/core/heat/thermistor';
import { derive } from '@jolly/core/settings/derive';
import { sensorInput, thermistorsOf } from '@jolly/core/settings/sensorInput';
import { machineSchema } from '@jolly/core/machine/machine';
import { resolve } from '@jolly/core/machine/facts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, installed } from '../../core/test/fixtures/demo';
import { PARTS, type PartId } from '@jolly/session/machineParts';
import { type Tool, TypedError } from '../src/tools/tool';
import { TOOLS } from '../src/tools/tools';
import type { Workbench } from '../src/workbench/Workbench';
import { CalcError } from '@jolly/core/calculation/calculation';

/** As much of a workbench as tools look at. */
function benchOf(id: string): Workbench {
  const machine = demoMachine(id);
  const facts = factsOf(machine);
  const { board, chip, kit } = facts;
  return { machine, facts, board, chip, kit, settings: new Map(derive(facts)) } as unknown as Workbench;
}
const benches = ['plover', 'bittern', 'dunlin'].map(benchOf);
const startOf = (tool: Tool, bench: Workbench, part: PartId) =>
  Object.fromEntries(tool.fields(bench, part).map(({ key, start }) => [key, start]));
/** As if somebody had measured what the examples show. */
const measuredOf = (tool: Tool, bench: Workbench, part: PartId) =>
  Object.fromEntries(
    tool
      .fields(bench, part)
      .map(({ key, start, example = '' }) => [key, start || example.replace(/^for example\s/, '')]),
  );
/** What a tool says, or that it says why not; anything else thrown is a mistake of ours. */
const workOut = (tool: Tool, typed: Record<string, string>, bench: Workbench, part: PartId) => {
  try {
    return tool.work(typed, bench, part);
  } catch (error) {
    if (error instanceof CalcError || error instanceof TypedError) return error.message;
    throw error;
  }
};

describe('every guided tool', () => {
  it('lies beside a part that is shown, under an id of its own', () => {
    expect(new Set(TOOLS.map(({ id }) => id)).size).toBe(TOOLS.length);
    for (const { parts } of TOOLS)
      for (const part of parts) expect(PARTS.some(({ id }) => id === part)).toBe(true);
  });
  it.each(TOOLS.map((tool): [string, Tool] => [tool.id, tool]))(
    '%s works with what is typed, and what it applies leaves a whole machine',
    (_id, tool) => {
      let worked = 0;
      for (const bench of benches)
        for (const part of tool.parts) {
          const result = workOut(tool, measuredOf(tool, bench, part), bench, part);
          if (typeof result === 'string') continue;
          worked += 1;
          expect(result.lines.join(' ')).not.toMatch(/NaN|undefined|Infinity/);
          if (!result.apply) continue;
          const after = applyEdits(bench.machine, result.apply.edits);
          expect(machineSchema().validate(after).error?.message).toBeUndefined();
          expect('facts' in resolve(after, installed.catalogue)).toBe(true);
        }
      expect(worked).toBeGreaterThan(0);
    },
  );
  it.each(TOOLS.map((tool): [string, Tool] => [tool.id, tool]))(
    '%s survives whatever is typed',
    (_id, tool) => {
      const [bench] = benches;
      const part = tool.parts[0]!;
      const start = startOf(tool, bench!, part);
      const free = tool.fields(bench!, part).filter(({ choices }) => !choices);
      fc.assert(
        fc.property(
          fc.dictionary(
            fc.constantFrom(...free.map(({ key }) => key), 'none'),
            fc.oneof(
              fc.string({ maxLength: 12 }),
              fc.double().map(String),
              fc.constantFrom('', '0', '-1', '1e9', '1 2\n3'),
            ),
          ),
          (typed) => {
            const result = workOut(tool, { ...start, ...typed }, bench!, part);
            if (typeof result !== 'string' && result.apply)
              for (const edit of result.apply.edits) expect(edit.path.length).toBeGreaterThan(0);
          },
        ),
        { numRuns: 60 },
      );
    },
  );
  it('an example is never a measurement: nothing can be applied before it is typed', () => {
    const untouched = TOOLS.flatMap((tool) => {
      const part = tool.parts[0]!;
      const asks = tool.fields(benches[0]!, part).some(({ example, start }) => example && start === '');
      const result = asks ? workOut(tool, startOf(tool, benches[0]!, part), benches[0]!, part) : '';
      return typeof result === 'string' ? [] : [tool.id];
    });
    expect(untouched).toEqual([]);
    const pid = TOOLS.find(({ id }) => id === 'relay-pid')!;
    expect(workOut(pid, startOf(pid, benches[0]!, 'hotend'), benches[0]!, 'hotend')).toBe(
      'Highest: type a number of °C',
    );
  });
  it('a sensor that no known one explains is none of them, however near the nearest is', () => {
    const tool = TOOLS.find(({ id }) => id === 'sensor')!;
    const bench = benches[0]!;
    // Counts of a 12-bit chip under 4.7 kΩ that are of no thermistor: as good as the same, cold and hot.
    const of = (readings: string) => tool.work({ readings }, bench, 'hotend').verdict;
    expect(of('2048 25\n2000 200')).toMatchObject({ tone: 'bad', words: expect.stringContaining('none that is known') as string }); // prettier-ignore
    const known = thermistorsOf(installed.catalogue)[0]!;
    const { r25, beta } = known;
    const setup = sensorInput(bench.facts, 'hotend');
    const countAt = (c: number) => {
      const ohms = thermistorOhms({ r25, beta }, c);
      return Math.round(((2 ** setup.bits - 1) * ohms) / (ohms + setup.pullupOhms));
    };
    const verdict = of(`${countAt(25)} 25\n${countAt(180)} 180`);
    expect(verdict?.tone).not.toBe('bad');
    expect(verdict?.words).toContain(known.id);
    expect(of(`${countAt(25)} 60\n${countAt(180)} 215`)?.tone).toBe('bad');
  });
  it('a heater that nobody described is held against nothing', () => {
    const tool = TOOLS.find(({ id }) => id === 'heater-ohms')!;
    const bench = benches[0]!;
    const without = { ...bench, facts: { ...bench.facts, parts: bench.facts.parts.filter(({ type }) => type.kind !== 'heater') } }; // prettier-ignore
    const typed = { ohms: '14.4', volts: '24' };
    expect(tool.work(typed, bench, 'hotend').verdict).toEqual({ tone: 'good', words: 'plausible' });
    expect(tool.work(typed, without, 'hotend').verdict?.tone).toBe('plain');
  });
  it('a guard that never acts does not suit', () => {
    const tool = TOOLS.find(({ id }) => id === 'guard-windows')!;
    const bench = benches[0]!;
    const typed = startOf(tool, bench, 'bed');
    expect(tool.work(typed, bench, 'bed').verdict?.tone).toBe('good');
    expect(tool.work({ ...typed, drop: '500' }, bench, 'bed').verdict).toEqual({ tone: 'bad', words: 'never notices a lost sensor' }); // prettier-ignore
  });
  it('the gear ratio is what the machine file is told', () => {
    const tool = TOOLS.find(({ id }) => id === 'gear-ratio')!;
    const result = tool.work({ motor: '21', output: '6' }, benches[0]!, 'e');
    expect(result.apply!.edits).toEqual([{ path: ['axes', 'e', 'gear_ratio'], value: 3.5 }]);
  });
  it('a swing above what the bed may reach gives no PID', () => {
    const tool = TOOLS.find(({ id }) => id === 'relay-pid')!;
    const bench = benches[0]!;
    const at = (high: string, low: string) =>
      tool.work({ ...measuredOf(tool, bench, 'bed'), high, low }, bench, 'bed');
    expect(at('62', '58').apply).toBeDefined();
    const hot = at('135', '130');
    expect(hot.apply).toBeUndefined();
    expect(hot.lines[0]).toMatch(/swung around 132\.5 °C; the bed may reach \d+ °C/);
  });
  it('a measured value remembers what it was measured with', () => {
    const tool = TOOLS.find(({ id }) => id === 'relay-pid')!;
    const bench = benches[0]!;
    const { apply } = tool.work(measuredOf(tool, bench, 'hotend'), bench, 'hotend');
    const value = apply!.edits[0]!.value as { measured_with: Record<string, string> };
    expect(value.measured_with).toMatchObject({ supply: '24 V, 15 A', board: 'Alder A32, rev 1.1' });
  });
});
