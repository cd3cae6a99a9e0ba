import type { Costs } from '@jolly/core/fit/chooseFit';
import type { Sizes } from '@jolly/core/build/sizes';
import { sentMachine } from '../machine';
import { endpoint, events, json } from '../endpoint';
import { ofMachine } from '../params';
import {
  anyOf,
  both,
  count,
  known,
  list,
  moment,
  nullable,
  object,
  oneOf,
  text,
  type TypeOf,
} from '../shape';

const begun = object({ machineId: text, machineVersion: count, startedAt: moment });
const ended = object({ endedAt: moment });

/** One measuring of what each feature takes in a machine's image. */
export const costRun = anyOf(
  both(begun, object({ state: oneOf('running') })),
  both(
    begun,
    both(ended, object({ state: oneOf('done'), costs: known<Costs>('whole', 'features', 'bound') })),
  ),
  both(begun, both(ended, object({ state: oneOf('failed'), because: text }))),
  both(begun, both(ended, object({ state: oneOf('cancelled') }))),
);
export type CostRun = TypeOf<typeof costRun>;

export const costs = {
  costs: endpoint('get /machines/{id}/costs', {
    summary: 'What each feature takes in the image, as it was measured last; null where it never was',
    params: ofMachine,
    answer: json(object({ run: nullable(costRun) })),
  }),
  measureCosts: endpoint('post /machines/{id}/costs', {
    summary:
      'Measure what each feature takes by building with and without it, from the machine as it is stored',
    params: ofMachine,
    answer: json(costRun),
    refusals: ['unknown-id', 'stopped', 'ending'],
  }),
  cancelCosts: endpoint('post /machines/{id}/costs/cancel', {
    summary: 'Cancel the measuring; what was built for it stays and is not built again',
    params: ofMachine,
    answer: json(costRun),
    refusals: ['not-running'],
  }),
  costEvents: endpoint('get /machines/{id}/costs/events', {
    summary: 'Progress of the measuring as server-sent events: `progress`, then `ended`',
    params: ofMachine,
    answer: events,
  }),
  buildBase: endpoint('post /machines/{id}/base', {
    summary: 'Build the nearest base configuration of the same kit version unchanged; nothing of it is kept',
    params: ofMachine,
    answer: json(object({ name: text, board: text, sizes: known<Sizes>('flashBytes', 'ramBytes') })),
    refusals: ['not-built', 'not-so', 'busy', 'ending'],
  }),
  editedSources: endpoint('get /kits/{id}/edited', {
    summary: 'Sources of a kit that are not as they came; null where it is not known how they came',
    params: ofMachine,
    answer: json(object({ edited: nullable(list(text)) })),
  }),
  freshSources: endpoint('post /kits/{id}/fresh', {
    summary:
      'Put edited sources of a kit back as they came; what stood there is kept in a folder that is named',
    params: ofMachine,
    answer: json(object({ keptIn: text })),
  }),
  sizes: endpoint('post /machines/{id}/sizes', {
    summary: 'What the image of a machine as it is given takes, really built; nothing of it is kept',
    params: ofMachine,
    body: sentMachine,
    answer: json(known<Sizes>('flashBytes', 'ramBytes', 'stackBytes', 'bySource')),
    refusals: ['unknown-id', 'not-built', 'busy', 'ending'],
  }),
};
