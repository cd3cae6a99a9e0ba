/**
 * How a Lantern source becomes an object and objects become code. The compiler front end is called directly: the
 * usual driver would first run itself to find out these very arguments, and take twice as long.
 */
export const COMPILER = '@yowasp/clang@22.0.0-git20542-10';

/**
 * How hard the compiler tries to make the image small. `by-source`: each source by itself; a change compiles only what
 * reads it. `across-sources`: all sources once more as one when they are linked; smaller, and every link takes longer.
 */
export const EFFORTS = ['by-source', 'across-sources'] as const;
/** `checked` is for tests: code that reaches beyond an array, or has no meaning in C, traps. */
export type Effort = (typeof EFFORTS)[number] | 'checked';

/** Overflow of signed numbers is not among them: for 64 bits it asks for a library that an image does not have. */
const CHECKS =
  'array-bounds,local-bounds,shift-base,shift-exponent,integer-divide-by-zero,float-cast-overflow,null';

/** How it is compiled, what an object is, and what the linker is told about it, by effort. */
const EFFORT: Readonly<Record<Effort, { emit: string; ending: string; flags: string[]; link: string[] }>> = {
  'by-source': { emit: '-emit-obj', ending: '.o', flags: [], link: [] },
  'across-sources': { emit: '-emit-llvm-bc', ending: '.bc', flags: [], link: ['--lto-O2'] },
  checked: {
    emit: '-emit-obj',
    ending: '.o',
    flags: [`-fsanitize=${CHECKS}`, `-fsanitize-trap=${CHECKS}`],
    link: [],
  },
};

const FLAGS = [
  '-triple', 'wasm32', '-std=c17', '-fno-trigraphs', '-ffreestanding', '-Oz',
  '-ffunction-sections', '-fdata-sections', '-mrelocation-model', 'static', '-mframe-pointer=none', '-fvisibility=hidden',
  '-resource-dir', '/usr', '-internal-isystem', '/usr/include', '-I', '.',
]; // prettier-ignore

/**
 * Every warning is an error. Two are not asked for: a float constant folded at compile time (GNU), and what generated
 * headers bring that one source does not use.
 */
const WARNINGS = [
  '-Werror', '-Wall', '-Wextra', '-Wconversion', '-Wsign-conversion', '-Wfloat-conversion', '-Wdouble-promotion', '-Wshadow',
  '-Wundef', '-Wvla', '-Wcomma', '-Wcast-qual', '-Wcast-align', '-Wswitch-enum', '-Wimplicit-fallthrough',
  '-Wstrict-prototypes', '-Wmissing-prototypes', '-Wmissing-variable-declarations', '-Wold-style-definition',
  '-Wunreachable-code', '-Wfloat-overflow-conversion', '-Wno-gnu-folding-constant', '-Wno-unused-const-variable',
]; // prettier-ignore

/** Each source becomes an object of its own, beside it; see `TOGETHER` for how many go at once. */
export function compileArguments(sources: readonly string[], effort: Effort = 'by-source'): string[] {
  const { emit, flags } = EFFORT[effort];
  return ['clang', '-cc1', emit, ...FLAGS, ...flags, ...WARNINGS, '-x', 'c', ...sources];
}

/** Where the compiler puts the object of a source. */
export const compiledTo = (source: string, effort: Effort = 'by-source'): string =>
  source.replace(/\.c$/, EFFORT[effort].ending);

/** The object of a source: objects of all folders lie side by side, under their whole paths. */
export function objectName(source: string): string {
  return source.replace(/\.c$/, '.o').replaceAll('/', '-');
}

/** The stack lies below the data, so that an overflow traps instead of overwriting settings. */
export function linkArguments(objects: string[], stackBytes: number, effort: Effort = 'by-source'): string[] {
  return [
    'wasm-ld', ...EFFORT[effort].link, '--no-entry', '--gc-sections', '--strip-all', '--stack-first', '-z', `stack-size=${stackBytes}`,
    '--initial-memory=65536', '--max-memory=65536', '-Map=lantern.map', '-o', 'lantern.wasm', ...objects,
  ]; // prettier-ignore
}
