import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, machineFileUrl } from '../../api/api';
import type { Entry } from '@jolly/contract/endpoints/machines';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useStation } from '../../app/frame/StationContext';
import { newestDone } from '@jolly/session/newestBuild';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { dayOf, timeOf } from '../../ui/when';
import { valueInWords } from '@jolly/session/inWords';
import css from './LogbookStation.module.css';
import { useDraft } from '../../ui/useDraft';
import { useNote } from './useNote';
import { useUpkeepRecord } from './useUpkeepRecord';

const KIND_WORD: Record<Entry['kind'], string> = {
  note: 'note',
  job: 'job',
  kept: 'kept',
  settings: 'settings',
  build: 'build',
  flash: 'flash',
  proof: 'proof',
  calibration: 'measured',
};
const FIRST_SHOWN = 100;

/** What happened to this machine, newest first; a build tells from which settings it was made. */
export function LogbookStation() {
  const { machine } = useWorkbench();
  const station = useStation();
  const [search, setSearch] = useSearchParams();
  const [all, setAll] = useState(false);
  const open = search.get('entry') ?? undefined;
  const shown = all ? station.entries : station.entries.slice(0, FIRST_SHOWN);
  const done = newestDone(station.builds);
  const running = station.board?.image;
  const slips: Slip[] = running
    ? [
        {
          id: 'runs',
          severity: done?.imageHash === station.board?.imageHash ? 'note' : 'mend',
          what: `The board holds ${running.name}, build ${running.buildId}.`,
          why:
            done?.imageHash === station.board?.imageHash
              ? 'That is the image you built last.'
              : `You have built ${done?.buildId ?? 'another image'} since; it is not flashed.`,
          evidence: [`kit ${running.kitVersion}, target ${running.target}`],
          actions: [],
        },
      ]
    : [];
  const upkeep = useUpkeepRecord();
  const recordSlips = useRecordSlips(upkeep);

  return (
    <>
      <main className="bench">
        <h2>What happened to {machine.name}</h2>
        <OwnNote machineId={machine.id} />
        {station.entries.length === 0 && (
          <p className="soft">Nothing yet. Builds, flashes and proofs are written here by themselves.</p>
        )}
        <ol className={css.line}>
          {shown.map((entry) => (
            <li key={entry.id} data-kind={entry.kind}>
              <time className="figures" dateTime={entry.at}>
                {dayOf(entry.at)} <small>{timeOf(entry.at)}</small>
              </time>
              <b>{KIND_WORD[entry.kind]}</b>
              <div>
                <p>{entry.summary}</p>
                {entry.detail.evidence && entry.detail.evidence.length > 0 && (
                  <p className={css.evidence}>{entry.detail.evidence.join(' · ')}</p>
                )}
                {entry.detail.imageHash && (
                  <Link to={`/machines/${machine.id}/flash?route=files&image=${entry.detail.imageHash}`}>
                    Save or flash its image
                  </Link>
                )}{' '}
                {entry.detail.buildId && (
                  <button
                    aria-expanded={open === String(entry.id)}
                    onClick={() =>
                      setSearch(open === String(entry.id) ? {} : { entry: String(entry.id) }, {
                        replace: true,
                      })
                    }
                  >
                    From which settings
                  </button>
                )}
                {open === String(entry.id) && entry.detail.buildId && (
                  <BuildSettings buildId={entry.detail.buildId} changed={entry.detail.changed ?? []} />
                )}
              </div>
            </li>
          ))}
        </ol>
        {!all && station.entries.length > FIRST_SHOWN && (
          <button className={css.more} onClick={() => setAll(true)}>
            Show all {station.entries.length} lines
          </button>
        )}
      </main>
      <Docket
        title="What runs, and what is due"
        slips={[...slips, ...recordSlips.slips]}
        checking={recordSlips.checking}
        empty=""
      >
        <p>
          <a href={machineFileUrl(machine.id)} download>
            Save the machine file
          </a>
        </p>
      </Docket>
    </>
  );
}

/** A line of one's own. */
function OwnNote({ machineId }: { machineId: string }) {
  const [text, setText] = useDraft(`note:${machineId}`, '');
  const { write, said } = useNote();
  return (
    <form
      className={css.note}
      onSubmit={(event) => {
        event.preventDefault();
        void write(machineId, text.trim()).then((kept) => kept && setText(undefined));
      }}
    >
      <TextInput
        aria-label="A note of your own"
        placeholder="A note of your own: what you did, saw or measured"
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Button type="submit" variant="default" disabled={text.trim() === ''}>
        Write it down
      </Button>
      {said && <p role="status">{said}</p>}
    </form>
  );
}

/** The settings a build was made from: what changed since the one before, then what was not plain kit. */
function BuildSettings({ buildId, changed }: { buildId: string; changed: string[] }) {
  const input = useQuery({
    queryKey: ['input', buildId],
    queryFn: () => api.buildInput({ id: buildId }),
    staleTime: Infinity,
  });
  if (!input.data) return <p className="soft">{input.error ? input.error.message : 'Looking it up.'}</p>;
  const settings = input.data.settings.filter((setting) => setting.source !== 'kit');
  const first = settings.filter((setting) => changed.includes(setting.key));
  const rest = settings.filter((setting) => !changed.includes(setting.key));
  return (
    <div className={css.settings}>
      {first.length > 0 && <p>Changed since the image before:</p>}
      <SettingList settings={first} strong />
      <p>{first.length > 0 ? 'The others' : 'All'} that this machine decides:</p>
      <SettingList settings={rest} />
    </div>
  );
}

type BuiltSetting = Awaited<ReturnType<typeof api.buildInput>>['settings'][number];

function SettingList({ settings, strong = false }: { settings: BuiltSetting[]; strong?: boolean }) {
  return (
    <ul data-strong={strong}>
      {settings.map((setting) => (
        <li key={setting.key}>
          {setting.key} <b>{valueInWords(setting.value)}</b>
        </li>
      ))}
    </ul>
  );
}
