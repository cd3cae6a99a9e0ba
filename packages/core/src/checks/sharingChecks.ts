import { isFilled } from '../tree/filled';
import { interruptLine, pinGroup } from '../board/chip';
import { besideRibbon } from '../circuit/loads';
import { type PinRow, type PlacedLead, pinKey, pinTable, placedLeads } from '../circuit/pinTable';
import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { inSeries } from '../text/inSeries';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

type OnPin = PlacedLead & { net: { pin: number } };
const onPins = (facts: Facts) => placedLeads(facts).filter((lead): lead is OnPin => 'pin' in lead.net);

/** The part's own description of a lead. */
const described = ({ part, role }: PlacedLead) => part.type.leads.find((lead) => lead.role === role);

function grouped<T>(list: readonly T[], keyOf: (entry: T) => string | undefined): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const entry of list) {
    const key = keyOf(entry);
    if (key !== undefined) groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  return groups;
}

function timerShared(facts: Facts): Spoken[] {
  const steered = onPins(facts).flatMap((lead) => {
    const hz = described(lead)?.pwm_hz;
    return hz === undefined ? [] : [{ lead, hz }];
  });
  const byTimer = grouped(steered, ({ lead }) => pinGroup(facts.chip, lead.net.pin)?.timer?.toString());
  return [...byTimer].flatMap(([timer, users]) => {
    const rates = [...new Set(users.map(({ hz }) => hz))];
    const names = users.map(({ lead }) => lead.part.id);
    if (rates.length < 2 || !isFilled(names)) return [];
    return [
      {
        subject: { kind: 'part', id: names[0] },
        what: `${names.join(' and ')} share timer ${timer} and want ${rates.join(' Hz and ')} Hz.`,
        why: 'A timer runs at one frequency: a servo jitters at a fan’s, a fan whines at a servo’s. Move one to a pin on another timer.',
        evidence: users.map(
          ({ lead, hz }) => `${lead.part.id} on ${lead.contact}, p${lead.net.pin}: ${hz} Hz`,
        ),
      },
    ];
  });
}

function interruptClash(facts: Facts): Spoken[] {
  const waiting = onPins(facts).filter((lead) => described(lead)?.interrupt);
  const byLine = grouped(waiting, (lead) => `${interruptLine(facts.chip, lead.net.pin)}`);
  return [...byLine].flatMap(([line, leads]): Spoken[] => {
    if (new Set(leads.map(({ net }) => net.pin)).size < 2 || !isFilled(leads)) return [];
    return [
      {
        subject: { kind: 'part', id: leads[0].part.id },
        what: `${leads.map(({ part }) => part.id).join(' and ')} share interrupt line ${line}.`,
        why: 'The chip hears only one of them at once. Move one to a pin on another line.',
        evidence: leads.map(({ part, contact, net }) => `${part.id} on ${contact}, p${net.pin}`),
      },
    ];
  });
}

function reserved(facts: Facts): Spoken[] {
  const display = facts.parts.some(({ type, landing }) => type.kind === 'display' && landing);
  return onPins(facts).flatMap((lead) => {
    const use = facts.board.uses?.find(({ pins }) => pins.includes(lead.net.pin));
    const header = facts.board.headers.find(({ id }) => lead.contact.startsWith(`${id}.`));
    const ribbon = display && header?.for === 'display' && !tapped(lead);
    if (!use && !ribbon) return [];
    return [
      {
        subject: { kind: 'pin', id: `p${lead.net.pin}` },
        what: use
          ? `${lead.part.id} sits on a pin of the ${use.by}: ${use.lost}.`
          : `${lead.part.id} sits in the ribbon header of the display, which cannot be plugged in beside it.`,
        why: 'A pin that the board needs itself is not free. Move the lead, or accept what is lost.',
        evidence: [`${lead.contact}: p${lead.net.pin}`, ...(use ? [`${facts.board.name}: ${use.by}`] : [])],
      },
    ];
  });
}

const tapped = ({ part }: PlacedLead) =>
  part.landing !== undefined && 'leads' in part.landing && besideRibbon(part.landing) !== undefined;

/** Rows that say what a header or a socket would bring, and claim no pin. */
const CLAIMS_NONE = /_(STALL|HEADER)$/;
const BEEPER = 'PIN_BEEPER';
/** The lines that the image drives or reads. A beeper that is off leaves its pin to others. */
const linesOf = (facts: Facts, settings: Settings): PinRow[] =>
  Object.values(pinTable(facts)).flat().filter(({ name }) => !CLAIMS_NONE.test(name) && (name !== BEEPER || isOn(settings, 'beeper.on'))); // prettier-ignore
/** Modules may be enabled together. */
const bothEnable = (a: PinRow, b: PinRow) => [a, b].every(({ name }) => name.endsWith('_ENABLE'));
const samePart = (a: PinRow, b: PinRow) =>
  a.part !== undefined && a.part === b.part && a.computed === undefined;

/** The lines that would fight over the pin of a row. */
const rivalsOf = (row: PinRow, lines: readonly PinRow[]): PinRow[] =>
  row.pin < 0 || CLAIMS_NONE.test(row.name)
    ? []
    : lines.filter((other) => other !== row && other.pin === row.pin && !bothEnable(row, other) && !samePart(row, other)); // prettier-ignore

/** What a pin decided by hand costs against the harness. */
function overridden(facts: Facts, settings: Settings): Spoken[] {
  const lines = linesOf(facts, settings);
  const rows = Object.values(pinTable(facts)).flat();
  return rows.flatMap((row): Spoken[] => {
    if (row.computed === undefined || row.computed === row.pin) return [];
    const rivals = rivalsOf(row, lines);
    const others = rows.filter((other) => other !== row && other.pin === row.pin && row.pin >= 0);
    const can = pinGroup(facts.chip, row.pin)?.can ?? [];
    const use = facts.board.uses?.find(({ pins }) => pins.includes(row.pin));
    return [
      {
        severity: rivals.length > 0 ? 'stop' : others.length > 0 ? 'mend' : 'note',
        subject: { kind: 'pin', id: pinKey(row.name) },
        what: `${row.name} is p${row.pin} by your own decision; the harness says ${row.computed < 0 ? 'nothing connected' : `p${row.computed}`}.`,
        why:
          others.length > 0
            ? `It costs ${others.map(({ name }) => name).join(', ')}, which has the same pin. Take the decision back, or move that one.`
            : 'The firmware follows your decision, not the leads. A newer kit keeps it.',
        evidence: [
          `because ${row.because}`,
          `p${row.pin} can do ${can.join(', ') || 'nothing'}`,
          ...(use ? [`${use.by}: ${use.lost}`] : []),
        ],
        remedies: [{ label: 'Back to the harness', edits: [{ path: ['pins', pinKey(row.name)] }] }],
      },
    ];
  });
}

/** Lines of sockets that a board's description puts on one pin with something else that is in use. */
function contested(facts: Facts, settings: Settings): Spoken[] {
  const rows = linesOf(facts, settings).filter(({ computed }) => computed === undefined);
  return rows.flatMap((row, index): Spoken[] => {
    // Of two leads on one pin the leads speak.
    const rivals = rivalsOf(row, rows.slice(0, index + 1)).filter((other) => !row.part || !other.part);
    if (rivals.length === 0) return [];
    const all = [...rivals, row];
    return [
      {
        subject: { kind: 'pin', id: pinKey(row.name) },
        what: `${inSeries(all.map(({ name }) => name))} ${all.length > 2 ? 'are all' : 'are both'} on p${row.pin} of ${facts.board.name}.`,
        why: 'What is sent to one reaches the other as well. Look at the board again: one of them is described wrongly, or is in the way.',
        evidence: all.map(({ name, because }) => `${name}: ${because}`),
        ...(all.some(({ name }) => name === BEEPER) && { remedies: [{ label: 'Switch the beeper off', edits: [overrideEdit('beeper.on', false, 'its pin serves something else')] }] }),
      },
    ];
  });
} // prettier-ignore

export const sharingChecks: Check[] = [
  { id: 'pins.timer-shared', severity: 'mend', run: timerShared },
  { id: 'pins.interrupt-clash', severity: 'mend', run: interruptClash },
  { id: 'pins.reserved', severity: 'mend', run: reserved },
  { id: 'pins.contested', severity: 'stop', run: contested },
  { id: 'pins.overridden', severity: 'note', run: overridden },
];
