import { oneOf } from '@jolly/core/tree/keysOf';
import { boardBy, boardCalled, chipOf } from '@jolly/core/catalogue/catalogue';
import { Button, FileButton, NativeSelect, TextInput } from '@mantine/core';
import type { Finding } from '@jolly/core/finding/finding';
import { KEPT_KINDS, type KeptKind } from '@jolly/core/image/wayBack';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, keptUrl } from '../../api/api';
import type { Kept } from '@jolly/contract/endpoints/kept';
import { useDropped } from '../../app/drop/dropped';
import { tape } from '../../app/tape/tape';
import { useJob } from '../../job/JobProvider';
import { whenOf } from '../../ui/when';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { DropPlace } from './DropPlace';
import { FromDrawer } from './FromDrawer';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';
import { useKeep } from './useKeep';
import { askAnewOf } from '../../api/held';

const KIND_WORD: Record<KeptKind, string> = {
  image: 'image',
  bootloader: 'bootloader',
  options: 'lock words',
  store: 'stored settings',
  dump: 'settings report',
};
const VERDICT_WORD: Record<Kept['verdict'], string> = {
  fits: 'fits this board',
  doubtful: 'doubtful',
  empty: 'empty',
};
const LARGEST = 16 * 2 ** 20;
const SHORTEST_WHY = 10;

/** What is kept of the board before another image goes onto it. */
export function WayBackSection() {
  const { machine, facts, chip } = useWorkbench();
  const { wayBack, before } = useJob();
  const client = useQueryClient();
  const { write } = tape;
  const keepThing = useKeep();
  const [kind, setKind] = useState<KeptKind>('image');
  const { busy, refused, act } = useAct(() => askAnewOf(client, machine.id, 'wayBack', 'entries'));
  const old = boardBy(facts.catalogue, before.board);
  const oldChip = chipOf(facts.catalogue, old) ?? chip;
  useDropped('image', (file) => void keep(file.name, file));
  const keep = (name: string, bytes: Blob) =>
    act(async () =>
      bytes.size > LARGEST
        ? `${name} has ${bytes.size} bytes; an image has at most ${LARGEST} (16 MB). Nothing was kept`
        : keepThing(kind, name, bytes),
    );
  const readOut = () =>
    act(async () => {
      const answers = await api.keepFromBoard({ id: machine.id });
      write('done', `Read out of the board: ${answers.map(({ kept }) => KIND_WORD[kept.kind]).join(', ')}`);
    });
  return (
    <>
      <h2>Keep a way back</h2>
      <p className="soft">
        {oldChip.name} gives {oldChip.gives.map((what) => KIND_WORD[what]).join(', ')}.{' '}
        {!oldChip.gives.includes('bootloader') &&
          'It does not give its bootloader away: find the maker’s file of it first. '}
        {oldChip.read_out_caution && <b>{oldChip.read_out_caution}</b>}
      </p>
      <DropPlace className={css.drop} onFile={(file) => void keep(file.name, file)}>
        <NativeSelect
          size="xs"
          label="What it is"
          data={KEPT_KINDS.map((value) => ({ value, label: KIND_WORD[value] }))}
          value={kind}
          onChange={(event) => setKind(oneOf(KEPT_KINDS, event.currentTarget.value) ?? kind)}
        />
        <FileButton
          onChange={(file) => file && void keep(file.name, file)}
          inputProps={{ 'aria-label': 'File to keep' }}
        >
          {(props) => (
            <Button size="xs" {...props}>
              Keep a file (.bin, .hex, .uf2)
            </Button>
          )}
        </FileButton>
        <FromDrawer ending={/\.(bin|hex|uf2)$/} onFile={(name, bytes) => void keep(name, bytes)} />
        {wayBack?.bench.isWanted && (
          <Button size="xs" variant="default" loading={busy} onClick={() => void readOut()}>
            Read out the board on the bench
          </Button>
        )}
      </DropPlace>
      {wayBack && (
        <p className="soft">
          On the bench lies {wayBack.bench.board}.{' '}
          {wayBack.bench.isWanted
            ? 'That is the board a way back is wanted of.'
            : `It is the new one: a way back is wanted of ${wayBack.bench.wanted}, which is not on the bench. Read that one out with its own programmer, or take the file its maker gives, and keep it here.`}
        </p>
      )}
      <Refused why={refused} />
      {wayBack && <KeptList kept={wayBack.kept} machineId={machine.id} />}
      {wayBack?.findings[0] && <Waive finding={wayBack.findings[0]} />}
      {wayBack?.waivers.map((waiver) => (
        <p key={waiver.check} className={css.advice} data-leave>
          Goes on without a way back, since {whenOf(waiver.at)}: {waiver.because}
        </p>
      ))}
      <p>
        <Link to={`/machines/${machine.id}/flash?route=back`}>Write a kept image back to the board</Link> is a
        route of the Flash station.
      </p>
    </>
  );
}

function KeptList({ kept, machineId }: { kept: Kept[]; machineId: string }) {
  const { facts } = useWorkbench();
  if (kept.length === 0) return <p className="soft">Nothing is kept yet.</p>;
  return (
    <ul className={css.kept} aria-label="Kept">
      {kept.map((entry) => (
        <li key={entry.id} data-verdict={entry.verdict}>
          <div>
            <strong>
              {KIND_WORD[entry.kind]}: <a href={keptUrl(machineId, entry.id)}>{entry.name}</a>
            </strong>
            <small className="figures">
              {entry.bytes} bytes, {entry.format}, from {boardCalled(facts.catalogue, entry.board)}
              {entry.board.copy === undefined ? '' : `, copy ${entry.board.copy}`}, {whenOf(entry.at)}, hash{' '}
              {entry.hash.slice(0, 12)}
            </small>
            <small>{entry.evidence.join('; ')}</small>
          </div>
          <b>{entry.kind === 'dump' ? 'can be read' : VERDICT_WORD[entry.verdict]}</b>
        </li>
      ))}
    </ul>
  );
}

/** Going on without a way back takes words, not a click. */
function Waive({ finding }: { finding: Finding }) {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const [because, setBecause] = useDraft(`waive:${machine.id}`, '');
  const { busy, refused, act } = useAct(() => askAnewOf(client, machine.id, 'wayBack', 'entries'));
  const waive = () =>
    act(async () => {
      await api.waive({ id: machine.id }, { check: 'keep.no-way-back', because: because.trim() });
    });
  return (
    <section className={css.advice} data-leave aria-label="Without a way back">
      <strong>{finding.what}</strong>
      <p>{finding.why}</p>
      <ul>
        {finding.evidence.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <div className="row">
        <TextInput
          label="Why it goes on without one"
          description={`at least ${SHORTEST_WHY} letters; it goes into the logbook`}
          value={because}
          maxLength={300}
          onChange={(event) => setBecause(event.currentTarget.value)}
        />
        <Button
          size="xs"
          color="vermilion"
          disabled={because.trim().length < SHORTEST_WHY}
          loading={busy}
          onClick={() => void waive()}
        >
          Go on without a way back
        </Button>
      </div>
      <Refused why={refused} />
    </section>
  );
}
