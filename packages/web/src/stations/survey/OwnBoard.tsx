import { whyOf } from '@jolly/session/store';
import { chipOf } from '@jolly/core/catalogue/catalogue';
import { Button, FileButton, NativeSelect, NumberInput, Textarea, TextInput } from '@mantine/core';
import type { Board } from '@jolly/core/board/board';
import type { Read } from '@jolly/core/formats/readYaml';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { api } from '../../api/api';
import { useTape } from '../../app/tape/tape';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { boardOf, type Draft, EMPTY_HEADER, type HeaderDraft } from './ownBoardDraft';
import { Refused } from '../../ui/Refused';
import css from './SurveyStation.module.css';

const PURPOSES = [
  'X switch', 'Y switch', 'Z switch', 'bed probe', 'filament sensor', 'servo', 'hot-end sensor', 'bed sensor',
  'chamber sensor', 'hot-end heater', 'bed heater', 'part fan', 'hot-end fan', 'board fan', 'lamp', 'display',
]; // prettier-ignore
/** A board nobody has described yet: a form that makes a board file, or a file that is read. */
export function OwnBoard({ onClose }: { onClose: () => void }) {
  const { facts, core } = useWorkbench();
  const client = useQueryClient();
  const { write } = useTape();
  const [draft, setDraft] = useDraft<Draft>('own-board', {
    name: '', revision: '1', chip: facts.chip.id, print: '', width: 100, depth: 80, drivers: 'plugged in', sockets: 4,
    headers: [{ ...EMPTY_HEADER, id: 'SX' }], cardName: '', extension: 'BIN',
  }); // prettier-ignore
  const [typed, setTyped] = useDraft<string | null>('own-board:file', null);
  const [refused, setRefused] = useState<string>();
  const chip = chipOf(facts.catalogue, draft) ?? facts.chip;
  const made = useMemo(() => writeBoardFile(boardOf(draft, chip)), [draft, chip]);
  const text = typed ?? made;
  const check = useQuery<Read<Board>>({
    queryKey: ['readBoard', text],
    queryFn: async () => core.readBoard(text),
    placeholderData: (old) => old,
  });
  const problems = check.data && 'problems' in check.data ? check.data.problems : [];
  /** Nothing is wrong yet with a form nobody has begun. */
  const unnamed = typed === null && draft.name.trim() === '';
  const set = (part: Partial<Draft>) => {
    setTyped(null);
    setDraft((old) => ({ ...old, ...part }));
  };
  const setHeader = (index: number, part: Partial<HeaderDraft>) =>
    set({ headers: draft.headers.map((header, at) => (at === index ? { ...header, ...part } : header)) });
  const add = async () => {
    try {
      const board = await api.addBoard({ file: text });
      write('done', `Board added: ${board.name} rev ${board.revision}`);
      await client.invalidateQueries({ queryKey: ['catalogue'] });
      onClose();
    } catch (error) {
      setRefused(whyOf(error));
    }
  };
  const open = (file: File | null) =>
    void file?.text().then((content) => setTyped(content.slice(0, 500_000)));
  return (
    <>
      <h2>Describe a board, or read its file</h2>
      <div className="row">
        <FileButton onChange={open} accept=".yaml,.yml" inputProps={{ 'aria-label': 'Board file' }}>
          {(props) => (
            <Button size="xs" variant="default" {...props}>
              Open a board file
            </Button>
          )}
        </FileButton>
        <Button size="xs" variant="subtle" onClick={onClose}>
          Back to the search
        </Button>
      </div>
      <div className={css.twoColumns}>
        <div>
          <div className={css.seen}>
            <TextInput
              size="xs"
              label="Name"
              value={draft.name}
              onChange={(event) => set({ name: event.currentTarget.value })}
            />
            <TextInput
              size="xs"
              label="Revision"
              value={draft.revision}
              onChange={(event) => set({ revision: event.currentTarget.value })}
            />
            <NativeSelect
              size="xs"
              label="Chip"
              data={facts.catalogue.chips.map(({ id, name, marking }) => ({
                value: id,
                label: `${name}, marked ${marking}`,
              }))}
              value={draft.chip}
              onChange={(event) => set({ chip: event.currentTarget.value })}
            />
            <TextInput
              size="xs"
              label="Printed on it"
              value={draft.print}
              onChange={(event) => set({ print: event.currentTarget.value })}
            />
            <NumberInput
              size="xs"
              label="Width"
              suffix=" mm"
              hideControls
              value={draft.width}
              onChange={(value) => set({ width: Number(value) || 0 })}
            />
            <NumberInput
              size="xs"
              label="Depth"
              suffix=" mm"
              hideControls
              value={draft.depth}
              onChange={(value) => set({ depth: Number(value) || 0 })}
            />
            <NativeSelect
              size="xs"
              label="Drivers"
              data={['plugged in', 'soldered']}
              value={draft.drivers}
              onChange={(event) => set({ drivers: event.currentTarget.value as Board['drivers'] })}
            />
            <NumberInput
              size="xs"
              label="Driver places"
              min={0}
              max={12}
              hideControls
              value={draft.sockets}
              onChange={(value) => set({ sockets: Math.max(0, Math.min(12, Number(value) || 0)) })}
            />
            <TextInput
              size="xs"
              label="Name on the card"
              placeholder="any"
              value={draft.cardName}
              onChange={(event) => set({ cardName: event.currentTarget.value.toUpperCase() })}
            />
            <TextInput
              size="xs"
              label="Ending"
              value={draft.extension}
              onChange={(event) => set({ extension: event.currentTarget.value.toUpperCase() })}
            />
          </div>
          <h3>Headers</h3>
          {draft.headers.map((header, index) => (
            <div
              key={index}
              className={css.headerRow}
              role="group"
              aria-label={`Header ${header.id || index + 1}`}
            >
              <TextInput
                size="xs"
                aria-label="Header name"
                placeholder="name"
                value={header.id}
                onChange={(event) => setHeader(index, { id: event.currentTarget.value.toUpperCase() })}
              />
              <NativeSelect
                size="xs"
                aria-label="For"
                data={PURPOSES}
                value={header.serves}
                onChange={(event) => setHeader(index, { serves: event.currentTarget.value })}
              />
              <TextInput
                size="xs"
                aria-label="Plug family"
                value={header.family}
                onChange={(event) => setHeader(index, { family: event.currentTarget.value })}
              />
              <TextInput
                size="xs"
                aria-label="Contacts in order"
                value={header.contacts}
                onChange={(event) => setHeader(index, { contacts: event.currentTarget.value })}
              />
              <NumberInput
                size="xs"
                aria-label="May give at most"
                suffix=" A"
                min={0.1}
                max={60}
                hideControls
                value={header.max_a}
                onChange={(value) => setHeader(index, { max_a: Number(value) || 0.1 })}
              />
              <Button
                size="xs"
                variant="subtle"
                aria-label={`Take out header ${header.id || index + 1}`}
                onClick={() => set({ headers: draft.headers.filter((_, at) => at !== index) })}
              >
                ×
              </Button>
            </div>
          ))}
          <Button
            size="xs"
            variant="default"
            onClick={() => set({ headers: [...draft.headers, EMPTY_HEADER] })}
          >
            One more header
          </Button>
        </div>
        <div>
          <Textarea
            label="The board file"
            autosize
            minRows={10}
            maxRows={18}
            className={css.file}
            value={text}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          {unnamed ? (
            <p className="soft">Give the board a name, or open its file.</p>
          ) : problems.length === 0 ? (
            <p className="proven">It can be read.</p>
          ) : (
            <ul className={css.problems} aria-label="What is wrong with the file">
              {problems.slice(0, 5).map((problem) => (
                <li key={`${problem.path}${problem.message}`}>
                  line {problem.line}: {problem.message}
                </li>
              ))}
            </ul>
          )}
          <Refused why={refused} />
          <Button disabled={problems.length > 0} onClick={() => void add()}>
            Add this board
          </Button>
        </div>
      </div>
    </>
  );
}
