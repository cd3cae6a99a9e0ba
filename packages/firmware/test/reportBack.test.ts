import { parseDump } from '@jolly/core/report/parseDump';
import { storedSettings } from '@jolly/core/kit/storedSettings';
import { isOn } from '@jolly/core/settings/understands';
import { derive } from '@jolly/core/settings/derive';
import { expect, it } from 'vitest';
import { demoFacts, own, workshop } from './fixtures/builtMachine';

const plover = workshop();

it('every line of the settings report is read back as the setting it tells, with its value', async () => {
  const edits = [own('lead.on', true), own('filament.volumetric', true), own('lead.time', 0.125)];
  const { ask } = await plover.builtWith(...edits);
  const facts = await demoFacts('plover', ...edits);
  const settings = derive(facts);
  const report = ask('M503').filter((line) => line.startsWith('setting '));
  const read = parseDump({ text: report.join('\n') });
  expect(read.values.map(({ key }) => key).sort()).toEqual(
    storedSettings(facts.kit)
      .filter(({ say }) => {
        const by = facts.kit.stored.find((line) => line.say === say)?.by;
        return by === undefined || isOn(settings, by);
      })
      .map(({ option }) => option.key)
      .sort(),
  );
  for (const { key, value } of read.values)
    expect(Math.abs(Number(value) - Number(settings.get(key)?.value))).toBeLessThan(0.0051);
});
