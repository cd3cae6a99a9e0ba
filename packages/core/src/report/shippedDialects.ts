import type { Dialect } from './dialect';

/** The dialects of catalogue/dialects, for whoever has no files at hand. Written by scripts/shippedDialects.ts. */
export const SHIPPED_DIALECTS: Dialect[] = [
  {
    jolly: 'dialect/1',
    id: 'fenwick',
    name: "Fenwick F8, the maker's image",
    lines: [
      { text: 'degrees in celsius', sets: { temp: '°C' } },
      { text: 'degrees in fahrenheit', sets: { temp: '°F' } },
      {
        text: 'warm 1: nozzle # plate #',
        values: [
          { key: 'preset.one.hotend', unit: '{temp}' },
          { key: 'preset.one.bed', unit: '{temp}' },
        ],
      },
      {
        text: 'warm 2: nozzle # plate #',
        values: [
          { key: 'preset.two.hotend', unit: '{temp}' },
          { key: 'preset.two.bed', unit: '{temp}' },
        ],
      },
    ],
  },
  {
    jolly: 'dialect/1',
    id: 'lantern',
    name: 'Lantern',
    lines: [
      {
        text: 'offset x=# y=# z=#',
        values: [
          { key: 'probe.offset.x', unit: '{len}' },
          { key: 'probe.offset.y', unit: '{len}' },
          { key: 'probe.offset.z', unit: '{len}' },
        ],
      },
      {
        text: 'current x=# y=# z=# e=#',
        values: [
          { key: 'current.x', unit: 'A' },
          { key: 'current.y', unit: 'A' },
          { key: 'current.z', unit: 'A' },
          { key: 'current.e', unit: 'A' },
        ],
      },
      {
        text: 'touch l=# r=# t=# b=#',
        values: [
          { key: 'touch.left', unit: '' },
          { key: 'touch.right', unit: '' },
          { key: 'touch.top', unit: '' },
          { key: 'touch.bottom', unit: '' },
        ],
      },
      { text: 'nudge z=#', values: [{ key: 'nudge.start', unit: '{len}' }] },
      { text: 'lead t=#', values: [{ key: 'lead.time', unit: 's' }] },
      {
        text: 'second s=# v=# a=# t=# c=# p=# i=# d=#',
        values: [
          { key: 'steps.second-e', unit: 'steps/{len}' },
          { key: 'speed.second-e', unit: '{len}/s' },
          { key: 'accel.second-e', unit: '{len}/s²' },
          { key: 'lead.time.second-e', unit: 's' },
          { key: 'current.second-e', unit: 'A' },
          { key: 'pid.second-hotend.p', unit: '' },
          { key: 'pid.second-hotend.i', unit: '' },
          { key: 'pid.second-hotend.d', unit: '' },
        ],
      },
      {
        text: 'second s=# c=# p=# i=# d=#',
        values: [
          { key: 'steps.second-e', unit: 'steps/{len}' },
          { key: 'current.second-e', unit: 'A' },
          { key: 'pid.second-hotend.p', unit: '' },
          { key: 'pid.second-hotend.i', unit: '' },
          { key: 'pid.second-hotend.d', unit: '' },
        ],
      },
    ],
  },
  {
    jolly: 'dialect/1',
    id: 'shared',
    name: 'Numbers that open firmwares share',
    lines: [
      { code: 'G20', sets: { len: 'in' } },
      { code: 'G21', sets: { len: 'mm' } },
      { code: 'M92', tool: 'T', words: [{ letters: 'XYZE', key: 'steps.{axis}', unit: 'steps/{len}' }] },
      {
        code: 'M200',
        tool: 'T',
        words: [
          { letters: 'D', key: 'filament.diameter', unit: '{len}' },
          { letters: 'S', key: 'filament.volumetric', unit: '' },
        ],
      },
      { code: 'M201', tool: 'T', words: [{ letters: 'XYZE', key: 'accel.{axis}', unit: '{len}/s²' }] },
      { code: 'M203', tool: 'T', words: [{ letters: 'XYZE', key: 'speed.{axis}', unit: '{len}/s' }] },
      {
        code: 'M204',
        words: [
          { letters: 'P', key: 'accel.printing', unit: '{len}/s²', name: 'Acceleration while printing' },
          {
            letters: 'R',
            key: 'accel.retract',
            unit: '{len}/s²',
            name: 'Acceleration of the filament drawn back',
          },
          { letters: 'T', key: 'accel.travel', unit: '{len}/s²', name: 'Acceleration of empty moves' },
        ],
      },
      {
        code: 'M205',
        words: [
          { letters: 'XYZE', key: 'corner.jolt.{axis}', unit: '{len}/s' },
          { letters: 'J', key: 'corner.deviation', unit: '{len}' },
          { letters: 'S', key: 'speed.printing.min', unit: '{len}/s', name: 'Slowest printing move' },
          { letters: 'T', key: 'speed.travel.min', unit: '{len}/s', name: 'Slowest empty move' },
          { letters: 'B', key: 'segment.min', unit: 'µs', name: 'Shortest piece of a move' },
        ],
      },
      {
        code: 'M206',
        words: [
          { letters: 'XYZ', key: 'home.shift.{axis}', unit: '{len}', name: 'Shift of the {axis} home place' },
        ],
      },
      {
        code: 'M218',
        tool: 'T',
        words: [
          { letters: 'XYZ', key: 'tool.offset.{axis}', unit: '{len}', name: 'Offset of the tool in {axis}' },
        ],
      },
      {
        code: 'M301',
        tool: 'ET',
        words: [
          { letters: 'P', key: 'pid.hotend.p', unit: '' },
          { letters: 'I', key: 'pid.hotend.i', unit: '' },
          { letters: 'D', key: 'pid.hotend.d', unit: '' },
        ],
      },
      {
        code: 'M304',
        words: [
          { letters: 'P', key: 'pid.bed.p', unit: '' },
          { letters: 'I', key: 'pid.bed.i', unit: '' },
          { letters: 'D', key: 'pid.bed.d', unit: '' },
        ],
      },
      { code: 'M906', tool: 'T', words: [{ letters: 'XYZE', key: 'current.{axis}', unit: 'mA' }] },
    ],
  },
];
