import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { machineFileUrl, recordFileUrl } from '../../api/api';
import { Docket } from '../../app/docket/Docket';
import { FigureCurves } from '../calibrate/FigureCurves';
import { useCalibrations } from '../calibrate/useCalibrations';
import { CsvMark } from '../../ui/CsvMark';
import { markedCsv } from '../../ui/markedCsv';
import { SectionList } from '../../ui/SectionList';
import { useWatched } from '../../ui/useWatched';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import css from './LogbookStation.module.css';
import { OwnNote } from './OwnNote';
import { SideBySide } from './SideBySide';
import { TimeLine } from './TimeLine';
import { useUpkeepRecord } from './useUpkeepRecord';
import { WallCard } from './WallCard';
import { WhatRuns } from './WhatRuns';

const VIEWS = [
  { id: 'line', title: 'Time line' },
  { id: 'beside', title: 'Side by side' },
  { id: 'values', title: 'Values over time' },
  { id: 'card', title: 'Card for the wall' },
] as const;

/** The record of a machine: what runs on it, what happened, two states side by side, values over time, and a card to print. */
export function LogbookStation() {
  const { machine } = useWorkbench();
  const [search] = useSearchParams();
  const view = VIEWS.find(({ id }) => id === search.get('view'))?.id ?? 'line';
  // A state, not a ref: the time line is laid out anew once it is there.
  const [main, setMain] = useState<HTMLElement | null>(null);
  const mark = useWatched(markedCsv.on);
  const recordSlips = useRecordSlips(useUpkeepRecord());
  return (
    <>
      <main className="bench" ref={setMain}>
        <h2>What happened to {machine.name}</h2>
        <WhatRuns />
        <SectionList
          label="Views of the logbook"
          entries={VIEWS}
          at={view}
          leads={(id) => (id === 'line' ? {} : { view: id })}
          lying
        />
        {view === 'line' && (
          <>
            <OwnNote machineId={machine.id} />
            <TimeLine scroller={main} />
          </>
        )}
        {view === 'beside' && <SideBySide />}
        {view === 'values' && <Values />}
        {view === 'card' && <WallCard />}
      </main>
      <Docket title="What is due" slips={recordSlips.slips} checking={recordSlips.checking} empty="">
        <p className={css.files}>
          <a href={machineFileUrl(machine.id)} download>
            Save the machine file
          </a>
          <a href={recordFileUrl(machine.id, 'csv', mark)} download>
            Save the record as CSV
          </a>
          <CsvMark />
          <a href={recordFileUrl(machine.id, 'md')} download>
            Save it as Markdown
          </a>
        </p>
      </Docket>
    </>
  );
}

/** Everything that was measured more than once, as curves. */
function Values() {
  const { machine } = useWorkbench();
  const { data, error } = useCalibrations(machine.id);
  if (!data)
    return (
      <p className="soft" role="status">
        {error ? `What was measured cannot be read: ${error.message}` : 'What was measured is looked up.'}
      </p>
    );
  if (data.calibrations.every(({ figures }) => figures.length === 0))
    return <p className="soft">No number is on record. What you measure at Calibrate is drawn here.</p>;
  return <FigureCurves past={data.calibrations} />;
}
