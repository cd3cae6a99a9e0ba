import { type Answer, ask, askAll, type Procedure, replies, tell } from '../bringup/procedure';
import { type Facts, partFor } from '../machine/facts';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { type CalibrationTool, type Choosing, type Chosen, missingOf, numberIn } from './calibrationTool';

/** So high above the plate nothing is met on the way, in mm. */
const HIGH_MM = 10;
/** A hot end drips from here on, in °C. */
const DRIPS_C = 150;

/** The temperatures to measure at, as they are preset. */
export function temperatures(facts: Facts, settings: Settings, drips = false): Choosing[] {
  const hot = Math.min(numberOf(settings, 'preset.one.hotend'), numberOf(settings, 'heat.hotend.max'));
  const nozzle: Choosing = {
    key: 'hotendC',
    label: 'Hot end',
    unit: '°C',
    range: [0, numberOf(settings, 'heat.hotend.max')],
    value: drips ? hot : Math.min(hot, DRIPS_C),
    ...(!drips && { help: 'Not so hot that it drips; 0 leaves it cold.' }),
  };
  if (!partFor(facts, 'heater', 'bed') || !isOn(settings, 'bed.heated')) return [nozzle];
  const warm = Math.min(numberOf(settings, 'preset.one.bed'), numberOf(settings, 'heat.bed.max'));
  return [
    nozzle,
    {
      key: 'bedC',
      label: 'Plate',
      unit: '°C',
      range: [0, numberOf(settings, 'heat.bed.max')],
      value: warm,
      help: 'As warm as you print on.',
    },
  ];
}

/** Warms what was chosen and waits until it is. The answer that ended it, if one did. */
export function* warmUp(tool: Pick<CalibrationTool, 'choosing'>, chosen: Chosen): Procedure<Answer | undefined> {
  const hot = numberIn(tool, chosen, 'hotendC');
  const bed = tool.choosing.some(({ key }) => key === 'bedC') ? numberIn(tool, chosen, 'bedC') : 0;
  if (hot > 0 || bed > 0) yield* tell('It warms up. Keep your fingers away.');
  return yield* askAll([
    ...(bed > 0 ? [`M140 S${bed}`] : []),
    ...(hot > 0 ? [`M104 S${hot}`] : []),
    ...(bed > 0 ? [`M190 S${bed}`] : []),
    ...(hot > 0 ? [`M109 S${hot}`] : []),
  ]);
} // prettier-ignore

/** Homes all axes. The answer that ended it, if one did. */
export function* homeAll(): Procedure<Answer | undefined> {
  yield* tell('It homes. Keep a hand on the power switch.');
  return yield* askAll(['G90', 'G28']);
}

/** Lines by which nothing but the height asked for acts on Z: neither map nor tilt nor nudge. */
export const bare = (facts: Facts, settings: Settings): string[] =>
  ['map drop', 'tilt drop', 'nudge z=0'].filter((line) => missingOf(facts, settings, [line]) === undefined);

/** Lifts the nozzle clear, whatever went before. */
export function* lift(): Procedure<void> {
  yield* askAll(['G90', `G1 Z${HIGH_MM} F600`, 'M400']);
}

/** The place as the board tells it; an axis that is not homed is missing. */
export function* place(): Procedure<Partial<Record<'x' | 'y' | 'z', number>>> {
  const at = replies(yield* ask('M114'), 'at')[0]?.values ?? {};
  return Object.fromEntries(
    (['x', 'y', 'z'] as const).flatMap((axis) => {
      const mm = Number(at[axis] ?? NaN);
      return Number.isFinite(mm) ? [[axis, mm]] : [];
    }),
  );
}
