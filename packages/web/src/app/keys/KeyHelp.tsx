import { keyList, keyWords } from '@jolly/session/keys';
import { Modal, Switch } from '@mantine/core';
import { useWatched } from '../../ui/useWatched';
import { singleKeys } from './singleKeys';
import css from './KeyHelp.module.css';

/** All keys, in one place. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal opened={open} onClose={onClose} title="Keys" closeButtonProps={{ 'aria-label': 'Close' }}>
      <Switch
        checked={useWatched(singleKeys.on)}
        label="Single keys work"
        description="Off, only ctrl or ⌘ with a full stop (stop the machine) and with z (undo) work, and every key of a list or field."
        onChange={(event) => singleKeys.set(event.currentTarget.checked)}
      />
      <dl className={css.keys}>
        {keyList().map(([act, { does }]) => (
          <div key={act}>
            <dt>
              <kbd>{keyWords(act)}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
