import { cut, onOneLine } from '@jolly/core/text/plainText';
import { useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { shrinkPhoto } from './shrinkPhoto';

/** A file's name without its ending, as a title can be. */
const titleOf = (name: string) => cut(onOneLine(name.replace(/\.[^.]*$/, '')).trim(), 80) || 'photo';

/** Keeps photos with the machine, one after the other, until one is refused; each can be taken back. */
export function useAddPhotos(onAdded: (id: number) => void = () => undefined) {
  const { machine, deeds } = useWorkbench();
  const client = useQueryClient();
  const { busy, refused, act } = useAct(() => askAnewOf(client, machine.id, 'photos'));
  const add = (files: readonly File[]) =>
    deeds.during(
      act(async () => {
        for (const file of files) {
          const { picture } = await shrinkPhoto(file);
          const photo = await api.addPhoto({ id: machine.id, title: titleOf(file.name) }, picture);
          onAdded(photo.id);
          deeds.did({ kind: 'photo', label: `Photo added: ${photo.title}`, photo: photo.id, was: 'added' });
        }
      }),
    );
  return { add, busy, refused };
}
