import type { Build } from '@jolly/contract/endpoints/builds';
import type { Finding } from '@jolly/core/finding/finding';
import type { CostRun } from '@jolly/contract/endpoints/costs';
import { describe, expect, it } from 'vitest';
import { slips } from '../src/stations/build/buildSlips';
import type { CulpritSearch } from '../src/stations/build/useCulprit';
import type { EditedSources } from '../src/stations/build/useEditedSources';
import type { Workbench } from '../src/workbench/Workbench';

const NOW = 7;
const workbench = {
  machine: { id: 'plover' },
  version: NOW,
  chip: { id: 'mica', flash_bytes: 1000, ram_bytes: 1000 },
  board: { routes: [] },
  kit: { options: [{ key: 'speed.x', part: 'x' }] },
  facts: { parts: [] },
  settings: new Map([['speed.x', { value: 9000 }]]),
} as unknown as Workbench;
const done = (part: object = {}) =>
  ({ id: '1', state: 'done', buildId: 'abc', imageHash: 'h1', machineVersion: NOW, changed: [], sizes: { flashBytes: 500, ramBytes: 500 }, ...part }) as unknown as Extract<Build, { state: 'done' }>; // prettier-ignore
const failed = (part: object = {}, failure: object = {}) =>
  ({ id: '2', state: 'failed', machineVersion: NOW, failed: { file: '', line: 0, message: 'no such thing', ...failure }, ...part }) as unknown as Build; // prettier-ignore
const idle: CulpritSearch = {
  running: false,
  progress: undefined,
  refused: undefined,
  start: () => undefined,
  cancel: () => undefined,
};
const fresh: EditedSources = { paths: [], putBack: () => undefined, putting: false, refused: undefined };

interface At {
  newest?: Build;
  image?: Extract<Build, { state: 'done' }>;
  stops?: Finding[];
  inBoard?: string | null;
  search?: Partial<CulpritSearch>;
  edited?: Partial<EditedSources>;
  costs?: CostRun | null;
}
const shown = ({ newest, image, stops = [], inBoard, search, edited, costs }: At) =>
  slips({
    workbench,
    newest: newest ?? image,
    done: image,
    stops,
    inBoard,
    search: { ...idle, ...search },
    edited: { ...fresh, ...edited },
    costs,
  });

describe('a good build', () => {
  it('is ready, leads to Flash, and says what changed', () => {
    expect(shown({ image: done({ changed: ['speed.x'] }) })).toMatchObject([
      {
        severity: 'ready',
        what: 'Build abc is ready',
        why: 'Take it to the board.',
        evidence: ['changed since the image before: speed.x'],
        actions: [{ label: 'To Flash', go: '/machines/plover/flash' }],
      },
    ]);
    expect(shown({ image: done() })[0]?.evidence).toEqual([]);
  });
  it('that the board holds is said to be there', () => {
    expect(shown({ image: done(), inBoard: 'h1' })[0]?.why).toBe('The board has it already.');
    expect(shown({ image: done(), inBoard: 'h0' })[0]?.why).toBe('Take it to the board.');
    expect(shown({ image: done(), inBoard: null })[0]?.why).toBe('Take it to the board.');
  });
  it('of other settings is neither ready nor too large', () => {
    const old = { machineVersion: NOW - 1, sizes: { flashBytes: 5000, ramBytes: 5000 } };
    expect(shown({ image: done(old) })).toEqual([]);
  });
  it('is not waited for where measuring has shown that it does not fit', () => {
    const measured = (flash: number, more: object = {}) =>
      ({ state: 'done', machineVersion: NOW, costs: { whole: { flash, ram: 10 } }, ...more }) as unknown as CostRun; // prettier-ignore
    const [slip] = shown({ costs: measured(1200) });
    expect(slip).toMatchObject({
      id: 'fit.flash-over:mica',
      severity: 'stop',
      actions: [{ label: 'Make it fit' }],
    });
    expect(slip?.evidence).toContain('as it was measured; no image was built of it yet');
    // What fits, what was measured of other settings, what is being measured and what never was say nothing.
    expect(shown({ costs: measured(900) })).toEqual([]);
    expect(shown({ costs: measured(1200, { machineVersion: NOW - 1 }) })).toEqual([]);
    expect(shown({ costs: { state: 'running', machineVersion: NOW } as unknown as CostRun })).toEqual([]);
    expect(shown({ costs: null })).toEqual([]);
    // An image of these settings knows better.
    expect(shown({ image: done(), costs: measured(1200) }).map(({ id }) => id)).toEqual(['take']);
  });
  it('that does not fit is never ready, cannot be set aside, and leads to a way to make it fit', () => {
    const found = shown({ image: done({ sizes: { flashBytes: 1001, ramBytes: 5000 } }) });
    expect(found.map(({ id }) => id)).toEqual(['fit.flash-over:mica', 'fit.ram-over:mica']);
    for (const slip of found) {
      expect(slip.severity).toBe('stop');
      expect(slip.finding).toBeUndefined();
      expect(slip.actions).toEqual([{ label: 'Make it fit', go: '/machines/plover/build?view=fit' }]);
    }
  });
  it('at the brim is ready, and mended', () => {
    const found = shown({ image: done({ sizes: { flashBytes: 990, ramBytes: 0 } }) });
    expect(found.map(({ id, severity }) => [id, severity])).toEqual([
      ['fit.brim:mica', 'mend'],
      ['take', 'ready'],
    ]);
  });
});

describe('a build that failed', () => {
  it('tells the first error, where it is, and leads to the setting behind it', () => {
    const newest = failed({}, { file: 'guards.h', line: 3, message: 'needs more than 500000 steps', key: 'speed.x' }); // prettier-ignore
    expect(shown({ newest })).toMatchObject([
      {
        severity: 'stop',
        what: 'The build failed. A value is out of what the firmware can do.',
        why: expect.stringContaining('The first error: needs more than 500000 steps.') as unknown,
        evidence: ['guards.h, line 3', 'setting speed.x: 9000'],
        actions: [{ label: 'Go to this setting', go: '/machines/plover/settings?part=x&key=speed.x' }],
      },
    ]);
  });
  it('in words that nobody explains is told in the compiler’s own', () => {
    expect(shown({ newest: failed() })[0]).toMatchObject({ what: 'The build failed.', evidence: [], actions: [] }); // prettier-ignore
    expect(shown({ newest: failed() })[0]?.why).toContain('the compiler’s own words');
  });
  it('of a machine that was changed since is a note, without the value of today', () => {
    const newest = failed({ machineVersion: NOW - 1 }, { message: 'needs more than 500000 steps', key: 'speed.x' }); // prettier-ignore
    const [slip] = shown({ newest });
    expect(slip).toMatchObject({ severity: 'note', evidence: [] });
    expect(slip?.why).toContain('build again to see');
  });
  it('after two changes or more is looked for; after one there is nothing to look for', () => {
    const labels = (changed: string[], culprit?: object) =>
      shown({ newest: failed({ changed, ...(culprit && { culprit }) }) })[0]?.actions.map(
        ({ label }) => label,
      );
    expect(labels(['a'])).toEqual([]);
    expect(labels(['a', 'b'])).toEqual(['Find the change that breaks it']);
    expect(labels(['a', 'b'], { keys: ['a'], builds: 3 })).toEqual([]);
  });
  it('names at most six changes, and counts the rest', () => {
    const evidence = (count: number) =>
      shown({ newest: failed({ changed: Array.from({ length: count }, (_, at) => `c${at}`) }) })[0]?.evidence;
    expect(evidence(6)).toEqual(['changed since the last good build: c0, c1, c2, c3, c4, c5']);
    expect(evidence(8)).toEqual(['changed since the last good build: c0, c1, c2, c3, c4, c5 and 2 more']);
  });
  it('says what was found to break it, or that no setting does', () => {
    const evidence = (culprit: object) => shown({ newest: failed({ changed: ['a', 'b'], culprit }) })[0]?.evidence; // prettier-ignore
    expect(evidence({ keys: ['a', 'b'], builds: 4 })).toEqual(['the smallest change that breaks it, found in 4 builds: a with b']); // prettier-ignore
    expect(evidence({ machine: true, builds: 2 })?.[0]).toContain('with every setting as it was it breaks too'); // prettier-ignore
  });
  it('that is being looked at says how far, and can be left off', () => {
    const [slip] = shown({
      newest: failed({ changed: ['a', 'b'] }),
      search: { running: true, progress: { done: 2, total: 5, doing: 'a' }, refused: 'the disk is full' },
    });
    expect(slip?.evidence).toEqual(expect.arrayContaining(['building a, 2 built', 'the disk is full']));
    expect(slip?.actions.map(({ label }) => label)).toEqual(['Stop looking']);
  });
});

describe('a build that did not end', () => {
  it.each([
    ['cancelled', 'You cancelled the last build.', 'Sources already compiled are kept'],
    ['interrupted', 'The last build was interrupted.', 'The program ended while it ran'],
  ])('%s is said so, beside the image of before', (state, what, why) => {
    const found = shown({ newest: { id: '3', state } as unknown as Build, image: done() });
    expect(found[0]).toMatchObject({ id: 'ended', what, why: expect.stringContaining(why) as unknown });
    expect(found[1]?.id).toBe('take');
  });
});

describe('sources that are not as they came', () => {
  it('are named before everything else, and can be put back', () => {
    let put = 0;
    const [one] = shown({ image: done(), edited: { paths: ['core/a.c'], putBack: () => (put += 1) } });
    expect(one).toMatchObject({ what: 'core/a.c is not as it came.', severity: 'mend', evidence: ['core/a.c'] }); // prettier-ignore
    const [action] = one?.actions ?? [];
    if (action && 'run' in action) void action.run();
    expect(put).toBe(1);
    const [many] = shown({ edited: { paths: ['a', 'b', 'c', 'd', 'e', 'f', 'g'], refused: 'read-only' } });
    expect(many).toMatchObject({ what: '7 sources are not as they came.', evidence: ['a', 'b', 'c', 'd', 'e', 'f', 'read-only'] }); // prettier-ignore
  });
});
