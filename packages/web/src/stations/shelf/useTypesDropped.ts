import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { askAnew } from '../../api/held';
import { useDropped } from '../../app/drop/dropped';
import type { useAct } from '../../ui/useAct';

/** Files of boards, chips and parts that are let go over the shelf join the catalogue; what was added is said. */
export function useTypesDropped(act: ReturnType<typeof useAct>['act']): string | undefined {
  const client = useQueryClient();
  const [said, setSaid] = useState<string>();
  const add = (what: string, take: (body: { file: string }) => Promise<{ name: string }>) => (file: File) =>
    void act(async () => {
      const { name } = await take({ file: await file.text() });
      await askAnew(client, 'catalogue', 'own-types');
      setSaid(`${name} is among the ${what} you can choose.`);
    });
  useDropped('board', add('boards', api.addBoard));
  useDropped('chip', add('chips', api.addChip));
  useDropped('part', add('parts', api.addPart));
  return said;
}
