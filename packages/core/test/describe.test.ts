import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { check } from '@jolly/core/checks/checks';
import { answersOf, asked, descriptionSchema, misfits, openOf } from '@jolly/core/describe/description';
import { entries, fromReport, trainsOf } from '@jolly/core/describe/fromReport';
import { machineFrom } from '@jolly/core/describe/machineFrom';
import { PAGES, QUESTIONS, questionOf } from '@jolly/core/describe/pages';
import type { Answers, AnswerValue } from '@jolly/core/describe/question';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { certain } from '@jolly/core/tree/certain';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { described, KNOT, made, questionsAbout } from './fixtures/knot';

const { catalogue } = installed;

describe('the questions', () => {
  it('have ids of their own, and each stands on one page', () => {
    const ids = QUESTIONS.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(PAGES.flatMap(({ questions }) => questions)).toHaveLength(ids.length);
  });
  it.each(['plover', 'bittern', 'dunlin'])('what %s answers fits, and makes the same machine again', (id) => {
    const machine = demoMachine(id);
    const description = described(answersOf(machine), { base: machine });
    expect(descriptionSchema().validate(description).error).toBeUndefined();
    expect(misfits(description, catalogue)).toEqual([]);
    const again = { ...made(description), id };
    expect({ ...again, parts: [], harness: {}, frame: {} }).toEqual({
      ...machine,
      parts: [],
      harness: {},
      frame: {},
    });
    expect(again.frame).toEqual(machine.frame);
    const partsOf = ({ parts }: Machine) => [...parts].sort((one, other) => one.id.localeCompare(other.id));
    expect(partsOf(again)).toEqual(partsOf(machine));
    expect(again.harness).toEqual(machine.harness);
  });
});

describe('a machine from a description', () => {
  it('is not one while something it cannot be without is open; null is not an answer', () => {
    for (const id of Object.keys(KNOT).filter((key) => questionOf(key)?.needed)) {
      const found = machineFrom(described({ ...KNOT, [id]: null }), 'knot', catalogue);
      expect('open' in found ? found.open.map((question) => question.id) : []).toContain(id);
    }
  });
  it('says what was said: coordinates from the plate’s corner, drives, and nothing that was not', () => {
    const machine = made(described(KNOT));
    expect(machineSchema().validate(machine, { convert: false }).error).toBeUndefined();
    expect(machine.frame.bed_mm).toEqual({ x: [0, 300], y: [0, 200.5] });
    expect(machine.frame.travel_mm).toEqual({ x: [-4, 312.7], y: [0, 207.5], z: [0, 310] });
    expect(machine.axes.x).toEqual({ kind: 'belt', pitch_mm: 3, teeth: 18 });
    expect(machine.axes.y).toEqual({ kind: 'screw', lead_mm: 12 });
    expect(machine.parts).toEqual([]);
    expect([machine.probe_mount, machine.harness, machine.settings]).toEqual([undefined, {}, {}]);
    expect(machine.board.revision_seen).toBe(false);
  });
  it('what nobody could say stands there as a question, until a part or a fact answers it', () => {
    const machine = made(described({ ...KNOT, 'hotend.sensor': null, lamp: 'none' }));
    const asks = (of: Machine) => questionsAbout(of).map(({ subject }) => subject.id);
    expect(asks(machine)).toEqual(expect.arrayContaining(['hotend.sensor', 'fan.part', 'axes.plus', 'axes.speed-accel'])); // prettier-ignore
    expect(asks(machine)).not.toContain('lamp');
    const answered = { ...machine, parts: [{ id: 'hotend-sensor', part: 't100-a', role: 'hotend' }] };
    expect(asks(answered)).not.toContain('hotend.sensor');
    const [fan] = questionsAbout(machine).filter(({ subject }) => subject.id === 'fan.part');
    expect(certain(fan, 'a question').remedies[0]?.edits[0]?.value).not.toContain('fan.part');
  });
  it('a direction nobody has seen is left to the kit, and a speed too', () => {
    const settings = derive(factsOf(made(described(KNOT))));
    for (const key of ['direction.x', 'speed.x', 'accel.y'])
      expect(settings.get(key)).toMatchObject({ source: 'kit' });
    expect(settings.get('steps.y')?.source).not.toBe('derived');
  });
  it('a heater without a sensor stops', () => {
    const facts = factsOf(made(described({ ...KNOT, 'bed.heater': 'bed-24-220', 'bed.sensor': null })));
    expect(check(facts, derive(facts)).filter(({ id }) => id === 'heat.no-sensor')).toMatchObject([{ severity: 'stop', subject: { id: 'bed-heater' } }]); // prettier-ignore
  });
  it('half a mount is none', () => {
    const half = made(described({ ...KNOT, probe: 'heron', 'mount.side': 'left', 'mount.side_mm': 20 }));
    expect(half.probe_mount).toBeUndefined();
    expect(half.not_known).toEqual(expect.arrayContaining(['mount.face', 'mount.face_mm']));
  });
  it('a beeper is a setting: said to be there it is on, said to be missing it is not, unsaid it stays as it was', () => {
    const sounds = (beeper: boolean | null, base?: Machine) =>
      made(described({ ...KNOT, beeper }, base && { base })).settings['beeper.on'];
    const on = { value: true, source: 'override', because: 'it wakes me' } as const;
    const off = { value: false, source: 'override', because: 'it wakes me' } as const;
    const machine = made(described(KNOT));
    const withSetting = (own: typeof on | typeof off) => ({ ...machine, settings: { 'beeper.on': own } });
    expect(sounds(null)).toBeUndefined();
    expect(sounds(false)).toBeUndefined();
    expect(sounds(true)).toMatchObject({ value: true, because: expect.stringContaining('you said') as unknown }); // prettier-ignore
    expect([sounds(null, withSetting(on)), sounds(true, withSetting(on)), sounds(false, withSetting(on))]).toEqual([on, on, undefined]); // prettier-ignore
    expect([sounds(null, withSetting(off)), sounds(true, withSetting(off))?.value]).toEqual([off, true]);
    expect([answersOf(machine), answersOf(withSetting(on)), answersOf(withSetting(off))].map((of) => of['beeper'])).toEqual([undefined, true, false]); // prettier-ignore
    // Nobody who passed it over is asked again; who says that it is not known, is.
    const open = (said: Answers) => made(described({ ...KNOT, ...said })).not_known ?? [];
    expect(open({})).not.toContain('beeper');
    expect(open({ beeper: null })).toContain('beeper');
  });
  it('a second extruder has a motor, a driver and a hot end of its own', () => {
    const second = { 'motor.e': 'motor-200-12', 'motor.second': 'motor-400-10', driver: 'hush-plain', 'e.second': true, 'second.heater': 'cartridge-24-40', 'second.sensor': 't100-a' }; // prettier-ignore
    const machine = made(described({ ...KNOT, ...second }));
    const ids = machine.parts.map(({ id, role }) => `${id} ${role}`);
    expect(ids).toEqual(expect.arrayContaining(['e-motor e', 'e-motor-2 e', 'e-driver-2 e', 'hotend-2-heater hotend-2', 'hotend-2-sensor hotend-2'])); // prettier-ignore
    expect(machine.parts.find(({ id }) => id === 'e-motor-2')?.part).toBe('motor-400-10');
    expect(answersOf(machine)).toMatchObject(second);
    // Not known yet: nothing is put in its place, and it stands there as a question.
    const open = made(described({ ...KNOT, ...second, 'motor.second': null }));
    expect(open.parts.some(({ id }) => id === 'e-motor-2')).toBe(false);
    expect(open.not_known).toContain('motor.second');
    const one = made(described({ ...KNOT, ...second, 'e.second': false }));
    expect(one.parts.filter(({ id }) => /-2/.test(id))).toEqual([]);
  });
  it('a second extruder has the drive of the first, or one of its own that is asked for', () => {
    const second = { 'motor.e': 'motor-200-12', 'motor.second': 'motor-400-10', driver: 'hush-plain', 'e.second': true }; // prettier-ignore
    expect(made(described({ ...KNOT, ...second })).axes.e2).toBeUndefined();
    const own = { ...KNOT, ...second, 'e.second.drive': true };
    expect(openOf(described(own)).map(({ id }) => id)).toEqual(['e.second.roller']);
    const machine = made(described({ ...own, 'e.second.roller': 7, 'e.second.gear': 5, 'e.second.plus': 'clockwise' })); // prettier-ignore
    expect(machine.axes.e2).toEqual({ kind: 'roller', diameter_mm: 7, gear_ratio: 5, plus_is: 'clockwise' });
    expect(answersOf(machine)).toMatchObject({ 'e.second.drive': true, 'e.second.roller': 7, 'e.second.gear': 5 }); // prettier-ignore
    expect(made(described({ ...answersOf(machine), 'e.second.drive': false }, { base: machine })).axes.e2).toBeUndefined(); // prettier-ignore
    expect(machineSchema().validate(machine, { convert: false }).error?.message).toBeUndefined();
  });
  it('clips keep the whole strip of their edges free; a copy keeps those of the bed plan, and "none" takes them away', () => {
    const clipped = made(
      described({ ...KNOT, driver: 'hush-plain', clips: 'front-back', 'clips.reach': 12 }),
    );
    expect(clipped.frame.clips_mm).toEqual([
      { x: [0, 300], y: [0, 12] },
      { x: [0, 300], y: [188.5, 200.5] },
    ]);
    const again = made(described(answersOf(clipped), { base: clipped }));
    expect(again.frame.clips_mm).toEqual(clipped.frame.clips_mm);
    const none = made(described({ ...answersOf(clipped), clips: 'none' }, { base: clipped }));
    expect(none.frame.clips_mm).toBeUndefined();
  });
  it('another driver for X takes along the axes that had the same, and leaves those that had their own', () => {
    const base = made(described({ ...KNOT, driver: 'hush-plain' }));
    const parts = base.parts.map((part) => (part.id === 'z-driver' ? { ...part, part: 'dray-d1' } : part));
    const copy = made(described({ ...answersOf(base), driver: 'hush-wire' }, { base: { ...base, parts } }));
    const drivers = copy.parts.filter(({ id }) => id.endsWith('-driver')).map(({ part }) => part);
    expect(drivers).toEqual(['hush-wire', 'hush-wire', 'dray-d1', 'hush-wire']);
  });
  it('any fitting answers make a file that holds together, and are told by it again', () => {
    const fitting = (id: string): fc.Arbitrary<AnswerValue | null> => {
      const question = certain(questionOf(id), id);
      switch (question.kind) {
        case 'number': {
          const [least, most] = question.range;
          return question.whole
            ? fc.integer({ min: least, max: most })
            : fc.integer({ min: Math.ceil(least), max: Math.floor(most) });
        }
        case 'choice':
          return fc.constantFrom(...question.choices.map(({ value }) => value));
        case 'flag':
          return fc.boolean();
        case 'part':
          return fc.constantFrom(...(question.optional ? ['none'] : []), ...catalogue.parts.filter(({ kind }) => kind === question.of).map((part) => part.id)); // prettier-ignore
        case 'board':
          return fc.constantFrom(...catalogue.boards.map((board) => `${board.id} ${board.revision}`));
        case 'text':
          return fc.constantFrom('one', 'two three', 'ä ö');
      }
    };
    const any = fc.record(
      Object.fromEntries(QUESTIONS.map(({ id }) => [id, fc.option(fitting(id), { freq: 8 })])),
    );
    fc.assert(
      fc.property(any, (given) => {
        // A travel that does not rise is refused where it is saved.
        const answers: Answers = {
          ...given,
          ...Object.fromEntries(
            QUESTIONS.filter(({ id, needed }) => needed && given[id] == null).map(({ id }) => [
              id,
              KNOT[id] ?? (id.endsWith('lead') ? 8 : id.endsWith('teeth') ? 20 : 2),
            ]),
          ),
          'plate.width': 900,
          'plate.depth': 900,
        };
        const description = described(answers);
        expect(openOf(description)).toEqual([]);
        expect(misfits(description, catalogue)).toEqual([]);
        const machine = made(description);
        expect(machineSchema().validate(machine, { convert: false }).error).toBeUndefined();
        factsOf(machine);
        const told = answersOf(machine);
        // Clips without a place are a question, never none.
        if (told['clips'] === undefined) expect(machine.not_known).toContain('clips');
        for (const { id, kind } of asked(answers))
          if (
            answers[id] != null &&
            kind !== 'flag' &&
            !id.startsWith('mount.') &&
            id !== 'driver' &&
            id !== 'microsteps' &&
            id !== 'bed.relay' &&
            id !== 'note' &&
            !(id === 'clips' && told[id] === undefined)
          )
            expect([id, told[id]]).toEqual([id, answers[id]]);
      }),
      { numRuns: 60 },
    );
  });
  it('answers that do not fit are named', () => {
    const wrong = {
      name: 'x'.repeat(41),
      'x.teeth': 3,
      kinematics: 'delta',
      board: 'alder-a32 9',
      'hotend.sensor': 'heron',
      nonsense: 1,
      'z.second': 'yes',
    };
    expect(
      misfits(described(wrong), catalogue)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(Object.keys(wrong).sort());
  });
});

describe('from a settings report', () => {
  const text = readFileSync(
    join(import.meta.dirname, '../../../catalogue/demo/drawer/plover/plover-settings.txt'),
    'utf8',
  );
  const { description } = fromReport(text, catalogue);

  it('speeds are answers with the line they came from; PID, currents and the extruder’s steps are carried', () => {
    expect(description.answers).toMatchObject({ 'x.speed': 200, 'z.accel': 120 });
    expect(description.origins?.['x.speed']).toMatch(/line 8: .*M203 X200/);
    const machine = made({ ...description, answers: { ...KNOT, ...description.answers } });
    expect(machine.axes.x.max_speed_mm_s).toBe(200);
    expect(machine.settings['pid.hotend.p']).toMatchObject({ value: 21.4, source: 'carried' });
    expect(machine.settings['current.x']?.value).toBeCloseTo(0.78, 6);
    expect(machine.settings['steps.e']?.value).toBe(341.6);
    expect(machine.settings['steps.x']).toBeUndefined();
  });
  it('trains are ranked, nothing is answered by them until they are taken, and an answer narrows them', () => {
    expect(description.answers['x.teeth']).toBeUndefined();
    const [x] = trainsOf(description);
    expect(x).toMatchObject({ axis: 'x', stepsPerMm: 100 });
    const first = certain(x?.ranked[0], 'a train');
    expect(Object.fromEntries(entries('x', first))).toMatchObject({
      'x.kind': 'belt',
      'x.teeth': 16,
      microsteps: '16',
    });
    const [counted] = trainsOf({ ...description, answers: { ...description.answers, 'x.teeth': 32 } });
    for (const drive of counted?.ranked ?? []) expect(drive).toMatchObject({ teeth: 32 });
    expect(counted?.ranked.reduce((sum, { likelihood }) => sum + likelihood, 0)).toBeCloseTo(1, 9);
  });
  it('a report of nothing answers nothing', () => {
    expect(fromReport('hello\nworld', catalogue)).toMatchObject({ taken: 0, description: { answers: {} } });
  });
});
