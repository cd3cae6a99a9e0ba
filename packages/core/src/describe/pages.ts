import { type Axis, type Machine, type MotorAxis, SECOND_HOTEND } from '../machine/machine';
import { SPARE } from '../machine/spareSensor';
import type { PartKind } from '../parts/part';
import { sameValue } from '../tree/sameValue';
import { NONE, type Answers, type ChoiceQuestion, type FlagQuestion, type NumberQuestion, type Page, type PartQuestion, type Question } from './question'; // prettier-ignore

type Told<Q extends Question> = Omit<Q, 'kind' | 'id' | 'label'>;
const number = (id: string, label: string, told: Told<NumberQuestion>): Question => ({ kind: 'number', id, label, ...told }); // prettier-ignore
const choice = (id: string, label: string, choices: Record<string, string>, told: Omit<Told<ChoiceQuestion>, 'choices'>): Question => ({ kind: 'choice', id, label, choices: Object.entries(choices).map(([value, words]) => ({ value, label: words })), ...told }); // prettier-ignore
/** Left unanswered it is no. */
const flag = (id: string, label: string, told: Told<FlagQuestion>): Question => ({ kind: 'flag', id, label, unsaid: 'no', ...told }); // prettier-ignore

const partOf = (machine: Machine, kind: PartKind, role: string, keptAs?: string): string | undefined =>
  machine.parts.find(({ id, role: its }) => its === role && (keptAs ?? PART_IDS[kind]?.(role)) === id)?.part;
/** A part that may be missing, and of which nothing says that nobody looked, is none. */
const part = (id: string, label: string, of: PartKind, role: string, told: Partial<Omit<PartQuestion, 'kind'>> = {}): Question => ({
  kind: 'part', id, label, of, role, ...told,
  read: (machine) =>
    partOf(machine, of, role, told.keptAs) ?? (told.optional && !machine.not_known?.includes(id) ? NONE : undefined),
}); // prettier-ignore

/** The setting that a beeper is told by: it is no part, for it sits on the board. */
export const BEEPER = 'beeper.on';

/** Under which id a described machine keeps a part. */
export const PART_IDS: Partial<Record<PartKind, (role: string) => string>> = {
  motor: (role) => `${role}-motor`,
  driver: (role) => `${role}-driver`,
  switch: (role) => `${role}-switch`,
  heater: (role) => `${role}-heater`,
  thermistor: (role) => `${role}-sensor`,
  relay: (role) => `${role}-relay`,
  fan: (role) => `${role}-fan`,
  probe: () => 'probe',
  lamp: () => 'lamp',
  display: () => 'display',
  'filament-sensor': () => 'filament-sensor',
  servo: () => 'servo',
};

/** Under which ids a described machine keeps the motor and the driver of its second extruder. */
export const SECOND_EXTRUDER = { motor: 'e-motor-2', driver: 'e-driver-2' } as const;

/** Whether a second extruder has a drive of its own. */
export const SECOND_DRIVE = 'e.second.drive';
/** What the answers about a drive begin with. */
export type DriveAnswers = MotorAxis | 'e.second';

/** A sum of millimetres without the dust of binary fractions. */
export const tidy = (mm: number): number => Number(mm.toFixed(6));

/** What a machine file says of a question by saying nothing, unless somebody said that it is not known. */
const unlessOpen = <Value>({ not_known: open }: Machine, id: string, value: Value): Value | undefined =>
  open?.includes(id) ? undefined : value;

const is = (id: string, value: unknown) => (answers: Answers) => answers[id] === value;
const has = (id: string) => (answers: Answers) => answers[id] != null && answers[id] !== NONE;

const DRIVE_OF: Readonly<Record<DriveAnswers, string>> = {
  x: 'X',
  y: 'Y',
  z: 'Z',
  e: 'Extruder',
  'e.second': 'Second extruder',
};

/** How the motor of an axis moves it. */
function drive(axis: DriveAnswers): Question[] {
  const name = DRIVE_OF[axis];
  const feeds = axis === 'e' || axis === 'e.second';
  const of = ({ axes }: Machine) => (axis === 'e.second' ? (axes.e2 ?? axes.e) : axes[axis]);
  const kind: Question[] =
    feeds
      ? [
          number(`${axis}.roller`, `Drive roller of the ${axis === 'e' ? 'extruder' : 'second extruder'}, diameter`, {
            unit: 'mm', range: [2, 60], needed: true,
            how: 'Measure it over its teeth with a calliper, at the place where the filament runs.',
            read: (machine) => { const train = of(machine); return train.kind === 'roller' ? train.diameter_mm : undefined; },
          }),
        ]
      : [
          choice(`${axis}.kind`, `${name} is moved by`, { belt: 'a belt', screw: 'a screw' }, { needed: true, read: (machine) => of(machine).kind }),
          number(`${axis}.pitch`, `${name} belt, from tooth to tooth`, {
            unit: 'mm', range: [0.5, 20], needed: true, when: is(`${axis}.kind`, 'belt'),
            how: 'It is often printed on the belt. Or lay a rule along it: the length of ten teeth, divided by ten.',
            read: (machine) => { const train = of(machine); return train.kind === 'belt' ? train.pitch_mm : undefined; },
          }),
          number(`${axis}.teeth`, `${name} pulley, teeth`, {
            unit: '', range: [5, 200], whole: true, needed: true, when: is(`${axis}.kind`, 'belt'),
            how: 'Mark one tooth on the motor’s pulley with a pen and count round to it.',
            read: (machine) => { const train = of(machine); return train.kind === 'belt' ? train.teeth : undefined; },
          }),
          number(`${axis}.lead`, `${name} screw, rise in one turn`, {
            unit: 'mm', range: [0.1, 100], needed: true, when: is(`${axis}.kind`, 'screw'),
            how: 'Unplug. Mark the screw, turn it ten full turns by hand, measure how far the axis went, divide by ten.',
            read: (machine) => { const train = of(machine); return train.kind === 'screw' ? train.lead_mm : undefined; },
          }),
        ]; // prettier-ignore
  return [
    ...kind,
    number(`${axis}.gear`, `${name}: turns of the motor for one of the ${feeds ? 'roller' : 'pulley or screw'}`, {
      unit: '', range: [0.1, 100], unsaid: 'no gears', how: '1 without gears. With gears: teeth of the large one over teeth of the small one.',
      read: (machine) => of(machine).gear_ratio ?? unlessOpen(machine, `${axis}.gear`, 1),
    }),
    choice(`${axis}.plus`, `${name}: the shaft turns, towards plus`, { clockwise: 'clockwise', anticlockwise: 'anticlockwise' }, {
      how: `Unplug. Look at the end of the motor’s shaft and push the ${feeds ? 'filament in' : axis === 'z' ? 'nozzle away from the plate' : axis === 'x' ? 'nozzle to the right over the plate' : 'nozzle to the back of the plate (a plate that moves: pull it forward)'}.`,
      read: (machine) => of(machine).plus_is,
    }),
    number(`${axis}.speed`, `${name}: top speed that is known to go well`, { unit: 'mm/s', range: [0.1, 2000], read: (machine) => of(machine).max_speed_mm_s }),
    number(`${axis}.accel`, `${name}: acceleration that is known to go well`, { unit: 'mm/s²', range: [1, 50000], read: (machine) => of(machine).max_accel_mm_s2 }),
  ]; // prettier-ignore
}

/** Whether the clips of a machine are strips along two edges, and how far they reach; else they are its own. */
function clipStrips({ frame: { clips_mm: clips = [], bed_mm: bed } }: Machine): { at: string; reach?: number } {
  const [first, second] = clips;
  if (!first || !second || clips.length !== 2) return { at: 'own' };
  for (const [at, along, across] of [['front-back', 'x', 'y'], ['left-right', 'y', 'x']] as const) {
    const reach = tidy(first[across][1] - first[across][0]);
    const strips = [[bed[across][0], tidy(bed[across][0] + reach)], [tidy(bed[across][1] - reach), bed[across][1]]];
    if (sameValue([first[across], second[across]], strips) && sameValue([first[along], second[along]], [bed[along], bed[along]])) return { at, reach };
  }
  return { at: 'own' };
} // prettier-ignore

const end = (axis: Axis, low: string, high: string): Question =>
  choice(`end.${axis}`, `${axis.toUpperCase()}: its switch is met`, { min: low, max: high, [NONE]: 'by none: it has no switch' }, {
    how: 'Unplug. Push the axis by hand from end to end and listen for the click, or look for a light that changes.',
    read: (machine) => machine.frame.switch_at[axis] ?? (machine.not_known?.includes(`end.${axis}`) ? undefined : NONE),
  }); // prettier-ignore
const beyond = (id: string, label: string, of: (machine: Machine) => number): Question =>
  number(`beyond.${id}`, label, {
    unit: 'mm', range: [-400, 400], needed: true,
    how: 'Unplug. Push the nozzle by hand to where the axis ends, and measure from the plate’s edge to the nozzle’s tip: plus outside the plate, minus if it ends over it.',
    read: (machine) => tidy(of(machine)),
  }); // prettier-ignore
const aSwitch = (axis: Axis): Question =>
  part(`switch.${axis}`, `${axis.toUpperCase()}: kind of switch`, 'switch', axis, {
    when: (answers) => answers[`end.${axis}`] === 'min' || answers[`end.${axis}`] === 'max',
    how: 'Unplug it at the board and measure from contact to contact: 0 Ω while it is left alone is normally closed, open is normally open. With three leads and a light it is a sensor: read the print on it.',
  }); // prettier-ignore
const mounted = (id: string, label: string, told: Told<NumberQuestion>) =>
  number(`mount.${id}`, label, { when: has('probe'), ...told });

/** The pages of a description, in the order in which one looks at a printer. */
export const PAGES: readonly Page[] = [
  { id: 'name', title: 'Name', questions: [
    { kind: 'text', id: 'name', label: 'What you call it', longest: 40, needed: true, read: ({ name }) => name },
    { kind: 'text', id: 'place', label: 'Where it stands', longest: 80, needed: true, read: ({ place }) => place },
    { kind: 'text', id: 'note', label: 'What it is used for', longest: 300, read: ({ note }) => note },
  ] },
  { id: 'frame', title: 'What moves', questions: [
    choice('kinematics', 'While it prints one layer', {
      'moving-bed': 'the plate slides to and fro; the head goes left and right, and climbs',
      'lifting-bed': 'the head goes left, right, to and fro; the plate sinks',
      'cross-belt': 'two fixed motors move the head together over crossed belts; the plate sinks or the head climbs',
    }, { needed: true, how: 'Unplug. Push the head and the plate by hand and see which of them goes which way.', read: ({ frame }) => frame.kinematics }),
  ] },
  { id: 'plate', title: 'Plate and travel', hint: 'A printer that is plugged in can move by itself and crush. Unplug it before you push it by hand.', questions: [
    number('plate.width', 'Plate, left to right', { unit: 'mm', range: [20, 2000], needed: true, how: 'Only what may be printed on: leave out tabs and clips.', read: ({ frame: { bed_mm: { x } } }) => tidy(x[1] - x[0]) }),
    number('plate.depth', 'Plate, front to back', { unit: 'mm', range: [20, 2000], needed: true, read: ({ frame: { bed_mm: { y } } }) => tidy(y[1] - y[0]) }),
    beyond('left', 'Nozzle goes past the left edge', ({ frame }) => frame.bed_mm.x[0] - frame.travel_mm.x[0]),
    beyond('right', 'Nozzle goes past the right edge', ({ frame }) => frame.travel_mm.x[1] - frame.bed_mm.x[1]),
    beyond('front', 'Nozzle goes past the front edge', ({ frame }) => frame.bed_mm.y[0] - frame.travel_mm.y[0]),
    beyond('back', 'Nozzle goes past the back edge', ({ frame }) => frame.travel_mm.y[1] - frame.bed_mm.y[1]),
    number('height', 'From the nozzle on the plate to its highest place', { unit: 'mm', range: [10, 2000], needed: true, how: 'Measure from plate to nozzle where Z ends at the top.', read: ({ frame }) => frame.travel_mm.z[1] }),
    choice('clips', 'Clips or screws that stand on the plate', { [NONE]: 'none', 'front-back': 'at its front and back edges', 'left-right': 'at its left and right edges', own: 'as they are in the bed plan' }, {
      how: 'Nozzle and probe must not meet them. The whole strip is kept free at first; each clip is put right in the bed plan.',
      read: (machine) => (machine.frame.clips_mm?.length ? clipStrips(machine).at : machine.not_known?.includes('clips') ? undefined : NONE),
    }),
    number('clips.reach', 'They reach onto the plate', { unit: 'mm', range: [1, 100], when: (answers) => answers['clips'] === 'front-back' || answers['clips'] === 'left-right', how: 'From the plate’s edge to the innermost point of a clip.', read: (machine) => clipStrips(machine).reach }),
  ] },
  { id: 'ends', title: 'Ends and switches', questions: [
    end('x', 'at the left', 'at the right'), aSwitch('x'),
    end('y', 'with the nozzle at the front of the plate', 'with the nozzle at the back of the plate'), aSwitch('y'),
    end('z', 'with the nozzle on the plate', 'at the top'), aSwitch('z'),
  ] },
  { id: 'xy', title: 'X and Y', questions: [...drive('x'), ...drive('y')] },
  { id: 'z', title: 'Z', questions: [...drive('z'),
    flag('z.second', 'Z has a second motor', { read: (machine) => machine.parts.some(({ id }) => id === 'z-motor-2') || unlessOpen(machine, 'z.second', false) }),
  ] },
  { id: 'extruder', title: 'Extruder', questions: [...drive('e'),
    flag('e.second', 'There is a second extruder, with a motor and a driver of its own', { read: (machine) => machine.parts.some(({ id }) => id === SECOND_EXTRUDER.motor) || unlessOpen(machine, 'e.second', false) }),
    flag(SECOND_DRIVE, 'The second extruder has another roller or other gears, is mounted the other way round, or goes at other speeds', { when: is('e.second', true), read: (machine) => machine.axes.e2 !== undefined || unlessOpen(machine, SECOND_DRIVE, false) }),
    ...drive('e.second').map((question) => ({ ...question, when: (answers: Answers) => answers['e.second'] === true && answers[SECOND_DRIVE] === true })),
  ] },
  { id: 'motors', title: 'Motors and drivers', hint: 'A driver module is destroyed when it is pulled or plugged under power. Unplug first.', questions: [
    ...(['x', 'y', 'z', 'e'] as const).map((axis) => part(`motor.${axis}`, `Motor of ${axis === 'e' ? 'the extruder' : axis.toUpperCase()}`, 'motor', axis, { how: 'Its label says amperes and degrees a step: 1.8° is 200 full steps, 0.9° is 400. No label: measure the ohms of one winding, unplugged.' })),
    part('motor.second', 'Motor of the second extruder', 'motor', 'e', { keptAs: SECOND_EXTRUDER.motor, when: is('e.second', true), how: 'As for the first. Often it is the same, mounted the other way round.' }),
    part('driver', 'Drivers', 'driver', 'x', { how: 'The print on the module, or on the chip beside each motor’s plug. Where they differ, say the one of X; the others are changed later.' }),
    choice('microsteps', 'Microsteps', Object.fromEntries([1, 2, 4, 8, 16, 32, 64, 128, 256].map((of) => [String(of), String(of)])), { needed: true, how: 'Jumpers under the modules decide it, or the old settings report (steps/mm) tells it: see From a report.', read: ({ parts }) => { const found = parts.find(({ id }) => id === 'x-driver')?.microsteps; return found === undefined ? undefined : String(found); } }),
  ] },
  { id: 'hotend', title: 'Hot end', hint: 'A hot end burns and its leads may be live. Unplug it and let it cool before you measure.', questions: [
    part('hotend.heater', 'Hot end: its heater', 'heater', 'hotend', { how: 'The label says volts and watts. No label: measure its ohms cold, plug out; volts × volts ÷ ohms are its watts.' }),
    part('hotend.sensor', 'Hot end: its sensor', 'thermistor', 'hotend', { how: 'By its type, by its ohms at 25 °C and its β, or by its ohms at known temperatures.' }),
    part('hotend.spare', 'Hot end: a second sensor that watches the first', 'thermistor', SPARE, { optional: true, unsaid: NONE }),
    part('second.heater', 'Second hot end: its heater', 'heater', SECOND_HOTEND, { when: is('e.second', true) }),
    part('second.sensor', 'Second hot end: its sensor', 'thermistor', SECOND_HOTEND, { when: is('e.second', true) }),
  ] },
  { id: 'bed', title: 'Heated bed', hint: 'Mains at the plate kills. If its heater has a mains plug or lead: local codes and a qualified electrician.', questions: [
    part('bed.heater', 'Bed: its heater', 'heater', 'bed', { optional: true, how: 'As for the hot end. More than 60 V is mains.' }),
    part('bed.relay', 'Bed: the relay that switches its heater', 'relay', 'bed', { optional: true, unsaid: NONE, when: has('bed.heater') }),
    part('bed.sensor', 'Bed: its sensor', 'thermistor', 'bed', { optional: true, when: has('bed.heater') }),
  ] },
  { id: 'chamber', title: 'Heated chamber', hint: 'Mains around the chamber kills as it does at the plate: local codes and a qualified electrician.', questions: [
    part('chamber.sensor', 'Chamber: its sensor', 'thermistor', 'chamber', { optional: true, unsaid: NONE }),
    part('chamber.heater', 'Chamber: its heater', 'heater', 'chamber', { optional: true, unsaid: NONE, how: 'As for the hot end. More than 60 V is mains.' }),
    part('chamber.relay', 'Chamber: the relay that switches its heater', 'relay', 'chamber', { optional: true, unsaid: NONE, when: has('chamber.heater') }),
  ] },
  { id: 'probe', title: 'Bed probe', hint: 'Where the nozzle itself sits on a switch nothing hangs beside it: what is asked of its place is left as not known.', questions: [
    part('probe', 'Probe that finds the plate', 'probe', 'z', { optional: true, how: 'It hangs beside the nozzle: a pin that comes down, a barrel with a face of metal, or the nozzle itself on a switch.' }),
    choice('mount.side', 'Probe: seen from the front it hangs', { left: 'left of the nozzle', right: 'right of the nozzle' }, { when: has('probe'), read: ({ probe_mount: mount }) => mount?.side }),
    mounted('side_mm', 'Probe: how far to that side', { unit: 'mm', range: [0, 200], how: 'From the middle of the nozzle to the middle of the probe.', read: ({ probe_mount: mount }) => mount?.side_mm }),
    choice('mount.face', 'Probe: and it hangs', { front: 'before the nozzle', back: 'behind the nozzle' }, { when: has('probe'), read: ({ probe_mount: mount }) => mount?.face }),
    mounted('face_mm', 'Probe: how far to the front or back', { unit: 'mm', range: [0, 200], read: ({ probe_mount: mount }) => mount?.face_mm }),
    mounted('z_mm', 'Probe: it triggers with the nozzle at', { unit: 'mm', range: [-20, 20], how: 'Minus: the nozzle is still above the plate when the probe triggers. It is measured at Calibrate.', read: ({ probe_mount: mount }) => mount?.z_mm }),
  ] },
  { id: 'around', title: 'Fans and the rest', questions: [
    part('fan.part', 'Fan that cools the print', 'fan', 'part', { optional: true, how: 'Volts and amperes stand on its hub.' }),
    part('fan.hotend', 'Fan of the hot end', 'fan', 'hotend', { optional: true, how: 'It never stands still in a print; on some machines it runs always.' }),
    part('fan.board', 'Fan of the board', 'fan', 'board', { optional: true }),
    part('servo', 'A servo, beside the one in a probe', 'servo', 'servo', { optional: true, unsaid: NONE }),
    part('lamp', 'Lamp', 'lamp', 'lamp', { optional: true }),
    flag('beeper', 'It has a beeper, and may sound', { how: 'A small round can with a hole, on the board or behind the display.', read: ({ settings: { [BEEPER]: beeper } }) => beeper && beeper.value === true }),
    part('filament', 'Filament sensor', 'filament-sensor', 'filament', { optional: true }),
    part('display', 'Display', 'display', 'panel', { optional: true, how: 'Rows of letters, a picture of dots with a knob, or one that is touched.' }),
  ] },
  { id: 'board', title: 'Supply and board', hint: 'Mains and charged capacitors shock. Unplug, wait a minute, touch ground before you open the cover.', questions: [
    number('supply.volts', 'Supply, volts', { unit: 'V', range: [3, 60], needed: true, how: 'Its label, output side.', read: ({ supply }) => supply.volts_v }),
    number('supply.amps', 'Supply, amperes at most', { unit: 'A', range: [0.5, 200], needed: true, how: 'Its label, output side. Watts ÷ volts, where only watts stand there.', read: ({ supply }) => supply.amps_a }),
    { kind: 'board', id: 'board', label: 'Controller board', needed: true, how: 'Name and revision are printed on it.', read: ({ board }) => `${board.id} ${board.revision}` },
    flag('board.seen', 'I have read the revision off the board', { read: ({ board }) => board.revision_seen !== false }),
    { kind: 'text', id: 'board.marking', label: 'Print on the big chip', longest: 60, read: ({ board }) => board.marking },
  ] },
]; // prettier-ignore

export const QUESTIONS: readonly Question[] = PAGES.flatMap(({ questions }) => questions);
export const questionOf = (id: string): Question | undefined => QUESTIONS.find((entry) => entry.id === id);
