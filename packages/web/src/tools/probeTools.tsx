import { dividerFor } from '@jolly/core/electricity/dividerFor';
import { machineReach } from '@jolly/core/settings/machineReach';
import { mapGrid } from '@jolly/core/probe/mapGrid';
import { mapTime } from '@jolly/core/probe/mapTime';
import { numberOf } from '@jolly/core/settings/setting';
import { overrideEdit } from '@jolly/core/machine/edit';
import { probeOffset } from '@jolly/core/probe/probeOffset';
import { probeReach } from '@jolly/core/probe/probeReach';
import { reachOf } from '@jolly/core/settings/reachOf';
import { wireCheck } from '@jolly/core/electricity/wireCheck';
import { OffsetDrawing } from './OffsetDrawing';
import { type Tool, TypedError } from './tool';
import { choice, field, measured, numberIn, short } from './typed';

const offset: Tool = {
  id: 'probe-offset',
  title: 'Signs of the probe offset',
  parts: ['probe'],
  doing:
    'Look at the machine from the front. Say on which side of the nozzle the probe sits and how far; the signs follow. Left and front are negative.',
  fields: ({ machine }) => {
    const mount = machine.probe_mount;
    return [
      choice(
        'side',
        'It sits',
        { left: 'left of the nozzle', right: 'right of the nozzle' },
        mount?.side ?? 'left',
      ),
      mount ? field('sideMm', 'by', 'mm', mount.side_mm) : measured('sideMm', 'by', 'mm', 38),
      choice('face', 'and', { front: 'in front of it', back: 'behind it' }, mount?.face ?? 'front'),
      mount ? field('faceMm', 'by ', 'mm', mount.face_mm) : measured('faceMm', 'by ', 'mm', 9),
    ];
  },
  work: (typed, { machine }) => {
    const mount = {
      // One of the choices that the tool offers.
      side: typed['side'] as 'left' | 'right',
      sideMm: numberIn(typed, 'sideMm', 'To the side', 'mm'),
      // One of the choices that the tool offers.
      face: typed['face'] as 'front' | 'back',
      faceMm: numberIn(typed, 'faceMm', 'To the front or back', 'mm'),
    };
    const found = probeOffset(mount);
    const { travel_mm: travel, bed_mm: bed } = machine.frame;
    const reach = probeReach({ travel: { x: travel.x, y: travel.y }, bed, offset: found, marginMm: 10 });
    return {
      lines: [
        `Offset X ${found.x} mm, Y ${found.y} mm.`,
        reach
          ? `It reaches ${Math.round(reach.share * 100)} % of the plate, 10 mm from the edge.`
          : 'It would reach no part of the plate.',
      ],
      drawing: <OffsetDrawing x={found.x} y={found.y} />,
      apply: {
        label: `Probe ${mount.sideMm} mm ${mount.side}, ${mount.faceMm} mm to the ${mount.face}`,
        edits: [
          { path: ['probe_mount', 'side'], value: mount.side },
          { path: ['probe_mount', 'side_mm'], value: mount.sideMm },
          { path: ['probe_mount', 'face'], value: mount.face },
          { path: ['probe_mount', 'face_mm'], value: mount.faceMm },
        ],
      },
    };
  },
};

const grid: Tool = {
  id: 'map-grid',
  title: 'How fine, and how long?',
  parts: ['map'],
  doing: 'A finer grid follows the plate better and takes longer. An odd count touches the centre.',
  fields: ({ settings }) => [
    field('nx', 'Columns', '', numberOf(settings, 'map.columns')),
    field('ny', 'Rows', '', numberOf(settings, 'map.rows')),
    field('touches', 'Touches a point', '', numberOf(settings, 'probe.touches')),
    field('travel', 'Travel between points', 'mm/s', Math.min(150, numberOf(settings, 'speed.x'))),
  ],
  work: (typed, { settings, facts }) => {
    const reach = reachOf(settings) ?? machineReach(facts);
    if (!reach) throw new TypedError('The probe reaches no part of the plate');
    const { points, touchesCentre } = mapGrid({
      reach,
      nx: numberIn(typed, 'nx', 'Columns'),
      ny: numberIn(typed, 'ny', 'Rows'),
    });
    const { seconds } = mapTime({
      points,
      travelMmS: numberIn(typed, 'travel', 'Travel between points', 'mm/s'),
      clearMm: numberOf(settings, 'probe.clear'),
      plungeMmS: numberOf(settings, 'probe.feed'),
      deployS: numberOf(settings, 'probe.deploy-time'),
      touches: numberIn(typed, 'touches', 'Touches a point'),
    });
    const because = `${points.length} points in ${Math.round(seconds)} s, chosen with the tool`;
    return {
      lines: [`${points.length} points in ${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s.`],
      verdict: touchesCentre
        ? { tone: 'good', words: 'touches the centre' }
        : { tone: 'plain', words: 'misses the centre' },
      apply: {
        label: `Map ${typed['nx']} × ${typed['ny']}`,
        edits: [
          overrideEdit('map.columns', numberIn(typed, 'nx', 'Columns'), because),
          overrideEdit('map.rows', numberIn(typed, 'ny', 'Rows'), because),
          overrideEdit('probe.touches', numberIn(typed, 'touches', 'Touches a point'), because),
        ],
      },
    };
  },
};

const divider: Tool = {
  id: 'divider',
  title: 'A divider for a signal that is too high',
  parts: ['probe'],
  doing:
    'Two resistors bring the output of a sensor down to what the input stands. The first goes in line, the second to ground.',
  fields: ({ chip }) => [
    measured('from', 'Output of the sensor', 'V', 24),
    field('to', 'Level wanted', 'V', chip.level_v),
    measured('tolerant', 'The input stands', 'V', 5),
  ],
  work: (typed) => {
    const found = dividerFor({
      fromV: numberIn(typed, 'from', 'Output of the sensor', 'V'),
      toV: numberIn(typed, 'to', 'Level wanted', 'V'),
      tolerantV: numberIn(typed, 'tolerant', 'The input stands', 'V'),
    });
    return {
      lines: [
        `${short(found.topOhms)} Ω in line, ${short(found.bottomOhms)} Ω to ground: the input sees ${short(found.levelV, 3)} V.`,
        `It draws ${short(found.currentA * 1000, 2)} mA. ${found.edgeNote}`,
      ],
    };
  },
};

const wire: Tool = {
  id: 'wire',
  title: 'Is the wire thick enough?',
  parts: ['frame', 'bed'],
  doing:
    'Type the gauge printed on the wire, its length one way, and what flows. Warm is for short moments only.',
  fields: ({ machine }) => [
    measured('awg', 'Gauge', 'AWG', 16),
    measured('length', 'Length one way', 'mm', 800),
    measured('amps', 'Current', 'A', 9),
    field('volts', 'Supply', 'V', machine.supply.volts_v),
  ],
  work: (typed) => {
    const found = wireCheck({
      awg: numberIn(typed, 'awg', 'Gauge', 'AWG'),
      lengthM: numberIn(typed, 'length', 'Length one way', 'mm') / 1000,
      amps: numberIn(typed, 'amps', 'Current', 'A'),
      volts: numberIn(typed, 'volts', 'Supply', 'V'),
    });
    return {
      lines: [
        `${short(found.areaMm2, 3)} mm² of copper; it loses ${short(found.dropV, 3)} V (${short(found.dropPct, 2)} %), ${short(found.densityAPerMm2, 3)} A/mm².`,
      ],
      verdict: { tone: found.verdict === 'fine' ? 'good' : 'bad', words: found.verdict },
    };
  },
};

export const probeTools: Tool[] = [offset, grid, divider, wire];
