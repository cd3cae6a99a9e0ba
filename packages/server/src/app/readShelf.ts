import type { Plate } from '@jolly/contract/endpoints/machines';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { check } from '@jolly/core/checks/checks';
import type { Severity } from '@jolly/core/finding/finding';
import { type Facts, resolve, type Unresolved } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { proofSteps } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import type { Settings } from '@jolly/core/settings/setting';
import type { Within } from '../context';
import { listMachineRows, machineTexts, type MachineRow, type MachineText } from '../sql/machines';

type Judged = Required<Pick<Plate, 'findings' | 'stepsToProve'>>;

/** A machine that was read: what it says, what it names, and what the checks and the steps of bring-up say of it. */
export interface ReadMachine extends Pick<MachineRow, 'id' | 'version' | 'changedAt'> {
  machine: Machine;
  read: Unresolved | { facts: Facts; settings: Settings; judged: Judged };
}

interface Known {
  mark: string;
  /** The lists it was looked up in, which are never written into: a change puts another in their place. */
  lists: readonly unknown[];
  is: ReadMachine;
}

/** By the catalogue, of which each open data folder has its own. */
const known = new WeakMap<Catalogue, Map<string, Known>>();

/** The machines of the shelf, each read once for each state of its row and of the catalogue. */
export async function readShelf({ db, catalogue }: Pick<Within, 'db' | 'catalogue'>): Promise<ReadMachine[]> {
  const lists = Object.values(catalogue);
  const before = known.get(catalogue) ?? new Map<string, Known>();
  const isKnown = (row: MachineRow) => {
    const was = before.get(row.id);
    return was?.mark === row.mark && was.lists.every((list, index) => list === lists[index]);
  };
  const rows = await listMachineRows(db);
  const others = rows.filter((row) => !isKnown(row)).map(({ id }) => id);
  const texts = others.length > 0 ? await machineTexts(db, others) : new Map<string, MachineText>();
  for (const [id, stored] of texts)
    before.set(id, { mark: stored.mark, lists, is: readOne(stored, catalogue) });
  known.set(catalogue, before);
  // One that went between the two questions is on the shelf no more.
  return rows.flatMap(({ id }) => {
    const is = others.includes(id) && !texts.has(id) ? undefined : before.get(id)?.is;
    return is ? [is] : [];
  });
}

function readOne({ id, version, changedAt, text }: MachineText, catalogue: Catalogue): ReadMachine {
  // Checked before it was stored.
  const machine = JSON.parse(text) as Machine;
  const row = { id, version, changedAt, machine };
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) return { ...row, read: resolved };
  const { facts } = resolved;
  const settings = derive(facts);
  return { ...row, read: { facts, settings, judged: judge(facts, settings) } };
}

function judge(facts: Facts, settings: Settings): Judged {
  const findings = check(facts, settings);
  const count = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity && finding.waived === undefined).length;
  return {
    findings: { stop: count('stop'), mend: count('mend'), question: count('question'), note: count('note') },
    stepsToProve: proofSteps(facts, settings).length,
  };
}
