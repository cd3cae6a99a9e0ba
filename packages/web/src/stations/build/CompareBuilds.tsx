import type { Build } from '@jolly/contract/endpoints/builds';
import { compareFiles } from '@jolly/core/build/fileDifferences';
import { optionOf } from '@jolly/core/kit/optionOf';
import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/api';
import { SettingName } from '../../ui/SettingName';
import { ValueChange } from '../../ui/ValueChange';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import css from './HistoryView.module.css';

type Done = Extract<Build, { state: 'done' }>;

/** Two builds held against each other: image, settings, sizes by source, generated files. The older one comes first. */
export function CompareBuilds({ one, other }: { one: Done; other: Done }) {
  const { kit } = useWorkbench();
  const [old, next] = one.startedAt < other.startedAt ? [one, other] : [other, one];
  const inputs = useQuery({
    queryKey: ['inputs', old.id, next.id],
    queryFn: () => Promise.all([api.buildInput({ id: old.id }), api.buildInput({ id: next.id })]),
    meta: { what: 'what the two builds were made from' },
    staleTime: Infinity,
  }).data;
  if (!inputs) return <p className="soft">Reading both.</p>;
  const [was, is] = inputs;
  const before = new Map(was.settings.map(({ key, value }) => [key, value]));
  const after = new Map(is.settings.map(({ key, value }) => [key, value]));
  const settings = [...new Set([...before.keys(), ...after.keys()])].filter(
    (key) => before.get(key) !== after.get(key),
  );
  const files = compareFiles(was.files, is.files).filter(({ differs }) => differs > 0);
  const sources = sourceDifferences(old, next);
  const same = old.imageHash === next.imageHash;
  return (
    <section className={css.compare} aria-label="Compared">
      <h3>
        {old.buildId} of {whenOf(old.startedAt)}, and {next.buildId} of {whenOf(next.startedAt)}
      </h3>
      <p>
        {same ? 'The images are the same, byte for byte. ' : 'The images differ. '}
        Flash {signed(next.sizes.flashBytes - old.sizes.flashBytes)} bytes, RAM{' '}
        {signed(next.sizes.ramBytes - old.sizes.ramBytes)} bytes.
      </p>
      <div className={css.columns}>
        <div>
          <h4>Settings</h4>
          {settings.length === 0 && <p className="soft">All the same.</p>}
          <ul>
            {settings.map((key) => (
              <li key={key}>
                <SettingName option={optionOf(kit, key)} settingKey={key} />{' '}
                <ValueChange option={optionOf(kit, key)} from={before.get(key)} to={after.get(key)} />
              </li>
            ))}
          </ul>
        </div>
        <div>
          <h4>Sizes by source</h4>
          {sources.length === 0 && <p className="soft">All the same.</p>}
          <ul>
            {sources.map(({ name, by }) => (
              <li key={name}>
                <code>{name}</code> {signed(by)}
              </li>
            ))}
          </ul>
        </div>
        <div>
          <h4>Generated files</h4>
          {files.length === 0 && <p className="soft">All the same.</p>}
          <ul>
            {files.map(({ path, differs }) => (
              <li key={path}>
                <code>{path}</code> {differs} {differs === 1 ? 'line' : 'lines'}
              </li>
            ))}
          </ul>
        </div>
      </div>
    </section>
  );
}

const signed = (by: number) =>
  by === 0 ? '± 0' : `${by > 0 ? '+' : '−'} ${Math.abs(by).toLocaleString('en')}`;

function sourceDifferences(old: Done, next: Done): { name: string; by: number }[] {
  const bytes = new Map(old.sizes.bySource.map(({ name, bytes: was }) => [name, -was]));
  for (const { name, bytes: is } of next.sizes.bySource) bytes.set(name, (bytes.get(name) ?? 0) + is);
  return [...bytes]
    .map(([name, by]) => ({ name, by }))
    .filter(({ by }) => by !== 0)
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
}
