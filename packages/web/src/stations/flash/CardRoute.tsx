import { Button, NativeSelect, TextInput } from '@mantine/core';
import type { Flash } from '@jolly/contract/endpoints/board';
import type { Board } from '@jolly/core/board/board';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useBench } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { Refused } from '../../ui/Refused';
import { whenOf } from '../../ui/when';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { useTakenAway } from '../survey/useTakenAway';
import { cardSlips, lossSlips } from './cardSlips';
import css from './FlashStation.module.css';
import { FlashStep } from './FlashStep';
import { PowerOff } from './PowerOff';
import { type CardRouteState, CARDS, useCardRoute } from './useCardRoute';
import { useFlashRecord } from './useFlashRecord';
import { wayBackSlips } from './wayBackSlips';

/** The card route, step by step: name, card, power, evidence. */
export function CardRoute({ choose }: { choose: ReactNode }) {
  const { board } = useWorkbench();
  const route = useCardRoute();
  const { flashes, inSlot, named, written, taken, onCard, powered } = route;
  useArmsSteps(stepsFor(board, route));
  return (
    <>
      <main className="bench">
        {choose}
        <NotTakenOver>What is flashed here is the board of the machine file.</NotTakenOver>
        <h2>By card, to {board.name}</h2>
        {route.again && route.done && (
          <p className={css.again}>
            You flash build <b className="figures">{route.done.buildId}</b> of {whenOf(route.done.endedAt)}{' '}
            again
            {route.done.label && ` (${route.done.label})`}, not the newest.{' '}
            <Link to="?">Take the newest instead</Link>
          </p>
        )}
        <p className="soft">{board.routes[0].evidence}</p>
        <div className={css.two}>
          <ol className={css.steps}>
            <FlashStep title="Name the file" done={named}>
              <NameField route={route} />
            </FlashStep>
            <FlashStep title="Write the card" done={written}>
              <WriteCard route={route} />
            </FlashStep>
            <FlashStep title="Power off, card in" done={taken || (onCard && !powered)}>
              <p>
                {powered
                  ? 'The power is on; switch it off before you touch the card.'
                  : inSlot
                    ? `The card is in the slot, with ${inSlot.files[0]?.name} on it. The power is off.`
                    : 'The slot is empty. The power is off.'}
              </p>
              <PowerOff />
            </FlashStep>
            <FlashStep title="Power on" done={taken}>
              <SwitchOn route={route} />
            </FlashStep>
          </ol>
          <BoardDrawing board={board} cardFile={inSlot?.files[0]?.name} lit={powered} />
        </div>
        {flashes.data && flashes.data.length > 0 && <Attempts flashes={flashes.data} />}
      </main>
      <Evidence route={route} />
    </>
  );
}

type OfRoute = { route: CardRouteState };

const stepsFor = (board: Board, { suggested, named, written, taken, onCard, powered }: CardRouteState) => [
  { title: 'Name the file', act: `Call it ${suggested}. ${board.routes[0].evidence}`, done: named },
  {
    title: 'Write the card',
    act: `Use a small card in FAT32, at most ${board.routes[0].max_card_gb} GB, with this one file on it.`,
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
    act: 'The file ends in .OLD where the board renames it, and the board reports the new name and build.',
    done: taken,
  },
];

function NameField({ route: { name, setName, suggested } }: OfRoute) {
  const { rule } = useWorkbench().board.routes[0];
  const used = useStation().board?.namesTaken.slice(-4).join(', ') || 'none';
  return (
    <TextInput
      label="File name on the card"
      value={name}
      onChange={(event) => setName(event.currentTarget.value)}
      description={
        rule.kind === 'fixed'
          ? `this board takes ${suggested} only`
          : `8 letters and .${rule.extension}, never used before; used: ${used}`
      }
    />
  );
}

function WriteCard({ route }: OfRoute) {
  const { done, tooLarge, powered, busy, name, card, setCard, inSlot, written, writeCard } = route;
  return (
    <>
      <div className="row">
        <NativeSelect
          label="Card"
          data={CARDS.map(({ format, sizeGb }, index) => ({
            value: String(index),
            label: `${sizeGb} GB, ${format}`,
          }))}
          value={String(CARDS.indexOf(card))}
          onChange={(event) => setCard(CARDS[Number(event.currentTarget.value)] ?? CARDS[0])}
        />
        <Button
          disabled={!done || tooLarge || powered || busy || name.trim() === ''}
          onClick={() => done && void writeCard(done)}
        >
          Write the card
        </Button>
      </div>
      {!done && <p className="soft">There is no image yet. Build one first.</p>}
      {tooLarge && <p className="soft">This image does not fit this board. Make it fit at Build.</p>}
      {inSlot && !written && (
        <p className="soft">
          The card in the slot holds {inSlot.files[0]?.name}, with{' '}
          {route.again ? 'another image than this build' : 'an older image than the newest build'}.
        </p>
      )}
    </>
  );
}

function SwitchOn({ route: { inSlot, powered, busy, refused, switchOn } }: OfRoute) {
  const { power } = useBench();
  return (
    <>
      <Button
        disabled={!inSlot || powered || busy}
        loading={busy || power.state === 'starting'}
        onClick={() => void switchOn()}
      >
        Switch the power on
      </Button>
      <Refused why={refused} />
    </>
  );
}

function Evidence({ route }: OfRoute) {
  const { machine } = useWorkbench();
  const { board } = useStation();
  const job = useJob();
  const losses = useTakenAway();
  const { flashes, done, taken, inSlot, card, name, outcome, suggested } = route;
  const record = useFlashRecord({ ...card, fileName: name.trim() }, board?.namesTaken ?? [], done);
  // What lies in the slot or in the flash already has its own evidence.
  const recordSlips = useRecordSlips(inSlot != null || taken ? {} : record);
  return (
    <Docket
      title="Evidence"
      slips={[
        ...wayBackSlips(machine.id, job),
        ...lossSlips(machine.id, losses, { seen: job.isDone('survey:losses'), flashed: taken }),
        ...recordSlips.slips,
        ...cardSlips(machine.id, {
          outcome,
          taken,
          newest: !done ? 'none' : route.upToDate ? 'as they are' : route.again ? 'again' : 'older',
          image: board?.image,
          suggested,
        }),
      ]}
      checking={recordSlips.checking || flashes.isPending}
      empty="Nothing was flashed yet. Name the file, write the card, and switch the power on."
    />
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
