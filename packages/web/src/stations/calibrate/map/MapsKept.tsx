import { Button, FileButton, NativeSelect } from '@mantine/core';
import type { StoredCalibration } from '@jolly/contract/endpoints/calibrations';
import { mapAsCsv, mapDifference, readMapCsv, turnedAbout } from '@jolly/core/formats/mapCsv';
import type { BedMap } from '@jolly/core/machine/bedMap';
import { useState } from 'react';
import { useDropped } from '../../../app/drop/dropped';
import { SaveCsv } from '../../../ui/SaveCsv';
import { Refused } from '../../../ui/Refused';
import { useAct } from '../../../ui/useAct';
import { dayOf } from '../../../ui/when';
import { useWorkbench } from '../../../workbench/Workbench';
import css from './Map.module.css';
import { MapPicture } from './MapPicture';

/** The map in the machine file, and those on record: shown, compared (the plate turned, too), and as CSV in and out. */
export function MapsKept({ maps, now }: { maps: readonly StoredCalibration[]; now: BedMap | undefined }) {
  const { machine, change } = useWorkbench();
  const { refused, act } = useAct();
  const [one, setOne] = useState('now');
  const [other, setOther] = useState('');
  const [turned, setTurned] = useState(false);
  const all = new Map<string, { label: string; map: BedMap }>([
    ...(now ? [['now', { label: 'in the machine file', map: now }] as const] : []),
    ...maps.flatMap(({ id, at, map }) => (map ? [[String(id), { label: `taken ${dayOf(at)}`, map }] as const] : [])),
  ]); // prettier-ignore
  const shown = all.get(one) ?? [...all.values()][0];
  const beside = all.get(other);
  const compared = shown && beside && mapDifference(shown.map, turned ? turnedAbout(beside.map) : beside.map);
  const take = (file: File) =>
    act(async () => {
      const read = readMapCsv(await file.text());
      if ('problem' in read) return `${file.name}: ${read.problem}`;
      return change(`Map from ${file.name}`, [{ path: ['bed_map'], value: read.map }]);
    });
  useDropped('map', (file) => void take(file));
  const options = [...all.entries()].map(([value, { label }]) => ({ value, label }));
  return (
    <section aria-label="Maps on record">
      <h3>Maps</h3>
      {all.size === 0 && <p className="soft">No map is in the machine file, and none is on record.</p>}
      <div className="row">
        {all.size > 0 && (
          <NativeSelect
            size="xs"
            label="Show the map"
            data={options}
            value={one}
            onChange={(event) => setOne(event.currentTarget.value)}
          />
        )}
        {all.size > 1 && (
          <NativeSelect
            size="xs"
            label="Against the one"
            data={[{ value: '', label: 'none' }, ...options.filter(({ value }) => value !== one)]}
            value={other}
            onChange={(event) => setOther(event.currentTarget.value)}
          />
        )}
        {beside && (
          <NativeSelect
            size="xs"
            label="The plate was"
            data={[
              { value: 'same', label: 'laid the same way' },
              { value: 'turned', label: 'turned by half a turn' },
            ]}
            value={turned ? 'turned' : 'same'}
            onChange={(event) => setTurned(event.currentTarget.value === 'turned')}
          />
        )}
        {shown && <SaveCsv name={`${machine.id}-map.csv`} rows={() => mapAsCsv(shown.map)} />}
        <FileButton accept=".csv,text/csv" onChange={(file) => file && void take(file)}>
          {(props) => (
            <Button {...props} size="xs" variant="default">
              Open a CSV
            </Button>
          )}
        </FileButton>
      </div>
      <Refused why={refused} />
      {compared && (
        <p role="status">
          {`They differ by up to ${compared.worst.toFixed(3)} mm once their mean is taken out; `}
          {compared.worst < 0.05
            ? 'that is the same plate.'
            : turned
              ? 'what turned along with it is the plate’s, what stayed is the frame’s.'
              : 'something has changed between them.'}
        </p>
      )}
      {shown && (
        <div className={css.beside}>
          <MapPicture map={shown.map} />
          {compared && <MapPicture map={compared.map} />}
        </div>
      )}
    </section>
  );
}
