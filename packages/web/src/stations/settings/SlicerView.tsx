import { Button, CopyButton, SegmentedControl, Textarea } from '@mantine/core';
import { leftToSlicer } from '@jolly/core/slicer/gcodeLine';
import type { LineProblem } from '@jolly/core/slicer/lineProblem';
import { readEndCode } from '@jolly/core/slicer/readEndCode';
import { readStartCode } from '@jolly/core/slicer/readStartCode';
import { writeEndCode, writeStartCode } from '@jolly/core/slicer/writeStartCode';
import { useMemo, useState } from 'react';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SlicerView.module.css';

type Which = 'start' | 'end';

/** Start and end G-code for the slicer: written from the settings, and what is pasted read against them. */
export function SlicerView() {
  const { machine, facts, settings, change } = useWorkbench();
  const [which, setWhich] = useState<Which>('start');
  const kept = machine.slicer?.[which] ?? '';
  const [pasted, setPasted] = useDraft(`slicer:${machine.id}:${which}`, kept);
  const { refused, act } = useAct();
  const written = useMemo(
    () => (which === 'start' ? writeStartCode : writeEndCode)(facts, settings),
    [which, facts, settings],
  );
  const keep = async () => {
    const kept = await act(() =>
      change(`${which === 'start' ? 'Start' : 'End'} G-code of the slicer`, [
        { path: ['slicer', which], ...(pasted.trim() !== '' && { value: pasted }) },
      ]),
    );
    if (kept) setPasted(undefined);
  };

  return (
    <div className={css.view}>
      <SegmentedControl
        size="xs"
        className={css.which}
        aria-label="Before or after a print"
        value={which}
        onChange={(value) => setWhich(value === 'end' ? 'end' : 'start')}
        data={[
          { value: 'start', label: 'Before a print' },
          { value: 'end', label: 'After a print' },
        ]}
      />
      <Written text={written} beginWith={() => setPasted(written)} />
      <section aria-label="What your slicer has" className={css.side}>
        <h2>What your slicer has</h2>
        <Textarea
          label={which === 'start' ? 'Paste the start G-code here' : 'Paste the end G-code here'}
          value={pasted}
          onChange={(event) => setPasted(event.currentTarget.value)}
          autosize
          minRows={8}
          maxRows={16}
          classNames={{ input: css.code ?? '' }}
        />
        <div className="row">
          <Button size="xs" onClick={() => void keep()} disabled={pasted === kept}>
            Keep it with the machine
          </Button>
        </div>
        <Refused why={refused} />
        <Judged which={which} pasted={pasted} />
      </section>
    </div>
  );
}

/** What follows from the settings, to be copied or begun with. */
function Written({ text, beginWith }: { text: string; beginWith: () => void }) {
  return (
    <section aria-label="From your settings" className={css.side}>
      <h2>From your settings</h2>
      <pre tabIndex={0} aria-label="G-code written from the settings">
        {text}
      </pre>
      <div className="row">
        <CopyButton value={text}>
          {({ copied, copy }) => (
            <Button size="xs" onClick={copy}>
              {copied ? 'Copied' : 'Copy it'}
            </Button>
          )}
        </CopyButton>
        <Button size="xs" variant="default" onClick={beginWith}>
          Begin with it
        </Button>
      </div>
    </section>
  );
}

/** What is pasted, read against the machine: what speaks against it, and what is not judged. */
function Judged({ which, pasted }: { which: Which; pasted: string }) {
  const { facts, settings } = useWorkbench();
  const problems = useMemo(
    (): readonly LineProblem[] =>
      pasted.trim() === '' ? [] : (which === 'start' ? readStartCode : readEndCode)(pasted, facts, settings),
    [which, pasted, facts, settings],
  );
  const filled = useMemo(() => leftToSlicer(pasted), [pasted]);
  return (
    <div role="status">
      {pasted.trim() !== '' && problems.length === 0 && (
        <p className="proven">
          {filled.length === 0 ? 'Every line' : 'Every command'} is known to {facts.kit.name}{' '}
          {facts.kit.version} with these settings, and none speaks against this machine.
        </p>
      )}
      {filled.length > 0 && (
        <p>
          {filled.length === 1 ? `Line ${filled[0]} has` : `Lines ${filled.join(', ')} have`} words that your
          slicer fills in. What they become is not judged here.
        </p>
      )}
      <ol className={css.problems}>
        {problems.map((problem, index) => (
          <li key={index}>
            <b>{problem.line > 0 ? `Line ${problem.line}` : 'Missing'}</b>
            {problem.text && <code>{problem.text}</code>}
            <p>
              {problem.what} {problem.why}
            </p>
          </li>
        ))}
      </ol>
    </div>
  );
}
