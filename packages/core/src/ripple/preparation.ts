import { onTheTable } from '../flash/routeWords';
import { sameBoardType } from '../machine/same';
import { adapterMaterial } from '../harness/adapterWords';
import { besideRibbon } from '../circuit/loads';
import { mainHeader } from '../harness/purposes';
import type { Facts } from '../machine/facts';
import type { Consequence } from './consequence';
import type { Ripple } from './ripple';
import { touchedBy } from '../machine/touched';

/** Something to have on the table before a job is started. */
export interface Need {
  id: string;
  what: string;
  count?: number;
  because: string;
}

/** One arm's-length step before the first plug is pulled. */
export interface BeforeStep {
  id: string;
  title: string;
  act: string;
  caution?: string;
}

const ON_THE_HEAD = new Set(['probe', 'hotend', 'part', 'filament', 'z']);
const TO_THE_BOARD_MM = 250;
const SLACK = 1.2;

/**
 * Length of a lead from the head to the board, in mm: the whole travel of every axis the head rides on, a fifth of
 * slack, and 250 mm to the board, rounded up to 50. A plate that moves carries no head lead along Y.
 */
export function headLeadMm({ frame }: Facts['machine']): number {
  const span = (axis: 'x' | 'y' | 'z') => frame.travel_mm[axis][1] - frame.travel_mm[axis][0];
  const path =
    span('x') +
    (frame.kinematics === 'moving-bed' ? 0 : span('y')) +
    (frame.kinematics === 'lifting-bed' ? 0 : span('z'));
  return Math.ceil((path * SLACK + TO_THE_BOARD_MM) / 50) * 50;
}

/** What is needed on the table, computed from what follows from the job. */
export function needs(before: Facts, after: Facts, { consequences, touched, flash }: Ripple): Need[] {
  const leads = consequences.filter((entry) => entry.kind === 'lead' && entry.to !== 'taken off');
  const list: Need[] = [
    ...shells(after, leads, !sameBoardType(before.board, after.board)),
    ...adapters(before, after, leads),
    ...extensions(before, after, leads),
  ];
  const drivers = after.parts.filter((part) => part.type.kind === 'driver');
  const board = touched.has('board');
  const add = (wanted: unknown, need: Need) => void (wanted && list.push(need));
  add(touchedBy(touched, ['driver.*']) ?? (board && after.board.drivers === 'plugged in'), {
    id: 'heat-sinks', what: 'heat sinks with adhesive', count: drivers.length, because: 'one for every driver module',
  }); // prettier-ignore
  add(leads.length > 0, {
    id: 'labels',
    what: 'labels or tape',
    count: leads.length,
    because: 'one for every lead that is moved',
  });
  add(board || touchedBy(touched, ['supply', 'heater.*']), {
    id: 'meter',
    what: 'a multimeter',
    because: 'supply terminals and heaters are metered before power',
  });
  add(touchedBy(touched, ['probe', 'probe-mount', 'nozzle', 'hotend', 'switch.z']), {
    id: 'shim',
    what: 'a feeler gauge or shim of known thickness',
    because: 'the Z offset is set with it',
  });
  add(touchedBy(touched, ['probe', 'probe-mount']), {
    id: 'ruler',
    what: 'a ruler or caliper',
    because: 'the place of the probe is measured from the nozzle',
  });
  add(touchedBy(touched, ['axis.e', 'axis.e2', 'motor.e', 'motor.e2']), {
    id: 'marker',
    what: 'a fine marker and a ruler',
    because: 'extruder steps are measured on the filament',
  });
  if (flash) list.push(...onTheTable(after.board, after.chip));
  add(flash && board && !before.chip.gives.includes('bootloader'), {
    id: 'no-bootloader-copy', what: 'the maker’s bootloader file', because: `${before.chip.name} does not give its bootloader away`,
  }); // prettier-ignore
  add(board, {
    id: 'programmer',
    what: before.chip.word_bits === 8 ? 'an in-system programmer, six wires' : 'a debug probe, three wires',
    because: 'reads the old board out before it goes, and restores it if need be',
  });
  return list;
}

/** Housings and crimps for every plug that becomes another. */
function shells(after: Facts, leads: Consequence[], anotherBoard: boolean): Need[] {
  const counts = new Map<string, number>();
  const supply = mainHeader(after);
  if (anotherBoard && supply?.family.startsWith('screw')) counts.set(supply.family, 1);
  let crimps = 0;
  for (const lead of leads) {
    if (!lead.attention?.some((line) => /^plug |new lead|contacts in the order/.test(line))) continue;
    const landing = after.machine.harness[lead.subject];
    if (!landing || !('leads' in landing) || besideRibbon(landing) !== undefined) continue;
    const contacts = Object.values(landing.leads);
    const header = after.board.headers.find((entry) => entry.id === contacts[0]?.split('.')[0]);
    if (!header) continue;
    counts.set(header.family, (counts.get(header.family) ?? 0) + 1);
    if (!header.family.startsWith('screw')) crimps += contacts.length;
  }
  return [
    ...[...counts].map(([family, count]) => ({
      id: `shell-${family.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`,
      what: family.startsWith('screw')
        ? `ferrules for ${family} mm terminals`
        : `${family} ${count === 1 ? 'shell' : 'shells'}`,
      count: family.startsWith('screw') ? count * 2 : count,
      because: 'plugs that become another kind',
    })),
    ...(crimps > 0
      ? [
          {
            id: 'crimps',
            what: 'crimps (and a fifth more for practice)',
            count: Math.ceil(crimps * 1.2),
            because: 'one for every contact that is crimped anew',
          },
        ]
      : []),
  ];
}

/** What goes between leads and contacts. */
function adapters(before: Facts, after: Facts, leads: Consequence[]): Need[] {
  return leads.flatMap(({ subject }) =>
    adapterMaterial(after.machine.harness[subject], before.machine.harness[subject]).map((what, index) => ({
      id: `adapter-${subject}-${index}`,
      what,
      because: `for the lead of ${subject}`,
    })),
  );
}

/** New leads that ride on the head, with a length that reaches everywhere. */
function extensions(before: Facts, after: Facts, leads: Consequence[]): Need[] {
  const added = leads.filter((lead) => !before.parts.some((part) => part.id === lead.subject));
  return added.flatMap(({ subject }) => {
    const part = after.parts.find((entry) => entry.id === subject);
    if (!part || part.type.kind === 'motor' || part.type.leads.length === 0) return [];
    const onHead = part.type.kind === 'probe' || ON_THE_HEAD.has(part.role);
    if (!onHead) return [];
    return [
      {
        id: `lead-${subject}`,
        what: `a lead of ${headLeadMm(after.machine)} mm with ${part.type.leads.length} wires for ${subject}`,
        because: 'long enough for the whole travel, a fifth of slack, and the way to the board',
      },
    ];
  });
}

const STEPS: readonly (BeforeStep & { on?: string[] })[] = [
  { id: 'unplug', title: 'Unplug', act: 'Pull the mains plug and lay it where you can see it. Pull the USB lead too.', caution: 'Mains shocks. Do not rely on the switch: pull the plug.' },
  { id: 'capacitors', title: 'Wait for the capacitors', act: 'Wait one minute. Then touch the supply’s frame with the back of your hand.', caution: 'Capacitors hold a charge. Wait before you reach in.' },
  { id: 'rest', title: 'Lay it down on a stable rest', act: 'Take the filament out, lay the machine on its side on something soft that cannot roll.' },
  { id: 'cover', title: 'Lift the cover slowly', act: 'There may be a fan on it with a short lead. Unplug that first.', caution: 'A short fan lead tears its header off. Lift slowly and look.' },
  { id: 'ground', title: 'Touch ground', act: 'Touch bare metal of the frame before you touch the board, and again each time you come back.' },
  { id: 'photograph', title: 'Photograph every connector', act: 'From above, near, in focus. Pin each picture to its header here.', on: ['board', 'landing.*', 'driver.*', 'plug.*', 'probe'] },
  { id: 'label', title: 'Label every lead', act: 'By what it does, not by its colour: colours lie.', on: ['board', 'landing.*', 'plug.*'] },
  { id: 'glue', title: 'Pick the glue off the plugs', act: 'Hot glue lets go with a drop of alcohol. Never pull a glued plug by its wires.', on: ['board', 'landing.*', 'plug.*'] },
]; // prettier-ignore

/** The short list before the first plug is pulled; steps that nothing in the job asks for are left out. */
export function stepsBefore({ touched, consequences }: Ripple): BeforeStep[] {
  if (!consequences.some((entry) => ['lead', 'proof', 'calibration'].includes(entry.kind))) return [];
  return STEPS.filter(({ on }) => !on || touchedBy(touched, on)).map(({ on: _on, ...step }) => step);
}
