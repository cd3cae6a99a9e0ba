import { keyWords } from '@jolly/session/keys';
import { ActionIcon, Button, Tooltip } from '@mantine/core';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconHandStop,
  IconKeyboard,
  IconSearch,
  IconTextSize,
} from '@tabler/icons-react';
import type { ReactNode } from 'react';
import { usePowered } from '../../bench/BenchProvider';
import { LampSwitch } from '../lamp/LampSwitch';
import css from './MachineFrame.module.css';
import type { Undoing } from './useUndoing';

/** What can be done on every station. */
export interface FrameActs {
  find: () => void;
  undo: () => void;
  redo: () => void;
  stop: () => void;
  help: () => void;
  arms: () => void;
}

/** Link, stop, and what can be done on every station. */
export function Controls({
  running,
  acts,
  undoing: { undoes, redoes },
  steps,
}: {
  running: boolean;
  acts: FrameActs;
  undoing: Pick<Undoing, 'undoes' | 'redoes'>;
  /** Whether the station has steps to be done one by one. */
  steps: boolean;
}) {
  const state = usePowered(({ power }) => power.state);
  const mute = usePowered((now) => now.mute !== undefined);
  return (
    <div className={css.right} data-screen-only>
      <p className={css.lampRow}>
        <span className={css.lamp} data-lit={running && !mute} aria-hidden="true" />
        {mute ? 'Board is not heard' : linkWord(state, running)}
      </p>
      <Button
        color="vermilion"
        variant={running ? 'filled' : 'default'}
        disabled={!running}
        leftSection={<IconHandStop size={20} />}
        className={css.stop ?? ''}
        onClick={acts.stop}
        aria-keyshortcuts={keyWords('stop')}
      >
        Stop
      </Button>
      <div className={css.tools}>
        <Tool
          label={`Find anything ( ${keyWords('find')} )`}
          act={acts.find}
          icon={<IconSearch size={20} />}
        />
        <Tool
          label={`Undo (${keyWords('undo')})`}
          what={undoes}
          act={acts.undo}
          icon={<IconArrowBackUp size={20} />}
          off={undoes === undefined}
        />
        <Tool
          label={`Do again (${keyWords('redo')})`}
          what={redoes}
          act={acts.redo}
          icon={<IconArrowForwardUp size={20} />}
          off={redoes === undefined}
        />
        <Tool
          label={`At arm’s length (${keyWords('arms')})`}
          act={acts.arms}
          icon={<IconTextSize size={20} />}
          off={!steps}
        />
        <Tool label={`Keys (${keyWords('help')})`} act={acts.help} icon={<IconKeyboard size={20} />} />
        <LampSwitch />
      </div>
    </div>
  );
}

function Tool({
  label,
  act,
  icon,
  what,
  off = false,
}: {
  label: string;
  /** What it is done to, in words. */
  what?: string | undefined;
  act: () => void;
  icon: ReactNode;
  off?: boolean;
}) {
  return (
    <Tooltip label={what === undefined ? label : `${label}: ${what}`}>
      <ActionIcon variant="subtle" aria-label={label} aria-description={what} onClick={act} disabled={off}>
        {icon}
      </ActionIcon>
    </Tooltip>
  );
}

function linkWord(state: string, running: boolean): string {
  if (running) return 'Link: virtual bench';
  if (state === 'held') return 'Link held elsewhere';
  return state === 'on' ? 'Board is silent' : 'No link';
}
