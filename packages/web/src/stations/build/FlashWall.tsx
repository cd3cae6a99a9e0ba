import type { Sizes } from '@jolly/core/build/sizes';
import { useState } from 'react';
import css from './FlashWall.module.css';

/** What the sources of a folder are about; a folder without words here is called by its name. */
const FOLDERS: Readonly<Record<string, string>> = {
  bed: 'plate and map',
  card: 'card',
  core: 'start, stop, settings',
  drivers: 'drivers',
  fans: 'fans',
  features: 'list of features',
  heat: 'heaters and guards',
  job: 'pause and card prints',
  motion: 'motion',
  panel: 'display',
  probe: 'probe',
  proto: 'commands and replies',
  servo: 'servos',
};
const REST = 'header and tables';
const WORDS = 'words and constants';
/** Bricks in a wall that can still be pointed at. */
const MOST_BRICKS = 420;
const BRICK_SIZES = [32, 64, 128, 256, 512, 1024, 2048, 4096];

interface Group {
  name: string;
  bytes: number;
  sources: { name: string; bytes: number }[];
}

/** The flash as a wall of bricks of one size, laid by what the firmware does; point at a brick, or go through the list. */
export function FlashWall({ sizes, has }: { sizes: Sizes; has: number }) {
  const [at, setAt] = useState<string>();
  const groups = groupsOf(sizes);
  const total = Math.max(has, sizes.flashBytes);
  const brick = BRICK_SIZES.find((bytes) => total / bytes <= MOST_BRICKS) ?? 8192;
  const bricks = bricksOf(groups, brick, total);
  const shown = groups.find(({ name }) => name === at);
  return (
    <section className={css.wall} aria-label="What takes the room">
      <h3>
        What takes the room <small>one brick is {brick} bytes</small>
      </h3>
      <div className={css.two}>
        <div
          className={css.bricks}
          role="img"
          aria-label={`${sizes.flashBytes} of ${has} bytes of flash are laid`}
          onMouseLeave={() => setAt(undefined)}
        >
          {bricks.map((group, index) => (
            <i
              // A brick is known by its place alone.
              key={index}
              data-free={group === undefined}
              data-over={index * brick >= has}
              data-at={group !== undefined && group === at}
              data-odd={group !== undefined && groups.findIndex(({ name }) => name === group) % 2 === 1}
              title={group ?? 'free'}
              onMouseEnter={() => setAt(group)}
            />
          ))}
        </div>
        <ol className={css.groups}>
          {groups.map((group) => (
            <li key={group.name}>
              <button
                data-at={group.name === at}
                aria-pressed={group.name === at}
                onClick={() => setAt(group.name === at ? undefined : group.name)}
                onFocus={() => setAt(group.name)}
              >
                <span>{group.name}</span>
                <b className="figures">{group.bytes.toLocaleString('en')}</b>
              </button>
            </li>
          ))}
        </ol>
      </div>
      <p className={css.sources} aria-live="polite">
        {shown
          ? shown.sources.length > 0
            ? `${shown.name}: ${shown.sources.map(({ name, bytes }) => `${name} ${bytes.toLocaleString('en')}`).join(' · ')}`
            : `${shown.name}: ${shown.bytes.toLocaleString('en')} bytes`
          : 'Point at a brick, or choose a line, to see its sources in bytes.'}
      </p>
    </section>
  );
}

function groupsOf({ bySource, flashBytes }: Sizes): Group[] {
  const found = new Map<string, Group>();
  for (const source of bySource) {
    if (source.bytes === 0) continue;
    const name = groupName(source.name);
    const group = found.get(name) ?? { name, bytes: 0, sources: [] };
    group.bytes += source.bytes;
    group.sources.push(source);
    found.set(name, group);
  }
  const groups = [...found.values()].sort((a, b) => b.bytes - a.bytes);
  const rest = flashBytes - groups.reduce((sum, { bytes }) => sum + bytes, 0);
  return rest > 0 ? [...groups, { name: REST, bytes: rest, sources: [] }] : groups;
}

const groupName = (source: string): string => {
  if (source === '(words)') return WORDS;
  const folder = source.slice(0, Math.max(0, source.indexOf('/')));
  return FOLDERS[folder] ?? (folder || source);
};

/** The name of the group each brick belongs to, by where its middle lies; undefined where it is free. */
function bricksOf(groups: readonly Group[], brick: number, total: number): (string | undefined)[] {
  const ends: { name: string; end: number }[] = [];
  for (const { name, bytes } of groups) ends.push({ name, end: (ends.at(-1)?.end ?? 0) + bytes });
  return Array.from({ length: Math.ceil(total / brick) }, (_, index) => {
    const middle = (index + 0.5) * brick;
    return ends.find(({ end }) => middle < end)?.name;
  });
}
