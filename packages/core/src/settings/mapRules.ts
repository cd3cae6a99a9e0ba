import { headerOf } from '../board/contacts';
import { Z_SWITCH_HEADER } from '../circuit/pinTable';
import { type Facts, partsOf } from '../machine/facts';
import { TOLERANCE } from '../calculation/calculation';
import type { Rule } from './derivation';
import { EDGE_MARGIN_MM, machineReach } from './machineReach';
import { probeAt, touchesWithNozzle } from './probeAt';

/** Distance between map points that shows a plate's usual shapes, in mm. */
const POINT_EVERY_MM = 45;
const FEWEST = 3;
const MOST = 9;

const probe = (facts: Facts) => partsOf(facts, 'probe')[0];

function points(axis: 'x' | 'y'): Rule[1] {
  return (facts) => {
    const reach = machineReach(facts);
    if (!reach) return undefined;
    const length = reach[axis][1] - reach[axis][0];
    // Odd, so that a point lies on the centre.
    const wanted = 2 * Math.round((length / POINT_EVERY_MM - 1) / 2) + 1;
    return {
      value: Math.min(MOST, Math.max(FEWEST, wanted)),
      because: `a point about every ${POINT_EVERY_MM} mm over ${Math.round(length)} mm; an odd count touches the centre`,
    };
  };
}

/** A mount is ruled off; so far from the end of the travel its map may move when the offset is measured, in mm. */
const RULED_MM = 2;

function edge(axis: 'x' | 'y', index: 0 | 1): Rule[1] {
  return (facts) => {
    const { frame } = facts.machine;
    const offset = probeAt(facts);
    if (!offset || !machineReach(facts)) return undefined;
    const ruled = touchesWithNozzle(facts) ? 0 : RULED_MM;
    // Inward is up at the low edge, and down at the high one.
    const [sign, innermost, inward] =
      index === 0 ? ([1, Math.max, Math.ceil] as const) : ([-1, Math.min, Math.floor] as const);
    const byPlate = frame.bed_mm[axis][index] + sign * EDGE_MARGIN_MM;
    const byTravel = frame.travel_mm[axis][index] + offset[axis] + sign * ruled;
    const edgeMm = innermost(byPlate, byTravel);
    return {
      value: inward(edgeMm * 10 - sign * TOLERANCE) / 10,
      because:
        edgeMm === byPlate
          ? `${EDGE_MARGIN_MM} mm inside of the plate's edge`
          : ruled === 0
            ? 'as far as the nozzle goes'
            : `${ruled} mm inside of what the probe reaches: measuring its offset may move that`,
    };
  };
}

/** Which header the probe is read from, by what the board made it for. */
function plug(facts: Facts) {
  const part = probe(facts);
  const contact = part?.landing && 'leads' in part.landing ? part.landing.leads['signal'] : undefined;
  const header = contact === undefined ? undefined : headerOf(facts.board, contact);
  if (!part || !header) return undefined;
  return Z_SWITCH_HEADER.test(header.for ?? '')
    ? { value: 'z-header', because: `${part.id} signal is on ${contact}, the Z switch's header` }
    : { value: 'own-header', because: `${part.id} signal is on ${contact}` };
}

/** Settings of probe and bed map that follow from the probe, its plug and its reach. */
export const mapRules: Rule[] = [
  ['probe.plug', plug],
  [
    'probe.deploy-time',
    (facts) => {
      const type = probe(facts)?.type;
      if (!type) return undefined;
      return type.arrive_s === undefined
        ? { value: 0, because: `${type.name} has nothing to let out` }
        : { value: type.arrive_s, because: `${type.name} takes so long` };
    },
  ],
  ...(['probe.repeat', 'probe.alarm'] as const).map((key): Rule => [
    key,
    (facts) => ({
      value: probe(facts) !== undefined,
      because: probe(facts) ? 'there is a probe' : 'no probe is known',
    }),
  ]),
  [
    'map.on',
    (facts) => ({
      value: probe(facts) !== undefined,
      because: probe(facts) ? 'there is a probe to take it with' : 'no probe to take it with is known',
    }),
  ],
  ['map.columns', points('x')],
  ['map.rows', points('y')],
  ['map.x.min', edge('x', 0)],
  ['map.x.max', edge('x', 1)],
  ['map.y.min', edge('y', 0)],
  ['map.y.max', edge('y', 1)],
  [
    'map.after-home',
    (facts) =>
      probe(facts) && {
        value: 'restored',
        because: 'the stored map is taken up again; probe afresh after work on plate or probe',
      },
  ],
];
