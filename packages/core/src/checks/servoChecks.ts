import type { Facts } from '../machine/facts';
import { SERVOS, servosOf } from '../machine/servos';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

function count(facts: Facts, settings: Settings): Spoken[] {
  const servos = servosOf(facts);
  if (numberOf(settings, 'servo.count') === servos.length) return [];
  return [
    {
      subject: aboutSetting('servo.count'),
      what: `${numberOf(settings, 'servo.count')} servos are set; the machine has ${servos.length}.`,
      why: 'One too few stays dead; one too many takes a pin. The servo of a probe counts.',
      evidence: [asSet(settings, 'servo.count'), `there: ${servos.map(({ id }) => id).join(', ') || 'none'}`],
      remedies: resetRemedy(settings, 'servo.count'),
    },
  ];
}

function delays(facts: Facts, settings: Settings): Spoken[] {
  const wanted = numberOf(settings, 'servo.count');
  const missing = SERVOS.slice(0, wanted).filter((name) => numberOf(settings, `servo.arrive.${name}`) <= 0);
  const [first] = missing;
  if (first === undefined) return [];
  const who = servosOf(facts)[SERVOS.indexOf(first)];
  return [
    {
      subject: aboutSetting(`servo.arrive.${first}`),
      what: `${wanted} servo${wanted > 1 ? 's' : ''}, and no time to arrive for ${missing.length > 1 ? `${missing.length} of them` : (who?.id ?? 'one')}.`,
      why: 'Every servo needs its own time; without it the next move starts while the servo still turns.',
      evidence: SERVOS.slice(0, wanted).map((name) => asSet(settings, `servo.arrive.${name}`, 's')),
      remedies: resetRemedy(settings, `servo.arrive.${first}`),
    },
  ];
}

export const servoChecks: Check[] = [
  { id: 'servo.count', severity: 'stop', run: count },
  { id: 'servo.delays', severity: 'stop', run: delays },
];
