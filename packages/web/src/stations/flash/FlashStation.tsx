import type { Filled } from '@jolly/core/tree/filled';
import { Button, NativeSelect, SegmentedControl, TextInput } from '@mantine/core';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { fitFindings } from '@jolly/core/build/fitFindings';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api } from '../../api/api';
import type { Flash } from '@jolly/contract/endpoints/board';
import { Docket } from '../../app/docket/Docket';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useTape } from '../../app/tape/tape';
import { cardState, suggestedName } from '@jolly/session/cardState';
import { newestDone, upToDate } from '@jolly/session/newestBuild';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { useBench } from '../../bench/BenchProvider';
import { useTakenAway } from '../survey/useTakenAway';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { whenOf } from '../../ui/when';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { cardSlips, lossSlips } from './cardSlips';
import { Refused } from '../../ui/Refused';
import css from './FlashStation.module.css';
import { RestoreRoute } from './RestoreRoute';
import { useFlashRecord } from './useFlashRecord';
import { wayBackSlips } from './wayBackSlips';

const CARDS: Filled<{ value: string; label: string }> = [
  { value: 'FAT32:8', label: '8 GB, FAT32' },
  { value: 'FAT32:32', label: '32 GB, FAT32' },
  { value: 'exFAT:64', label: '64 GB, exFAT' },
];

/** The routes of the board: by card, or a kept image back by programmer. */
export function FlashStation() {
  const [search, setSearch] = useSearchParams();
  const route = search.get('route') === 'back' ? 'back' : 'card';
  const choose = (
    <SegmentedControl
      size="xs"
      aria-label="Route"
      value={route}
      onChange={(value) => setSearch(value === 'back' ? { route: value } : {}, { replace: true })}
      data={[
        { value: 'card', label: 'By card' },
        { value: 'back', label: 'A kept image back' },
      ]}
    />
  );
  return route === 'back' ? <RestoreRoute choose={choose} /> : <CardRoute choose={choose} />;
}

/** The card route, step by step: name, card, power, evidence. */
function CardRoute({ choose }: { choose: ReactNode }) {
  const workbench = useWorkbench();
  const { machine, board } = workbench;
  const station = useStation();
  const job = useJob();
  const bench = useBench();
  const client = useQueryClient();
  const { write } = useTape();
  const flashes = useQuery({
    queryKey: ['flashes', machine.id],
    queryFn: () => api.flashes({ id: machine.id }),
  });
  const route = board.routes[0];
  const done = newestDone(station.builds);
  const fresh = upToDate({ workbench, builds: station.builds });
  const suggested = suggestedName(workbench, station.board, new Date().toISOString().slice(0, 10));
  const [name, setName] = useState(suggested);
  const [card, setCard] = useState(CARDS[0].value);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [outcome, setOutcome] = useState<CardOutcome>();
  useEffect(() => setName(suggested), [suggested]);

  const inSlot = station.board?.card;
  const powered = bench.power.state === 'on' || bench.power.state === 'starting';
  const { taken, onCard, against } = cardState({ workbench, ...station });
  const written = taken || onCard;
  const named = taken || (onCard && against.length === 0);
  const tooLarge =
    done !== undefined && fitFindings(done.sizes, workbench.chip).some(({ severity }) => severity === 'stop');

  const [format = 'FAT32', size] = card.split(':');
  const losses = useTakenAway();
  const record = useFlashRecord(
    { format, sizeGb: Number(size), fileName: name.trim() },
    station.board?.namesTaken ?? [],
    done,
  );
  // What lies in the slot or in the flash already has its own evidence.
  const recordSlips = useRecordSlips(inSlot != null || taken ? {} : record);

  const refresh = () =>
    Promise.all(
      ['board', 'flashes', 'entries', 'proofs', 'wayBack'].map((key) =>
        client.invalidateQueries({ queryKey: [key, machine.id] }),
      ),
    );
  const guarded = async (act: () => Promise<void>) => {
    setProblem(undefined);
    setBusy(true);
    try {
      await act();
    } catch (error) {
      setProblem((error as Error).message);
    }
    await refresh();
    setBusy(false);
  };
  const writeCard = () =>
    guarded(async () => {
      if (!done) return;
      await api.putCard(
        { id: machine.id },
        {
          card: {
            format: format as 'FAT32' | 'exFAT',
            sizeGb: Number(size),
            files: [{ name: name.trim(), imageHash: done.imageHash }],
          },
        },
      );
      setOutcome(undefined);
      write('done', `Card written: ${name.trim()}, and put into the slot`);
    });
  const switchOn = () =>
    guarded(async () => {
      const result = await api.flash({ id: machine.id });
      setOutcome(result.outcome);
      write(
        'done',
        result.outcome.taken
          ? `The bootloader took ${result.outcome.name}`
          : `The bootloader left the card alone: ${result.outcome.because}`,
      );
      await bench.powerOn(true);
    });

  const steps = useMemo(
    () => [
      { title: 'Name the file', act: `Call it ${suggested}. ${route.evidence}`, done: named },
      {
        title: 'Write the card',
        act: `Use a small card in FAT32, at most ${route.max_card_gb} GB, with this one file on it.`,
        done: written,
      },
      {
        title: 'Power off, card in',
        act: 'Switch the power off. Push the card into the slot until it clicks.',
        caution: 'A board can be damaged by plugging under power. Unplug the supply first.',
        done: taken || (onCard && !powered),
      },
      {
        title: 'Power on',
        act: 'Switch the power on and wait until the blank screen has passed.',
        done: taken,
      },
      {
        title: 'Look at the evidence',
        act: `The file ends in .OLD where the board renames it, and the board reports the new name and build.`,
        done: taken,
      },
    ],
    [suggested, route, named, written, onCard, powered, taken],
  );
  useArmsSteps(steps);

  return (
    <>
      <main className={css.bench}>
        {choose}
        <NotTakenOver>What is flashed here is the board of the machine file.</NotTakenOver>
        <h2>By card, to {board.name}</h2>
        <p className={css.soft}>{route.evidence}</p>
        <div className={css.two}>
          <ol className={css.steps}>
            <li data-done={named}>
              <h3>Name the file</h3>
              <TextInput
                label="File name on the card"
                value={name}
                onChange={(event) => setName(event.currentTarget.value)}
                description={
                  route.rule.kind === 'fixed'
                    ? `this board takes ${suggested} only`
                    : `8 letters and .${route.rule.extension}, never used before; used: ${station.board?.namesTaken.slice(-4).join(', ') || 'none'}`
                }
              />
            </li>
            <li data-done={written}>
              <h3>Write the card</h3>
              <div className={css.row}>
                <NativeSelect
                  label="Card"
                  data={CARDS}
                  value={card}
                  onChange={(event) => setCard(event.currentTarget.value)}
                />
                <Button
                  disabled={!done || tooLarge || powered || busy || name.trim() === ''}
                  onClick={() => void writeCard()}
                >
                  Write the card
                </Button>
              </div>
              {!done && <p className={css.soft}>There is no image yet. Build one first.</p>}
              {tooLarge && (
                <p className={css.soft}>The newest image does not fit this board. Make it fit at Build.</p>
              )}
              {inSlot && !written && (
                <p className={css.soft}>
                  The card in the slot holds {inSlot.files[0]?.name}, with an older image than the newest
                  build.
                </p>
              )}
            </li>
            <li data-done={taken || (onCard && !powered)}>
              <h3>Power off, card in</h3>
              <p>
                {powered
                  ? 'The power is on; switch it off before you touch the card.'
                  : inSlot
                    ? `The card is in the slot, with ${inSlot.files[0]?.name} on it. The power is off.`
                    : 'The slot is empty. The power is off.'}
              </p>
              {powered && (
                <Button variant="default" onClick={bench.powerOff}>
                  Switch the power off
                </Button>
              )}
            </li>
            <li data-done={taken}>
              <h3>Power on</h3>
              <Button
                disabled={!inSlot || powered || busy}
                loading={busy || bench.power.state === 'starting'}
                onClick={() => void switchOn()}
              >
                Switch the power on
              </Button>
              <Refused why={problem} />
            </li>
          </ol>
          <BoardDrawing board={board} cardFile={inSlot?.files[0]?.name} lit={powered} />
        </div>
        {flashes.data && flashes.data.length > 0 && <Attempts flashes={flashes.data} />}
      </main>
      <Docket
        title="Evidence"
        slips={[
          ...wayBackSlips(machine.id, job),
          ...lossSlips(machine.id, losses, { seen: job.isDone('survey:losses'), flashed: taken }),
          ...recordSlips.slips,
          ...cardSlips(machine.id, {
            outcome: outcome ?? flashes.data?.[0]?.outcome,
            taken,
            newest: !done ? 'none' : fresh ? 'as they are' : 'older',
            image: station.board?.image,
            suggested,
          }),
        ]}
        checking={recordSlips.checking || flashes.isPending}
        empty="Nothing was flashed yet. Name the file, write the card, and switch the power on."
      />
    </>
  );
}

function Attempts({ flashes }: { flashes: Flash[] }) {
  return (
    <section className={css.attempts} aria-label="Attempts">
      <h3>Attempts</h3>
      <ul>
        {flashes.slice(0, 6).map((flash) => (
          <li key={flash.id} data-taken={flash.outcome.taken}>
            <time className="figures">{whenOf(flash.at)}</time>
            <b className="figures">{flash.fileName}</b>
            <span>{flash.outcome.taken ? 'taken' : `left: ${flash.outcome.because}`}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
