import type { Entry } from '@jolly/contract/endpoints/machines';
import { optionOf } from '@jolly/core/kit/optionOf';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { SettingName } from '../../ui/SettingName';
import { dayOf, timeOf } from '../../ui/when';
import css from './LogbookStation.module.css';

export const KIND_WORD: Record<Entry['kind'], string> = {
  note: 'note',
  job: 'job',
  kept: 'kept',
  settings: 'settings',
  build: 'build',
  flash: 'flash',
  proof: 'proof',
  calibration: 'measured',
};

/** One line of the logbook: when, what, and what it rests on; a build tells from which settings it was made. */
export function EntryLine({ entry }: { entry: Entry }) {
  const { machine } = useWorkbench();
  const [search, setSearch] = useSearchParams();
  const isOpen = search.get('entry') === String(entry.id);
  const toggle = () =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (isOpen) next.delete('entry');
        else next.set('entry', String(entry.id));
        return next;
      },
      { replace: true },
    );
  return (
    <>
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
          <button aria-expanded={isOpen} onClick={toggle}>
            From which settings
          </button>
        )}
        {isOpen && entry.detail.buildId && (
          <BuildSettings buildId={entry.detail.buildId} changed={entry.detail.changed ?? []} />
        )}
      </div>
    </>
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
  const { kit } = useWorkbench();
  return (
    <ul data-strong={strong}>
      {settings.map((setting) => (
        <li key={setting.key}>
          <span>
            <SettingName option={optionOf(kit, setting.key)} settingKey={setting.key} />
          </span>{' '}
          <b>{settingInWords(optionOf(kit, setting.key), setting.value)}</b>
        </li>
      ))}
    </ul>
  );
}
