import { Refusal } from '@jolly/contract/refusal';
import { type Dialect, type DialectLine, dialectSchema } from '@jolly/core/report/dialect';
import type { Context } from '../context';
import { saveOwnDialect, taught } from '../files/ownDialect';

/** Lines of settings reports that the user teaches. They are part of the catalogue from then on. */
export interface Taught {
  teach(line: DialectLine): Promise<Dialect>;
  forget(text: string): Promise<Dialect>;
}

export function ownDialect(context: Context): Taught {
  const own = (): Dialect => {
    const dialect = context.catalogue.dialects.find(({ id }) => id === 'own');
    if (!dialect) throw new Error('the catalogue was opened without the dialect of what was taught');
    return dialect;
  };
  let writing: Promise<unknown> = Promise.resolve();
  /** One after another: two lines taught at once are both kept. */
  const change = (make: (dialect: Dialect) => Dialect): Promise<Dialect> => {
    const next = writing.then(async () => {
      const dialect = make(own());
      await saveOwnDialect(context.data, dialect);
      const others = context.catalogue.dialects.filter(({ id }) => id !== 'own');
      context.catalogue.dialects = [...others, dialect];
      return dialect;
    });
    writing = next.catch(() => undefined);
    return next;
  };
  return {
    teach: (line) =>
      change((dialect) => {
        const next = taught(dialect, line);
        const { error } = dialectSchema().validate(next, { convert: false });
        if (error) throw new Refusal('bad-value', error.message, { path: 'line' });
        return next;
      }),
    forget: (text) =>
      change((dialect) => ({
        ...dialect,
        lines: dialect.lines.filter((line) => !('text' in line && line.text === text)),
      })),
  };
}
