import { describe, expect, it } from 'vitest';
import { CHECKS, check } from '../src/checks/checks';
import { applyEdits, type Edit } from '../src/machine/edit';
import { jumperPlan } from '../src/harness/jumperPlan';
import type { Point } from '../src/probe/mapGrid';
import { pinOf } from '../src/circuit/pinTable';
import { derive } from '../src/settings/derive';
import { mapPoints } from '../src/settings/mapPoints';
import { CASES } from './fixtures/checkCases';
import { RECORD_CASES } from './fixtures/recordCases';
import {
  demoMachine,
  earlierKit,
  factsOf,
  findingsAfter,
  findingsWith,
  gone,
  installed,
  jumper,
  own,
  part,
  wholeKit,
  lead,
} from './fixtures/demo';

const catalogueOf = (kit: 'whole' | 'earlier' | undefined) =>
  kit === 'whole' ? wholeKit : kit === 'earlier' ? earlierKit : installed.catalogue;

describe('every check', () => {
  /** These depend on facts of the catalogue and not of the machine; their cases follow below. */
  const byCatalogue = ['kit.untested-target', 'serial.baud-error', 'heat.guard-unjudged'];

  const asks = new Set(CHECKS.filter(({ severity }) => severity === 'question').map(({ id }) => id));
  const beside = (id: string) => byCatalogue.includes(id) || id in RECORD_CASES;

  it.each(Object.entries(RECORD_CASES))(
    '%s fires on what is known beside the machine file, and is silent for its neighbour',
    (id, { edits, record, facts }) => {
      const said = (which: 'fires' | 'silent') => {
        const machine = applyEdits(demoMachine('plover'), edits?.[which] ?? []);
        const changed = (facts?.[which] ?? ((same) => same))(factsOf(machine));
        return check(changed, derive(changed), record?.[which]).filter((finding) => finding.id === id);
      };
      expect(said('fires')).not.toEqual([]);
      expect(said('silent')).toEqual([]);
      expect(new Set(said('fires').map(({ subject }) => subject.id)).size).toBe(said('fires').length);
      for (const finding of said('fires')) expect(finding.evidence.length).toBeGreaterThan(0);
    },
  );

  it('a foreign image on the board is one thing, an unknown one another', () => {
    const plover = factsOf(demoMachine('plover'));
    const said = (runs: 'foreign' | null) =>
      check(plover, derive(plover), { runs }).find(({ id }) => id === 'upkeep.image-unknown')?.what;
    expect(said(null)).toContain('Nobody knows');
    expect(said('foreign')).toContain('no whole image of ours');
  });

  it.each(CHECKS.map((entry) => entry.id).filter((id) => !beside(id)))(
    '%s fires on one changed fact and is silent for its neighbour',
    (id) => {
      const entry = CASES[id]!;
      expect(entry, `no case for ${id}`).toBeDefined();
      const said = (edits: Edit[]) =>
        findingsWith(catalogueOf(entry.kit), entry.machine, ...edits).filter(
          // A check that mends may also ask; one that only asks has its questions looked at.
          (finding) => finding.id === id && (asks.has(id) || finding.severity !== 'question'),
        );
      expect(said(entry.fires)).not.toEqual([]);
      expect(said(entry.silent)).toEqual([]);
      for (const finding of said(entry.fires)) {
        expect(finding.evidence.length).toBeGreaterThan(0);
        expect(finding.what).toMatch(/[.?]$/);
      }
    },
  );

  it('how high a signal comes is decided by what drives it, through its divider, and else by a resistor', () => {
    const plover = factsOf(demoMachine('plover'));
    const said = (output: number, divider?: [top: number, bottom: number], onBoard?: number) => {
      const parts = plover.parts.map((one) =>
        one.type.kind === 'probe' && one.landing && 'leads' in one.landing
          ? { ...one, type: { ...one.type, output_v: output }, landing: { ...one.landing, with: divider ? [{ kind: 'divider' as const, lead: 'signal' as const, top_ohms: divider[0], bottom_ohms: divider[1] }] : [] } }
          : one); // prettier-ignore
      const pin = pinOf(
        plover,
        parts.find(({ id }) => id === 'probe'),
        'signal',
      )!;
      const inputs = [...plover.board.inputs, ...(onBoard === undefined ? [] : [{ pin, pull_up_ohms: 1e4, to_v: onBoard }])]; // prettier-ignore
      const facts = { ...plover, parts, board: { ...plover.board, inputs } };
      return check(facts, derive(facts)).flatMap(({ id }) => (id.startsWith('level.') ? [id] : []));
    };
    expect(said(3.3)).toEqual([]);
    expect(said(1)).toEqual(['level.too-low']);
    expect(said(1, undefined, 3.3)).toEqual(['level.too-low']);
    expect(said(24)).toEqual(['level.over-tolerance']);
    expect(said(24, [22_000, 3300])).toEqual([]);
    expect(said(24, [3300, 22_000])).toEqual(['level.over-tolerance']);
    expect(said(5, [22_000, 3300])).toEqual(['level.too-low']);
    expect(said(3.3, undefined, 12)).toEqual(['level.over-tolerance']);
  });
  it('the card’s checks say once what the bootloader would meet first', () => {
    const facts = factsOf(demoMachine('plover'));
    const said = (format: string, sizeGb: number, fileName?: string, namesTaken: string[] = []) =>
      check(facts, derive(facts), { card: { format, sizeGb, ...(fileName && { fileName }) }, namesTaken })
        .filter(({ id }) => id.startsWith('card.'))
        .map(({ id, what }) => `${id}: ${what}`);
    expect(said('exFAT', 64, 'A.BIN')).toEqual([
      'card.format: The bootloader reads FAT32 only; this card is exFAT.',
    ]);
    expect(said('FAT32', 8, 'A.TXT')).toEqual([
      'card.name-form: No file ending in .BIN in the root of the card.',
    ]);
    expect(said('FAT32', 8)).toEqual([]);
    expect(said('FAT32', 8, 'A.BIN', ['a.bin'])).toEqual([
      'card.name-used: The board took a file called A.BIN before and ignores that name now.',
    ]);
  });

  it('start G-code is told by its line, and what is missing by how many were read', () => {
    const said = (code: string) =>
      findingsAfter('plover', { path: ['slicer'], value: { start: code } })
        .filter(({ id }) => id.startsWith('start.'))
        .map(({ what, evidence }) => ({ what, evidence }));
    const [first] = said('G1 X999 F3000\nG28');
    expect(first?.what).toMatch(/^Start G-code, line 1: it moves/);
    // Names and letters stay as they are written.
    const told = (code: string) => said(`G28\n${code}`).map(({ what }) => what.replace('Start G-code, line 2: ', '')); // prettier-ignore
    expect(told('G1 X999')).toEqual([expect.stringMatching(/^X is sent/)]);
    expect(told('M190 R60')).toEqual(['M190 takes no R.']);
    expect(told('G999')).toEqual(['Lantern 0.1.0 does not know G999.']);
    expect(first?.evidence).toEqual(['line 1: G1 X999 F3000']);
    const missing = said('M104 S200\nM140 S60').find(({ what }) => !what.includes('line'));
    expect(missing?.what).toMatch(/^Start G-code: /);
    expect(missing?.evidence).toEqual(['2 lines read']);
  });

  it('a pin decided onto another line stops, onto what a socket would only bring it is to be mended', () => {
    const said = (key: string, pin: number) => findingsAfter('plover', { path: ['pins', key], value: { pin, because: 'test' } }).filter(({ id }) => id.startsWith('pins.')).map(({ severity, why }) => `${severity}: ${why}`); // prettier-ignore
    expect(said('part-fan', 40)).toEqual([expect.stringMatching(/^stop: It costs PIN_HOTEND_HEATER, /)]);
    expect(said('part-fan', 0)).toEqual([expect.stringMatching(/^stop: It costs PIN_X_STEP, /)]);
    expect(said('x-enable', 81)).toEqual([expect.stringMatching(/^mend: It costs PIN_Y_ENABLE, /)]);
    expect(said('part-fan', 45)).toEqual([expect.stringMatching(/^note: /)]);
  });

  it('a lead on the pin of the beeper fights with it only while that is on', () => {
    const tapped = (beeper: boolean) => findingsAfter('plover', lead('x-switch', 'signal', 'SHOW.10'), own('beeper.on', beeper)).find(({ id }) => id === 'pins.contested'); // prettier-ignore
    expect(tapped(false)).toBeUndefined();
    expect(tapped(true)?.what).toBe('PIN_X_SWITCH and PIN_BEEPER are both on p27 of Alder A32.');
    expect(tapped(true)?.remedies.map(({ label }) => label)).toEqual(['Switch the beeper off']);
  });

  it('kit.untested-target speaks of a board the kit does not name', () => {
    const facts = factsOf(demoMachine('plover'));
    const stranger = { ...facts, kit: { ...facts.kit, targets: [] } };
    expect(check(stranger, derive(stranger)).map((finding) => finding.id)).toContain('kit.untested-target');
  });

  it('serial.baud-error speaks when neither divider comes close', () => {
    const said = (clockHz: number) => {
      const facts = factsOf(demoMachine('plover'));
      const slow = { ...facts, chip: { ...facts.chip, clock_hz: clockHz } };
      return check(slow, derive(slow)).filter((finding) => finding.id === 'serial.baud-error');
    };
    const [slow, ...others] = said(2e6);
    expect(others).toEqual([]);
    // What is offered is what this chip makes: 115200 and 250000 it does not at 2 MHz.
    expect(slow?.remedies.map(({ label }) => label)).toEqual(['Use 19200 baud']);
    expect(slow?.remedies[0]?.edits).toMatchObject([{ value: { value: 19200, because: expect.stringMatching(/within \d\.\d %$/) } }]); // prettier-ignore
    // Too slow for any of them, nothing is promised.
    expect(said(20e3)[0]?.remedies).toEqual([]);
    // 16 MHz is 3.5 % off with one divider and 2.1 % with the other: good enough.
    expect(said(16e6)).toEqual([]);
  });

  it('finds nothing to settle on Plover as it stands, but for what its kit leaves alone', () => {
    expect(findingsAfter('plover')).toEqual([]);
    const left = findingsWith(earlierKit, 'plover').map(({ id, subject }) => `${id} ${subject.id}`);
    expect(left).toEqual(
      ['x-driver', 'y-driver', 'z-driver', 'e-driver', 'part-fan', 'hotend-fan'].map(
        (part) => `kit.unheard ${part}`,
      ),
    );
  });

  it('names one point of the map on a clip, and as many as there are', () => {
    const points = mapPoints(derive(factsOf(demoMachine('plover'))))!.points;
    const clipped = (from: Point, to: Point) =>
      findingsAfter('plover', { path: ['frame', 'clips_mm'], value: [{ x: [from.x, to.x], y: [from.y, to.y] }] }) // prettier-ignore
        .filter(({ id, subject }) => id === 'map.on-clip' && subject.id === 'map.x.min')
        .map(({ what }) => what);
    const [first, second] = points;
    expect(clipped(first!, first!)).toEqual(['A map point lies on a clip.']);
    expect(clipped(first!, second!)).toEqual(['2 map points lie on a clip.']);
    expect(clipped({ x: first!.x + 1, y: first!.y + 1 }, { x: first!.x + 2, y: first!.y + 2 })).toEqual([]);
  });

  it('homing by stalling needs no switch, and says what would keep the stall from being heard', () => {
    const bare = [gone('harness', 'x-switch'), own('stall.x', true)];
    const said = (...edits: Edit[]) =>
      findingsAfter('plover', ...bare, ...edits)
        .filter(({ id }) => id.startsWith('home.'))
        .map(({ id, evidence }) => `${id}: ${evidence.at(-1)}`);
    expect(said()).toEqual([]);
    const tied = jumperPlan(factsOf(applyEdits(demoMachine('plover'), bare)));
    expect(tied.find((wish) => wish.jumper.id === 'STALL-M1')).toMatchObject({
      position: { id: 'bridged' },
      because: 'X homes by stalling',
    });
    expect(said(jumper('STALL-M1', 'open'))).toEqual([
      'home.stall: STALL-M1 at open: the stall output is parted from the switch input',
    ]);
    expect(said(part('plover', 'x-driver', 'hush-plain'))[0]).toContain(
      'does not notice that a motor stands',
    );
    expect(said(own('driver.line', 'pot'))[0]).toContain('nothing tells the stall level');
    expect(findingsAfter('plover', own('stall.x', true)).map(({ evidence }) => evidence.at(-1))).toContain(
      'x-switch sits on the input of the stall line',
    );
  });

  it('asks instead of guessing where a fact is missing', () => {
    const questions = findingsAfter('dunlin').filter((finding) => finding.severity === 'question');
    expect(questions.map((finding) => finding.subject.id)).toEqual([
      'frame.room_mm.x',
      'frame.room_mm.y',
      'frame.room_mm.z',
    ]);
  });

  it('says the same in the same order every time, most serious first', () => {
    const edits = Object.values(CASES).flatMap((entry) =>
      entry.fires.filter((edit) => edit.path[0] === 'settings'),
    );
    const once = findingsAfter('plover', ...edits);
    expect(findingsAfter('plover', ...edits)).toEqual(once);
    const order = once.map((finding) => ['stop', 'mend', 'question', 'note'].indexOf(finding.severity));
    expect(order).toEqual([...order].sort());
  });
});

describe('remedies', () => {
  it.each(Object.entries(CASES).filter(([, entry]) => entry.fires.length > 0))(
    'those of %s settle it',
    (id, { machine, fires }) => {
      const broken = applyEdits(demoMachine(machine), fires);
      for (const finding of findingsAfter(machine, ...fires).filter((entry) => entry.id === id)) {
        for (const remedy of finding.remedies) {
          const facts = factsOf(applyEdits(broken, remedy.edits));
          const left = check(facts, derive(facts)).filter(
            (entry) => entry.id === id && entry.subject.id === finding.subject.id,
          );
          expect(left, remedy.label).toEqual([]);
        }
      }
    },
  );

  it.each(Object.entries(CASES).filter(([, entry]) => entry.fires.length > 0))(
    'those of %s set the figures they name',
    (id, { machine, fires }) => {
      const broken = applyEdits(demoMachine(machine), fires);
      const before = derive(factsOf(broken));
      for (const finding of findingsAfter(machine, ...fires).filter((entry) => entry.id === id))
        for (const { label, edits } of finding.remedies) {
          const changed = [...derive(factsOf(applyEdits(broken, edits))).values()]
            .filter(({ key, value }) => before.get(key)?.value !== value)
            .map(({ value }) => value);
          const set =
            JSON.stringify([changed, edits.map(({ value }) => value)]).match(/-?\d+(\.\d+)?/g) ?? [];
          // A label rounds; a revision is no figure.
          for (const [figure] of label.matchAll(/(?<!rev )(?<![\w.-])[−-]?\d+(\.\d+)?(?![\w-])/g)) {
            const named = Number(figure.replace('−', '-'));
            expect(
              set.some((each) => Math.abs(Number(each) - named) <= 0.05),
              label,
            ).toBe(true);
          }
        }
    },
  );
});
