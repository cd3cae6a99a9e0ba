import { optionOf } from '../kit/optionOf';
import { type Facts, partFor, partsOf, type PlacedPart } from '../machine/facts';
import { boardText } from '../text/boardText';
import { AXES, MOTOR_AXES, SECOND_HOTEND, WARMED, type Warmed } from '../machine/machine';
import type { PartOf } from '../parts/part';
import type { Derivation, Derived } from './derivation';
import { driveRules } from './driveRules';
import { driverRules } from './driverRules';
import { extraRules } from './extraRules';
import { GUARD_WINDOWS, type HeaterBody } from './guardWindow';
import { heatKey } from './heatKey';
import { machineReach } from './machineReach';
import { mapRules } from './mapRules';
import { probeAt, touchesWithNozzle } from './probeAt';
import { pullUp } from './pullUp';
import { secondExtruderRules, setForFirstHotend } from './secondExtruderRules';

/**
 * Heat above the highest target that the hot end's parts still stand, kept free, in °C: the image stops 10 above the
 * limit, and a sensor's table may be 2 off.
 */
export const HEADROOM_C = 12;

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** A table from option key to the rule that derives it. */
export const derivations: ReadonlyMap<string, Derivation> = new Map<string, Derivation>([
  ['machine.name', shownName],
  ['frame.kinematics', ({ machine }) => kinematics(machine.frame.kinematics)],
  ...AXES.flatMap((axis) => axisRules(axis)),
  ...(['x', 'y'] as const).flatMap((axis) => plateRules(axis)),
  ...MOTOR_AXES.flatMap((axis) => driveRules(axis)),
  ...WARMED.flatMap(heatRules),
  ...secondExtruderRules,
  [
    'bed.heated',
    (facts) => ({
      value: partFor(facts, 'heater', 'bed') !== undefined,
      because: partFor(facts, 'heater', 'bed') ? 'there is a bed heater' : 'no bed heater is known',
    }),
  ],
  ...probeRules(),
  ...driverRules,
  ...mapRules,
  ...extraRules,
]);

/** The name a board shows, shortened so that its mark still fits. */
function shownName({ machine: { name, mark }, kit }: Facts): Derived {
  const option = optionOf(kit, 'machine.name');
  const longest = option?.kind === 'text' ? option.longest : name.length;
  if (!mark) return { value: boardText(name, longest), because: 'the name of the machine' };
  return {
    value: `${boardText(name, longest - mark.length - 1)} ${mark}`,
    because: 'the name with its mark, so that the display proves which image runs',
  };
}

function kinematics(kind: Facts['machine']['frame']['kinematics']): Derived {
  return kind === 'cross-belt'
    ? { value: 'cross-belt', because: 'two motors share the X and Y belt path' }
    : { value: 'plain', because: `a ${kind.replace('-', ' ')} frame has one motor an axis` };
}

function axisRules(axis: 'x' | 'y' | 'z'): [string, Derivation][] {
  const upper = axis.toUpperCase();
  const end =
    (index: 0 | 1): Derivation =>
    ({ machine }) => ({
      value: machine.frame.travel_mm[axis][index],
      because: `travel of ${upper} measured on the frame`,
    });
  return [
    [`travel.${axis}.min`, end(0)],
    [`travel.${axis}.max`, end(1)],
    [`home.${axis}.side`, (facts) => homingSide(facts, axis)],
    [`home.speed.${axis}`, (facts) => homingSpeed(facts, axis)],
    [`switch.${axis}.pressed`, (facts) => pressedLevel(partFor(facts, 'switch', axis))],
    [`switch.${axis}.pull-up`, (facts) => pullUp(facts, partFor(facts, 'switch', axis))],
  ];
}

/** Half of what an axis may go, where that is less than the kit would have it home at. */
function homingSpeed({ machine, kit }: Facts, axis: 'x' | 'y' | 'z'): Derived | undefined {
  const usual = optionOf(kit, `home.speed.${axis}`)?.default;
  const most = machine.axes[axis].max_speed_mm_s;
  const half = most === undefined ? Infinity : most / 2;
  return typeof usual === 'number' && half < usual
    ? { value: round(half, 2), because: `half of what ${axis.toUpperCase()} may go` }
    : undefined;
}

function homingSide(facts: Facts, axis: 'x' | 'y' | 'z'): Derived | undefined {
  if (axis === 'z' && homesWithProbe(facts))
    return { value: 'min', because: 'the probe finds the bed, which is at the low end of Z' };
  const side = facts.machine.frame.switch_at[axis];
  return side && { value: side, because: `its switch is at the ${side === 'min' ? 'low' : 'high'} end` };
}

function pressedLevel(part: PlacedPart<PartOf<'switch'>> | undefined): Derived | undefined {
  if (!part) return undefined;
  if (part.type.pressed)
    return {
      value: part.type.pressed,
      because: `${part.type.name} ${part.type.pressed === 'low' ? 'pulls its output low' : 'puts its output high'} when it is met`,
    };
  return part.type.contact === 'normally-closed'
    ? {
        value: 'high',
        because: `${part.id} is normally closed to ground: pressing opens it and the pull-up shows`,
      }
    : { value: 'low', because: `${part.id} is normally open: pressing connects the pin to ground` };
}

function plateRules(axis: 'x' | 'y'): [string, Derivation][] {
  const edge =
    (index: 0 | 1): Derivation =>
    ({ machine }) => ({ value: machine.frame.bed_mm[axis][index], because: 'size and place of the plate' });
  return [
    [`bed.${axis}.min`, edge(0)],
    [`bed.${axis}.max`, edge(1)],
  ];
}

function cycle(facts: Facts, body: string): Derived | undefined {
  const relay = partFor(facts, 'relay', body);
  return relay && { value: relay.type.cycle_s, because: `${relay.type.name} stands no faster switching` };
}

function heatRules(body: Warmed): [string, Derivation][] {
  const key = heatKey(body);
  const heater = (facts: Facts) => partFor(facts, 'heater', body);
  return [
    [`sensor.${key}`, (facts) => sensor(facts, body)],
    [`heat.${key}.max`, (facts) => highest(facts, body)],
    [`heat.${key}.cycle`, (facts) => cycle(facts, body)],
    [
      `guard.${key}`,
      (facts) => ({
        value: heater(facts) !== undefined,
        because: heater(facts) ? 'this heater exists, so it is guarded' : 'no such heater is known',
      }),
    ],
    ...GUARD_WINDOWS.map(({ key: window, of }): [string, Derivation] => [
      `guard.${key}.${window}`,
      (facts) => guardWindow(heater(facts)?.type, of),
    ]),
  ];
}

function guardWindow(
  heater: PartOf<'heater'> | undefined,
  of: (body: HeaterBody) => number,
): Derived | undefined {
  if (!heater?.body) return undefined;
  const { gain_c, tau_s, dead_s } = heater.body;
  return {
    value: of(heater.body),
    because: `from how ${heater.name} warms (${gain_c} °C at full power, ${tau_s} s, ${dead_s} s late)`,
  };
}

function sensor(facts: Facts, body: string): Derived | undefined {
  const part = partFor(facts, 'thermistor', body);
  return part && { value: part.type.id, because: `${part.id} is a ${part.type.name}` };
}

function highest(facts: Facts, body: Warmed): Derived | undefined {
  const stands = limitOf(facts, body);
  if (!stands) return undefined;
  const value = stands.limit - HEADROOM_C;
  const first = body === SECOND_HOTEND ? setForFirstHotend(facts, 'heat.hotend.max') : undefined;
  return first && Number(first.value) < value
    ? first
    : { value, because: `${stands.whose} stands ${stands.limit} °C; ${HEADROOM_C} °C are kept free` };
}

/** What heater and sensor of a body stand together, in °C. */
function limitOf(facts: Facts, body: string): { limit: number; whose: string } | undefined {
  const heater = partFor(facts, 'heater', body)?.type;
  const thermistor = partFor(facts, 'thermistor', body)?.type;
  if (!heater || !thermistor) return undefined;
  const least = heater.max_c <= thermistor.max_c ? heater : thermistor;
  return { limit: least.max_c, whose: least.name };
}

/** Whether the probe, and not a switch, finds Z. */
export function homesWithProbe(facts: Facts): boolean {
  return partsOf(facts, 'probe').length > 0 && partFor(facts, 'switch', 'z') === undefined;
}

function probeRules(): [string, Derivation][] {
  const probe = (facts: Facts) => partsOf(facts, 'probe')[0];
  const servo =
    (which: 'deploy' | 'stow'): Derivation =>
    (facts) => {
      const times = probe(facts)?.type.servo_us;
      return (
        times && { value: times[which], because: `${probe(facts)?.type.name} ${which}s at this pulse width` }
      );
    };
  return [
    [
      'probe.kind',
      (facts) => ({
        value: probe(facts)?.type.sense ?? 'none',
        because: probe(facts) ? `its probe is the ${probe(facts)?.type.name}` : 'no probe is known',
      }),
    ],
    [
      'probe.triggered',
      (facts) => {
        const part = probe(facts);
        return (
          part && { value: part.type.triggered, because: `output of ${part.type.name} when it triggers` }
        );
      },
    ],
    [
      'probe.pull-up',
      (facts) => {
        const part = probe(facts);
        return part?.type.output === 'driven'
          ? { value: false, because: `${part.type.name} drives its output itself` }
          : pullUp(facts, part);
      },
    ],
    ['probe.deploy', servo('deploy')],
    ['probe.stow', servo('stow')],
    ['probe.offset.x', (facts) => mounted(facts, 'x')],
    ['probe.offset.y', (facts) => mounted(facts, 'y')],
    [
      'probe.offset.z',
      ({ machine }) => {
        const mm = machine.probe_mount?.z_mm;
        // How the mount is described, ruled or measured before; what Calibrate finds is a value of the machine's own.
        return mm === undefined
          ? undefined
          : {
              value: mm,
              because: `the mount has it trigger with the nozzle ${Math.abs(mm)} mm ${mm > 0 ? 'below' : 'above'} the plate; Calibrate measures it`,
            };
      },
    ],
    [
      'home.z.with',
      (facts) =>
        homesWithProbe(facts)
          ? { value: 'probe', because: 'there is a probe and no Z switch' }
          : {
              value: 'switch',
              because: partFor(facts, 'switch', 'z')
                ? 'a switch finds Z'
                : 'neither a Z switch nor a probe is known',
            },
    ],
    ['home.spot.x', (facts) => spot(facts, 'x')],
    ['home.spot.y', (facts) => spot(facts, 'y')],
  ];
}

function mounted(facts: Facts, axis: 'x' | 'y'): Derived | undefined {
  const { probe_mount: mount } = facts.machine;
  const offset = probeAt(facts);
  if (!offset) return undefined;
  return {
    value: offset[axis],
    because:
      touchesWithNozzle(facts) || !mount
        ? 'the nozzle itself touches the plate'
        : axis === 'x'
          ? `the probe sits ${mount.side_mm} mm ${mount.side} of the nozzle`
          : `the probe sits ${mount.face_mm} mm to the ${mount.face} of the nozzle`,
  };
}

function spot(facts: Facts, axis: 'x' | 'y'): Derived | undefined {
  const reach = machineReach(facts);
  return reach
    ? {
        value: round((reach[axis][0] + reach[axis][1]) / 2, 1),
        because: 'the middle of what the probe can reach',
      }
    : undefined;
}
