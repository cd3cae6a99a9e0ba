/** What was seen when nothing went anywhere. */
export const NOTHING_MOVED = 'nothing';
/** It gets current, and its windings do not turn it. */
export const HUMS = 'hums';

const WORDS: Readonly<Record<string, string>> = {
  '+x': 'right, +X',
  '-x': 'left, −X',
  '+y': 'to the back, +Y',
  '-y': 'to the front, −Y',
  '+z': 'apart, +Z',
  '-z': 'together, −Z',
  '+e': 'filament went in',
  '-e': 'filament came out',
  '+x+y': 'right and to the back',
  '+x-y': 'right and to the front',
  '-x+y': 'left and to the back',
  '-x-y': 'left and to the front',
  [NOTHING_MOVED]: 'nothing moved',
  [HUMS]: 'nothing moved; it hums or trembles',
};

/** Where the nozzle went against the plate, as people say it: `+x` → "right, +X". */
export const wayInWords = (way: string): string => WORDS[way] ?? way;

/** The ways something may go when an axis is asked (`+x`), the asked one first; with a crossed belt two at once. */
export function waysOf(asked: string, crossBelt: boolean): string[] {
  const own = asked.slice(1);
  if (own === 'e') return ['+e', '-e'];
  const ways = [...new Set([own, 'x', 'y', 'z'])].flatMap((axis) => [`+${axis}`, `-${axis}`]);
  return crossBelt && own !== 'z' ? [...ways, '+x+y', '+x-y', '-x+y', '-x-y'] : ways;
}
