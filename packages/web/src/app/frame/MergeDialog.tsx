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
  const save = () =>
    act(() =>
      settle(
        takeOver(
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
      <ul className={css.list}>
        {(changes.length > 0 ? changes : elsewhere.map(({ path }) => pathInWords(path))).map(
          (line, index) => (
            <li key={index}>{line}</li>
          ),
        )}
      </ul>
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
        <p>You changed other things than the other window, so both can be kept.</p>
      )}
      <Refused why={refused} />
      <div className="row">
        <Button onClick={() => void save()}>{both.length > 0 ? 'Save it so' : 'Keep both'}</Button>
        <Button variant="default" onClick={() => void settle()}>
          Let mine go
        </Button>
      </div>
    </Modal>
  );
}

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
