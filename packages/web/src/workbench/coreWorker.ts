import {
  type Advice,
  advise,
  type BeforeStep,
  carryOver,
  type CarryRow,
  type Catalogue,
  type Change,
  check,
  derive,
  type Dump,
  dumpRefusal,
  type Finding,
  foreignDump,
  type GeneratedFile,
  identifyBoard,
  type Identification,
  type Machine,
  type Need,
  needs,
  parseDump,
  prepareBoards,
  type Problem,
  readBoardFile,
  type Reason,
  resolve,
  ripple,
  type Ripple,
  type Round,
  rounds,
  type Seen,
  type Setting,
  stepsBefore,
  write,
} from '@jolly/core';
import { expose } from 'comlink';

/** What follows from a machine: computed away from the interface, so that typing never waits for it. */
export type Consequences =
  { settings: Setting[]; findings: Finding[]; files: GeneratedFile[] } | { problems: Problem[] };

let catalogue: Catalogue | undefined;

const worker = {
  setCatalogue(given: Catalogue): void {
    catalogue = given;
  },
  consequences(machine: Machine): Consequences {
    const resolved = resolve(machine, catalogue!);
    if ('problems' in resolved) return resolved;
    const settings = derive(resolved.facts);
    return {
      settings: [...settings.values()],
      findings: check(resolved.facts, settings),
      files: write(resolved.facts, settings),
    };
  },
  tail(before: Machine, changes: Change[], reason: Reason): JobTail | { problems: Problem[] } {
    const resolved = resolve(before, catalogue!);
    if ('problems' in resolved) return resolved;
    const found = ripple(resolved.facts, changes, catalogue!);
    const after = resolve(found.after, catalogue!);
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
    const refused = dumpRefusal(text);
    if (refused) return { refused };
    const dump = parseDump({ text });
    const [was, is] = [resolve(before, catalogue!), resolve(after, catalogue!)];
    if ('problems' in was) return { refused: was.problems[0]!.message };
    if ('problems' in is) return { refused: is.problems[0]!.message };
    return {
      rows: carryOver(was.facts, is.facts, dump, events),
      unread: dump.unread,
      foreign: foreignDump(was.facts, dump),
    };
  },
  identify(seen: Seen): Identification {
    if (!prepared || prepared.of !== catalogue)
      prepared = { of: catalogue!, boards: prepareBoards(catalogue!.boards, catalogue!.chips) };
    return identifyBoard(seen, prepared.boards);
  },
  /** Reads a board file; what is wrong with it comes back with its place. */
  readBoard: (text: string) => readBoardFile(text, catalogue!),
};
let prepared: { of: Catalogue; boards: ReturnType<typeof prepareBoards> } | undefined;

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
export type CoreWorker = typeof worker;

expose(worker);
