import type { Machine } from '@jolly/core/machine/machine';
import { mergeThreeWay } from '@jolly/core/tree/mergeThreeWay';
import { type Context, factsOr422, machineOr404 } from '../context';
import { findEdit, listEdits, nextEdit, setUndone } from '../sql/edits';
import { saveMachine, type StoredMachine } from '../sql/machines';
import { ApiError, notFound } from './apiError';
import type { Endpoint } from './endpoint';
import { idParams, numberParam } from './params';

/** Changes of a machine file, kept over reloads. */
export function editEndpoints(context: Context): Endpoint[] {
  const { db } = context;
  return [
    {
      method: 'get',
      path: '/machines/{id}/edits',
      summary: 'Changes of the machine file, newest first, with whether they are undone',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listEdits(db, params['id']!);
      },
    },
    {
      method: 'get',
      path: '/machines/{id}/edits/{number}',
      summary: 'One change with the machine before and after it',
      params: { ...idParams, ...numberParam },
      run: async ({ params }) => {
        const found = await findEdit(db, params['id']!, Number(params['number']));
        if (!found) throw notFound('change', params['number']!);
        return found;
      },
    },
    ...(['undo', 'redo'] as const).map((way): Endpoint => ({
      method: 'post',
      path: `/machines/{id}/${way}`,
      summary: way === 'undo' ? 'Take the last change back' : 'Make the change again that was undone last',
      params: idParams,
      run: ({ params }) => goBack(context, params['id']!, way),
    })),
  ];
}

/** Takes one change back or makes it again; what was changed since in other fields stays. */
async function goBack(
  context: Context,
  id: string,
  way: 'undo' | 'redo',
): Promise<StoredMachine & { label: string }> {
  const current = await machineOr404(context, id);
  return context.db.transaction(async (db) => {
    const edit = await nextEdit(db, id, way);
    if (!edit) throw new ApiError(409, 'nothing-to-do', `there is nothing to ${way}`);
    const [from, to] = way === 'undo' ? [edit.after, edit.before] : [edit.before, edit.after];
    const machine = mergeThreeWay<Machine>(from, to, current.machine).value;
    factsOr422(context, machine);
    const saved = await saveMachine(db, machine, current.version, context.now());
    if (!saved) throw new ApiError(409, 'stale', 'this machine was just changed elsewhere; look at it first');
    await setUndone(db, edit.id, way === 'undo');
    return { ...saved, label: edit.label };
  });
}
