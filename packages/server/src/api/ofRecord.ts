import type { calibrations as calibrationsContract } from '@jolly/contract/endpoints/calibrations';
import type { fleet as fleetContract } from '@jolly/contract/endpoints/fleet';
import type { record as recordContract } from '@jolly/contract/endpoints/record';
import * as calibrations from '../app/calibrations';
import * as fleet from '../app/fleet';
import { theMachine } from '../app/known';
import { recordFile, timeline } from '../app/timeline';
import { type Context, transact } from '../context';
import { policyOf, setPolicy } from '../sql/policies';
import type { Of } from './handler';

/** What was measured, and the record of a machine. */
export function ofRecord(context: Context): Of<typeof calibrationsContract & typeof recordContract> {
  return {
    calibrations: ({ params }) => calibrations.calibrations(context, params.id),
    addCalibration: ({ params, body }) => calibrations.record(context, params.id, body),
    takeCalibrationBack: ({ params }) => calibrations.takeBack(context, params.id, Number(params.number)),
    timeline: ({ params: { id, ...asked } }) => timeline(context, id, asked),
    recordFile: async ({ params: { id, format, mark } }) => {
      const { type, text, name } = await recordFile(context, id, { format, marked: mark === 'yes' });
      return { type, bytes: text, saveAs: name };
    },
    policy: async ({ params }) => {
      await theMachine(context, params.id);
      return { policy: await policyOf(context.db, params.id) };
    },
    setPolicy: ({ params, body: { policy } }) =>
      transact(context, async (within) => {
        await theMachine(within, params.id);
        await setPolicy(within.db, params.id, policy);
        return { policy };
      }),
  };
}

/** What is done to several machines at once. */
export function ofFleet(context: Context): Of<typeof fleetContract> {
  return {
    trySetting: ({ body }) => fleet.trySetting(context, body),
    shareSetting: ({ body }) => fleet.shareSetting(context, body),
    settingsApart: ({ params }) => fleet.settingsApart(context, params.id, params.other),
  };
}
