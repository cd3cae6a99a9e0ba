import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { whyOf } from '@jolly/core/text/whyOf';
import type { KeptKind } from '@jolly/core/image/wayBack';
import { useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { tape } from '../../app/tape/tape';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf } from '../../api/held';

/** Keeps something with the way back; why it was refused comes back as a sentence. */
export function useKeep() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const { write } = tape;
  return async (
    kind: KeptKind,
    name: string,
    bytes: Blob,
    source: 'file' | 'link' = 'file',
  ): Promise<string | undefined> => {
    try {
      const { kept, already } = await api.keep({ id: machine.id, kind, name, source }, bytes);
      write(
        'done',
        already ? `${name} was kept before, as ${kept.name}` : `Kept: ${name}, ${bytesInWords(kept.bytes)}`,
      );
    } catch (error) {
      return `${name}: ${whyOf(error)}`;
    }
    await askAnewOf(client, machine.id, 'wayBack', 'entries');
    return undefined;
  };
}
