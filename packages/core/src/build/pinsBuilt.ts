import type { GeneratedFile } from './generatedFile';

/** The pins an image was built with, by the name of their row, as its generated files have them; −1 is none. */
export const pinsBuilt = (files: readonly GeneratedFile[]): Record<string, number> =>
  Object.fromEntries(
    files
      .filter(({ path }) => path.startsWith('pins_'))
      .flatMap(({ lines }) => lines)
      .flatMap(({ key, text }) => {
        const pin = /^#define \w+ \(?(-?\d+)\)?(?:\s|$)/.exec(text)?.[1];
        return key === undefined || pin === undefined ? [] : [[key, Number(pin)] as const];
      }),
  );
