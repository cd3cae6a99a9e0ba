import { partById } from '@jolly/core/catalogue/catalogue';
import type { Part } from '@jolly/core/parts/part';
import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { askedCatalogue } from '../../api/asked';
import { api, boardFileUrl, chipFileUrl, partFileUrl } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { PartForm } from '../describe/PartForm';
import css from './Shelf.module.css';
import { askAnew, held } from '../../api/held';

/** Boards, parts and chips that were described here: what uses each, to be described anew, to be saved. */
export function OwnTypes() {
  const own = useQuery({
    queryKey: held('own-types'),
    queryFn: api.ownTypes,
    meta: { what: 'what was described here' },
  });
  const catalogue = useQuery(askedCatalogue);
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const [again, setAgain] = useState<Part>();
  const count = own.data ? own.data.boards.length + own.data.parts.length + own.data.chips.length : 0;
  if (!own.data || !catalogue.data || count === 0) return null;
  const { boards, parts, chips } = own.data;
  const known = catalogue.data;
  const redraw = (board: { id: string; revision: string }) =>
    act(async () => {
      const begun = await api.beginBoard({ from: 'own', id: board.id, revision: board.revision });
      await askAnew(client, 'begun-boards');
      void navigate(`/boards/${begun.id}`);
    });
  return (
    <details className={css.begun}>
      <summary>Described here: {count}</summary>
      <ul aria-label="Boards, parts and chips described here">
        {boards.map((board) => (
          <li key={`${board.id} ${board.revision}`}>
            <strong>{board.name} {board.revision}</strong>
            <span>board; {usedBy(board.usedBy)}</span>
            <Button size="compact-sm" variant="default" disabled={busy} aria-label={`Change ${board.name} ${board.revision}`} onClick={() => void redraw(board)}>
              Change it
            </Button>
            <a href={boardFileUrl(board)}>Save its file</a>
          </li>
        ))}
        {chips.map((chip) => (
          <li key={chip.id}>
            <strong>{chip.name}</strong>
            <span>chip; {chip.usedBy.length === 0 ? 'on no board' : `on ${chip.usedBy.join(', ')}`}</span>
            <a href={chipFileUrl(chip.id)}>Save its file</a>
          </li>
        ))}
        {parts.map((part) => (
          <li key={part.id}>
            <strong>{part.name}</strong>
            <span>{part.kind.replace('-', ' ')}; {usedBy(part.usedBy)}</span>
            <Button size="compact-sm" variant="default" aria-label={`Change ${part.name}`} onClick={() => setAgain(partById(known, part.id))}>
              Change it
            </Button>
            <a href={partFileUrl(part.id)}>Save its file</a>
            {again?.id === part.id && (
              <PartForm
                kind={again.kind}
                catalogue={known}
                again={again}
                onMade={async () => {
                  await askAnew(client, 'own-types');
                  setAgain(undefined);
                }}
                onClose={() => setAgain(undefined)}
              />
            )}
          </li>
        ))}
      </ul>
      <Refused why={refused} />
    </details>
  ); // prettier-ignore
}

const usedBy = (machines: readonly string[]): string =>
  machines.length === 0
    ? 'on no machine'
    : `on ${machines.join(', ')}; their logbooks say so when it changes`;
