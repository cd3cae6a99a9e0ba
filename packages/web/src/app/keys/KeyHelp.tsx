import { keyList, keyWords } from '@jolly/session/keys';
import { Modal } from '@mantine/core';
import css from './KeyHelp.module.css';

/** All keys, in one place. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal opened={open} onClose={onClose} title="Keys" closeButtonProps={{ 'aria-label': 'Close' }}>
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
