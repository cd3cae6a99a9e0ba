import { describe, expect, it } from 'vitest';
import { applyEdits, CHECKS, check, derive, type Edit } from '../src/index';
import { demoMachine, factsOf, findingsAfter, own, partIndex } from './fixtures/demo';

const part = (machine: string, id: string, type: string): Edit => ({
  path: ['parts', partIndex(machine, id), 'part'],
  value: type,
});
const lead = (id: string, role: string, contact: string): Edit => ({
  path: ['harness', id, 'leads', role],
  value: contact,
});
const gone = (...path: (string | number)[]): Edit => ({ path });
const addSwitch: Edit = {
  path: ['parts', 17],
  value: { id: 'z-switch', part: 'lever-switch-nc', role: 'z' },
};
const landSwitch = {
  path: ['harness', 'z-switch'],
  value: { leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } },
};

/** Per check: a machine, the changed facts that make it speak, and the nearest legitimate neighbour. */
const CASES: Record<string, { machine: string; fires: Edit[]; silent: Edit[] }> = {
  'pins.used-twice': {
    machine: 'plover',
    fires: [lead('y-switch', 'signal', 'STOP-X.3')],
    silent: [lead('y-switch', 'signal', 'STOP-Z.3')],
  },
  'pins.capability': {
    machine: 'plover',
    fires: [lead('hotend-sensor', 'signal', 'STOP-Z.3')],
    silent: [lead('hotend-sensor', 'signal', 'TEMP-C.1')],
  },
  'level.over-tolerance': {
    machine: 'plover',
    fires: [part('plover', 'probe', 'heron-5'), lead('probe', 'signal', 'TEMP-C.1')],
    silent: [part('plover', 'probe', 'heron-5')],
  },
  'supply.voltage': {
    machine: 'plover',
    fires: [part('plover', 'part-fan', 'fan-12-40')],
    silent: [{ path: ['supply', 'volts_v'], value: 24.5 }],
  },
  'header.current': {
    machine: 'plover',
    fires: [lead('bed-heater', 'supply', 'HEAT-H.1')],
    silent: [part('plover', 'bed-heater', 'bed-24-150')],
  },
  'harness.unlanded': {
    machine: 'plover',
    fires: [gone('harness', 'x-switch')],
    silent: [gone('harness', 'x-driver')],
  },
  'socket.none-left': { machine: 'plover', fires: [gone('harness', 'x-driver')], silent: [] },
  'level.no-pull-up': {
    machine: 'plover',
    fires: [lead('x-switch', 'signal', 'STOP-Z.3'), own('switch.x.pull-up', false)],
    silent: [lead('x-switch', 'signal', 'STOP-Z.3')],
  },
  'endstop.open-on-break': {
    machine: 'plover',
    fires: [part('plover', 'x-switch', 'lever-switch-no')],
    silent: [],
  },
  'frame.bed-outside-travel': {
    machine: 'plover',
    fires: [{ path: ['frame', 'bed_mm', 'x', 1], value: 236.5 }],
    silent: [{ path: ['frame', 'bed_mm', 'x', 1], value: 236 }],
  },
  'frame.travel-over-frame': {
    machine: 'plover',
    fires: [{ path: ['frame', 'room_mm', 'x'], value: 241 }],
    silent: [{ path: ['frame', 'room_mm', 'x'], value: 242 }],
  },
  'home.spot-unreachable': {
    machine: 'plover',
    fires: [own('home.spot.x', 199)],
    silent: [own('home.spot.x', 198)],
  },
  'home.direction': {
    machine: 'plover',
    fires: [own('home.x.side', 'max')],
    silent: [own('home.x.side', 'min')],
  },
  'home.no-switch': {
    machine: 'plover',
    fires: [own('home.z.with', 'switch')],
    silent: [addSwitch, landSwitch, { path: ['frame', 'switch_at', 'z'], value: 'min' }],
  },
  'home.two-masters': {
    machine: 'plover',
    fires: [addSwitch, landSwitch, own('home.z.with', 'probe')],
    silent: [addSwitch, landSwitch],
  },
  'motion.steps-disagree': {
    machine: 'plover',
    fires: [own('steps.x', 105.1)],
    silent: [own('steps.x', 104.9)],
  },
  'motion.pulse-rate': { machine: 'plover', fires: [own('speed.x', 2001)], silent: [own('speed.x', 2000)] },
  'heat.guard-off': { machine: 'plover', fires: [own('guard.bed', false)], silent: [own('guard.bed', true)] },
  'heat.guard-without-heater': {
    machine: 'plover',
    fires: [
      gone('parts', partIndex('plover', 'bed-heater')),
      gone('harness', 'bed-heater'),
      own('guard.bed', true),
    ],
    silent: [gone('parts', partIndex('plover', 'bed-heater')), gone('harness', 'bed-heater')],
  },
  'heat.max-over-sensor': {
    machine: 'plover',
    fires: [own('heat.hotend.max', 301)],
    silent: [own('heat.hotend.max', 300)],
  },
  'heat.max-over-part': {
    machine: 'plover',
    fires: [own('heat.hotend.max', 291)],
    silent: [own('heat.hotend.max', 290)],
  },
  'heat.min-off': { machine: 'plover', fires: [own('heat.bed.min', -20)], silent: [own('heat.bed.min', 0)] },
  'probe.stroke': { machine: 'plover', fires: [own('probe.clear', 5.9)], silent: [own('probe.clear', 6)] },
  'probe.offset-zero': {
    machine: 'plover',
    fires: [gone('probe_mount', 'z_mm')],
    silent: [{ path: ['probe_mount', 'z_mm'], value: -0.5 }],
  },
  'home.soft-limit-blocks': {
    machine: 'plover',
    fires: [gone('probe_mount', 'z_mm')],
    silent: [gone('probe_mount', 'z_mm'), { path: ['frame', 'travel_mm', 'z', 0], value: -2 }],
  },
};

describe('every check', () => {
  /** These depend on facts of the catalogue and not of the machine; their cases follow below. */
  const byCatalogue = ['kit.untested-target', 'serial.baud-error'];

  it.each(CHECKS.map((entry) => entry.id).filter((id) => !byCatalogue.includes(id)))(
    '%s fires on one changed fact and is silent for its neighbour',
    (id) => {
      const entry = CASES[id]!;
      expect(entry, `no case for ${id}`).toBeDefined();
      const said = (edits: Edit[]) =>
        findingsAfter(entry.machine, ...edits).filter(
          (finding) => finding.id === id && finding.severity !== 'question',
        );
      expect(said(entry.fires)).not.toEqual([]);
      expect(said(entry.silent)).toEqual([]);
      for (const finding of said(entry.fires)) {
        expect(finding.evidence.length).toBeGreaterThan(0);
        expect(finding.what).toMatch(/\.$/);
      }
    },
  );

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
    expect(said(2e6)).toHaveLength(1);
    // 16 MHz is 3.5 % off with one divider and 2.1 % with the other: good enough.
    expect(said(16e6)).toEqual([]);
  });

  it('finds nothing to settle on Plover as it stands', () => {
    expect(findingsAfter('plover')).toEqual([]);
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
});
