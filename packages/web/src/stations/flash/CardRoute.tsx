import { Button, NativeSelect, TextInput } from '@mantine/core';
import type { CardRoute as CardRouteData } from '@jolly/core/board/route';
import { Link } from 'react-router';
import { Docket } from '../../app/docket/Docket';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { usePowered } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { Refused } from '../../ui/Refused';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { haveSeen, useTakenAway } from '../survey/useTakenAway';
import { Afterwards } from './Afterwards';
import { Attempts } from './Attempts';
import { cardSlips, lossSlips } from './cardSlips';
import css from './FlashStation.module.css';
import type { RouteView } from './routeView';
import { FlashStep } from './FlashStep';
import { PowerOff } from './PowerOff';
import { RouteHead, RouteTrouble } from './RouteHead';
import { type CardRouteState, CARDS, useCardRoute } from './useCardRoute';
import { useFlashSlips } from './useFlashSlips';
import { builtImage } from './useImageChoice';
import { wayBackSlips } from './wayBackSlips';

/** The card route, step by step: name, card, power, evidence. Over USB the card stays in its slot while it is written. */
export function CardRoute({ route: data, choose, why }: RouteView<CardRouteData>) {
  const { board } = useWorkbench();
  const route = useCardRoute(data);
  const { flashes, inSlot, named, written, taken, onCard, powered } = route;
  useArmsSteps(data.kind === 'card' ? stepsFor(data, route) : stepsOverUsb(data, route));
  return (
    <>
      <main className="bench">
        {choose}
        <RouteHead route={data} why={why} />
        {route.again && route.done && (
          <p className={css.again}>
            You flash build <b className="figures">{route.done.buildId}</b> of {whenOf(route.done.endedAt)}{' '}
            again
            {route.done.label && ` (${route.done.label})`}, not the newest.{' '}
            <Link to="?">Take the newest instead</Link>
          </p>
        )}
        <div className={css.two}>
          <ol className={css.steps}>
            <FlashStep title="Name the file" done={named}>
              <NameField route={route} />
            </FlashStep>
            <FlashStep title="Write the card" done={written}>
              <WriteCard route={route} />
            </FlashStep>
            {data.kind === 'card' && (
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
            )}
            <FlashStep title={data.kind === 'card' ? 'Power on' : 'Power off and on'} done={taken}>
              <SwitchOn route={route} />
            </FlashStep>
          </ol>
          <BoardDrawing board={board} cardFile={inSlot?.files[0]?.name} lit={powered} />
        </div>
        <p className="soft">{data.evidence}</p>
        <RouteTrouble route={data} />
        <Afterwards route={data} />
        <Attempts flashes={flashes.data ?? []} />
      </main>
      <Evidence route={route} />
    </>
  );
}

type OfRoute = { route: CardRouteState };

const stepsFor = (data: CardRouteData, { suggested, named, written, taken, onCard, powered }: CardRouteState) => [
  { title: 'Name the file', act: `Call it ${suggested}. ${data.evidence}`, done: named },
  {
    title: 'Write the card',
    act: `Use a small card in FAT32, at most ${data.max_card_gb} GB, with this one file on it.`,
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
  { title: 'Look at the evidence', act: `${data.evidence} The board reports the new name and build.`, done: taken },
]; // prettier-ignore

const stepsOverUsb = (data: CardRouteData, { suggested, named, written, taken }: CardRouteState) => [
  { title: 'Name the file', act: `Call it ${suggested}. ${data.evidence}`, done: named },
  {
    title: 'Write the card',
    act: 'Plug USB; the drive that appears is the card in the slot. Copy this one file into its root, take other images off it, and eject the drive.',
    done: written,
  },
  {
    title: 'Power off and on',
    act: 'Switch the power off, USB too, wait until every lamp is dark, and switch on.',
    done: taken,
  },
  { title: 'Look at the evidence', act: `${data.evidence} The board reports the new name and build.`, done: taken },
]; // prettier-ignore

function NameField({ route: { data, name, setName, suggested } }: OfRoute) {
  const { rule } = data;
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
  const { done, tooLarge, canWrite, busy, name, card, setCard, inSlot, written, writeCard } = route;
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
          disabled={!done || tooLarge || !canWrite || busy || name.trim() === ''}
          onClick={() => done && void writeCard(done)}
        >
          Write the card
        </Button>
      </div>
      {route.whyNot && <p className="soft">{route.whyNot}</p>}
      {!done && <p className="soft">There is no image for this board yet. Build one first.</p>}
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

function SwitchOn({ route: { data, inSlot, powered, busy, refused, switchOn } }: OfRoute) {
  const starting = usePowered(({ power }) => power.state === 'starting');
  return (
    <>
      <Button
        disabled={!inSlot || (powered && data.kind === 'card') || busy}
        loading={busy || starting}
        onClick={() => void switchOn()}
      >
        {data.kind === 'card' || !powered ? 'Switch the power on' : 'Switch the power off and on'}
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
  const against = useFlashSlips({
    image: done && builtImage(done),
    card: { card: { ...card, fileName: name.trim() }, namesTaken: board?.namesTaken ?? [] },
    throughBootloader: true,
    settled: inSlot != null || taken,
  });
  return (
    <Docket
      title="Evidence"
      slips={[
        ...wayBackSlips(machine.id, job),
        ...lossSlips(machine.id, losses, {
          seen: job.stored !== undefined && haveSeen(job.stored.job, losses),
          flashed: taken,
        }),
        ...against.slips,
        ...cardSlips(machine.id, {
          outcome,
          taken,
          newest: !done ? 'none' : route.upToDate ? 'as they are' : route.again ? 'again' : 'older',
          image: board?.image,
          suggested,
        }),
      ]}
      checking={against.checking || flashes.isPending}
      empty="Nothing was flashed yet. Name the file, write the card, and switch the power on."
    />
  );
}
