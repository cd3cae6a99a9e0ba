/**
 * How a Lantern source becomes an object and objects become code. The compiler front end is called directly: the
 * usual driver would first run itself to find out these very arguments, and take twice as long.
 */
export const COMPILER = '@yowasp/clang@22.0.0-git20542-10';

const FLAGS = [
  '-triple', 'wasm32', '-emit-obj', '-std=c17', '-fno-trigraphs', '-ffreestanding', '-Oz', '-Wall', '-Wno-gnu-folding-constant',
  '-ffunction-sections', '-fdata-sections', '-mrelocation-model', 'static', '-mframe-pointer=none', '-fvisibility=hidden',
  '-resource-dir', '/usr', '-internal-isystem', '/usr/include', '-I', '.',
]; // prettier-ignore

export function compileArguments(source: string): string[] {
  return ['clang', '-cc1', ...FLAGS, '-main-file-name', source, '-o', objectName(source), '-x', 'c', source];
}

export function objectName(source: string): string {
  return source.replace(/\.c$/, '.o');
}

/** The stack lies below the data, so that an overflow traps instead of overwriting settings. */
export function linkArguments(objects: string[], stackBytes: number): string[] {
  return [
    'wasm-ld', '--no-entry', '--gc-sections', '--strip-all', '--stack-first', '-z', `stack-size=${stackBytes}`,
    '--initial-memory=65536', '--max-memory=65536', '-Map=lantern.map', '-o', 'lantern.wasm', ...objects,
  ]; // prettier-ignore
}
