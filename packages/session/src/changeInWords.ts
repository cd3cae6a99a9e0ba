import { bodyCalled } from '@jolly/core/machine/bodyCalled';
import { optionOf } from '@jolly/core/kit/optionOf';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { boardCalled, type Catalogue, partById } from '@jolly/core/catalogue/catalogue';
import type { Change, ChangeOf } from '@jolly/core/ripple/change';
import { hangsBeside } from '@jolly/core/parts/part';
import { CHANGE_TYPES } from '@jolly/core/ripple/changes';
import type { Facts } from '@jolly/core/machine/facts';

/** A change by its title, with what it becomes where there is more to say. */
export function changeWithTitle(change: Change, facts: Facts): string {
  const words = changeInWords(change, facts);
  const { title } = CHANGE_TYPES[change.kind];
  return words === '' ? title : `${title}: ${words}`;
}

const EXTRUDERS: Readonly<Record<string, string>> = { e: 'extruder', e2: 'second extruder' };

/** Where a probe that comes hangs; a nozzle that is its own probe hangs nowhere. */
function mountInWords({ part, mount }: ChangeOf<'probe-added'>, catalogue: Catalogue): string[] {
  const type = partById(catalogue, part);
  if (type && !hangsBeside(type)) return [];
  return mount.side_mm === undefined || mount.face_mm === undefined
    ? ['its mount not measured yet']
    : [`${mount.side_mm} mm ${mount.side}`, `${mount.face_mm} mm to the ${mount.face}`];
}

/** A change in a few words: what it becomes. */
export function changeInWords(change: Change, { catalogue, kit, parts }: Facts): string {
  const name = (id: string) => catalogue.parts.find((entry) => entry.id === id)?.name ?? id;
  const upper = (axes: string[]) => axes.map((a) => EXTRUDERS[a] ?? a.toUpperCase()).join(', ');
  switch (change.kind) {
    case 'new-board':
      return boardCalled(catalogue, { id: change.board, revision: change.revision });
    case 'drivers':
      return `${name(change.part)} for ${upper(change.axes)}, ${change.microsteps} microsteps`;
    case 'probe-added':
      return [name(change.part), ...mountInWords(change, catalogue)].join(', ');
    case 'supply':
      return `${change.volts_v} V, ${change.amps_a} A`;
    case 'frame-size':
      return `plate to ${change.bed_mm.x[1]} × ${change.bed_mm.y[1]}, Z to ${change.travel_mm.z[1]} mm`;
    case 'hot-end':
      return `${name(change.heater)}, ${name(change.thermistor)}`;
    case 'feature':
      return `${optionOf(kit, change.key)?.label ?? change.key} ${settingInWords(optionOf(kit, change.key), change.value)}`;
    case 'kit-version':
      return change.version;
    case 'motor':
    case 'switch':
      return `${upper([change.axis])}: ${name(change.part)}`;
    case 'fan':
    case 'servo':
      return `${change.role}: ${name(change.part)}`;
    case 'heater':
      return `${bodyCalled(change.body)}: ${name(change.part)}${change.relay ? `, by ${name(change.relay)}` : ''}`;
    case 'extruder-drive':
      return change.of === undefined ? '' : `of the ${change.of === 'e2' ? 'second' : 'first'}`;
    case 'same-part': {
      const type = parts.find(({ id }) => id === change.part)?.type;
      return type ? `${change.part}, ${type.name}` : change.part;
    }
    case 'thermistor':
      return `${bodyCalled(change.body)}: ${name(change.part)}`;
    default:
      return 'part' in change ? name(change.part) : 'axis' in change ? upper([change.axis]) : '';
  }
}
