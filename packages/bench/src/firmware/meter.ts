import { type CycleCosts, costOf } from './cycles';
import { ELSE, IF, instructionAt, LOOP } from './instructions';
import { type Cursor, byteAt, lebBytes, readLeb, signedLebBytes, sliceFrom } from './leb128';

/** Name under which a metered image exports the function that says what is left of its budget of cycles, and sets it anew. */
export const TAKE_CYCLES = 'bench_take_cycles';

const SECTION = { type: 1, import: 2, function: 3, global: 6, export: 7, code: 10 } as const;
/** Sections in the order the format asks for; custom ones (0) stand anywhere. */
const ORDER = [1, 2, 3, 4, 5, 6, 7, 8, 9, 12, 10, 11];
const I32 = 0x7f;
const MUTABLE = 1;
const FUNCTION_TYPE = 0x60;
const EXPORTED_FUNCTION = 0;

interface Section {
  id: number;
  bytes: number[] | Uint8Array;
}

/**
 * An image's code with a meter built in: every function, every turn of a loop, every branch of an `if` and what follows a
 * branch takes what its instructions cost off a budget that the bench sets before each call, and a loop traps when it is
 * spent. Thus a loop without an end is found, and a chip's time is charged by what the code really does.
 * @param code a WebAssembly module as the kit links it
 * @throws {Error} for a module that cannot be read, or an instruction that the chips do not have
 */
export function metered(code: Uint8Array, costs: CycleCosts): Uint8Array {
  const sections = sectionsOf(code);
  const budget = countIn(sections, SECTION.global);
  const added: Readonly<Record<number, readonly number[]>> = {
    [SECTION.type]: [FUNCTION_TYPE, 1, I32, 1, I32],
    [SECTION.function]: lebBytes(countIn(sections, SECTION.type)),
    [SECTION.global]: [I32, MUTABLE, 0x41, 0, 0x0b],
    [SECTION.export]: [
      ...named(TAKE_CYCLES),
      EXPORTED_FUNCTION,
      ...lebBytes(functionsImported(sections) + countIn(sections, SECTION.function)),
    ],
  };
  const changed = Object.entries(added)
    .reduce((all, [id, entry]) => withSection(all, Number(id), (old) => appended(old, entry)), sections)
    .map((section) =>
      section.id === SECTION.code
        ? { id: section.id, bytes: meteredCode(Uint8Array.from(section.bytes), costs, budget) }
        : section,
    );
  const out: number[] = [...code.subarray(0, 8)];
  for (const { id, bytes } of changed) {
    out.push(id, ...lebBytes(bytes.length));
    for (const byte of bytes) out.push(byte);
  }
  return Uint8Array.from(out);
}

function sectionsOf(code: Uint8Array): Section[] {
  const at: Cursor = { bytes: code, at: 8 };
  const sections: Section[] = [];
  while (at.at < code.length) {
    const id = byteAt(at);
    sections.push({ id, bytes: sliceFrom(at, readLeb(at)) });
  }
  return sections;
}

const countIn = (sections: readonly Section[], id: number): number => {
  const found = sections.find((section) => section.id === id);
  return found ? readLeb({ bytes: Uint8Array.from(found.bytes), at: 0 }) : 0;
};

/** Kits import functions only; an image that imports something else is not one of theirs. */
function functionsImported(sections: readonly Section[]): number {
  const found = sections.find(({ id }) => id === SECTION.import);
  if (!found) return 0;
  const at: Cursor = { bytes: Uint8Array.from(found.bytes), at: 0 };
  const count = readLeb(at);
  for (let left = count; left > 0; left -= 1) {
    for (let names = 0; names < 2; names += 1) sliceFrom(at, readLeb(at));
    if (byteAt(at) !== 0) throw new Error('the image imports something else than functions');
    readLeb(at);
  }
  return count;
}

const named = (name: string): number[] => [...lebBytes(name.length), ...new TextEncoder().encode(name)];

/** A list of entries with one more. */
function appended(old: Uint8Array, entry: readonly number[]): number[] {
  const at: Cursor = { bytes: old, at: 0 };
  const count = old.length === 0 ? 0 : readLeb(at);
  return [...lebBytes(count + 1), ...old.subarray(at.at), ...entry];
}

function withSection(
  sections: readonly Section[],
  id: number,
  change: (old: Uint8Array) => number[],
): Section[] {
  const found = sections.find((section) => section.id === id);
  const made = { id, bytes: change(Uint8Array.from(found?.bytes ?? [])) };
  if (found) return sections.map((section) => (section === found ? made : section));
  const before = sections.filter(
    (section) => section.id === 0 || ORDER.indexOf(section.id) < ORDER.indexOf(id),
  );
  return [...before, made, ...sections.filter((section) => !before.includes(section))];
}

function meteredCode(section: Uint8Array, costs: CycleCosts, budget: number): number[] {
  const at: Cursor = { bytes: section, at: 0 };
  const count = readLeb(at);
  const out = [...lebBytes(count + 1)];
  for (let left = count; left > 0; left -= 1) {
    const body = meteredBody(sliceFrom(at, readLeb(at)), costs, budget);
    out.push(...lebBytes(body.length));
    for (const byte of body) out.push(byte);
  }
  const taker = takesCycles(budget);
  out.push(...lebBytes(taker.length), ...taker);
  return out;
}

/** No locals; the budget as it is, and its argument is the new one. */
function takesCycles(budget: number): number[] {
  const global = lebBytes(budget);
  return [0, 0x23, ...global, 0x20, 0, 0x24, ...global, 0x0b];
}

/** A stretch of code that is run as often as its first instruction: charged as a whole when it is begun. */
interface Stretch {
  /** Where the charge is put in. */
  from: number;
  cost: number;
  /** Only a loop can go on for ever: only there it is looked whether the budget is spent. */
  looked: boolean;
  /** What it is charged with where it is too short for a charge of its own. */
  within?: Stretch;
}

/** Shorter stretches are charged with what stands before them: a charge of their own would cost the bench more time. */
const SHORT_CYCLES = 40;

function meteredBody(body: Uint8Array, costs: CycleCosts, budget: number): number[] {
  const at: Cursor = { bytes: body, at: 0 };
  for (let groups = readLeb(at); groups > 0; groups -= 1) {
    readLeb(at);
    byteAt(at);
  }
  const own: Stretch = { from: at.at, cost: costs.call, looked: false };
  const stretches = [own];
  const begin = (within: Stretch, looked = false): Stretch => {
    const stretch = { from: at.at, cost: 0, looked, within };
    stretches.push(stretch);
    return stretch;
  };
  // Blocks that are open: the stretch that is being run in each, and whether a branch inside may have left it for good.
  const open = [{ stretch: own, left: false }];
  while (at.at < body.length) {
    const instruction = instructionAt(at);
    const inside = open.at(-1);
    if (!inside) throw new Error('the image has code behind the end of a function');
    inside.stretch.cost += costOf(instruction.opcode, costs);
    if (instruction.opens)
      open.push({ stretch: opened(instruction.opcode, inside.stretch, begin), left: false });
    else if (instruction.opcode === ELSE) inside.stretch = begin(open.at(-2)?.stretch ?? own);
    else if (instruction.leaves !== undefined) {
      for (const block of open.slice(Math.max(0, open.length - instruction.leaves))) block.left = true;
      inside.stretch = begin(inside.stretch);
    } else if (instruction.closes) {
      open.pop();
      const around = open.at(-1);
      if (inside.left && around) around.stretch = begin(around.stretch);
    }
  }
  return withCharges(body, long(stretches), budget);
}

/** What a block is charged with: a loop and each branch of an `if` by themselves. */
function opened(
  opcode: number,
  around: Stretch,
  begin: (within: Stretch, looked?: boolean) => Stretch,
): Stretch {
  if (opcode === LOOP) return begin(around, true);
  return opcode === IF ? begin(around) : around;
}

/** Without the short ones, which are charged with what they stand in. */
function long(stretches: readonly Stretch[]): Stretch[] {
  const kept = [...stretches].reverse().filter((stretch) => {
    const short = stretch.within !== undefined && !stretch.looked && stretch.cost < SHORT_CYCLES;
    if (short && stretch.within) stretch.within.cost += stretch.cost;
    return !short;
  });
  return kept.reverse();
}

function withCharges(body: Uint8Array, stretches: readonly Stretch[], budget: number): number[] {
  const out: number[] = [];
  let copied = 0;
  for (const { from, cost, looked } of stretches) {
    for (; copied < from; copied += 1) out.push(body[copied] ?? 0);
    out.push(...charge(cost, budget), ...(looked ? trapWhenSpent(budget) : []));
  }
  for (; copied < body.length; copied += 1) out.push(body[copied] ?? 0);
  return out;
}

/** budget −= cost */
function charge(cost: number, budget: number): number[] {
  const global = lebBytes(budget);
  return [0x23, ...global, 0x41, ...signedLebBytes(Math.max(1, Math.round(cost))), 0x6b, 0x24, ...global];
}

/** Below zero: trap. */
const trapWhenSpent = (budget: number): number[] => [
  0x23, ...lebBytes(budget), 0x41, 0, 0x48, 0x04, 0x40, 0x00, 0x0b,
]; // prettier-ignore
