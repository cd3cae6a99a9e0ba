import { describe, expect, it } from 'vitest';
import type { DumpValue } from '../src/report/parseDump';
import { applyEdits } from '../src/machine/edit';
import { features, takenAway } from '../src/ripple/takenAway';
import { demoMachine, earlierKit, factsOf, own, wholeKit } from './fixtures/demo';

describe('what the next image takes away', () => {
  const plover = factsOf(demoMachine('plover'), earlierKit);
  const whole = factsOf(demoMachine('plover'), wholeKit);
  const value = (key: string, to: number, more: Partial<DumpValue> = {}): DumpValue => ({
    key,
    value: to,
    unit: '',
    line: 1,
    ...more,
  });
  const lost = (reported: DumpValue[], ticked: string[] = []) =>
    takenAway(plover, plover, { reported, ticked }).map(({ key, known }) => `${key} ${known}`);

  it('the same kit, nothing reported and nothing ticked takes nothing', () => {
    expect(lost([])).toEqual([]);
  });
  it('what a person ticked is lost where this version does not have it, and named once', () => {
    const [first] = features(plover.kit).filter(({ from }) => from !== undefined);
    expect(lost([value(first!.key, 1)], [first!.key])).toEqual([`${first!.key} you said so`]);
  });
  it('what the report shows in use is lost; what it shows switched off was not used', () => {
    const coming = plover.kit.options.find(({ from, kind }) => from !== undefined && kind === 'number')!;
    expect(lost([value(coming.key, 3)])).toEqual([`${coming.key} from its settings report`]);
    expect(lost([value(coming.key, 0)])).toEqual([]);
    expect(lost([value('steps.x', 80)])).toEqual([]);
  });
  it('what this version can do is lost too, where the settings of the next image leave it off', () => {
    const now = factsOf(demoMachine('plover'));
    const found = (ticked: string[]) => takenAway(now, now, { reported: [], ticked });
    expect(found(['resume.on'])).toEqual([
      expect.objectContaining({
        key: 'resume.on',
        known: 'you said so',
        off: expect.stringContaining('can be switched on') as string,
      }),
    ]);
    // What follows from parts is not switched on there.
    expect(found(['lamp.on', 'extruder.second']).map(({ off }) => off)).toEqual([
      'It is off in the next image by what is known of the machine: no second extruder motor sits on a driver of its own.',
      'It is off in the next image by what is known of the machine: no lamp is known.',
    ]);
    // A part fan is there, and on.
    expect(found(['fan.part'])).toEqual([]);
    // Its own switches and sensors home it: that it could do without is told.
    expect(found(['stall.x', 'accel.smooth']).map(({ lost }) => lost)).toEqual([
      'Acceleration sets in at once: more ringing at sharp edges.',
      'The axis homes by a switch only.',
    ]);
  });
  it('a value that only an image with a feature has tells of the feature, where that is off', () => {
    const now = factsOf(demoMachine('plover'));
    const found = (to: number) => takenAway(now, now, { reported: [value('lead.time', to)], ticked: [] }).map(({ key }) => key); // prettier-ignore
    expect(found(0.06)).toEqual(['lead.on']);
    expect(found(0)).toEqual([]);
    const led = factsOf(applyEdits(demoMachine('plover'), [own('lead.on', true)]));
    expect(takenAway(led, led, { reported: [value('lead.time', 0.06)], ticked: [] })).toEqual([]);
  });
  it('a number that no option of the kit has is named as the report names it', () => {
    expect(
      takenAway(plover, plover, {
        reported: [value('panel.bright', 180, { name: 'Brightness' })],
        ticked: [],
      }),
    ).toEqual([
      expect.objectContaining({
        label: 'Brightness',
        lost: expect.stringContaining('is set to 180') as string,
      }),
    ]);
  });
  it('from a kit that reads everything, all that was on and is not read now is lost, with the version that brings it back', () => {
    const [coming] = features(plover.kit).filter(({ kind, from }) => kind === 'flag' && from !== undefined);
    const with_ = factsOf(applyEdits(demoMachine('plover'), [own(coming!.key, true)]), wholeKit);
    const found = takenAway(with_, plover, { reported: [], ticked: [] });
    expect(found).toContainEqual(
      expect.objectContaining({ key: coming!.key, known: 'by its kit', from: coming!.from }),
    );
    expect(takenAway(with_, whole, { reported: [], ticked: [] })).toEqual([]);
  });
});
