import type { Chip } from '@jolly/core/board/chip';
import type { BoundFeature, Cost, MeasuredFeature } from '@jolly/core/fit/chooseFit';
import { editsOf, type Proposal } from '@jolly/core/fit/proposals';
import { Button } from '@mantine/core';
import { Link } from 'react-router';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { BootloaderWords } from './BootloaderWords';
import { FeatureHead, FeatureRow } from './FeatureRow';
import station from './BuildStation.module.css';
import css from './FitView.module.css';
import { effortInWords } from './effortInWords';
import { OtherBoards } from './OtherBoards';
import { RoomBar } from './RoomBar';
import { RunProgressBar } from './RunProgressBar';
import { type DoneCosts, useCosts } from './useCosts';
import { type Fit, useFit } from './useFit';

/** What everything takes in the image, measured; and what to leave out when it does not fit, by what it is worth to you. */
export function FitView() {
  const { run, progress, refused, start, cancel } = useCosts();
  const { version } = useWorkbench();
  const running = run?.state === 'running';
  return (
    <>
      <section className={station.head}>
        <h2>What everything takes in the image</h2>
        {running ? (
          <Button variant="default" onClick={() => void cancel()}>
            Stop measuring
          </Button>
        ) : (
          <Button
            variant={run?.state === 'done' && run.machineVersion === version ? 'default' : 'filled'}
            onClick={() => void start()}
          >
            {run?.state === 'done' ? 'Measure again' : 'Measure'}
          </Button>
        )}
      </section>
      <MeasuredWhen run={run} version={version} />
      {running && <RunProgressBar label="Measuring" progress={progress} />}
      <Refused why={refused} />
      {run?.state === 'done' && <Measured run={run} />}
    </>
  );
}

function MeasuredWhen({ run, version }: { run: ReturnType<typeof useCosts>['run']; version: number }) {
  if (run === undefined) return <p className="soft">Looking up what was measured.</p>;
  if (run === null || run.state === 'cancelled')
    return (
      <p className="soft">
        Not measured{run ? ' to the end' : ' yet'}. Each feature is built with and without it; it takes a
        minute or two, and you can go on with something else meanwhile.
      </p>
    );
  if (run.state === 'running')
    return (
      <p className="soft">
        Each feature is built with and without it. You can go on with something else meanwhile.
      </p>
    );
  if (run.state === 'failed') return <p className="refused">It could not be measured: {run.because}</p>;
  return (
    <p className="soft">
      Measured {whenOf(run.endedAt)} by really building with and without each.{' '}
      {run.machineVersion !== version && (
        <b>The machine has changed since; measure again to be sure. Only what changed is compiled.</b>
      )}
    </p>
  );
}

const MEMORIES: readonly { name: string; kind: keyof Cost; has: (chip: Chip) => number }[] = [
  { name: 'Flash', kind: 'flash', has: (chip) => chip.flash_bytes },
  { name: 'RAM', kind: 'ram', has: (chip) => chip.ram_bytes },
];

function Measured({ run }: { run: DoneCosts }) {
  const { chip, machine, version } = useWorkbench();
  const fit = useFit(run);
  const { costs, chosen } = fit;
  const fits = costs.whole.flash <= fit.room.flash && costs.whole.ram <= fit.room.ram;
  const dropped = new Set(fits ? [] : chosen?.dropped.map(({ key }) => key));
  const labels = new Map(costs.features.map(({ key, label }) => [key, label]));
  const on = bySize(costs.features.filter((feature) => feature.on)).map((feature) => ({
    ...feature,
    neededBy: feature.neededBy.map((key) => labels.get(key) ?? key),
  }));
  const taking = on.filter(({ cost }) => cost.flash + cost.ram > 0);
  const off = bySize(costs.features.filter((feature) => !feature.on));
  // What takes nothing fits even where nothing is left.
  const free = {
    flash: Math.max(0, chip.flash_bytes - costs.whole.flash),
    ram: Math.max(0, chip.ram_bytes - costs.whole.ram),
  };
  return (
    <>
      {MEMORIES.map(({ name, kind, has }) => (
        <RoomBar
          key={kind}
          name={name}
          has={has(chip)}
          room={fit.room[kind]}
          kind={kind}
          whole={costs.whole}
          features={taking}
          dropped={dropped}
        />
      ))}
      {fits ? (
        <p className={css.verdict}>
          {run.machineVersion === version
            ? 'Everything that is on fits, clear of the last 2 %.'
            : 'What was on when it was measured would fit, clear of the last 2 %.'}
        </p>
      ) : (
        <MakeItFit fit={fit} />
      )}
      <h3>On, largest first</h3>
      <FeatureHead plain={fits} />
      <ul className={css.features} aria-label="Features that are on">
        {taking.map((feature) => (
          <FeatureRow
            key={feature.key}
            feature={feature}
            fit={fits ? undefined : fit}
            dropped={dropped.has(feature.key)}
            largest={taking[0]?.cost.flash ?? 1}
          />
        ))}
      </ul>
      <Folded
        features={on.filter(({ cost }) => cost.flash + cost.ram === 0)}
        bound={costs.bound.filter((feature) => feature.on)}
      />
      {costs.effort && (
        <>
          <h3>More compiler effort</h3>
          <p>
            {effortInWords(costs.effort)}{' '}
            <Link to={`/machines/${machine.id}/settings?part=identity&key=${costs.effort.key}`}>
              Compiler effort
            </Link>
          </p>
        </>
      )}
      {off.length > 0 && (
        <>
          <h3>Off, and what each would take</h3>
          <FeatureHead plain />
          <ul className={css.features} aria-label="Features that are off">
            {off.map((feature) => (
              <FeatureRow
                key={feature.key}
                feature={feature}
                fit={undefined}
                dropped={false}
                largest={taking[0]?.cost.flash ?? 1}
                tooLarge={feature.cost.flash > free.flash || feature.cost.ram > free.ram}
              />
            ))}
          </ul>
        </>
      )}
    </>
  );
}

const bySize = (features: MeasuredFeature[]) =>
  [...features].sort((a, b) => b.cost.flash - a.cost.flash || b.cost.ram - a.cost.ram);

function Folded({ features, bound }: { features: MeasuredFeature[]; bound: BoundFeature[] }) {
  if (features.length + bound.length === 0) return null;
  return (
    <details className={css.folded}>
      <summary>
        {features.length + bound.length} more that free nothing here, or that this machine cannot do without
      </summary>
      <ul>
        {features.map(({ key, label }) => (
          <li key={key}>
            <b>{label}</b>: nothing becomes free without it
          </li>
        ))}
        {bound.map(({ key, label, because }) => (
          <li key={key}>
            <b>{label}</b>: {because}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Proposals side by side, the real build of the chosen one, and the other way out. */
function MakeItFit({ fit }: { fit: Fit }) {
  const { list, chosen, short, choose } = fit;
  return (
    <section aria-label="Make it fit" className={css.make}>
      <h3>Ways to make it fit</h3>
      {short && (
        <p className="refused">
          Nothing helps: {shortWords(short)} are missing even without everything that may be left out. Let
          something go that stays, or take another board.
        </p>
      )}
      <div className={css.proposals} role="radiogroup" aria-label="Proposals">
        {list.map((proposal) => (
          <ProposalCard
            key={proposal.title}
            proposal={proposal}
            fit={fit}
            chosen={proposal === chosen}
            onChoose={() => choose(proposal.title)}
          />
        ))}
      </div>
      {chosen && <BuildIt fit={fit} chosen={chosen} />}
      <OtherBoards whole={fit.costs.whole} />
      <BootloaderWords />
    </section>
  );
}

const shortWords = ({ flash, ram }: Cost) =>
  [flash > 0 && `${bytesInWords(flash)} of flash`, ram > 0 && `${bytesInWords(ram)} of RAM`]
    .filter(Boolean)
    .join(' and ');

function ProposalCard({
  proposal,
  fit,
  chosen,
  onChoose,
}: {
  proposal: Proposal;
  fit: Fit;
  chosen: boolean;
  onChoose: () => void;
}) {
  const { chip } = useWorkbench();
  const { title, harder, dropped, predicted, lost } = proposal;
  return (
    <label className={css.proposal} data-chosen={chosen}>
      <span className={css.title}>
        <input type="radio" name="proposal" checked={chosen} onChange={onChoose} /> {title}
      </span>
      <span className={css.leaves}>
        {dropped.length === 0
          ? 'Leaves nothing out'
          : `Leaves out ${dropped.map(({ label }) => label).join(', ')}`}
        {harder &&
          fit.costs.effort &&
          `; the compiler tries harder (−${bytesInWords(fit.costs.effort.saves.flash)})`}
      </span>
      <span className="figures">
        about {predicted.flash.toLocaleString('en')} of {chip.flash_bytes.toLocaleString('en')} bytes · worth
        lost {lost}
      </span>
    </label>
  );
}

function BuildIt({ fit, chosen }: { fit: Fit; chosen: Proposal }) {
  const { chip, showPreview } = useWorkbench();
  const { refused, act } = useAct();
  const { built, building, build, costs } = fit;
  const busy = building !== undefined && 'doing' in building;
  return (
    <div className={css.buildIt}>
      <Button variant="default" loading={busy} onClick={() => void build(chosen)}>
        Build it to see
      </Button>
      <p aria-live="polite">
        {busy
          ? building.doing
          : built
            ? `Really built: ${built.cost.flash.toLocaleString('en')} of ${chip.flash_bytes.toLocaleString('en')} bytes of flash, ${built.cost.ram.toLocaleString('en')} of ${chip.ram_bytes.toLocaleString('en')} of RAM. ${built.fits ? 'It fits, clear of the last 2 %; you can take it over.' : 'It does not fit.'}`
            : 'A proposal is a sum of single costs until it is built.'}
      </p>
      {built?.fits && !busy && (
        <Button
          className={css.takeOver ?? ''}
          onClick={() =>
            void act(() => showPreview(`Make it fit: ${chosen.title.toLowerCase()}`, editsOf(chosen, costs)))
          }
        >
          Take it over
        </Button>
      )}
      <Refused why={building && 'refused' in building ? building.refused : refused} />
      {chosen.dropped.length > 0 && (
        <ul className={css.losses} aria-label="What is lost in use">
          {chosen.dropped.map(({ key, label, without, lost }) => (
            <li key={key}>
              <b>{label}</b>: {without}
              {lost.actions.length > 0 && ` Bring-up can no longer: ${lost.actions.join(', ')}.`}
              {lost.commands.length > 0 && ` The board no longer knows ${lost.commands.join('; ')}.`}
              {lost.findings.map((finding) => ` ${finding}`)}{' '}
              <Link to={`../settings?key=${key}`} relative="path">
                the setting
              </Link>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
