import { Modal } from '@mantine/core';
import css from './KeyHelp.module.css';

const KEYS: [string, string][] = [
  ['1 – 8', 'go to a station'],
  ['/', 'find anything'],
  ['j  k', 'next, previous slip'],
  ['enter', 'settle the slip'],
  ['escape', 'leave a shown change'],
  ['r', 'let the facts decide the open setting'],
  ['u', 'undo'],
  ['shift u', 'do again'],
  ['t', 'pull the tape up or down'],
  ['a', "arm's length: one step in large type"],
  ['.', 'stop the machine at once'],
  ['?', 'all keys'],
];

/** All keys, in one place. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal opened={open} onClose={onClose} title="Keys" closeButtonProps={{ 'aria-label': 'Close' }}>
      <dl className={css.keys}>
        {KEYS.map(([key, act]) => (
          <div key={key}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{act}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
