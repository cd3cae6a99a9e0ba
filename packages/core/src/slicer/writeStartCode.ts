import { openPartsInWords } from '../describe/openParts';
import { coldLines } from '../bringup/heatLines';
import { gcodeRemark } from './gcodeLine';
import { notUnderstood } from '../settings/understands';
import type { Extruder } from '../machine/extruders';
import type { Facts } from '../machine/facts';
import { heatKey } from '../settings/heatKey';
import { numberOf, type Settings, spanOf } from '../settings/setting';

const PRIME_MM = 80;
const PRIME_HEIGHT_MM = 0.3;
const EDGE_MM = 3;
/** Nozzle heat at which nothing oozes yet, in °C. */
const STANDBY_C = 150;
const LIFT_MM = 10;

const whole = (value: number) => String(Math.round(value * 10) / 10);

/** Lines that bring the map into play after homing, as far as this version of the kit has a map. */
function mapLines(facts: Facts, settings: Settings): string[] {
  if (settings.get('map.on')?.value !== true) return ['; no bed map on this machine'];
  const missing = notUnderstood(facts, settings, 'map use');
  if (missing) return [gcodeRemark(`no bed map: ${facts.kit.name} ${facts.kit.version} has none yet`)];
  const rule = String(settings.get('map.after-home')?.value);
  if (rule === 'restored') return ['; homing takes up the stored map by itself'];
  if (rule === 'probed-afresh') return ['; homing probes the map afresh by itself'];
  return ['map use ; take up the stored map'];
}

/**
 * G-code for the slicer to put before a print, from the settings: heat, home, map, a priming line in the free.
 * @param hotend the one of the tool in use
 */
export function writeStartCode(
  facts: Facts,
  settings: Settings,
  hotend: Extruder['hotend'] = 'hotend',
): string {
  const [travelX, travelY, travelZ] = [
    spanOf(settings, 'travel.x'),
    spanOf(settings, 'travel.y'),
    spanOf(settings, 'travel.z'),
  ];
  const bed = { x: spanOf(settings, 'bed.x'), y: spanOf(settings, 'bed.y') };
  const hottest = numberOf(settings, `heat.${heatKey(hotend)}.max`);
  const hot = Math.min(numberOf(settings, 'preset.one.hotend'), hottest);
  const warm = Math.min(numberOf(settings, 'preset.one.bed'), numberOf(settings, 'heat.bed.max'));
  const heated = settings.get('bed.heated')?.value === true;
  const x = Math.max(travelX[0], bed.x[0] + EDGE_MM);
  const y = Math.max(travelY[0], bed.y[0] + EDGE_MM);
  const to = Math.min(travelX[1], bed.x[1] - EDGE_MM, x + PRIME_MM);
  const clear = Math.min(travelZ[1], Math.max(numberOf(settings, 'probe.clear'), 5));
  const open = openPartsInWords(facts.machine);
  return `${[
    gcodeRemark(`${facts.machine.name}: before a print`),
    ...(open === undefined
      ? []
      : [gcodeRemark(`not known yet: ${open}. What belongs to them is missing here, or the kit's`)]),
    `; volume X ${bed.x.join(' to ')}, Y ${bed.y.join(' to ')}, Z up to ${travelZ[1]} mm`,
    `; hot end at most ${hottest} °C${heated ? `, bed at most ${numberOf(settings, 'heat.bed.max')} °C` : ''}`,
    "; put your slicer's words for the temperatures in place of the numbers",
    'G90',
    ...(heated ? [`M140 S${warm}`] : []),
    `M104 S${Math.min(STANDBY_C, hot)} ; not so hot that it drips while Z is found`,
    ...(heated ? [`M190 S${warm}`] : []),
    'G28',
    ...mapLines(facts, settings),
    `G1 Z${whole(clear)} F600`,
    `G1 X${whole(x)} Y${whole(y)} F6000`,
    `M109 S${hot}`,
    'G92 E0',
    `G1 Z${PRIME_HEIGHT_MM} F600`,
    `G1 X${whole(to)} E${whole((to - x) / 8)} F900`,
    'G92 E0',
  ].join('\n')}\n`;
}

/** G-code for the slicer to put after a print: when all is printed, heat off, up and aside within the travel, motors off. */
export function writeEndCode(facts: Facts, settings: Settings): string {
  const park = (axis: 'x' | 'y') => {
    const [low, high] = spanOf(settings, `travel.${axis}`);
    return whole(Math.min(high, Math.max(low, numberOf(settings, `park.${axis}`))));
  };
  return `${[
    gcodeRemark(`${facts.machine.name}: after a print`),
    // Heat goes off when the line is read, and lines are read ahead of the moves.
    'M400 ; the last moves while it is still hot',
    ...coldLines(facts),
    'G91',
    `G1 E-2 F1800`,
    `G1 Z${LIFT_MM} F600 ; refused, and harmless, at full height`,
    'G90',
    `G1 X${park('x')} Y${park('y')} F6000`,
    'M84',
  ].join('\n')}\n`;
}
