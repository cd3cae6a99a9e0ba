import {
  around,
  blankBoard,
  type Fault,
  FAULTS,
  type FlashJob,
  flashing,
  flashMemory,
  powerOnWithCard,
  replayed,
} from '@jolly/bench';
import { isWired } from '@jolly/core/board/route';
import { type HandAct } from '@jolly/core/bringup/handAct';
import type { Edit } from '@jolly/core/machine/edit';
import type { Judged, Proof } from '@jolly/core/proofs/proof';
import { causesOf } from '@jolly/core/proofs/proof';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { certain } from '@jolly/core/tree/certain';
import { beforeAll, describe, expect, it } from 'vitest';
import { type Built, builtDemo, own } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { personAt } from './fixtures/person';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';

const compiler = compilerForTests();

const built = (id: string, edits: readonly Edit[] = []) => builtDemo(id, edits, compiler);

/** Goes through the steps of bring-up in their order, until one fails. */
async function bringUp(
  { facts, image, header }: Built,
  hands: readonly HandAct[] = [],
  look: (person: Awaited<ReturnType<typeof personAt>>) => Promise<void> = () => Promise.resolve(),
) {
  const person = await personAt(facts, image, hands);
  const proven: string[] = [];
  for (const proof of proofsOf(facts)) {
    const judged = await person.prove(proof, header);
    if (judged.outcome === 'failed') return { person, proven, failed: { proof, judged } };
    proven.push(proof.id);
    // Whoever made a guard trip wakes the machine again.
    if (proof.guards) await person.ask('wake');
    await look(person);
  }
  return { person, proven, failed: undefined };
}

describe('a healthy machine', () => {
  it.each(['plover', 'bittern', 'dunlin'])('%s is proven from its image to closed up', async (id) => {
    const machine = await built(id);
    const asked: string[][] = [];
    const { person, proven, failed } = await bringUp(machine, [], async ({ ask, bench }) => {
      const settings = (await ask('M503')).lines;
      const hot = (await ask('M105')).lines.filter(
        (line) => line.startsWith('heat ') && !line.includes('target=0.0'),
      );
      asked.push([...settings, ...hot, `part fan ${bench.truth().fans['part-fan'] ?? 0}`]);
    });
    expect(failed).toBeUndefined();
    // No step leaves heat on, a fan running, or another setting.
    expect(new Set(asked.map((lines) => lines.join('\n'))).size).toBe(1);
    expect(asked[0]?.at(-1)).toBe('part fan 0');
    expect(proven).toEqual(expect.arrayContaining(['identity', 'home', 'limits', 'guard-hotend', 'guard-bed-sensor', 'closed'])); // prettier-ignore
    const { blocked, nozzleInPlateMm } = person.bench.view();
    expect({ blocked: Object.values(blocked), nozzleInPlateMm }).toEqual({ blocked: [0, 0, 0], nozzleInPlateMm: expect.closeTo(0, 1) as number }); // prettier-ignore
  });

  it('says the same when the run behind its proofs is run again, and not on another image', async () => {
    const machine = await built('dunlin');
    const { person } = await bringUp(machine);
    const recording = certain(person.bench.recording(), 'a run without a card');
    expect(await replayed(machine.facts, machine.image, recording)).toBeUndefined();
    const { inputs } = recording;
    const withoutHands = { ...recording, inputs: inputs.filter((input) => !('hand' in input)) };
    expect(await replayed(machine.facts, machine.image, withoutHands)).toMatch(/the image says/);
  });
});

describe('two extruders', () => {
  it('are proven with both hot ends, both motors and the guards of both', async () => {
    const { proven, failed } = await bringUp(await built('bittern', TWO_EXTRUDERS));
    expect(failed).toBeUndefined();
    expect(proven).toEqual(
      expect.arrayContaining(['warm-hotend-2', 'heat-hotend-2', 'motor-e', 'motor-e2', 'guard-hotend-2', 'guard-hotend-2-sensor']),
    ); // prettier-ignore
  });

  it('each is seen to feed by itself: one that is turned round is found, and can be turned alone', async () => {
    const turned: Edit[] = [...TWO_EXTRUDERS, { path: ['harness', 'e2-motor', 'turned'], value: true }];
    // The harness says so: the direction follows, and it feeds as asked.
    expect((await bringUp(await built('bittern', turned))).failed).toBeUndefined();
    const machine = await built('bittern', TWO_EXTRUDERS);
    const mounted = await built('bittern', [...TWO_EXTRUDERS, own('direction.second-e', false)]);
    const { failed } = await bringUp({ ...machine, image: mounted.image, header: mounted.header });
    expect(failed && [failed.proof.id, failed.judged.finding]).toEqual(['motor-e2', 'reversed']);
  });

  it('whose sensors are of two types are read each by its own', async () => {
    const other: Edit[] = [...TWO_EXTRUDERS, { path: ['parts', 20, 'part'], value: 't100-b' }];
    expect((await bringUp(await built('bittern', other))).failed).toBeUndefined();
  });
});

/** Faults that end before the board runs: by the station that says so. */
const BEFORE: Readonly<Record<string, string>> = {
  'image-already-there': 'nothing is wrong: the right image runs',
  'tool-reports-an-error': 'the right image runs, whatever the tool said',
  'probe-scatters': 'no step of bring-up: Calibrate, “Is the probe to be trusted?”',
  'settings-stale': 'the stored settings are set back, and how many were old is said',
  'port-held': 'the power cannot be switched on: another program holds the port',
};

describe('every fault', () => {
  let plover: Built;
  beforeAll(async () => {
    plover = await built('plover');
  });
  const rows: string[] = [];

  /** What the bootloader says to a card, or a tool of the chip, under a fault that lies around the machine. */
  function atFlash({ facts, image }: Built, fault: Fault): string | undefined {
    const card = { format: 'FAT32' as const, sizeGb: 8, files: [{ name: 'NEW.BIN', bytes: image }] };
    const at = around(facts, [fault.name], { state: blankBoard(facts.chip), card });
    const byCard = powerOnWithCard(at.state, at.card, facts.board, facts.chip).outcome;
    const route = certain(facts.board.routes.find(isWired), 'a route by wires');
    const job: FlashJob = { route, does: 'write', name: 'NEW.BIN', bytes: image, at: route.load_address };
    const table = { ...at, sold: facts, loader: true };
    const going = flashing(job, flashMemory(at.state, facts), table);
    let step = going.next();
    while (!step.done) step = going.next();
    return [byCard, step.value].flatMap((outcome) => (outcome.taken ? [] : [outcome.because]))[0];
  }

  it.each(FAULTS.map((fault) => [fault.name, fault] as const))('%s is found', async (name, fault) => {
    const refused = fault.around && atFlash(plover, fault);
    if (refused !== undefined && !(name in BEFORE)) {
      rows.push(row(fault, 'Flash, the evidence', refused, ''));
      return;
    }
    const { failed } = await bringUp(plover, [{ lay: name, on: true }]);
    const told = BEFORE[name];
    if (told !== undefined) {
      expect(failed).toBeUndefined();
      rows.push(row(fault, told, '', ''));
      return;
    }
    const { proof, judged } = certain(failed, `the proof that finds ${name}`);
    const causes = causesOf(proof, judged.finding);
    // A proof that fails says what to look at next.
    expect(causes.length).toBeGreaterThan(0);
    rows.push(row(fault, proof.title, seenIn(judged), certain(causes[0], 'a cause').cause));
  });

  it('the table of faults in docs/ is that of this run', async () => {
    expect(rows).toHaveLength(FAULTS.length);
    await expect(page(rows)).toMatchFileSnapshot('../../../docs/faults.md');
  });

  const seenIn = ({ evidence }: Judged) => evidence.slice(0, 2).join('; ').replace(/\|/g, '/');
  const row = ({ name, what }: Fault, by: string, seen: string, cause: string) =>
    `| \`${name}\` | ${what} | ${by} | ${seen} | ${cause} |`;
});

const page = (rows: readonly string[]) => `# Faults and what finds them

Made by \`npx vitest run packages/firmware/test/proofs.test.ts -u\`; do not edit. Each fault was laid on Plover on the virtual bench, and the steps of
bring-up were gone through in their order by somebody who does what they are told and answers what they see. The first
step that fails is the one that finds it.

| fault | what is wrong | found by | what is seen first | likeliest cause told |
|---|---|---|---|---|
${rows.join('\n')}
`;

describe('two faults at once, as on the day of the swap', () => {
  it('exchanged heater leads and exchanged probe wires are both found, one after the other', async () => {
    const plover = await built('plover');
    const both: HandAct[] = [
      { lay: 'heaters-exchanged', on: true },
      { lay: 'probe-leads-swapped', on: true },
    ];
    const first = certain((await bringUp(plover, both)).failed, 'the first');
    expect([first.proof.id, first.judged.finding]).toEqual(['probe', 'chatters']);
    const second = certain((await bringUp(plover, both.slice(0, 1))).failed, 'the second');
    expect([second.proof.id, second.judged.finding]).toEqual(['heat-hotend', 'other']);
  });
  it('exchanged sensors are found by hand before anything is heated', async () => {
    const { failed, person } = await bringUp(await built('dunlin'), [{ lay: 'sensors-exchanged', on: true }]);
    expect([failed?.proof.id, failed?.judged.finding]).toEqual(['warm-hotend', 'other']);
    expect(person.bench.truth().duty).toEqual({ hotend: 0, bed: 0 });
  });
});

describe('what nobody does proves nothing', () => {
  it('a person who gives up at once proves no step that asks for hands or eyes', async () => {
    const { facts, image, header } = await built('dunlin');
    const person = await personAt(facts, image, []);
    person.giveUp();
    const byHand = (proof: Proof) => !['identity', 'store', 'cold', 'limits', 'home', 'place-x', 'place-y'].includes(proof.id); // prettier-ignore
    for (const proof of proofsOf(facts).filter(byHand)) {
      const judged = await person.prove(proof, header);
      expect([proof.id, judged.outcome]).toEqual([proof.id, 'failed']);
      expect(Object.values(person.bench.truth().duty).every((share) => share === 0)).toBe(true);
    }
  });
});
