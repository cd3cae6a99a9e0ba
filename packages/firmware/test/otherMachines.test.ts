import type { Edit } from '@jolly/core/machine/edit';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { builtDemo, demoFacts } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { personAt } from './fixtures/person';

const compiler = compilerForTests();

/** Both demo machines have so many parts; others are added behind them. */
const PARTS = 17;
type Added = [id: string, part: string, role: string, leads?: Record<string, string>];
const more = (...parts: Added[]): Edit[] =>
  parts.flatMap(([id, part, role, leads], nth) => [
    { path: ['parts', PARTS + nth], value: { id, part, role } },
    ...(leads ? [{ path: ['harness', id], value: { leads } }] : []),
  ]);
const SPARE = more(['spare-sensor', 't100-a', 'spare', { signal: 'TEMP-C.1', ground: 'TEMP-C.2' }]);

/** The nozzle on a switch, in place of the pin. */
const NOZZLE: Edit[] = [
  { path: ['parts', 16, 'part'], value: 'anvil' },
  { path: ['harness', 'probe'], value: { leads: { signal: 'PROBE.3', ground: 'PROBE.1' } } },
  { path: ['probe_mount'], value: { side: 'left', side_mm: 0, face: 'front', face_mm: 0 } },
];

const built = (id: string, edits: readonly Edit[] = []) => builtDemo(id, edits, compiler);

describe('a machine with other parts is proven from its image to closed up', () => {
  it.each<[name: string, id: string, steps: string[], edits: Edit[]]>([
    ['a chamber heated from the mains by a relay', 'bittern', ['warm-chamber', 'relay-chamber', 'heat-chamber', 'guard-chamber', 'guard-chamber-sensor'], more(
      ['chamber-sensor', 't100-a', 'chamber', { signal: 'WARM-3.2', ground: 'WARM-3.1' }],
      ['chamber-heater', 'bed-230-500', 'chamber'],
      ['chamber-relay', 'sluice-s10', 'chamber', { supply: 'FAN-B.1', control: 'FAN-B.2' }],
    )],
    ['a chamber heated by the board', 'plover', ['heat-chamber', 'guard-chamber'], more(
      ['chamber-sensor', 't100-a', 'chamber', { signal: 'TEMP-C.1', ground: 'TEMP-C.2' }],
      ['chamber-heater', 'bed-24-150', 'chamber', { supply: 'LAMP.1', control: 'LAMP.2' }],
    )],
    ['a bed heated from the mains by a relay', 'plover', ['relay-bed', 'heat-bed', 'guard-bed'], [
      { path: ['parts', 13, 'part'], value: 'bed-230-500' },
      { path: ['harness', 'bed-heater'] },
      ...more(['bed-relay', 'sluice-s10', 'bed', { supply: 'HEAT-B.1', control: 'HEAT-B.2' }]),
    ]],
    ['a second sensor at the hot end', 'plover', ['guard-spare'], SPARE],
    ['lamp, board fan, filament sensor and display', 'plover', ['lamp-lamp', 'fan-board', 'filament', 'display'], more(
      ['lamp', 'lamp-24', 'lamp', { supply: 'LAMP.1', control: 'LAMP.2' }],
      ['board-fan', 'fan-24-40', 'board', { supply: 'FAN-3.1', control: 'FAN-3.2' }],
      ['reel', 'reel-switch', 'filament', { signal: 'FILAMENT.3', ground: 'FILAMENT.2' }],
      ['display', 'vista-128', 'panel', { supply: 'SHOW.2', ground: 'SHOW.1' }],
    )],
    ['a probe that is the nozzle itself', 'plover', ['probe', 'home'], NOZZLE],
    ['each Z motor on a driver of its own', 'bittern', ['motor-z-pair'], [
      { path: ['parts', PARTS], value: { id: 'z-driver-2', part: 'gannet-g5', role: 'z', microsteps: 16 } },
      { path: ['harness', 'z-driver-2'], value: { socket: 'S5' } },
      { path: ['harness', 'z-motor-2'], value: { socket: 'S5' } },
    ]],
  ])('%s', async (_name, id, steps, edits) => {
    const { facts, image, header } = await built(id, edits);
    const person = await personAt(facts, image, []);
    const outcomes: [string, string][] = [];
    for (const proof of proofsOf(facts)) {
      outcomes.push([proof.id, (await person.prove(proof, header)).outcome]);
      if (proof.guards) await person.ask('wake');
    }
    expect(outcomes.filter(([, outcome]) => outcome !== 'proven')).toEqual([]);
    expect(outcomes.map(([step]) => step)).toEqual(expect.arrayContaining([...steps, 'closed']));
  }); // prettier-ignore
});

describe('what turns or lights one way round only', () => {
  const lamp = (leads: Record<string, string>) => more(['lamp', 'lamp-24', 'lamp', leads]);
  const LAMP = lamp({ supply: 'LAMP.1', control: 'LAMP.2' });
  const fan = (leads: Record<string, string>): Edit[] => [{ path: ['harness', 'part-fan', 'leads'], value: leads }];
  it.each<[name: string, step: string, right: Edit[], wrong: Edit[], finding: string]>([
    ['a lamp that hangs where the supply always is', 'lamp-lamp', LAMP, lamp({ supply: 'LAMP.1', control: 'POWER.2' }), 'stays'],
    ['a lamp whose leads are exchanged', 'lamp-lamp', LAMP, lamp({ supply: 'LAMP.2', control: 'LAMP.1' }), 'dark'],
    ['a lamp for half the volts', 'lamp-lamp', LAMP, [...LAMP, { path: ['parts', PARTS, 'part'], value: 'lamp-12' }], 'dark'],
    ['a fan whose leads are exchanged', 'fan-part', [], fan({ supply: 'FAN-1.2', control: 'FAN-1.1' }), 'stands'],
  ])('%s is found', async (_name, stepId, right, wrong, finding) => {
    const { facts, image, header } = await built('plover', right);
    const step = certain(proofsOf(facts).find(({ id }) => id === stepId), stepId);
    const person = await personAt(await demoFacts('plover', ...wrong), image, []);
    expect(await person.prove(step, header)).toMatchObject({ outcome: 'failed', finding });
  });
}); // prettier-ignore

describe('the second sensor of a hot end', () => {
  const proving = async (edits: readonly Edit[] = []) => {
    const { facts, image, header } = await built('plover', SPARE);
    const step = certain(proofsOf(facts).find(({ id }) => id === 'guard-spare'), 'a step for it'); // prettier-ignore
    return (await personAt(await demoFacts('plover', ...SPARE, ...edits), image, [])).prove(step, header);
  };
  it('that sits in the place of the first is found: pulled, the board misses the other one', async () => {
    const exchanged: Edit[] = [
      { path: ['harness', 'spare-sensor', 'leads'], value: { signal: 'TEMP-H.1', ground: 'TEMP-H.2' } },
      { path: ['harness', 'hotend-sensor', 'leads'], value: { signal: 'TEMP-C.1', ground: 'TEMP-C.2' } },
    ];
    expect(await proving(exchanged)).toMatchObject({ outcome: 'failed', finding: 'other stop' });
    expect(await proving()).toMatchObject({ outcome: 'proven' });
  });
  it('that the image does not read is found: pulled, nothing happens', async () => {
    const { facts } = await built('plover', SPARE);
    const { image, header } = await built('plover', []);
    const step = certain(proofsOf(facts).find(({ id }) => id === 'guard-spare'), 'a step for it'); // prettier-ignore
    const person = await personAt(facts, image, []);
    const judged = await person.prove(step, header);
    expect(judged.outcome).not.toBe('proven');
    // Whatever became of it, no heat is left on.
    const { lines } = await person.ask('M105');
    expect(lines.find((line) => line.includes('body=hotend'))).toContain('target=0.0');
  });
});

it('a nozzle that touches the plate itself needs no offset: its zero is the plate', async () => {
  const { facts, image } = await built('plover', NOZZLE);
  const person = await personAt(facts, image, []);
  for (const line of ['G28', 'G1 Z5 F300', 'G1 Z0 F120', 'M400'])
    expect((await person.ask(line)).problem).toBeUndefined();
  expect(Math.abs(person.bench.truth().nozzleAbovePlateMm ?? 9)).toBeLessThan(0.1);
});
