import type { Pin, StoredPhoto } from '@jolly/contract/endpoints/photos';
import { describe, expect, it } from 'vitest';
import { type KeptClient, type KeptDeed, turnKept } from '../src/keptDeeds';

const pin = (label: string): Pin => ({ x: 0.5, y: 0.5, label });
const labels = (pins: readonly Pin[]) => pins.map(({ label }) => label);

/** A server that writes down what it is asked, holds one photo, and counts up what it keeps. */
function keeper(pins: readonly Pin[] = []) {
  const asked: string[] = [];
  let [photo, counted] = [{ id: 7, title: 'Bed plug', pins } as StoredPhoto, 40];
  const kept = (what: string) => {
    asked.push(what);
    counted += 1;
    return counted;
  };
  const client = {
    photos: () => Promise.resolve([photo]),
    savePhoto: (_at: unknown, named: Pick<StoredPhoto, 'title' | 'pins'>) => {
      photo = { ...photo, ...named };
      return Promise.resolve(photo);
    },
    removePhoto: ({ number }: { number: string }) => Promise.resolve(void asked.push(`remove ${number}`)),
    putPhotoBack: ({ number }: { number: string }) => Promise.resolve(void asked.push(`back ${number}`)),
    addNote: (_at: unknown, { summary }: { summary: string }) =>
      Promise.resolve([{ id: kept(`note ${summary}`) }]),
    takeNoteBack: ({ number }: { number: string }) => Promise.resolve(void asked.push(`no note ${number}`)),
    addCalibration: (_at: unknown, { calibration }: { calibration: string }) =>
      Promise.resolve({ calibrations: [{ id: kept(`measured ${calibration}`) }] }),
    takeCalibrationBack: ({ number }: { number: string }) =>
      Promise.resolve(void asked.push(`not measured ${number}`)),
  } as unknown as KeptClient;
  return { client, asked, photo: () => photo };
}

describe('what is kept beside file and job', () => {
  it.each<[string, KeptDeed, string[]]>([
    ['a photo that was added', { kind: 'photo', label: '', photo: 7, was: 'added' }, ['remove 7', 'back 7']],
    ['a photo that was removed', { kind: 'photo', label: '', photo: 7, was: 'removed' }, ['back 7', 'remove 7']],
  ])('%s goes back and forth', async (_, deed, asked) => {
    const server = keeper();
    for (const way of ['undo', 'redo'] as const)
      expect(await turnKept(server.client, 'plover', deed, way)).toEqual(deed);
    expect(server.asked).toEqual(asked);
  }); // prettier-ignore

  it('a note and a measurement that are done again go back by the numbers they have then', async () => {
    const server = keeper();
    const measured = { calibration: 'steps-x' } as Extract<KeptDeed, { kind: 'measured' }>['measured'];
    for (const deed of [
      { kind: 'note', label: '', text: 'oiled', entry: 3 },
      { kind: 'measured', label: '', measured, calibration: 9 },
    ] as const) {
      await turnKept(server.client, 'plover', deed, 'undo');
      const again = await turnKept(server.client, 'plover', deed, 'redo');
      await turnKept(server.client, 'plover', again, 'undo');
    }
    expect(server.asked).toEqual([
      'no note 3', 'note oiled', 'no note 41', 'not measured 9', 'measured steps-x', 'not measured 42',
    ]); // prettier-ignore
  });

  it('a pin goes alone: those that others made meanwhile stay', async () => {
    const server = keeper([pin('a'), pin('b'), pin('other')]);
    const deed: KeptDeed = { kind: 'photo', label: '', photo: 7, was: { pinned: { before: [pin('a'), pin('gone')], after: [pin('a'), pin('b')] } } }; // prettier-ignore
    await turnKept(server.client, 'plover', deed, 'undo');
    expect(labels(server.photo().pins)).toEqual(['a', 'other', 'gone']);
    await turnKept(server.client, 'plover', deed, 'redo');
    expect(labels(server.photo().pins)).toEqual(['a', 'other', 'b']);
    expect(server.photo().title).toBe('Bed plug');
  });
});
