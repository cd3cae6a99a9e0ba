import { contactChecks } from '@jolly/core/checks/contactChecks';
import { levelChecks } from '@jolly/core/checks/levelChecks';
import { pinChecks } from '@jolly/core/checks/pinChecks';
import { plugChecks } from '@jolly/core/checks/plugChecks';
import { sensorChecks } from '@jolly/core/checks/sensorChecks';
import { sharingChecks } from '@jolly/core/checks/sharingChecks';
import { supplyChecks } from '@jolly/core/checks/supplyChecks';
import type { Finding } from '@jolly/core/finding/finding';
import { describe, expect, it } from 'vitest';
import { isAboutWiring } from '../src/aboutWiring';

const OF_LEADS = {
  contactChecks,
  levelChecks,
  pinChecks,
  plugChecks,
  sensorChecks,
  sharingChecks,
  supplyChecks,
};

describe('Wiring', () => {
  it.each(Object.entries(OF_LEADS))(
    'has what %s find: that nothing is to do there would be untrue',
    (_, checks) => {
      const elsewhere = checks.map(({ id }) => id).filter((id) => !isAboutWiring({ id } as Finding));
      expect(elsewhere).toEqual([]);
    },
  );
});
