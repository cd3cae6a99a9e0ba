import { SegmentedControl } from '@mantine/core';
import type { Heights } from '@jolly/core/plate/heights';
import { Suspense, useState } from 'react';
import { loadedLater } from '../../../ui/loadedLater';
import css from './Map.module.css';
import { MapSlice } from './MapSlice';

/** The library that draws contours comes when there is a map. */
const MapContours = loadedLater(() => import('./MapContours'));
const MapSurface = loadedLater(() => import('./MapSurface'));

/** A map as contours or as a surface, sliced along a line, and read off at any place. */
export function MapPicture({ map }: { map: Heights }) {
  const [as, setAs] = useState<'contours' | 'surface'>('contours');
  const [place, setPlace] = useState({
    x: ((map.xs[0] ?? 0) + (map.xs.at(-1) ?? 0)) / 2,
    y: ((map.ys[0] ?? 0) + (map.ys.at(-1) ?? 0)) / 2,
  });
  return (
    <div className={css.map}>
      <SegmentedControl
        size="xs"
        aria-label="How the map is drawn"
        value={as}
        onChange={(value) => setAs(value === 'surface' ? 'surface' : 'contours')}
        data={[
          { value: 'contours', label: 'Contours' },
          { value: 'surface', label: 'Surface' },
        ]}
      />
      <Suspense fallback={<p className="soft">The map is drawn.</p>}>
        {as === 'contours' ? (
          <MapContours map={map} place={place} setPlace={setPlace} />
        ) : (
          <MapSurface map={map} />
        )}
      </Suspense>
      <MapSlice map={map} place={place} />
    </div>
  );
}
