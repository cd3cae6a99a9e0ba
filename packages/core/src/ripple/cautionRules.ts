import { partsOf } from '../machine/facts';
import { sameBoard } from '../machine/same';
import { isMains, madeForVolts } from '../parts/part';
import { fitsVoltage } from '../circuit/loads';
import { supplyAt } from '../circuit/supplyAt';
import type { Said, StationId } from './consequence';
import type { Stage } from './stage';
import { touchedBy } from '../machine/touched';

interface Caution {
  id: string;
  on: string[];
  station: StationId;
  /** The hazard first, then the act. */
  title: string;
  because: string;
  when?: (stage: Stage) => boolean;
}

const CAUTIONS: readonly Caution[] = [
  { id: 'unplug', on: ['board', 'driver.*', 'motor.*', 'heater.*', 'probe', 'fan.*', 'landing.*', 'plug.*', 'supply', 'servo.*', 'display.*', 'lamp.*', 'filament-sensor.*'], station: 'wiring', title: 'Mains and charged capacitors shock. Unplug, wait a minute, touch ground before the board.', because: 'leads are moved' },
  { id: 'driver-live', on: ['driver.*', 'board'], station: 'wiring', title: 'A driver plugged in under power is destroyed. Plug modules and motors only with the supply off.', because: 'driver modules are moved', when: ({ after }) => after.board.drivers === 'plugged in' },
  { id: 'motor-live', on: ['motor.*', 'board'], station: 'wiring', title: 'A motor plugged or pulled under power destroys its driver. Plug motors only with the supply off.', because: 'the drivers are soldered to the board', when: ({ after }) => after.board.drivers === 'soldered' },
  { id: 'driver-cool', on: ['driver.*', 'board'], station: 'wiring', title: 'A bare driver overheats. Put a heat sink on every module before the first power.', because: 'modules are seated anew', when: ({ after }) => after.board.drivers === 'plugged in' },
  { id: 'stages', on: ['board', 'supply', 'driver.*', 'heater.*'], station: 'bring-up', title: 'A short burns the board at first power. Meter supply and heaters first, then power in stages: USB alone, supply with motors idle, then the rest.', because: 'nothing wired anew is energised at once' },
  { id: 'reversed', on: ['driver.x', 'driver.y', 'driver.z', 'motor.*', 'plug.*', 'board'], station: 'bring-up', title: 'An axis that runs the wrong way hits the frame. First moves are small, with a hand on the switch.', because: 'directions are computed, not yet seen' },
  { id: 'probe-air', on: ['probe', 'probe-mount', 'landing.probe'], station: 'bring-up', title: 'A probe that does not trigger lets the nozzle ram the plate. Let it trigger in mid-air first.', because: 'the probe or its lead is new', when: ({ after }) => partsOf(after, 'probe').length > 0 },
  { id: 'flash-first', on: ['landing.switch', 'landing.probe', 'landing.thermistor'], station: 'bring-up', title: 'A switch, probe or sensor at another pin is not heard by the image of before, and the nozzle rams what it should find. Flash the new image before anything moves or heats.', because: 'leads are new or sit at other pins', when: ({ before, after }) => sameBoard(before.machine, after.machine) },
  { id: 'heater', on: ['heater.*', 'thermistor.*', 'hotend'], station: 'bring-up', title: 'A heater with the wrong sensor burns. Warm one at a time, watch it, and stay until the guard has been seen to trip.', because: 'heater or sensor is another' },
  { id: 'mains', on: ['heater.*', 'relay.*'], station: 'wiring', title: 'Mains kills. Follow local codes and leave mains wiring to a qualified electrician.', because: 'this heater runs from the mains', when: ({ after, touched }) => after.parts.some(({ type, role }) => isMains(type) && touchedBy(touched, [`heater.${role}`, `relay.${role}`])) },
  { id: 'touch-marks', on: ['display.*', 'board', 'kit'], station: 'bring-up', title: 'A touch display that does not know its layer takes a finger for another row. Touch its two marks first, then store.', because: 'the image is another, and its store may know no marks', when: ({ after }) => partsOf(after, 'display').some(({ type }) => type.touched === true) },
  { id: 'fan-cover', on: ['board'], station: 'wiring', title: 'The cover carries a fan on a short lead. Lift it slowly and unplug the fan before you lay it aside.', because: 'the cover comes off' },
  { id: 'stored', on: ['board', 'kit', 'image'], station: 'bring-up', title: 'Stored settings of another image move the machine wrongly. Reset and store before the first move.', because: 'the image is another' },
]; // prettier-ignore

/** What can hurt while this is done, and how to prevent it. */
export function cautionRules(stage: Stage): Said[] {
  return CAUTIONS.filter(({ on, when }) => touchedBy(stage.touched, on) && (when?.(stage) ?? true)).map(
    ({ id, station, title, because }) => ({ kind: 'caution', subject: id, station, title, because }),
  );
}

/** A part that would get a voltage it does not stand at its place; found without running every check. */
export function voltageRules({ after, before }: Stage): Said[] {
  return after.parts.flatMap((part): Said[] => {
    const { landing, type } = part;
    const wants = madeForVolts(type);
    if (!landing || !('leads' in landing) || wants === undefined) return [];
    const volts = supplyAt(after, landing);
    const old = before.parts.find((entry) => entry.id === part.id);
    const was = old?.landing && supplyAt(before, old.landing);
    if (volts === undefined || fitsVoltage(volts, wants)) return [];
    if (was === volts && old?.part === part.part) return [];
    return [
      {
        kind: 'caution',
        station: 'wiring',
        subject: `volts-${part.id}`,
        title: `${part.id} ${volts > wants ? 'burns' : 'runs weakly or not at all'}: it is made for ${wants} V and gets ${volts} V then. Choose another part or place before it is connected.`,
        because: was === undefined ? 'its supply is another' : `it had ${was} V before`,
      },
    ];
  });
}
