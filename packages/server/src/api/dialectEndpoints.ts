import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { type DialectLine, dialectSchema } from '@jolly/core/report/dialect';
import type { Context } from '../context';
import { saveOwnDialect, taught } from '../files/ownDialect';
import { ApiError } from './apiError';
import type { Endpoint } from './endpoint';

/** Lines of settings reports that the user teaches. They are part of the catalogue from then on. */
export function dialectEndpoints(context: Context): Endpoint[] {
  const own = () => context.catalogue.dialects.find(({ id }) => id === 'own')!;
  let writing: Promise<unknown> = Promise.resolve();
  const change = (lines: DialectLine[]) => async () => {
    const next = { ...own(), lines };
    await saveOwnDialect(context.data, next);
    context.catalogue.dialects = [...context.catalogue.dialects.filter(({ id }) => id !== 'own'), next];
    return next;
  };
  /** One after another: two lines taught at once are both kept. */
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const next = writing.then(work);
    writing = next.catch(() => undefined);
    return next;
  };
  return [
    {
      method: 'post',
      path: '/dialects/own/lines',
      summary: 'Teach a line of a settings report: its text with # for each number, and what each number is',
      body: Joi.object({ line: Joi.object().required() }),
      run: ({ body }) => {
        const { line } = body as { line: DialectLine };
        return inTurn(() => {
          const next = taught(own(), line);
          const { error } = dialectSchema.validate(next, { convert: false });
          if (error) throw new ApiError(422, 'bad-value', error.message, { path: 'line' });
          return change(next.lines)();
        });
      },
    },
    {
      method: 'post',
      path: '/dialects/own/forget',
      summary: 'Forget a line that was taught',
      body: Joi.object({ text: line(400).required() }),
      run: ({ body }) => {
        const { text } = body as { text: string };
        return inTurn(change(own().lines.filter((line) => !('text' in line && line.text === text))));
      },
    },
  ];
}
