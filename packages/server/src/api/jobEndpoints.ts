import Joi from 'joi';
import { changeSchema } from '@jolly/core/ripple/change';
import { jobSchema } from '@jolly/core/ripple/job';
import { line, lines } from '@jolly/core/text/plainText';
import { type Context, machineOr404 } from '../context';
import { listDues } from '../sql/dues';
import { lastFinished, openJob } from '../sql/jobs';
import { changeJob, endJob, reopenJob, settleDue, startJob } from '../survey/jobs';
import type { Endpoint } from './endpoint';
import { idParams, words } from './params';

export function jobEndpoints(context: Context): Endpoint[] {
  const { db } = context;
  const changes = Joi.array().items(changeSchema).unique('id').max(30).required();
  const taken = Joi.array().items(line(40)).unique().max(30).required();
  return [
    {
      method: 'get',
      path: '/machines/{id}/job',
      summary:
        'The open or paused job of a machine, or null; then the finished one whose end can still be taken back',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        const job = await openJob(db, params['id']!);
        const last = job ? undefined : await lastFinished(db, params['id']!);
        return {
          job: job ?? null,
          finished: last ? { title: last.job.title, endedAt: last.endedAt } : null,
        };
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/job',
      summary: 'Open a job; the machine as it is now becomes its before',
      params: idParams,
      body: Joi.object({
        title: line(80).required(),
        reason: jobSchema.extract('reason'),
        overruled: words,
        changes,
        taken,
      }),
      run: ({ params, body }) => startJob(context, params['id']!, body),
    },
    {
      method: 'put',
      path: '/machines/{id}/job',
      summary:
        'Change an open job: its changes, which of them the machine file holds, and what was done by hand',
      params: idParams,
      body: Joi.object({
        version: Joi.number().integer().min(1).required(),
        title: line(80).required(),
        changes,
        taken,
        done: jobSchema.extract('done'),
      }),
      run: ({ params, body }) => changeJob(context, params['id']!, body),
    },
    {
      method: 'post',
      path: '/machines/{id}/job/state',
      summary: 'Pause, resume, finish or abandon the job',
      params: idParams,
      body: Joi.object({
        state: Joi.valid('open', 'paused', 'done', 'abandoned').required(),
        putBack: Joi.boolean().required(),
        because: lines(300),
      }),
      run: ({ params, body }) => endJob(context, params['id']!, body),
    },
    {
      method: 'post',
      path: '/machines/{id}/job/reopen',
      summary: 'Take the end of the last finished job back',
      params: idParams,
      run: ({ params }) => reopenJob(context, params['id']!),
    },
    {
      method: 'get',
      path: '/machines/{id}/dues',
      summary: 'What finished jobs left to be measured',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listDues(db, params['id']!);
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/dues/{due}/done',
      summary: 'Something that stayed due is measured',
      params: { ...idParams, due: idParams.id },
      run: async ({ params }) => {
        await settleDue(context, params['id']!, params['due']!);
        return listDues(db, params['id']!);
      },
    },
  ];
}
