import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Change } from '@jolly/core/ripple/change';
import type { Consequence } from '@jolly/core/ripple/consequence';
import type { Finding } from '@jolly/core/finding/finding';
import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import type { Landing } from '@jolly/core/machine/landing';
import type { Machine } from '@jolly/core/machine/machine';
import type { MachineRecord } from '@jolly/core/checks/record';
import type { Setting } from '@jolly/core/settings/setting';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { carryOver, type CarryRow, foreignDump, inUnitOf } from '@jolly/core/settings/carryOver';
import { caseOf } from '@jolly/core/harness/wiringCase';
import { check, CHECKS } from '@jolly/core/checks/checks';
import { copyRows, type CopyRow } from '@jolly/core/settings/copySettings';
import { derive } from '@jolly/core/settings/derive';
import { findHarness, type Unmeetable } from '@jolly/core/harness/findHarness';
import { foundBefore } from '@jolly/core/harness/lastCases';
import {
  identifyBoard,
  type Identification,
  prepareBoards,
  type Seen,
} from '@jolly/core/board/identifyBoard';
import { imageRecord } from '@jolly/core/checks/imageRecord';
import { isWired } from '@jolly/core/parts/part';
import { portTrade, type PortTrade } from '@jolly/core/harness/portTrade';
import { rankLandings, type RankedLanding } from '@jolly/core/harness/rankLandings';
import { readMachineFile } from '@jolly/core/formats/machineFile';
import { proposals } from '@jolly/core/fit/proposals';
import { refusal } from '@jolly/core/kit/kit';
import { ripple, type Ripple } from '@jolly/core/ripple/ripple';
import { swapPlan, type SwapPlan } from '@jolly/core/ripple/swapPlan';
import { type BoardSwap, swapTo } from '@jolly/core/ripple/swapTo';
import { takenAway, type TakenAway } from '@jolly/core/ripple/takenAway';
import { type Addition, addition, WISHES } from '@jolly/core/ripple/additions';
import { type Advice, advise, type Reason } from '@jolly/core/ripple/advice';
import { type BeforeStep, type Need, needs, stepsBefore } from '@jolly/core/ripple/preparation';
import type { Difference } from '@jolly/core/tree/differences';
import { machineDifferences } from '@jolly/core/machine/machineDifferences';
import { type Dump, dumpRefusal, parseDump } from '@jolly/core/report/parseDump';
import { type ExchangeCase, portVerdict } from '@jolly/core/solver/exchangeTest';
import { type PinRow, pinTable, pinTableCsv } from '@jolly/core/circuit/pinTable';
import { type Unresolved, resolve } from '@jolly/core/machine/facts';
import { type Round, rounds } from '@jolly/core/ripple/rounds';
import { whyNoPlace, type NoPlace } from '@jolly/core/harness/whyNoPlace';
import { write } from '@jolly/core/build/write';
import type { Cost } from '@jolly/core/fit/chooseFit';
import { type HoldingBoard, holdingBoards } from '@jolly/core/ripple/holdingBoards';
import { headersOf } from '@jolly/core/circuit/leadOrder';
import { lastFew } from '@jolly/core/tree/lastFew';
import { sameValue } from '@jolly/core/tree/sameValue';
import { expose } from 'comlink';

/** What follows from a machine: computed away from the interface, so that typing never waits for it. */
export type Consequences = { settings: Setting[]; findings: Finding[]; files: GeneratedFile[] } | Unresolved;

/** A screen asks several things of one machine, and a key press most of them again. */
const MACHINES_KEPT = 6;

let catalogue: Catalogue | undefined;
let factsOf = lastFew<ReturnType<typeof resolve>>(MACHINES_KEPT);

/** The catalogue this worker was told of. @throws {Error} when it is asked before it was told */
function known(): Catalogue {
  if (!catalogue) throw new Error('the worker was asked before it was given the catalogue');
  return catalogue;
}
/** Each machine comes as a copy: the same one has the same facts, so that what follows from them is known. */
const factsIn = (machine: Machine) => factsOf(JSON.stringify(machine), () => resolve(machine, known()));

const worker = {
  setCatalogue(given: Catalogue): void {
    catalogue = given;
    factsOf = lastFew(MACHINES_KEPT);
  },
  consequences(machine: Machine): Consequences {
    const resolved = factsIn(machine);
    if ('problems' in resolved) return resolved;
    const settings = derive(resolved.facts);
    return {
      settings: [...settings.values()],
      findings: check(resolved.facts, settings),
      files: write(resolved.facts, settings),
    };
  },
  /** What follows from a machine while it is being changed: without its files, which nobody reads meanwhile. */
  look(machine: Machine): { settings: Setting[]; findings: Finding[] } | Unresolved {
    const resolved = factsIn(machine);
    if ('problems' in resolved) return resolved;
    const settings = derive(resolved.facts);
    return { settings: [...settings.values()], findings: check(resolved.facts, settings) };
  },
  /** Findings of the checks that need what is known beside the machine file. */
  recordFindings(machine: Machine, record: MachineRecord): Finding[] {
    const resolved = factsIn(machine);
    if ('problems' in resolved) return [];
    const pieces = new Set(Object.keys(record));
    const told = CHECKS.filter(({ needs }) => needs?.every((piece) => pieces.has(piece))).map(({ id }) => id);
    return check(resolved.facts, derive(resolved.facts), record).filter(({ id }) => told.includes(id));
  },
  imageRecord(name: string, bytes: Uint8Array, machine: Machine): MachineRecord['image'] {
    const resolved = factsIn(machine);
    return 'facts' in resolved
      ? imageRecord(name, bytes, resolved.facts.board, resolved.facts.chip)
      : undefined;
  },
  /** Every setting of another state of the machine. */
  settingsOf(machine: Machine): Setting[] {
    const resolved = factsIn(machine);
    return 'facts' in resolved ? [...derive(resolved.facts).values()] : [];
  },
  /** The generated files of another state of the machine. */
  filesOf(machine: Machine): GeneratedFile[] {
    const resolved = factsIn(machine);
    return 'facts' in resolved ? write(resolved.facts, derive(resolved.facts)) : [];
  },
  /** The generated files as an old settings report would have them: its values over those of the machine. */
  filesOfDump(machine: Machine, text: string): GeneratedFile[] {
    const resolved = factsIn(machine);
    if ('problems' in resolved || dumpRefusal(text, known().dialects)) return [];
    const options = new Map(resolved.facts.kit.options.map((option) => [option.key, option]));
    const edits = parseDump({ text, dialects: known().dialects }).values.flatMap((read) => {
      const option = options.get(read.key);
      const value = option && inUnitOf(option, read);
      return option && value !== undefined && !read.tool && refusal(option, value) === undefined
        ? [overrideEdit(read.key, value, 'the old settings report')]
        : [];
    });
    return worker.filesOf(applyEdits(machine, edits));
  },
  /** Findings about what a kept settings report holds and the machine is about to lose. */
  lostFromReport(before: Machine, after: Machine, text: string): Finding[] {
    const was = factsIn(before);
    if ('problems' in was || dumpRefusal(text, known().dialects)) return [];
    return worker.recordFindings(after, {
      report: { before: was.facts, dump: parseDump({ text, dialects: known().dialects }) },
    });
  },
  /** What the present image can do and the next one cannot. */
  takenAway(before: Machine, after: Machine, report: string, ticked: string[]): TakenAway[] {
    const [was, is] = [factsIn(before), factsIn(after)];
    if ('problems' in was || 'problems' in is) return [];
    const reported = report === '' ? [] : parseDump({ text: report, dialects: known().dialects }).values;
    return takenAway(was.facts, is.facts, { reported, ticked });
  },
  /** Settings of another machine, where they differ. */
  copyRows(mine: Machine, theirs: Machine): CopyRow[] {
    const [is, other] = [factsIn(mine), factsIn(theirs)];
    if ('problems' in is || 'problems' in other) return [];
    return copyRows(is.facts, derive(is.facts), other.facts, derive(other.facts));
  },
  /** Reads a machine file; what is wrong with it comes back with its place, and what it would change. */
  readMachine(text: string, machine: Machine): MachineRead {
    const read = readMachineFile(text);
    if ('problems' in read) {
      const { line, column, message } = read.problems[0];
      return { refused: `line ${line}, column ${column}: ${message}` };
    }
    const resolved = factsIn(read.value);
    if ('problems' in resolved)
      return { refused: `${resolved.problems[0].path}: ${resolved.problems[0].message}` };
    return {
      machine: read.value,
      differences: machineDifferences(machine, { ...read.value, id: machine.id }),
    };
  },
  tail(before: Machine, changes: Change[], reason: Reason): JobTail | Unresolved {
    const resolved = factsIn(before);
    if ('problems' in resolved) return resolved;
    const found = ripple(resolved.facts, changes);
    const after = factsIn(found.after);
    return {
      ripple: found,
      rounds: rounds(changes, found),
      needs: 'facts' in after ? needs(resolved.facts, after.facts, found) : [],
      steps: stepsBefore(found),
      advice: advise(reason, changes, found),
    };
  },
  /** Reads a settings report and proposes what becomes of each value. */
  report(text: string, before: Machine, after: Machine, events: string[]): ReportRead {
    const refused = dumpRefusal(text, known().dialects);
    if (refused) return { refused };
    const dump = parseDump({ text, dialects: known().dialects });
    const [was, is] = [factsIn(before), factsIn(after)];
    if ('problems' in was) return { refused: was.problems[0].message };
    if ('problems' in is) return { refused: is.problems[0].message };
    return {
      rows: carryOver(was.facts, is.facts, dump, events),
      unread: dump.unread,
      foreign: foreignDump(was.facts, dump),
    };
  },
  /** Everything about the wiring between two states of a machine. */
  wiring(before: Machine, after: Machine, leads: Consequence[]): WiringView | Unresolved {
    const [was, is] = [factsIn(before), factsIn(after)];
    if ('problems' in was) return was;
    if ('problems' in is) return is;
    const whole = foundBefore(caseOf(is.facts, was.facts), is.facts.machine.harness);
    return {
      plan: swapPlan(was.facts, is.facts, leads),
      findings: check(is.facts, derive(is.facts)),
      unmeetable: whole.unmeetable,
      unplaced: is.facts.parts
        .filter((part) => !part.landing && part.type.kind !== 'driver' && isWired(part.type))
        .map(({ id }) => id),
      pins: Object.values(pinTable(is.facts)).flat(),
    };
  },
  /** The swap to another board as it would be, without a job. */
  swapTo(machine: Machine, board: string, revision: string): SwapPreview | undefined {
    const before = factsIn(machine);
    const swap = 'facts' in before ? swapTo(before.facts, { id: board, revision }) : undefined;
    if (!swap) return undefined;
    // The facts of then stay here: nobody asks for them.
    const { after: _after, ...preview } = swap;
    return preview;
  },
  /** The boards whose chips hold so much, and what going over to each would ask. */
  holdingBoards(machine: Machine, whole: Cost): HoldingBoard[] {
    const resolved = factsIn(machine);
    return 'problems' in resolved ? [] : holdingBoards(resolved.facts, whole);
  },
  /** A place for every part that has none, the others staying where they are; what cannot be placed is left out. */
  propose(machine: Machine): Record<string, Landing> {
    const resolved = factsIn(machine);
    if ('problems' in resolved) return {};
    const { harness } = findHarness(caseOf(resolved.facts), machine.harness);
    return Object.fromEntries(Object.entries(harness).filter(([part]) => !machine.harness[part]));
  },
  /** All landings of one part, the rest of the harness staying. */
  landings(before: Machine, after: Machine, part: string): PlacesOf {
    const [was, is] = [factsIn(before), factsIn(after)];
    if ('problems' in is) return { places: [] };
    const wiring = caseOf(is.facts, 'facts' in was ? was.facts : is.facts);
    const places = rankLandings(wiring, after.harness, part);
    const nowhere = places.length === 0 ? whyNoPlace(is.facts, part) : undefined;
    return { places, ...(nowhere && { nowhere }) };
  },
  /** The parts that fit a header, each by its cheapest landing there that nothing else is in the way of; the unplaced first. */
  fitsInto(before: Machine, after: Machine, header: string): Fitting[] {
    const found = after.parts.flatMap(({ id }): Fitting[] => {
      const place = worker.landings(before, after, id).places.find(({ landing, clashes }) => clashes.length === 0 && 'leads' in landing && headersOf(landing).includes(header)); // prettier-ignore
      const now = after.harness[id];
      if (!place || sameValue(now, place.landing)) return [];
      return [{ part: id, landing: place.landing, placed: now !== undefined }];
    });
    return found.sort((one, other) => Number(one.placed) - Number(other.placed));
  },
  addition(machine: Machine, wish: string, part: string): Addition | undefined {
    const resolved = factsIn(machine);
    const found = WISHES.find(({ id }) => id === wish);
    return 'facts' in resolved && found ? addition(resolved.facts, found, part, known()) : undefined;
  },
  portVerdict: (test: ExchangeCase) => portVerdict(test),
  portTrade(machine: Machine, contact: string): PortTrade | undefined {
    const resolved = factsIn(machine);
    if ('problems' in resolved) return undefined;
    return portTrade(caseOf(resolved.facts), machine.harness, contact);
  },
  pinTableCsv(machine: Machine): string {
    const resolved = factsIn(machine);
    return 'facts' in resolved ? pinTableCsv(resolved.facts) : '';
  },
  identify(seen: Seen): Identification {
    if (!prepared || prepared.of !== catalogue)
      prepared = { of: known(), boards: prepareBoards(known().boards, known().chips) };
    return identifyBoard(seen, prepared.boards);
  },
  /** Ways to make an image fit into a chip. */
  proposals,
};
let prepared: { of: Catalogue; boards: ReturnType<typeof prepareBoards> } | undefined;

/** A machine file that was read, or why not. */
export type MachineRead = { refused: string } | { machine: Machine; differences: Difference[] };

export type ReportRead =
  | { refused: string }
  | { rows: CarryRow[]; unread: Dump['unread']; foreign: { unlikely: boolean; evidence: string[] } };

/** What follows from a job, with everything that is computed from it. */
export interface JobTail {
  ripple: Ripple;
  rounds: Round[];
  needs: Need[];
  steps: BeforeStep[];
  advice: Advice;
}

/** A swap that is only looked at. */
export type SwapPreview = Omit<BoardSwap, 'after'>;

/** Where a part could go, or why nowhere. */
export interface PlacesOf {
  places: RankedLanding[];
  nowhere?: NoPlace;
}

/** A part that could sit in a header, and how. */
export interface Fitting {
  part: string;
  landing: Landing;
  /** It has a place already. */
  placed: boolean;
}

/** What the Wiring station shows. */
export interface WiringView {
  plan: SwapPlan;
  /** Of the machine as it will be. */
  findings: Finding[];
  unmeetable: Unmeetable[];
  /** Parts that should be connected and have no place. */
  unplaced: string[];
  pins: PinRow[];
}
export type CoreWorker = typeof worker;

expose(worker);
