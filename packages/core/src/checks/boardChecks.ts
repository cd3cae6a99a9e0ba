import { takesMode } from '../board/takesMode';
import { howTold } from '../parts/howTold';
import { isFilled } from '../tree/filled';
import { driverCurrents } from '../harness/electricity';
import { stalledInput } from '../harness/jumperPlan';
import { hasAdapter } from '../circuit/loads';
import { aboutSetting, asSet } from '../finding/settingFinding';
import { overrideEdit } from '../machine/edit';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { placedLeads } from '../circuit/pinTable';
import { type Facts, partsOf, socketOf } from '../machine/facts';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

function knownFault(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap(({ part, role, contact, net }) => {
    if (role !== 'signal' || !('pin' in net)) return [];
    const pulls = 'output' in part.type && part.type.output === 'open-collector';
    return (facts.board.faults ?? [])
      .filter(
        ({ pins, hits }) =>
          pins.includes(net.pin) && (hits === 'any' || (pulls && !hasAdapter(part, 'pull-up'))),
      )
      .map((fault) => ({
        subject: { kind: 'part' as const, id: part.id },
        what: `${part.id} sits on a contact with a known fault: ${fault.what}`,
        why: fault.way_out,
        evidence: [
          `${contact} of ${facts.board.name} rev ${facts.board.revision}`,
          `how sure: ${fault.sure}`,
        ],
      }));
  });
}

function stallTied(facts: Facts): Spoken[] {
  return partsOf(facts, 'driver').flatMap((driver) => {
    const socket = socketOf(driver);
    const user = socket === undefined ? undefined : stalledInput(facts, socket);
    if (!driver.type.stall || !user) return [];
    const jumper = facts.board.jumpers?.find(({ sets, of }) => sets === 'stall line' && of === socket);
    const seen = jumper && facts.machine.jumpers?.[jumper.id];
    const position = jumper?.positions.find(({ id }) => id === seen);
    // Where nobody looked, the swap sheet asks; a check runs on no guess.
    if (jumper && position?.stall !== 'tied') return [];
    const open = jumper?.positions.find(({ stall }) => stall === 'parted');
    return [
      {
        subject: { kind: 'part', id: driver.id },
        what: `The stall output of ${driver.id} is tied to the input of ${user}.`,
        why: `${user} reads as pressed whenever the driver says so. ${jumper ? `Set ${jumper.id} to ${open?.id ?? 'parted'}.` : facts.board.drivers === 'plugged in' ? 'Bend the pin of the module up.' : `Give ${user} another input.`}`,
        evidence: [`socket ${socket}`, jumper ? `${jumper.id} at ${seen}` : 'no jumper parts them'],
        ...(jumper && open
          ? {
              remedies: [
                {
                  label: `${jumper.id} is at ${open.id} now`,
                  edits: [{ path: ['jumpers', jumper.id], value: open.id }],
                },
              ],
            }
          : {}),
      },
    ];
  });
}

function sameAddress(facts: Facts): Spoken[] {
  const byAddress = new Map<string, string[]>();
  for (const driver of partsOf(facts, 'driver')) {
    const serial = facts.board.sockets.find(({ id }) => id === socketOf(driver))?.serial;
    if (driver.type.mode !== 'serial' || !serial || !driver.landing || !('socket' in driver.landing))
      continue;
    const key = `line ${serial.line}, address ${driver.landing.address ?? serial.address}`;
    byAddress.set(key, [...(byAddress.get(key) ?? []), driver.id]);
  }
  return [...byAddress].flatMap(([key, drivers]): Spoken[] => {
    const [, second] = drivers;
    if (second === undefined) return [];
    return [
      {
        subject: { kind: 'part', id: second },
        what: `${drivers.join(' and ')} answer on ${key}.`,
        why: 'Both hear every command and answer at once. Give one another address.',
        evidence: drivers.map(
          (id) => `${id} in socket ${socketOf(facts.parts.find((part) => part.id === id))}`,
        ),
      },
    ];
  });
}

function driverMode(facts: Facts): Spoken[] {
  return partsOf(facts, 'driver').flatMap((driver) => {
    const socket = facts.board.sockets.find(({ id }) => id === socketOf(driver));
    if (!socket) return [];
    const { mode } = driver.type;
    const cannot = !takesMode(socket, mode);
    const jumper = facts.board.jumpers?.find(({ sets, of }) => sets === 'driver mode' && of === socket.id);
    const position = jumper?.positions.find(({ id }) => id === facts.machine.jumpers?.[jumper.id]);
    if (!cannot && (!position || position.mode === mode)) return [];
    const setBy = jumper && position ? `${jumper.id} sets socket ${socket.id} to ${position.mode}` : '';
    const wanted = jumper?.positions.find((entry) => entry.mode === mode);
    return [
      {
        subject: { kind: 'part', id: driver.id },
        what: cannot
          ? `${howTold(driver.type)}, and socket ${socket.id} has no line for it.`
          : `${howTold(driver.type)}, and ${setBy}.`,
        why: 'It does not answer, or runs without the current it was told. Use a socket or a jumper position for its mode.',
        evidence: [`${driver.id} in socket ${socket.id}`],
        ...(jumper && wanted && !cannot
          ? {
              remedies: [
                {
                  label: `${jumper.id} is at ${wanted.id} now`,
                  edits: [{ path: ['jumpers', jumper.id], value: wanted.id }],
                },
              ],
            }
          : {}),
      },
    ];
  });
}

function potDrivers(facts: Facts): Spoken[] {
  const pots = driverCurrents(facts).filter(({ by }) => by === 'pot');
  if (!isFilled(pots)) return [];
  return [
    {
      subject: { kind: 'part', id: pots[0].driver },
      what: `${pots.map(({ driver }) => driver).join(', ')} ${pots.length > 1 ? 'are' : 'is'} set by hand, at the pot.`,
      why: 'No setting reaches a stand-alone driver. Set the reference voltage with the motors idle, before the first move.',
      evidence: pots.map(({ driver, amps, volts }) =>
        volts === undefined
          ? `${driver}: ${amps.toFixed(2)} A; the sense resistor is unknown, so read it off at the driver first`
          : `${driver}: ${amps.toFixed(2)} A, ${volts.toFixed(2)} V at the pot`,
      ),
    },
  ];
}

function usbOnly(facts: Facts): Spoken[] {
  const usb = facts.board.jumpers?.find(({ sets }) => sets === 'usb power');
  const position = usb?.positions.find(({ id }) => id === facts.machine.jumpers?.[usb.id]);
  if (!usb || position?.power !== 'usb') return [];
  const idle = facts.parts.filter(
    ({ type, landing }) =>
      landing && ['motor', 'heater', 'relay', 'servo', 'fan', 'lamp', 'probe'].includes(type.kind),
  );
  return [
    {
      subject: { kind: 'fact', id: 'jumpers' },
      what: `${usb.id} runs the board from USB: ${idle.length} parts cannot be tested that way.`,
      why: 'Motors, heaters, fans and servos need the real supply, and USB may not carry a probe.',
      evidence: [`${usb.id} at ${position.id}`, idle.map(({ id }) => id).join(', ')],
    },
  ];
}

/** On, it compiles to nothing where there is no pin for it. */
function silentBeeper({ board, kit }: Facts, settings: Settings): Spoken[] {
  if (!isOn(settings, 'beeper.on') || board.uses?.some(({ by }) => by === 'beeper')) return [];
  return [
    {
      subject: aboutSetting('beeper.on'),
      what: `The beeper is on, and ${board.name} rev ${board.revision} has none.`,
      why: `${kit.name} sounds the beeper of the board only. Nothing would be heard, and a tone is refused.`,
      evidence: [asSet(settings, 'beeper.on'), 'the board file names no pin of a beeper'],
      remedies: [
        {
          label: 'Switch the beeper off',
          edits: [overrideEdit('beeper.on', false, `${board.name} has no beeper`)],
        },
      ],
    },
  ];
}

export const boardChecks: Check[] = [
  { id: 'fault.known', severity: 'mend', run: knownFault },
  { id: 'socket.stall-tied', severity: 'mend', run: stallTied },
  { id: 'socket.address', severity: 'stop', run: sameAddress },
  { id: 'driver.mode', severity: 'stop', run: driverMode },
  { id: 'driver.reference', severity: 'note', run: potDrivers },
  { id: 'supply.usb-only', severity: 'note', run: usbOnly },
  { id: 'beeper.none', severity: 'mend', run: silentBeeper },
];
