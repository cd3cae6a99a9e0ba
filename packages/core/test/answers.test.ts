import { stringify } from 'yaml';
import { describe, expect, it } from 'vitest';
import type { Measure, Question } from '../src/bringup/procedure';
import { calibrationTools } from '../src/calibration/calibrationTools';
import { calibrationsOf } from '../src/calibration/calibrations';
import { isPattern } from '../src/calibration/patternTools';
import { write } from '../src/build/write';
import { check } from '../src/checks/checks';
import { pinTableCsv } from '../src/circuit/pinTable';
import { answersOf } from '../src/describe/description';
import { PAGES } from '../src/describe/pages';
import { meterRows } from '../src/firstPower/metering';
import { powerStages } from '../src/firstPower/stages';
import { swapSheetCsv, swapSheetHtml } from '../src/formats/swapSheet';
import { rankLandings } from '../src/harness/rankLandings';
import { caseOf } from '../src/harness/wiringCase';
import { applyEdits } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { proofSteps } from '../src/proofs/proofs';
import { parseDump } from '../src/report/parseDump';
import { planned } from '../src/ripple/replan';
import { ripple } from '../src/ripple/ripple';
import { electricityOf, swapPlan } from '../src/ripple/swapPlan';
import { derive } from '../src/settings/derive';
import { stripLines, stripPlaces } from '../src/slicer/stripPattern';
import { testPrint } from '../src/slicer/testPrint';
import { writeEndCode, writeStartCode } from '../src/slicer/writeStartCode';
import { carriedOut } from './fixtures/atTheMachine';
import { CASES } from './fixtures/checkCases';
import { RECORD_CASES } from './fixtures/recordCases';
import { demoMachine, earlierKit, factsOf, findingsWith, installed, wholeKit } from './fixtures/demo';
import { changes, drawer, EVERY_KIND, ploverJob, tailOf } from './fixtures/job';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';

/*
 * Everything the core says of the demo machines, as it said it before. No answer is right because it stands there: when
 * one changes, read what has changed, and write it anew with vitest -u.
 */
const MACHINES: Readonly<Record<string, Facts>> = {
  plover: factsOf(demoMachine('plover')),
  dunlin: factsOf(demoMachine('dunlin')),
  'two-extruders': factsOf(applyEdits(demoMachine('bittern'), TWO_EXTRUDERS)),
};

/** A board that says yes, and a person who makes the choice with which it goes on, and reads what is expected. */
const GOES_ON = /^(drags|merge|on|made|turned|free|yes|even|none|there|cool)$/;
const calm = {
  board: (line: string): string[] => {
    if (line === 'M114') return ['at x=100 y=100 z=0.1 e=0 homed=xyz', 'done'];
    if (/^G28 ?[XYZ]?$/.test(line)) return [`home axis=${(line[4] ?? 'z').toLowerCase()} off=0.01`, 'done'];
    return ['done'];
  },
  eyes: ({ choices }: Question) => (choices.find(({ id }) => GOES_ON.test(id)) ?? choices[0])?.id,
  reads: ({ near, range }: Measure) => near ?? (range[0] + range[1]) / 2,
};

function tools(facts: Facts): unknown {
  return calibrationTools(facts, derive(facts)).map((tool) => {
    const { sent, questions, measures, result } = carriedOut(tool.run({}), calm);
    const { id, title, what, toHand, caution, choosing, after, missing } = tool;
    const bands = isPattern(tool) ? tool.pattern.bands : undefined;
    return { id, title, what, toHand, caution, choosing, after, missing, bands, sent, asked: [...questions, ...measures].map(({ text }) => text), result };
  }); // prettier-ignore
}

/** What is said of a machine, and of which of them: each is there for what another does not have. */
const ANSWERS: Readonly<Record<string, { of: readonly string[]; says: (facts: Facts) => unknown }>> = {
  settings: {
    of: Object.keys(MACHINES),
    says: (facts) => [...derive(facts)].map(([key, { value, source, because }]) => `${key} = ${String(value)}, ${source}: ${because}`),
  },
  findings: { of: Object.keys(MACHINES), says: (facts) => check(facts, derive(facts)) },
  described: { of: Object.keys(MACHINES), says: (facts) => answersOf(facts.machine) },
  pins: { of: Object.keys(MACHINES), says: (facts) => pinTableCsv(facts) },
  files: { of: ['two-extruders'], says: (facts) => write(facts, derive(facts)) },
  proofs: { of: ['two-extruders'], says: (facts) => proofSteps(facts) },
  power: {
    of: ['plover', 'dunlin'],
    says: (facts) => ({ stages: powerStages(facts), metered: meterRows(facts), electricity: electricityOf(facts) }),
  },
  tools: { of: ['plover', 'dunlin'], says: (facts) => ({ tools: tools(facts), due: calibrationsOf(facts) }) },
  gcode: { of: ['two-extruders'], says: gcode },
  places: {
    of: ['plover', 'dunlin'],
    says: (facts) => facts.parts.map(({ id }) => ({ id, places: rankLandings(caseOf(facts), facts.machine.harness, id).slice(0, 3) })),
  },
}; // prettier-ignore

function gcode(facts: Facts): unknown {
  const settings = derive(facts);
  const patterns = calibrationTools(facts, settings).flatMap((tool) => (isPattern(tool) ? [tool.pattern.gcode()] : [])); // prettier-ignore
  const strips = stripPlaces(facts, settings, 3);
  return [writeStartCode(facts, settings), writeEndCode(facts, settings), testPrint(facts, settings, 2), ...patterns, strips, stripLines(strips[0] ?? { x: 0, y: 0 })]; // prettier-ignore
}

/** As text that is read line by line; what is carried out is left out. */
const inLines = (answer: unknown): string =>
  typeof answer === 'string' ? answer : stringify(JSON.parse(JSON.stringify(answer)), { lineWidth: 0, aliasDuplicateObjects: false }); // prettier-ignore

describe('what was said before is said again', () => {
  it.each(Object.entries(ANSWERS).flatMap(([what, { of }]) => of.map((machine) => [machine, what] as const)))('%s: %s', async (machine, what) => {
    const facts = MACHINES[machine];
    const answer = ANSWERS[what];
    if (!facts || !answer) throw new Error(`there is no ${what} of ${machine}`);
    await expect(inLines(answer.says(facts))).toMatchFileSnapshot(`answers/${machine}-${what}.txt`);
  }); // prettier-ignore

  it('of every check, by the change that makes it speak', async () => {
    const catalogues = { whole: wholeKit, earlier: earlierKit };
    const said = Object.entries(CASES).map(([id, { machine, kit, fires }]) => ({
      id,
      findings: findingsWith(kit ? catalogues[kit] : installed.catalogue, machine, ...fires).filter((finding) => finding.id === id),
    })); // prettier-ignore
    await expect(inLines(said)).toMatchFileSnapshot('answers/checks.txt');
  });

  it('of every check that looks at more than the machine file', async () => {
    const said = Object.entries(RECORD_CASES).map(([id, { edits, record, facts = {} }]) => {
      const { fires = (same: Facts) => same } = facts;
      const changed = fires(factsOf(applyEdits(demoMachine('plover'), edits?.fires ?? [])));
      return { id, findings: check(changed, derive(changed), record?.fires).filter((finding) => finding.id === id) }; // prettier-ignore
    });
    await expect(inLines(said)).toMatchFileSnapshot('answers/recordChecks.txt');
  });

  it('of changes that cannot be together, or not at all', async () => {
    const heaters = { heater: 'cartridge-24-60', thermistor: 't100-b' };
    const together: [string, ...Parameters<typeof changes>][] = [
      ['plover', { kind: 'new-board', board: 'harrow-h6', revision: 'B' }, { kind: 'same-board' }],
      [
        'plover',
        { kind: 'hot-end', ...heaters },
        { kind: 'heater', body: 'hotend', part: 'cartridge-24-40' },
      ],
      ['plover', { kind: 'supply', volts_v: 36, amps_a: 10 }],
      ['plover', { kind: 'probe-removed' }],
      ['plover', { kind: 'new-board', board: 'pipit-2', revision: '1' }],
      [
        'dunlin',
        { kind: 'new-board', board: 'pipit-2', revision: '1' },
        { kind: 'drivers', part: 'gannet-g5', microsteps: 16, axes: ['x', 'y', 'z', 'e'] },
      ],
      ['plover', { kind: 'new-board', board: 'fenwick-f8', revision: '2' }],
      ['plover', { kind: 'new-board', board: 'alder-a32', revision: '1.1' }],
      ['plover', { kind: 'kit-version', kit: 'lantern', version: '9.9.9' }],
      ['dunlin', { kind: 'probe-removed' }, { kind: 'nozzle' }],
      ['plover', { kind: 'nozzle' }, { kind: 'nozzle' }],
    ];
    const said = together.map(([machine, ...told]) => ({ machine, told, contradictions: tailOf(machine, ...changes(...told)).contradictions })); // prettier-ignore
    await expect(inLines(said)).toMatchFileSnapshot('answers/contradictions.txt');
  });

  it('of every kind of change', async () => {
    const said = EVERY_KIND.map((change) => {
      const machine = change.kind === 'probe-added' ? 'dunlin' : 'plover';
      const { consequences, contradictions, flash } = tailOf(machine, ...changes(change));
      return { machine, change, flash, contradictions, consequences: consequences.map(({ id, title, because, station }) => `${id} at ${station}: ${title}, because ${because}`) };
    }); // prettier-ignore
    await expect(inLines(said)).toMatchFileSnapshot('answers/changes.txt');
  });

  it('of Plover’s swap, on paper too', async () => {
    const job = ploverJob();
    const before = factsOf(job.before);
    const plan = swapPlan(before, factsOf(planned(job.before, job.changes, installed.catalogue)), ripple(before, job.changes).consequences); // prettier-ignore
    await expect(swapSheetCsv(plan, new Set())).toMatchFileSnapshot('answers/swap.txt');
    await expect(swapSheetHtml(plan, 'Plover', '2026-11-30', new Set())).toMatchFileSnapshot('answers/swap.html.txt'); // prettier-ignore
  });

  it('of the reports in the demo’s drawer, and what is asked of a machine nobody described', async () => {
    const reports = ['plover/plover-settings.txt', 'dunlin/dunlin-settings.txt'].map((path) =>
      parseDump({ text: drawer(path).toString('utf8'), dialects: [...installed.catalogue.dialects] }),
    );
    await expect(inLines({ reports, pages: PAGES })).toMatchFileSnapshot('answers/reports.txt');
  });
});
