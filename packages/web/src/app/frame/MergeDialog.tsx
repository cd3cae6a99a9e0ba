import { Button, Modal, Radio } from '@mantine/core';
import type { Machine } from '@jolly/core/machine/machine';
import { choosable, machineDifferences } from '@jolly/core/machine/machineDifferences';
import { type Difference, takeOver } from '@jolly/core/tree/differences';
import { valueAt } from '@jolly/core/tree/path';
import { mergeThreeWay } from '@jolly/core/tree/mergeThreeWay';
import { useMemo, useState } from 'react';
import type { Conflict } from '@jolly/session/machineSaving';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import css from './MergeDialog.module.css';
import { pathInWords } from '@jolly/core/machine/pathInWords';
import { shortly } from '@jolly/session/inWords';
import { useAct } from '../../ui/useAct';

/** A save that came too late: what the other window changed, what this one wants, and a choice field by field. */
export function MergeDialog() {
  const { conflict } = useWorkbench();
  return conflict ? <Merge key={conflict.theirs.version} conflict={conflict} /> : null;
}

function Merge({ conflict }: { conflict: Conflict }) {
  const { settle } = useWorkbench();
  const { base, mine, theirs, changes } = conflict;
  const [theirsKept, setTheirsKept] = useState<Record<string, boolean>>({});
  const { refused, act } = useAct();
  const { value, both } = useMemo(() => merged(base, mine, theirs.machine), [base, mine, theirs.machine]);
  const elsewhere = useMemo(() => machineDifferences(base, theirs.machine), [base, theirs.machine]);
  const wanted = useMemo(() => machineDifferences(theirs.machine, value), [theirs.machine, value]);
  const together =
    TOGETHER[
      both.length > 0 ? 'met' : wanted.length === 0 ? 'same' : elsewhere.length === 0 ? 'gone' : 'apart'
    ];
  const save = () =>
    act(() =>
      settle(
        together === TOGETHER.same
          ? undefined
          : takeOver(
              value,
              both.filter(({ path }) => theirsKept[path.join('.')]),
            ),
      ),
    );

  return (
    <Modal
      opened
      onClose={() => void settle()}
      title="Changed elsewhere since you opened it"
      size="lg"
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <p className={css.lead}>
        You wanted: <b>{conflict.label}</b>. Nothing of it is saved yet.
      </p>
      <h3>What was changed elsewhere</h3>
      {elsewhere.length === 0 ? (
        <p>Something was changed, and taken back since: the machine file is what you began with.</p>
      ) : (
        <ul className={css.list}>
          {(changes.length > 0 ? changes : elsewhere.map(({ path }) => pathInWords(path))).map(
            (line, index) => (
              <li key={index}>{line}</li>
            ),
          )}
        </ul>
      )}
      {both.length > 0 ? (
        <>
          <h3>You both changed</h3>
          {both.map(({ path, from, to }) => {
            const key = path.join('.');
            return (
              <Radio.Group
                key={key}
                className={css.choice}
                label={pathInWords(path)}
                value={theirsKept[key] ? 'theirs' : 'mine'}
                onChange={(choice) => setTheirsKept((now) => ({ ...now, [key]: choice === 'theirs' }))}
              >
                <Radio value="mine" label={`Yours: ${shortly(from)}`} />
                <Radio value="theirs" label={`There now: ${shortly(to)}`} />
              </Radio.Group>
            );
          })}
        </>
      ) : (
        <p>{together.words}</p>
      )}
      <Refused why={refused} />
      <div className="row">
        <Button onClick={() => void save()}>{together.act}</Button>
        {together !== TOGETHER.same && (
          <Button variant="default" onClick={() => void settle()}>
            Let mine go
          </Button>
        )}
      </div>
    </Modal>
  );
}

/** How the two changes go together, and what is then to be done. */
const TOGETHER = {
  met: { words: '', act: 'Save it so' },
  same: { words: 'You wanted the same, and it stands there already.', act: 'Leave it so' },
  gone: { words: 'What you wanted can be saved as it is.', act: 'Save it' },
  apart: { words: 'You changed other things than the other window, so both can be kept.', act: 'Keep both' },
} as const;

/** Both sides' changes together, this window's where they meet, and where they meet: yours against theirs. */
function merged(base: Machine, mine: Machine, theirs: Machine): { value: Machine; both: Difference[] } {
  const { value, met } = mergeThreeWay(base, mine, theirs);
  const places = new Map(met.map(choosable).map((path) => [path.join('.'), path]));
  const both = [...places.values()].map((path) => ({
    path,
    from: valueAt(value, path),
    to: valueAt(theirs, path),
  }));
  return { value, both };
}
