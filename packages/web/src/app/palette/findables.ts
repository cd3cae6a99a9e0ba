import { optionOf } from '@jolly/core/kit/optionOf';
import type { Option } from '@jolly/core/kit/kit';
import { optionEntry } from '@jolly/core/find/find';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { factId, factsOf } from '@jolly/session/machineFacts';
import { type PartId, PARTS } from '@jolly/session/machineParts';
import { BUILD_VIEWS } from '@jolly/session/buildViews';
import { SETTINGS_VIEWS } from '@jolly/session/settingsViews';
import { TOOLS } from '../../tools/tools';
import type { Workbench } from '../../workbench/Workbench';
import { STATIONS, SURVEY_STEPS } from '@jolly/session/progress';
import type { Findable } from './Palette';
import { keyList, keyWords } from '@jolly/session/keys';
import type { KeyActs } from '../keys/useKeys';
import { lowerFirst } from '../../ui/letterCase';

/** What can be done from the palette: what keys do, and the power of the bench. */
export type Acts = KeyActs & { powerOn: () => void; powerOff: () => void };

type Seen = Pick<Workbench, 'machine' | 'kit' | 'settings' | 'facts' | 'files'> & {
  /** The machine's address. */
  base: string;
};

/** Everything that can be found for a machine, most general first. */
export function findables(
  {
    undoes,
    redoes,
    ...workbench
  }: Omit<Seen, 'base'> & { undoes?: string | undefined; redoes?: string | undefined },
  acts: Acts,
): Findable[] {
  const seen = { ...workbench, base: `/machines/${workbench.machine.id}` };
  return [
    ...[surveySteps, stations, factsToFind, settingsToFind, commands, views, tools, parts, pins].flatMap(
      (found) => found(seen),
    ),
    action('power-on', 'Switch the power on', 'virtual bench', acts.powerOn),
    action('power-off', 'Switch the power off', 'virtual bench', acts.powerOff),
    ...keyed(acts, { undo: undoes, redo: redoes }),
    { id: 'shelf', kind: 'Machine', title: 'Back to the shelf', hint: 'all machines', to: '/' },
  ];
}

const surveySteps = ({ base }: Seen): Findable[] => [
  ...SURVEY_STEPS.map((step): Findable => ({
    id: `survey-${step.id}`,
    kind: 'Survey',
    title: step.title,
    hint: lowerFirst(step.done),
    to: `${base}/survey?at=${step.id}`,
  })),
  {
    id: 'survey-tail',
    kind: 'Survey',
    title: 'The tail of the job',
    hint: 'all that follows',
    to: `${base}/survey?at=tail`,
  },
];

const stations = ({ base }: Seen): Findable[] =>
  STATIONS.map((station, index) => ({
    id: `st-${station.id}`,
    kind: 'Station',
    title: station.title,
    hint: `key ${index + 1}`,
    to: `${base}/${station.id}`,
  }));

const factsToFind = ({ base, machine, facts }: Seen): Findable[] =>
  PARTS.flatMap(({ id: part, title }) =>
    factsOf(part, { machine, facts }).map((fact): Findable => ({
      id: factId(fact),
      kind: 'Fact',
      title: fact.label,
      hint: `${title}: ${fact.value ?? fact.empty ?? 'not known'} ${fact.unit ?? ''}`.trim(),
      to: `${base}/settings?part=${part}`,
      find: factId(fact),
    })),
  );

/** The part of the machine under which something stands at Settings. */
const standsAt = (part: string | undefined, otherwise: PartId): PartId =>
  PARTS.find(({ id }) => id === part)?.id ?? otherwise;

const settingsToFind = ({ base, kit, settings }: Seen): Findable[] =>
  kit.options.map((option) => ({
    id: `set-${option.key.replaceAll('.', '-')}`,
    kind: 'Setting',
    title: option.label,
    hint: option.from
      ? `not in ${kit.name} ${kit.version}: comes with ${option.from}`
      : `${option.key} = ${settingInWords(option, settings.get(option.key)?.value ?? '')}`,
    words: wordsFor(option),
    to: `${base}/settings?part=${standsAt(option.part, 'identity')}&key=${option.key}`,
    find: `set-${option.key}`,
  }));

const commands = ({ base, kit }: Seen): Findable[] =>
  kit.commands.map(({ say, does, by, from }) => ({
    id: `say-${say.replaceAll(' ', '-')}`,
    kind: 'Command',
    title: `${say}, ${does}`,
    hint: from
      ? `not in ${kit.name} ${kit.version}: comes with ${from}`
      : `${kit.name} ${kit.version} knows it; ask the board at Bring-up`,
    to: by
      ? `${base}/settings?part=${standsAt(optionOf(kit, by)?.part, 'identity')}&key=${by}`
      : `${base}/bring-up`,
  }));

const views = ({ base }: Seen): Findable[] => [
  ...viewsOf('Settings', `${base}/settings`, SETTINGS_VIEWS),
  ...viewsOf('Build', `${base}/build`, BUILD_VIEWS),
];

const tools = ({ base }: Seen): Findable[] =>
  TOOLS.map(({ id, title, parts: [part] }) => ({
    id: `tool-${id}`,
    kind: 'Tool',
    title,
    hint: `at Settings, ${PARTS.find((one) => one.id === part)?.title ?? ''}`,
    to: `${base}/settings?part=${part}&tool=${id}`,
  }));

const parts = ({ base, machine: { supply }, facts }: Seen): Findable[] => [
  {
    id: 'fact-supply',
    kind: 'Part',
    title: 'Supply',
    hint: `${supply.volts_v} V, ${supply.amps_a} A`,
    words: { also: `${supply.volts_v}v ${supply.amps_a}a volts power supply` },
    to: `${base}/settings?part=frame`,
  },
  ...facts.parts.map((part): Findable => ({
    id: `part-${part.id}`,
    kind: 'Part',
    title: part.id,
    hint: part.type.name,
    to: `${base}/settings?part=${standsAt(part.role, 'frame')}`,
  })),
];

const pins = ({ base, files }: Seen): Findable[] =>
  files
    .filter((file) => file.path.startsWith('pins_'))
    .flatMap((file) =>
      file.lines.flatMap(({ key, text }): Findable[] =>
        key
          ? [
              {
                id: `pin-${key}`,
                kind: 'Pin',
                title: key,
                hint: text.replace(/^#define \S+ /, ''),
                to: `${base}/settings?view=files&file=${file.path}`,
              },
            ]
          : [],
      ),
    );

const action = (id: string, title: string, hint: string, to: () => void): Findable => ({
  id: `act-${id}`,
  kind: 'Action',
  title,
  hint,
  to,
});

/** What keys do. What would be taken back is said by its name; where there is nothing, there is nothing to find. */
function keyed(
  acts: Acts,
  { undo, redo }: { undo: string | undefined; redo: string | undefined },
): Findable[] {
  const named: Readonly<Record<string, string | undefined>> = {
    undo: undo && `Undo: ${undo}`,
    redo: redo && `Do again: ${redo}`,
  };
  return keyList().flatMap(([name, { action: title }]) => {
    const act = acts[name];
    const called = Object.hasOwn(named, name) ? named[name] : title;
    // Keys that take no argument; others are not listed here.
    return called && title && act ? [action(name, called, `key ${keyWords(name)}`, act as () => void)] : [];
  });
}

function wordsFor(option: Option): Findable['words'] {
  const { title: _title, id: _id, ...words } = optionEntry(option);
  return words;
}

/** The views of a station. */
const viewsOf = (station: string, to: string, views: readonly { id: string; title: string }[]): Findable[] =>
  views.map(({ id, title }) => ({
    id: `view-${station.toLowerCase()}-${id}`,
    kind: 'View',
    title,
    hint: `at ${station}`,
    to: `${to}?view=${id}`,
  }));
