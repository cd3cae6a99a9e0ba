import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeReading, meterRows } from '../src/firstPower/metering';
import { ohmsInWords, OPEN_OHMS, readMeter } from '../src/firstPower/meterReading';
import { powerStages } from '../src/firstPower/stages';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf } from './fixtures/demo';

const facts = factsOf(demoMachine('plover'));
const rows = meterRows(facts);
const row = (id: string) =>
  certain(
    rows.find((entry) => entry.id === id),
    `the row ${id}`,
  );
const likeliest = (id: string, reading: string) => {
  const verdict = judgeReading(row(id), certain(readMeter(reading), 'a reading'));
  return verdict.fits ? 'fits' : (verdict.causes[0]?.cause ?? 'nothing');
};

describe('a row of the meter', () => {
  it('takes the meter’s own leads off where they count', () => {
    const counts = rows.filter(({ how }) => how.includes('what the two tips read held together')).map(({ id }) => id);
    expect(counts).toContain('heater-bed');
    expect(counts).not.toContain('heater-hotend');
    for (const { id, bounds } of rows.filter(({ group, to }) => (group === 'Heaters' || group === 'Motors') && !to.includes('frame')))
      expect([id, counts.includes(id)]).toEqual([id, (bounds.least + bounds.most) / 2 < 10]);
  });
}); // prettier-ignore

describe('a meter’s reading', () => {
  it.each([
    ['14.4', { value: 14.4 }],
    ['14,4 Ω', { value: 14.4 }],
    ['1.2k', { value: 1200 }],
    ['0.98 MΩ', { value: 980000 }],
    ['112 kohm', { value: 112000 }],
    ['5.02 V', { value: 5.02 }],
    ['200 mΩ', { value: 0.2 }],
    ['200mohm', { value: 0.2 }],
    ['330 mV', { value: 0.33 }],
    ['2 meg', { value: 2000000 }],
    ['2 M', { value: 2000000 }],
    ['1.2 K', { value: 1200 }],
    ['2 m', undefined],
    ['OL', { open: true }],
    ['open', { open: true }],
    ['----', { open: true }],
    ['-', undefined],
    ['', undefined],
    ['-3', undefined],
    ['about ten', undefined],
    ['1e9', undefined],
    ['12 V 3', undefined],
  ])('%s', (text, reading) => {
    expect(readMeter(text)).toEqual(reading);
  });
  it.each([
    ['24 V', 'Ω', undefined],
    ['24 V', 'V', { value: 24 }],
    ['14 Ω', 'V', undefined],
    ['14 ohms', 'Ω', { value: 14 }],
    ['14', 'V', { value: 14 }],
    ['open', 'Ω', { open: true }],
  ] as const)('%s, where %s are asked for', (text, asked, reading) => {
    expect(readMeter(text, asked)).toEqual(reading);
  });
  it('a short is never taken for open, however small it is written', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 999 }),
        fc.constantFrom('mΩ', ' mΩ', ' mohm', ' mOhm'),
        (much, unit) => {
          const reading = readMeter(`${much}${unit}`);
          return reading !== undefined && 'value' in reading && reading.value < 1;
        },
      ),
    );
  });
  it('what is written for ohms is read as the same again, to three digits', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: OPEN_OHMS * 10, noNaN: true }), (ohms) => {
        const again = readMeter(ohmsInWords(ohms));
        if (again === undefined) return false;
        return 'open' in again ? ohms >= OPEN_OHMS : Math.abs(again.value - ohms) <= ohms * 0.006;
      }),
    );
  });
  it('no text breaks it', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const reading = readMeter(text);
        return reading === undefined || 'open' in reading || Number.isFinite(reading.value);
      }),
    );
  });
});

describe('the metering table', () => {
  it('asks for every heater, sensor, switch, motor and fan that is wired, by the contacts of the plan', () => {
    const groups = new Set(rows.map(({ group }) => group));
    expect([...groups]).toEqual(['Supply', 'Heaters', 'Sensors', 'Switches', 'Motors', 'Fans']);
    expect(new Set(rows.map(({ id }) => id)).size).toBe(rows.length);
    const heater = certain(
      facts.parts.find(({ type, role }) => type.kind === 'heater' && role === 'hotend'),
      'it',
    );
    const { landing } = heater;
    const contacts = landing && 'leads' in landing ? Object.values(landing.leads) : [];
    expect([row('heater-hotend').from, row('heater-hotend').to]).toEqual(contacts);
  });
  it('reckons a heater’s ohms from its watts and volts: 24 V, 40 W are 14.4 Ω', () => {
    expect(row('heater-hotend').expect).toContain('14.4 Ω');
    expect(likeliest('heater-hotend', '14.6')).toBe('fits');
  });
  it.each([
    ['3.6', 'It is made for half the volts: 12 V'],
    ['7.2', 'Two heaters in parallel, or one of twice the watts'],
    ['28.8', 'It is of half the watts, or two lie in a row'],
    ['0.3', 'Its wires touch, or it is burnt through'],
    ['OL', 'A screw or crimp holds no wire, or it is burnt out'],
  ])('%s Ω at the hot end: %s', (reading, cause) => {
    expect(likeliest('heater-hotend', reading)).toBe(cause);
  });
  it('the ohms of another heater name that one', () => {
    const bed = certain(
      facts.parts.find(({ type, role }) => type.kind === 'heater' && role === 'bed'),
      'the bed',
    );
    const ohms = bed.type.kind === 'heater' ? bed.type.volts ** 2 / bed.type.watts : 0;
    expect(likeliest('heater-hotend', ohms.toFixed(2))).toMatch(/ohms of the heater of the bed/);
  });
  it('two motors at one plug are measured together, and one that does not conduct is found', () => {
    const together = meterRows(factsOf(demoMachine('bittern'))).filter(({ what }) => what.includes('of Z'));
    expect(together.map(({ id, expect: wanted }) => [id, wanted])).toEqual([
      ['motor-z-motor-a', 'about 1.2 Ω, 2 in parallel'],
      ['motor-z-motor-b', 'about 1.2 Ω, 2 in parallel'],
    ]);
    for (const entry of together) {
      expect(judgeReading(entry, { value: 1.2 })).toEqual({ fits: true });
      const alone = judgeReading(entry, { value: 2.4 });
      expect(alone.fits ? [] : alone.causes[0]).toMatchObject({ cause: 'Only one of them conducts' });
    }
  });
  it('a heater that touches the frame never fits, whatever little flows', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 999_999, noNaN: true }), (value) => {
        const verdict = judgeReading(row('frame-hotend'), { value });
        return !verdict.fits && verdict.causes.length > 0;
      }),
    );
  });
  it('whatever does not fit has a cause', () => {
    fc.assert(
      fc.property(fc.constantFrom(...rows), fc.double({ min: 0, max: 1e9, noNaN: true }), (entry, value) => {
        const verdict = judgeReading(entry, { value });
        return verdict.fits || verdict.causes.length > 0;
      }),
    );
  });
  it.each([
    ['supply', 'vin', 12, 'It is a supply of less than 24 V, or turned down'],
    ['supply', 'vin', 36, 'It is a supply of more than 24 V, or turned up'],
    ['supply', 'vin', 0, 'The supply gives nothing: it is off, a lead of it is out, or its fuse is blown'],
    ['supply', '5v', 6, 'Its regulator is gone, or the supply is turned up'],
    ['usb', '5v', 6, 'Its regulator is gone'],
    ['usb', '5v', 4, 'Something pulls it down'],
  ])('at the stage %s the rail %s with %d V: %s', (stage, source, value, cause) => {
    const { rails } = certain(powerStages(facts).find(({ id }) => id === stage), 'the stage'); // prettier-ignore
    const rail = certain(rails.find((one) => one.source === source), 'the rail'); // prettier-ignore
    const verdict = judgeReading(rail, { value });
    expect(verdict.fits ? [] : verdict.causes[0]).toMatchObject({ cause });
  });
  it('a mains heater has no row: nobody is sent to measure mains', () => {
    const plover = demoMachine('plover');
    const mains = plover.parts.map((part) =>
      part.id === 'bed-heater' ? { ...part, part: 'bed-230-500' } : part,
    );
    const known = factsOf(plover).catalogue.parts.find(({ id }) => id.startsWith('bed-230'));
    const withMains = mains.map((part) =>
      part.part === 'bed-230-500' && known ? { ...part, part: known.id } : part,
    );
    const ids = meterRows(factsOf({ ...plover, parts: withMains })).map(({ id }) => id);
    expect(ids).not.toContain('heater-bed');
    expect(ids).toContain('heater-hotend');
  });
});

describe('the stages of first power', () => {
  it('begin unplugged, let USB come before the supply where a jumper allows it, and say when to stop', () => {
    const stages = powerStages(facts);
    expect(stages.map(({ id }) => id)).toEqual(['before', 'usb', 'supply']);
    for (const { stopSigns, id } of stages) expect(stopSigns.length > 0).toBe(id !== 'before');
    const supply = certain(stages.at(-1), 'the last');
    expect(supply.rails.find(({ source }) => source === 'vin')?.expect).toBe('22.80 to 25.20 V');
    const { jumpers: _without, ...board } = facts.board;
    expect(powerStages({ ...facts, board }).map(({ id }) => id)).toEqual(['before', 'supply']);
  });
  it('nothing but the USB lead and the tips of a meter is ever plugged while there is power', () => {
    const may = (of: typeof facts) =>
      Object.fromEntries(
        powerStages(of).map(({ id, plugs }) => [id, plugs.filter((row) => row.may).map((row) => row.id)]),
      );
    expect(may(facts)).toMatchObject({ usb: ['usb', 'tips'], supply: ['tips'] });
    const all = powerStages(facts)[0]?.plugs ?? [];
    expect(all.every((row) => row.may)).toBe(true);
    const soldered = { ...facts, board: { ...facts.board, drivers: 'soldered' as const } };
    expect(powerStages(soldered)[0]?.plugs.map(({ id }) => id)).not.toContain('modules');
  });
  const jumpers = (of = facts) =>
    Object.fromEntries(
      (powerStages(of)[0]?.looks ?? [])
        .filter(({ id }) => id.startsWith('jumper-'))
        .map(({ id, what }) => [id, what]),
    );
  it('say where a jumper has to sit for what is plugged there, and not to look at those of empty sockets', () => {
    expect(jumpers()['jumper-MODE-M1']).toContain(': bridged (');
    const bittern = factsOf(demoMachine('bittern'));
    expect(jumpers(bittern)['jumper-MODE-S3']).toContain(': crossed (');
    expect(Object.keys(jumpers(bittern))).not.toContain('jumper-MODE-S6');
  });
  it('do not take a jumper to be right because it sits there', () => {
    const machine = { ...demoMachine('plover'), jumpers: { 'STALL-M1': 'bridged' } };
    expect(jumpers()['jumper-STALL-M1']).toMatch(/: open \(.*\); x-switch uses the same input\.$/);
    expect(jumpers(factsOf(machine))).toEqual(jumpers());
  });
});
