import { optionOf } from '@jolly/core/kit/optionOf';
import type { Option } from '@jolly/core/kit/kit';
import { optionEntry } from '@jolly/core/find/find';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { factId, factsOf } from '@jolly/session/machineFacts';
import { PARTS } from '@jolly/session/machineParts';
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

/** Everything that can be found for a machine. */
export function findables(
  {
    machine,
    kit,
    settings,
    facts,
    files,
    undoes,
    redoes,
  }: Pick<Workbench, 'machine' | 'kit' | 'settings' | 'facts' | 'files'> & {
    undoes?: string | undefined;
    redoes?: string | undefined;
  },
  acts: Acts,
): Findable[] {
  const base = `/machines/${machine.id}`;
  const partOf = (key: string) => {
    const part = optionOf(kit, key)?.part;
    return PARTS.some(({ id }) => id === part) ? part : 'identity';
  };
  const action = (id: string, title: string, hint: string, to: () => void): Findable => ({
    id: `act-${id}`,
    kind: 'Action',
    title,
    hint,
    to,
  });
  return [
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
    ...STATIONS.map((station, index): Findable => ({
      id: `st-${station.id}`,
      kind: 'Station',
      title: station.title,
      hint: `key ${index + 1}`,
      to: `${base}/${station.id}`,
    })),
    ...PARTS.flatMap(({ id: part, title }) =>
      factsOf(part, { machine, facts }).map((fact): Findable => ({
        id: factId(fact),
        kind: 'Fact',
        title: fact.label,
        hint: `${title}: ${fact.value ?? fact.empty ?? 'not known'} ${fact.unit ?? ''}`.trim(),
        to: `${base}/settings?part=${part}`,
        find: factId(fact),
      })),
    ),
    ...kit.options.map((option): Findable => ({
      id: `set-${option.key.replaceAll('.', '-')}`,
      kind: 'Setting',
      title: option.label,
      hint: option.from
        ? `not in ${kit.name} ${kit.version}: comes with ${option.from}`
        : `${option.key} = ${settingInWords(option, settings.get(option.key)?.value ?? '')}`,
      words: wordsFor(option),
      to: `${base}/settings?part=${PARTS.some((part) => part.id === option.part) ? option.part : 'identity'}&key=${option.key}`,
      find: `set-${option.key}`,
    })),
    ...kit.commands.map(({ say, does, by, from }): Findable => ({
      id: `say-${say.replaceAll(' ', '-')}`,
      kind: 'Command',
      title: `${say}, ${does}`,
      hint: from
        ? `not in ${kit.name} ${kit.version}: comes with ${from}`
        : `${kit.name} ${kit.version} knows it; ask the board at Bring-up`,
      to: by ? `${base}/settings?part=${partOf(by)}&key=${by}` : `${base}/bring-up`,
    })),
    ...viewsOf('Settings', `${base}/settings`, SETTINGS_VIEWS),
    ...viewsOf('Build', `${base}/build`, BUILD_VIEWS),
    ...TOOLS.map(({ id, title, parts }): Findable => ({
      id: `tool-${id}`,
      kind: 'Tool',
      title,
      hint: `at Settings, ${PARTS.find((part) => part.id === parts[0])?.title ?? ''}`,
      to: `${base}/settings?part=${parts[0]}&tool=${id}`,
    })),
    {
      id: 'fact-supply',
      kind: 'Part',
      title: 'Supply',
      hint: `${machine.supply.volts_v} V, ${machine.supply.amps_a} A`,
      words: { also: `${machine.supply.volts_v}v ${machine.supply.amps_a}a volts power supply` },
      to: `${base}/settings?part=frame`,
    },
    ...facts.parts.map((part): Findable => ({
      id: `part-${part.id}`,
      kind: 'Part',
      title: part.id,
      hint: part.type.name,
      to: `${base}/settings?part=${PARTS.some((entry) => entry.id === part.role) ? part.role : 'frame'}`,
    })),
    ...files
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
      ),
    action('power-on', 'Switch the power on', 'virtual bench', acts.powerOn),
    action('power-off', 'Switch the power off', 'virtual bench', acts.powerOff),
    ...keyList().flatMap(([name, { action: title }]) => {
      const act = acts[name];
      if (!title || !act) return [];
      // What would be taken back is said by its name; where there is nothing, there is nothing to find.
      const what = { undo: undoes, redo: redoes };
      const named = name === 'undo' || name === 'redo' ? what[name] : '';
      if (named === undefined) return [];
      const called = named === '' ? title : `${name === 'undo' ? 'Undo' : 'Do again'}: ${named}`;
      // Keys that take no argument; others are not listed here.
      return [action(name, called, `key ${keyWords(name)}`, act as () => void)];
    }),
    { id: 'shelf', kind: 'Machine', title: 'Back to the shelf', hint: 'all machines', to: '/' },
  ];
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
