import { type Header, supplyVolts } from '../board/board';
import { sameBoardType } from '../machine/same';
import { contactNet, headerOf } from '../board/contacts';
import { interruptLine, pinGroup } from '../board/chip';
import { parseNet, type SupplySource } from '../board/net';
import type { LeadLanding } from '../machine/landing';
import { type Lead, madeForVolts, type PartOf } from '../parts/part';
import { charge, emptyJudged, type Judged } from './judged';
import { sameValue } from '../tree/sameValue';
import { EITHER_WAY, headersOf, leadOrder, parseContact } from '../circuit/leadOrder';
import { adapterOf, ampsOf, besideRibbon, fitsVoltage, sourceAt } from '../circuit/loads';
import { FAULT_POINTS, PURPOSE_POINTS, USE_POINTS } from './prices';
import { ADDITIONS, MAIN_SUPPLY, mainHeader, purposesOf, purposesServed } from './purposes';
import { lengthNeeded } from './reach';
import type { WiredPart, WiringCase } from './wiringCase';

/** Weighs a part whose leads go to header contacts. */
export function judgeLeads(wiring: WiringCase, part: WiredPart, landing: LeadLanding): Judged {
  const judged = emptyJudged(landing);
  const pins = part.type.kind === 'display' ? judgeRibbon(wiring, part.type, landing, judged) : [];
  for (const lead of [...part.type.leads].sort((a, b) => Number(hasPin(b)) - Number(hasPin(a)))) {
    const contact = landing.leads[lead.role];
    const net = contact === undefined ? undefined : contactNet(wiring.board, contact);
    if (contact === undefined || !net) {
      judged.breaks.push(
        contact === undefined
          ? `the ${lead.role} lead has no contact`
          : `${wiring.board.name} has no contact ${contact}`,
      );
      continue;
    }
    if (net.kind === 'unknown') {
      judged.breaks.push(`nobody has found out yet what ${contact} is`);
      continue;
    }
    if (hasPin(lead)) {
      const pin = judgePin(wiring, part, lead, contact, landing, judged);
      if (pin !== undefined) pins.push(pin);
    } else if (lead.role === 'ground') {
      if (net.kind !== 'gnd') judged.breaks.push(`${contact} is no ground`);
    } else judgeSupply(wiring, part, contact, landing, judged);
    if (!shares(landing, lead.role, contact)) judged.takes.push(`at:${contact}`);
  }
  for (const pin of pins) judgeUse(wiring, part, pin, judged);
  judgeHeaders(wiring, part, landing, judged);
  judgeReplug(wiring, part, landing, judged);
  return judged;
}

const hasPin = (lead: Lead) => lead.role === 'signal' || lead.role === 'control';
/** A spliced wire shares its contact, and a tapped one leaves the ribbon where it is. */
const shares = (landing: LeadLanding, role: string, contact: string) =>
  adapterOf(landing, 'splice', role) !== undefined || besideRibbon(landing) === parseContact(contact).header;

/** A display takes a whole ribbon header: its signal contacts from the first on. */
function judgeRibbon(
  { board }: WiringCase,
  type: PartOf<'display'>,
  landing: LeadLanding,
  judged: Judged,
): number[] {
  const [id] = headersOf(landing);
  const header = board.headers.find((entry) => entry.id === id);
  const signals = (header?.contacts ?? []).flatMap((contact, index) => {
    const net = parseNet(contact);
    return net.kind === 'sig' ? [{ pin: net.pin, contact: `${id}.${index + 1}` }] : [];
  });
  if (header?.for !== 'display' || signals.length < type.ribbon_pins) {
    judged.breaks.push(`${id ?? 'it'} has no ${type.ribbon_pins} ribbon signals for a display`);
    return [];
  }
  const used = signals.slice(0, type.ribbon_pins);
  judged.takes.push(...used.map(({ pin }) => `pin:${pin}`), ...signals.map(({ contact }) => `at:${contact}`));
  return used.map(({ pin }) => pin);
}

function judgePin(
  wiring: WiringCase,
  part: WiredPart,
  lead: Lead,
  contact: string,
  landing: LeadLanding,
  judged: Judged,
): number | undefined {
  const { board, chip } = wiring;
  const net = contactNet(board, contact);
  if (!net || !('pin' in net)) {
    judged.breaks.push(`${contact} reaches no chip pin`);
    return undefined;
  }
  const group = pinGroup(chip, net.pin);
  if (lead.needs === 'sw') {
    if (net.kind !== 'sw') judged.breaks.push(`${contact} is no switched output`);
  } else if (net.kind === 'sw') judged.breaks.push(`${contact} is a switched output, no signal`);
  else if (lead.needs && !group?.can.includes(lead.needs))
    judged.breaks.push(`p${net.pin} at ${contact} cannot do ${lead.needs}`);
  judged.takes.push(`pin:${net.pin}`);
  if (lead.interrupt) judged.takes.push(`line:${interruptLine(chip, net.pin)}`);
  if (lead.pwm_hz !== undefined && group?.timer !== undefined)
    judged.mode = { group: `timer ${group.timer}`, hz: lead.pwm_hz };
  if (lead.needs === 'in') judgeInput(wiring, part, net.pin, contact, landing, judged);
  if (lead.needs === 'adc' && !board.inputs.some((input) => input.pin === net.pin))
    judged.breaks.push(`${contact} has no resistor that a thermistor needs`);
  if (lead.high_from_v !== undefined && lead.high_from_v > chip.level_v) {
    if (!adapterOf(landing, 'shifter', lead.role))
      judged.breaks.push(
        `${part.id} reads high from ${lead.high_from_v} V; ${chip.name} gives ${chip.level_v} V`,
      );
    else charge(judged, 'shifter', `${chip.level_v} V to ${lead.high_from_v} V`);
  }
  return net.pin;
}

/** Volts a part itself puts on its signal lead; an open collector only ever pulls down. */
export const drivenVolts = ({ type }: Pick<WiredPart, 'type'>) =>
  (type.kind === 'probe' || type.kind === 'switch') && type.output === 'driven' ? type.output_v : undefined;
const isOpenCollector = ({ type }: WiredPart) => 'output' in type && type.output === 'open-collector';

function judgeInput(
  { board, chip }: WiringCase,
  part: WiredPart,
  pin: number,
  contact: string,
  landing: LeadLanding,
  judged: Judged,
): void {
  const driven = drivenVolts(part);
  const stands = pinGroup(chip, pin)?.tolerates_v ?? Infinity;
  const divider = adapterOf(landing, 'divider', 'signal');
  if (driven !== undefined && driven > stands && !divider)
    judged.breaks.push(`${part.id} puts ${driven} V on ${contact}, which stands ${stands} V`);
  if (divider) charge(judged, 'divider', `${driven ?? 0} V to what ${contact} stands`);
  const pullUp = adapterOf(landing, 'pull-up', 'signal');
  if (pullUp) charge(judged, 'pull-up', `${pullUp.ohms} Ω from ${contact} to ${pullUp.to}`);
  else if (driven === undefined && !board.inputs.some((input) => input.pin === pin))
    charge(judged, 'chip-pull-up', contact);
  for (const fault of board.faults ?? [])
    if (fault.pins.includes(pin) && (fault.hits === 'any' || (isOpenCollector(part) && !pullUp)))
      judged.lines.push({
        id: 'fault',
        points: FAULT_POINTS[fault.sure],
        what: `${fault.sure} fault at ${contact}: ${fault.what}`,
      });
}

function judgeSupply(
  { board, vin, jumpers }: WiringCase,
  part: WiredPart,
  contact: string,
  landing: LeadLanding,
  judged: Judged,
): void {
  const source = sourceAt(board, contact, jumpers);
  if (!source) {
    judged.breaks.push(`${contact} gives no supply`);
    return;
  }
  const gives = supplyVolts(source, vin);
  const wants = madeForVolts(part.type) ?? gives;
  const converter = adapterOf(landing, 'converter', 'supply');
  if (converter) {
    charge(judged, 'converter', `${gives} V to ${converter.volts_v} V`);
    if (!fitsVoltage(converter.volts_v, wants) || gives <= converter.volts_v)
      judged.breaks.push(`a converter from ${gives} V to ${converter.volts_v} V does not feed ${wants} V`);
  } else if (!fitsVoltage(gives, wants))
    judged.breaks.push(`${contact} gives ${gives} V; ${part.id} wants ${wants} V`);
  const amps = ampsOf(part.type, gives);
  // An external switch carries the load itself.
  if (amps === undefined || adapterOf(landing, 'power-switch')) return;
  // A converter takes less current from the higher voltage; its own loss is a tenth.
  const ma = Math.ceil((converter ? (amps * converter.volts_v) / gives / 0.9 : amps) * 1000);
  draw(board, contact, source, ma, judged);
  const back = wayBack(part, landing);
  if (back && parseContact(back).header !== parseContact(contact).header)
    draw(board, back, undefined, ma, judged);
}

/** The contact through which the current comes back: the switched one, or ground. A steered input carries none. */
function wayBack({ type }: WiredPart, { leads }: LeadLanding): string | undefined {
  const switched = type.leads.some(({ role, needs }) => role === 'control' && needs === 'sw');
  return leads[switched ? 'control' : 'ground'];
}

function draw(
  board: WiringCase['board'],
  contact: string,
  source: SupplySource | undefined,
  ma: number,
  judged: Judged,
): void {
  const { header: id } = parseContact(contact);
  const header = headerOf(board, contact);
  if (header?.max_a !== undefined && header.for !== MAIN_SUPPLY)
    judged.draws.push({ from: `header ${id}`, ma });
  const main = source === 'vin' && mainHeader({ board });
  if (main) judged.draws.push({ from: `header ${main.id}`, ma });
  if (source && board.rails?.some((rail) => rail.source === source))
    judged.draws.push({ from: `rail ${source}`, ma });
}

function judgeUse({ board }: WiringCase, part: WiredPart, pin: number, judged: Judged): void {
  const use = board.uses?.find((entry) => entry.pins.includes(pin));
  if (!use || part.type.kind === 'display') return;
  judged.losses.push({ id: 'reserved', key: `use ${use.by}`, points: USE_POINTS[use.by], what: use.lost });
}

/** What the headers are for, and what going to more than one costs. */
function judgeHeaders(wiring: WiringCase, part: WiredPart, landing: LeadLanding, judged: Judged): void {
  const own = purposesOf(part.type.kind, part.role);
  const tapped = besideRibbon(landing);
  if (tapped !== undefined) charge(judged, adapterOf(landing, 'tap') ? 'tap' : 'ribbon-lead', tapped);
  const spliced = landing.with?.filter((adapter) => adapter.kind === 'splice') ?? [];
  for (const { lead } of spliced) charge(judged, 'splice', `${lead} at ${landing.leads[lead]}`);
  const whole = new Set(
    Object.entries(landing.leads)
      .filter(([role]) => !spliced.some(({ lead }) => lead === role))
      .map(([, contact]) => parseContact(contact).header),
  );
  if (whole.size > 1) charge(judged, 'split', [...whole].join(' and '));
  for (const id of whole) {
    const header = headerOf(wiring.board, `${id}.1`);
    if (header && id !== tapped && !own.includes(header.for ?? '')) judgeForeign(wiring, header, judged);
  }
}

function judgeForeign({ parts }: WiringCase, header: Header, judged: Judged): void {
  const purpose = header.for;
  if (purpose === MAIN_SUPPLY) {
    judged.breaks.push(`${header.id} is for the main supply`);
    return;
  }
  if (purpose === ADDITIONS || purpose === '5 V out') {
    charge(judged, 'open', header.id);
    return;
  }
  charge(judged, 'foreign', purpose ? `${header.id} is for the ${purpose}` : header.id);
  const points = PURPOSE_POINTS[purpose ?? ''] ?? 0;
  if (purpose !== undefined && points > 0 && !purposesServed(parts).has(purpose))
    judged.losses.push({
      id: 'lost',
      key: `header ${header.id}`,
      points,
      what: `no header is left for a ${purpose} later`,
    });
}

const familyOf = ({ family, pitch_mm }: Header) => `${family}, ${pitch_mm} mm`;

/** What has to be done to the plug the part has now. */
function judgeReplug(wiring: WiringCase, part: WiredPart, landing: LeadLanding, judged: Judged): void {
  const { board, before, cables, bay } = wiring;
  const old = before?.harness[part.id];
  const cable = cables[part.id];
  const needed = lengthNeeded(board, landing, cable?.route_mm, bay);
  if (needed !== undefined && cable?.length_mm !== undefined && cable.length_mm < needed)
    charge(judged, 'longer', `${cable.length_mm} mm is there, ${Math.ceil(needed)} mm is needed`);
  if (!before || !old || !('leads' in old)) return;
  const was = headerOf(before.board, `${headersOf(old)[0]}.1`);
  const is = headerOf(board, `${headersOf(landing)[0]}.1`);
  const order = leadOrder(landing).join(', ');
  if (was && is && (was.family !== is.family || was.pitch_mm !== is.pitch_mm)) {
    if (was.contacts.length === is.contacts.length)
      charge(judged, 'shell', `${familyOf(was)} to ${familyOf(is)}`);
    else charge(judged, 'contacts', `${was.contacts.length} to ${is.contacts.length}`);
  }
  if (!EITHER_WAY.has(part.type.kind) && order !== leadOrder(old).join(', '))
    charge(judged, 'order', `becomes ${order}`);
  if (sameBoardType(board, before.board) && !sameValue(old.leads, landing.leads))
    charge(judged, 'moved', headersOf(old).join(' and '));
}
