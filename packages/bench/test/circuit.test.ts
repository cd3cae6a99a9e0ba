import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { type Circuit, compileCircuit } from '../src/plant/circuit';
import type { Doing } from '../src/plant/pinHolds';
import { type Live, liveOf } from '../src/plant/live';

const IDLE: Doing = { closed: () => false, outputLow: () => false, ohms: () => 100_000, duty: () => 0 };
const CLOSED_OHMS = 0.5;
const OUTPUT_OHMS = 100;
const CHIP_PULL_UP_OHMS = 40_000;

interface Table {
  circuit: Circuit;
  /** Volts at the pin that a part's signal touches. */
  signal: (part: string, pulledUp?: boolean) => number | undefined;
}

/** A demo machine's wiring, changed, while its parts do this. */
function table(
  edits: Edit[],
  doing: Partial<Doing> = {},
  spoil: (live: Live) => void = () => undefined,
): Table {
  const live = liveOf(factsOf(applyEdits(demoMachine('plover'), edits)));
  spoil(live);
  const circuit = compileCircuit(live, { ...IDLE, ...doing });
  return {
    circuit,
    signal: (part, pulledUp = false) => circuit.volts(circuit.pinAt(part, 'signal') ?? -1, pulledUp),
  };
}

/** Volts of a point between resistors, each to a rail: Kirchhoff's sum of currents. */
const between = (...resistors: [volts: number, ohms: number][]): number =>
  resistors.reduce((sum, [volts, ohms]) => sum + volts / ohms, 0) /
  resistors.reduce((sum, [, ohms]) => sum + 1 / ohms, 0);

const withProbe = (part: string, adapters: object[] = []): Edit[] => [
  { path: ['parts', 16, 'part'], value: part },
  {
    path: ['harness', 'probe'],
    value: {
      leads: { signal: 'PROBE.5', ground: 'PROBE.1', supply: 'FAN-2.1' },
      ...(adapters.length > 0 && { with: adapters }),
    },
  },
];
const LOW: Partial<Doing> = { outputLow: (part) => part === 'probe' };

describe('what a pin reads is what its resistors leave', () => {
  it('a contact against the pull-up of the board and that of the chip', () => {
    const closed = { closed: (part: string) => part === 'x-switch' };
    expect(table([], closed).signal('x-switch')).toBeCloseTo(between([3.3, 10_000], [0, CLOSED_OHMS]), 9);
    expect(table([]).signal('x-switch')).toBeCloseTo(3.3, 9);
    const both = between([3.3, 10_000], [3.3, CHIP_PULL_UP_OHMS], [0, CLOSED_OHMS]);
    expect(table([], closed).signal('x-switch', true)).toBeCloseTo(both, 9);
  });

  it('a thermistor against its 4,700 Ω, over all it may have', () => {
    for (const ohms of [30, 2200, 100_000, 1e6])
      expect(table([], { ohms: () => ohms }).signal('hotend-sensor')).toBeCloseTo(
        between([3.3, 4700], [0, ohms]),
        9,
      );
  });

  it('an output that drives its level, and one that only pulls down', () => {
    expect(table([]).signal('probe')).toBeCloseTo(3.3, 9);
    expect(table([], LOW).signal('probe')).toBe(0);
    const only = withProbe('plumb');
    expect(table(only).signal('probe')).toBeUndefined();
    expect(table(only).signal('probe', true)).toBeCloseTo(3.3, 9);
    const hungry = [...only, { path: ['harness', 'probe', 'leads', 'supply'], value: 'PROBE.2' }];
    expect(table(hungry, LOW).signal('probe')).toBeUndefined();
    expect(table(only, LOW).signal('probe', true)).toBeCloseTo(
      between([3.3, CHIP_PULL_UP_OHMS], [0, OUTPUT_OHMS]),
      9,
    );
  });

  it('a pull-up in the lead, to the rail it goes to', () => {
    const lifted = withProbe('plumb', [{ kind: 'pull-up', lead: 'signal', ohms: 2000, to: '3v3' }]);
    expect(table(lifted).signal('probe')).toBeCloseTo(3.3, 9);
    expect(table(lifted, LOW).signal('probe')).toBeCloseTo(between([3.3, 2000], [0, OUTPUT_OHMS]), 9);
  });

  it('a divider leaves its share of a level, a shifter the chip’s, and neither changes what is low', () => {
    const five: Edit = { path: ['parts', 16, 'part'], value: 'heron-5' };
    const adapted = (adapter: object): Edit[] => [
      five,
      { path: ['harness', 'probe', 'with'], value: [adapter] },
    ];
    const bare = table([five]).signal('probe') ?? 0;
    expect(bare).toBeCloseTo(5, 9);
    const divided = adapted({ kind: 'divider', lead: 'signal', top_ohms: 1000, bottom_ohms: 1800 });
    expect(table(divided).signal('probe')).toBeCloseTo((5 * 1800) / 2800, 9);
    const shifted = adapted({ kind: 'shifter', lead: 'signal' });
    expect(table(shifted).signal('probe')).toBeCloseTo(3.3, 9);
    for (const edits of [[five], divided, shifted]) expect(table(edits, LOW).signal('probe')).toBe(0);
  });

  it('electronics without ground, or with too little supply, hold nothing', () => {
    const without = (role: 'ground' | 'supply') => (live: Live) => {
      const leads = Object.entries({ ...live.leads.get('probe') });
      live.leads.set('probe', Object.fromEntries(leads.filter(([lead]) => lead !== role)));
    };
    for (const role of ['ground', 'supply'] as const)
      expect([role, table([], LOW, without(role)).signal('probe')]).toEqual([role, undefined]);
  });

  it('a pull-up that is missing leaves a contact without anything against it', () => {
    const bare = (live: Live) => void (live.pullUps = []);
    expect(table([], {}, bare).signal('x-switch')).toBeUndefined();
    expect(table([], {}, bare).signal('hotend-sensor')).toBe(0);
  });

  it('a sensor at a pin that the board file does not speak for has the usual one', () => {
    const moved = (live: Live) =>
      void live.leads.set('hotend-sensor', { signal: 'PROBE.5', ground: 'PROBE.1' });
    const spoken = between([3.3, 4700], [0, 1000], [3.3, OUTPUT_OHMS]);
    expect(table([], { ohms: () => 1000 }, moved).signal('probe')).toBeCloseTo(spoken, 9);
  });
});

describe('what a load gets', () => {
  const on = (share: number): Partial<Doing> => ({ duty: () => share });
  it('the supply’s volts, for the share of the time its pin conducts', () => {
    expect(table([], on(0.3)).circuit.fed('part-fan')).toMatchObject({
      volts: 24,
      share: 0.3,
      reversed: false,
    });
    expect(table([]).circuit.fed('part-fan')).toMatchObject({ volts: 24, share: 0 });
    expect(table([], on(1)).circuit.fed('nobody')).toEqual({ volts: 0, share: 0, reversed: false });
  });
  it('all of the time where its element is stuck, or where it hangs between two rails', () => {
    const stuck = (live: Live) => void live.stuckOn.add('part-fan');
    expect(table([], {}, stuck).circuit.fed('part-fan').share).toBe(1);
    const railed = (live: Live) => void live.leads.set('part-fan', { supply: 'FAN-1.1', control: 'PROBE.1' });
    expect(table([], {}, railed).circuit.fed('part-fan')).toMatchObject({
      volts: 24,
      share: 1,
      reversed: false,
    });
    const turned = (live: Live) => void live.leads.set('part-fan', { supply: 'PROBE.1', control: 'FAN-1.1' });
    expect(table([], {}, turned).circuit.fed('part-fan')).toMatchObject({
      volts: 24,
      share: 1,
      reversed: true,
    });
  });
  it('nothing without a lead, and the other way round with the two exchanged', () => {
    const loose = (live: Live) => void live.leads.set('part-fan', { control: 'FAN-1.2' });
    expect(table([], on(1), loose).circuit.fed('part-fan').volts).toBe(0);
    const exchanged = (live: Live) =>
      void live.leads.set('part-fan', { supply: 'FAN-1.2', control: 'FAN-1.1' });
    expect(table([], on(1), exchanged).circuit.fed('part-fan')).toMatchObject({ volts: 24, reversed: true });
  });
  it('tells the pin that a lead touches, none at a rail or in the air', () => {
    const { circuit } = table([]);
    expect([
      circuit.pinAt('part-fan', 'control'),
      circuit.pinAt('part-fan', 'supply'),
      circuit.pinAt('nobody', 'signal'),
    ]).toEqual([expect.any(Number), undefined, undefined]);
  });
});
