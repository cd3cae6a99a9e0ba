import { settingInWords } from '@jolly/core/kit/settingInWords';
import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/api';
import { SettingName } from '../../ui/SettingName';
import css from './Fleet.module.css';
import { useOptions } from './useOptions';

interface Named {
  id: string;
  name: string;
}

/** The settings in which two machines differ. */
export function Apart({ one, other }: { one: Named; other: Named }) {
  const { data, error } = useQuery({
    queryKey: ['apart', one.id, other.id],
    queryFn: () => api.settingsApart({ id: one.id, other: other.id }),
  });
  const options = useOptions();
  return (
    <section className={css.part} aria-label="Settings apart">
      <h2>{`Where ${one.name} and ${other.name} differ`}</h2>
      {!data ? (
        <p className="soft" role="status">
          {error ? `It cannot be read: ${error.message}` : 'Both are worked out.'}
        </p>
      ) : data.length === 0 ? (
        <p>Their settings are the same, but for size, steps and directions.</p>
      ) : (
        <>
          <p className="soft">{`${data.length} settings; size, steps and directions are each machine's own and left out.`}</p>
          <div className={css.tall}>
            <table className="lines">
              <thead>
                <tr>
                  <th scope="col">Setting</th>
                  <th scope="col">{one.name}</th>
                  <th scope="col">{other.name}</th>
                </tr>
              </thead>
              <tbody>
                {data.map(({ key, here, there }) => (
                  <tr key={key}>
                    <th scope="row">
                      <SettingName option={options.get(key)} settingKey={key} />
                    </th>
                    <td className="figures">
                      {here === null ? 'has none' : settingInWords(options.get(key), here)}
                    </td>
                    <td className="figures">
                      {there === null ? 'has none' : settingInWords(options.get(key), there)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </section>
  );
}
