import { openPartsInWords } from '@jolly/core/describe/openParts';
import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import { meterRows } from '@jolly/core/firstPower/metering';
import { powerStages, type Stage } from '@jolly/core/firstPower/stages';
import { isLive } from '@jolly/session/power';
import { Checkbox } from '@mantine/core';
import { type ReactNode, useMemo } from 'react';
import { Docket } from '../../app/docket/Docket';
import { useArmsSteps } from '../../app/frame/StationContext';
import { usePowered } from '../../bench/BenchProvider';
import { Refused } from '../../ui/Refused';
import { useWorkbench } from '../../workbench/Workbench';
import css from './FirstPowerView.module.css';
import { MeterTable } from './MeterTable';
import { PluggingTable } from './PluggingTable';
import { powerSlips } from './powerSlips';
import { judged, saidOf } from './powerNotes';
import { useFirstPower } from './useFirstPower';

/** First power in stages: what to look at, what to measure from which contact to which, and when to stop. */
export function FirstPowerView({ choose }: { choose: ReactNode }) {
  const { facts } = useWorkbench();
  const live = usePowered(isLive);
  const rows = useMemo(() => meterRows(facts), [facts]);
  const stages = useMemo(() => powerStages(facts), [facts]);
  const unknown = openPartsInWords(facts.machine);
  const power = useFirstPower();
  const { notes, voided, note, refused } = power;
  const said = (asked: string, expected: string) => saidOf(notes, asked, expected);
  const measured = rows.filter((row) => judged(row, said(row.id, row.expect))?.fits);
  useArmsSteps([
    ...stages.flatMap(({ title, caution, looks }) =>
      looks.map(({ id, what }) => ({ title, act: what, caution, done: said(id, what) !== undefined })),
    ),
    ...rows.map((row) => ({
      title: row.what,
      act: `From ${row.from} to ${row.to}, ${row.how}. Expect ${row.expect}.`,
      done: judged(row, said(row.id, row.expect))?.fits === true,
    })),
  ]);
  return (
    <>
      <main className="bench">
        {choose}
        <Refused why={refused} />
        {voided[0] && <p>{voidedInWords(voided.length, voided[0].because)}</p>}
        {unknown !== undefined && (
          <p className={css.caution}>
            <b>Caution:</b> a fault in a part that nobody described is not looked for here. Not known yet: {unknown}. Say
            what they are first, or leave them unplugged.
          </p>
        )}
        {stages.map((stage) => (
          <section key={stage.id} className={css.stage} aria-label={stage.title}>
            <h2>{stage.title}</h2>
            <p className={css.caution}>
              <b>Caution:</b> {stage.caution}
            </p>
            <Looks stage={stage} notes={notes ?? []} note={note} />
            <PluggingTable rows={stage.plugs} />
            {stage.id === 'before' && (
              <>
                <h3>
                  Measure, the power off: {measured.length} of {rows.length} fit
                </h3>
                {live && <p className="soft">Ohms are measured with the power off. Switch it off first.</p>}
                <MeterTable rows={rows} unit="Ω" power={power} onBench={!live} />
              </>
            )}
            {stage.rails.length > 0 && (
              <>
                <h3>Measure its rails, the power on</h3>
                {stage.id === 'usb' && <p className="soft">The bench is fed by its supply only: here your own meter speaks.</p>}
                <MeterTable rows={stage.rails} unit="V" power={power} onBench={live && stage.id === 'supply'} />
              </>
            )}
            {stage.stopSigns && (
              <p>
                <b>Stop signs:</b> {stage.stopSigns}
              </p>
            )}
          </section>
        ))}
        <p className="soft">
          Then prove it: nothing is plugged any more, and every part is tried one after the other.
        </p>
      </main>
      <Docket
        title="To settle"
        slips={notes ? powerSlips(rows, stages, notes) : []}
        checking={notes === undefined}
        empty={
          unknown === undefined
            ? 'Everything was looked at and measured, and fits.'
            : 'Everything that is described was looked at and measured, and fits.'
        }
      />
    </>
  );
} // prettier-ignore

const voidedInWords = (many: number, because: string): string =>
  many === 1
    ? `1 tick or reading counts no more: ${because}.`
    : `${many} ticks and readings count no more. Of the first: ${because}.`;

function Looks({ stage, notes, note }: { stage: Stage; notes: readonly PowerNote[]; note: ReturnType<typeof useFirstPower>['note'] }) {
  return (
    <ul className={css.looks}>
      {stage.looks.map(({ id, what }) => (
        <li key={id}>
          <Checkbox
            label={what}
            checked={saidOf(notes, id, what) !== undefined}
            onChange={(event) => void note(id, what, event.currentTarget.checked ? 'seen' : null)}
          />
        </li>
      ))}
    </ul>
  );
} // prettier-ignore

/** What does not fit first, then what is still to be looked at and measured. */
