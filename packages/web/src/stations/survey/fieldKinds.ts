import { bodyCalled } from '@jolly/core/machine/bodyCalled';
import { SECOND_HOTEND, WARMED, type Warmed } from '@jolly/core/machine/machine';
import { secondMotor } from '@jolly/core/machine/secondMotor';
import type { Change } from '@jolly/core/ripple/change';
import type { Facts } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import type { PartKind } from '@jolly/core/parts/part';

/** One thing a change must tell. `path` leads to it within the change. */
export interface ChangeField {
  path: (string | number)[];
  label: string;
  kind: 'number' | 'text' | 'choice' | 'flag' | 'axes';
  unit?: string;
  choices?: { value: string; label: string }[];
  /** May stay empty; said in the empty field. */
  optional?: string;
  /** The choice stands for a number in the change. */
  numeric?: boolean;
}

/** The kinds of field that changes are asked with. */
export const MICROSTEPS = ['8', '16', '32', '64', '128', '256'].map((value) => ({ value, label: value }));
export const number = (path: ChangeField['path'], label: string, unit = 'mm'): ChangeField => ({
  path,
  label,
  kind: 'number',
  unit,
});
export const choice = (path: ChangeField['path'], label: string, values: string[], words: Record<string, string> = {}): ChangeField => ({
  path, label, kind: 'choice', choices: values.map((value) => ({ value, label: words[value] ?? value })),
}); // prettier-ignore
export const AXIS_WORDS = { x: 'X', y: 'Y', z: 'Z', e: 'Extruder', e2: 'Second extruder' };
export const axis = (values: readonly string[]) => choice(['axis'], 'Axis', [...values], AXIS_WORDS);

export const partsOfKind = ({ catalogue }: Facts, kind: PartKind) =>
  catalogue.parts.filter((part) => part.kind === kind);
/** What nobody has chosen yet; a preset that nobody looked at would stand there as a fact. */
export const UNSAID = '';
/** The part of a kind, where the catalogue holds no other to choose from. */
export const onlyPart = (facts: Facts, kind: PartKind): string => {
  const [first, second] = partsOfKind(facts, kind);
  return first && !second ? first.id : UNSAID;
};
export const part = (facts: Facts, kind: PartKind, path: string[] = ['part'], label = 'Part'): ChangeField => ({
  path, label, kind: 'choice', choices: partsOfKind(facts, kind).map(({ id, name }) => ({ value: id, label: name })),
}); // prettier-ignore
export const usedPart = ({ parts }: Facts, kind: PartKind, role: string) =>
  parts.find((entry) => entry.type.kind === kind && entry.role === role)?.part;
const bodies = (warmed: readonly Warmed[]): ChangeField =>
  choice(['body'], 'Which', [...warmed], Object.fromEntries(warmed.map((of) => [of, bodyCalled(of)])));
/** What is measured here. */
export const measuredBody = (facts: Facts): ChangeField =>
  bodies(WARMED.filter((of) => of === 'hotend' || usedPart(facts, 'thermistor', of) !== undefined));
/** What is heated here, or could be. */
export const heatedBody = (facts: Facts): ChangeField =>
  bodies(WARMED.filter((of) => of !== SECOND_HOTEND || secondMotor(facts, 'e') !== undefined));
export const boardChoice = ({ catalogue }: Facts): ChangeField => ({
  path: ['board'],
  label: 'Board',
  kind: 'choice',
  choices: [...new Map(catalogue.boards.map((board) => [board.id, board.name]))].map(([value, label]) => ({
    value,
    label,
  })),
});
export const revisionChoice = ({ catalogue }: Facts, change: Change): ChangeField =>
  choice(
    ['revision'],
    'Revision',
    catalogue.boards
      .filter((board) => 'board' in change && board.id === change.board)
      .map((board) => board.revision),
  );
export const driveFields = (change: Change): ChangeField[] => {
  const drive = 'drive' in change ? change.drive : undefined;
  const own: Record<string, ChangeField[]> = {
    belt: [
      number(['drive', 'teeth'], 'Teeth of the pulley', ''),
      number(['drive', 'pitch_mm'], 'Belt pitch'),
    ],
    screw: [number(['drive', 'lead_mm'], 'Lead of the screw')],
    roller: [number(['drive', 'diameter_mm'], 'Roller diameter')],
  };
  return [...(own[drive?.kind ?? ''] ?? []), number(['drive', 'gear_ratio'], 'Gear ratio', '')];
};
export const withGears = (drive: Machine['axes']['x']) => ({ ...drive, gear_ratio: drive.gear_ratio ?? 1 });
