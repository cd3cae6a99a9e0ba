import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { mergeConfig } from 'vitest/config';
import config from '../../vitest.config';
import { type Mutant, root } from './sites';
import { switched } from './switched';

const listed = process.env['MUTANTS'];
// Written by mutants.ts.
const mutants = listed === undefined ? [] : (JSON.parse(readFileSync(listed, 'utf8')) as Mutant[]);

/** The tests as they are, with changes behind switches in what they load. */
export default mergeConfig(config, {
  root,
  plugins: [switched(mutants)],
  test: { setupFiles: [join(import.meta.dirname, 'watching.ts')] },
});
