import { openParts } from '@jolly/core/describe/openParts';
import { useTitle } from '../../ui/useTitle';
import { POLICY_WORDS } from '@jolly/core/fleet/policy';
import { keysOf, oneOf } from '@jolly/core/tree/keysOf';
import { NativeSelect, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { memo, useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../../api/api';
import type { Plate } from '@jolly/contract/endpoints/machines';
import { LampSwitch } from '../../app/lamp/LampSwitch';
import { ServerGone } from '@jolly/session/presence';
import { NoServer } from '../../app/frame/NoServer';
import { NotRead } from '../../app/frame/NotRead';
import { Begun } from './Begun';
import { NotOnShelf } from './NotOnShelf';
import { OwnTypes } from './OwnTypes';
import { PlateActs } from './PlateActs';
import { WaysIn } from './WaysIn';
import { useSought } from '../../ui/useSought';
import { holdsWords } from '@jolly/core/text/holdsWords';
import css from './Shelf.module.css';
import { held } from '../../api/held';
import { daysAgo } from '../../ui/when';

/** Home: the machines as plates on a shelf, how more come onto it, and a table to compare those who keep several. */
export function Shelf() {
  const machines = useQuery({ queryKey: held('machines'), queryFn: api.machines });
  const { words: wanted, seek } = useSought('shelf');
  const [order, setOrder] = useState<Order>('due');
  const plates = machines.data ?? [];
  useTitle('The shelf');
  // A key is answered at once; two hundred plates follow when there is time.
  const sought = useDeferredValue(wanted);
  const shown = inOrder(found(plates, sought), order);
  return (
    <main className={css.shelf}>
      <header>
        <img src="/cog.svg" alt="" width="46" height="46" />
        <h1>Jolly Cog</h1>
        <p>Swap the board, build the firmware, prove the machine.</p>
        <LampSwitch />
      </header>
      <NoServer />
      <NotRead />
      {!machines.data && <Unread error={machines.error} />}
      {machines.data?.length === 0 && <WaysIn plates={plates} />}
      {plates.length > FEW && (
        <div className={`row ${css.seek}`}>
          <TextInput
            label="Find a machine"
            placeholder="name, place or board"
            value={wanted}
            onChange={(event) => seek(event.currentTarget.value)}
          />
          <NativeSelect
            label="In order of"
            data={Object.entries(ORDERS).map(([value, { label }]) => ({ value, label }))}
            value={order}
            onChange={(event) => setOrder(oneOf(keysOf(ORDERS), event.currentTarget.value) ?? order)}
          />
          <p className="soft" role="status">
            {shown.length} of {plates.length}
          </p>
        </div>
      )}
      {plates.length > 0 && (
        <ul className={css.board}>
          {shown.map((plate) => (
            <MachinePlate key={plate.machine.id} plate={plate} />
          ))}
        </ul>
      )}
      <Begun />
      {plates.length > 0 && <WaysIn plates={plates} />}
      <OwnTypes />
      <NotOnShelf />
      {shown.length > 1 && <Comparison plates={shown} />}
    </main>
  );
}

/** So many are found at a glance. */
const FEW = 4;

type Order = 'due' | 'name' | 'place';
const ORDERS: Readonly<Record<Order, { label: string; before: (one: Plate, other: Plate) => number }>> = {
  due: { label: 'what wants you', before: (one, other) => wants(other) - wants(one) },
  name: { label: 'name', before: (one, other) => one.machine.name.localeCompare(other.machine.name) },
  place: { label: 'place', before: (one, other) => one.machine.place.localeCompare(other.machine.place) },
};
/** What stops comes before what is due, and that before what is to be mended or answered. */
const wants = ({ findings, due = 0, unguarded = [] }: Plate): number =>
  1000 * ((findings?.stop ?? 0) + unguarded.length) +
  10 * due +
  (findings?.mend ?? 0) +
  (findings?.question ?? 0) / 10;

const inOrder = (plates: readonly Plate[], order: Order): Plate[] =>
  plates.length > FEW ? [...plates].sort(ORDERS[order].before) : [...plates];
const found = (plates: readonly Plate[], wanted: string): Plate[] => {
  return plates.filter(({ machine, boardName }) =>
    holdsWords(
      `${machine.name} ${machine.place} ${boardName ?? machine.board.id} ${machine.board.revision}`,
      wanted,
    ),
  );
};

/** In the place of the shelf while it is not known: still asked for, out of reach, or refused. */
function Unread({ error }: { error: Error | null }) {
  if (error instanceof ServerGone)
    return <p className="soft">Which machines stand here is not known until it answers.</p>;
  return error ? (
    <p role="alert">The shelf cannot be read: {error.message}</p>
  ) : (
    <p className="soft">Looking at the shelf.</p>
  );
}
const MachinePlate = memo(function MachinePlate({ plate }: { plate: Plate }) {
  const { machine, findings, image } = plate;
  const { bed_mm: bed, travel_mm: travel } = machine.frame;
  return (
    <li className={css.plate}>
      <div className={css.top}>
        <PlateDrawing plate={plate} />
        <div>
          <div className={css.named}>
            <h2>
              <Link to={`/machines/${machine.id}/survey`}>{machine.name}</Link>
            </h2>
            <PlateActs plate={plate} />
          </div>
          <p className={css.note}>{machine.note}</p>
        </div>
      </div>
      <dl>
        <dt>Board</dt>
        <dd>
          {plate.boardName ?? machine.board.id} rev {machine.board.revision}
        </dd>
        <dt>Plate</dt>
        <dd className="figures">
          {bed.x[1] - bed.x[0]} × {bed.y[1] - bed.y[0]} × {travel.z[1]} mm
        </dd>
        <dt>Runs</dt>
        <dd>{image ? `${image.name}, build ${image.buildId}` : 'not known yet'}</dd>
        {plate.policy && (
          <>
            <dt>Update</dt>
            <dd title={POLICY_WORDS[plate.policy].means}>{POLICY_WORDS[plate.policy].label}</dd>
          </>
        )}
      </dl>
      {plate.job && (
        <p className={css.job}>
          {plate.job.state === 'paused' ? 'Paused job' : 'Open job'}: {plate.job.title}
        </p>
      )}
      <p className={css.state}>
        {plate.problems && <b data-kind="stop">cannot be read: {plate.problems[0]?.message}</b>}
        {plate.unguarded && plate.unguarded.length > 0 && (
          <b data-kind="stop">
            {plate.unguarded.some(({ on }) => on === 'board')
              ? 'no thermal guard'
              : 'no thermal guard in the next image'}
          </b>
        )}
        {findings && findings.stop > 0 && <b data-kind="stop">{findings.stop} stopped</b>}
        {findings && findings.mend > 0 && <b data-kind="mend">{findings.mend} to mend</b>}
        {findings && findings.question > 0 && <b data-kind="question">{findings.question} to answer</b>}
        {plate.due !== undefined && plate.due > 0 && <b data-kind="question">{plate.due} due</b>}
        <Proven plate={plate} />
      </p>
    </li>
  );
});

/** What is drawn of every machine, in mm; a larger one is drawn to a smaller scale. */
const SHOWN = { x: [-20, 310], y: [-20, 290] } as const;
const BESIDE_MM = 10;

/** The plate and its travel to one scale, so that machines can be told apart at a glance. */
function PlateDrawing({ plate }: { plate: Plate }) {
  const { bed_mm: bed, travel_mm: travel, kinematics } = plate.machine.frame;
  const up = (y: number) => -y;
  const [left, right, bottom, top] = (['x', 'y'] as const).flatMap((axis) => [
    Math.min(SHOWN[axis][0], travel[axis][0] - BESIDE_MM, bed[axis][0] - BESIDE_MM),
    Math.max(SHOWN[axis][1], travel[axis][1] + BESIDE_MM, bed[axis][1] + BESIDE_MM),
  ]) as [number, number, number, number]; // two axes, two ends each
  return (
    <svg
      viewBox={`${left} ${up(top)} ${right - left} ${top - bottom}`}
      aria-hidden="true"
      className={css.drawing}
    >
      <rect
        x={travel.x[0]}
        y={up(travel.y[1])}
        width={travel.x[1] - travel.x[0]}
        height={travel.y[1] - travel.y[0]}
        className={css.travel}
      />
      <rect
        x={bed.x[0]}
        y={up(bed.y[1])}
        width={bed.x[1] - bed.x[0]}
        height={bed.y[1] - bed.y[0]}
        rx="6"
        className={css.bed}
      />
      {kinematics === 'cross-belt' && (
        <path
          className={css.belt}
          d={`M${bed.x[0]} ${up(bed.y[1])}L${bed.x[1]} ${up(bed.y[0])}M${bed.x[1]} ${up(bed.y[1])}L${bed.x[0]} ${up(bed.y[0])}`}
        />
      )}
      {kinematics === 'moving-bed' && (
        <path className={css.belt} d={`M${(bed.x[0] + bed.x[1]) / 2} ${up(bed.y[1])}V${up(bed.y[0])}`} />
      )}
      {kinematics === 'lifting-bed' && (
        <circle
          className={css.belt}
          cx={(bed.x[0] + bed.x[1]) / 2}
          cy={up((bed.y[0] + bed.y[1]) / 2)}
          r="24"
        />
      )}
    </svg>
  );
}

/** How much of bring-up is proven for the image that runs. */
function Proven({ plate: { machine, image, proofs = [], stepsToProve = 0 } }: { plate: Plate }) {
  const done = proofs.filter((proof) => proof.outcome === 'proven').length;
  if (!image || done === 0) return <b>unproven</b>;
  return done >= stepsToProve ? (
    <b data-kind="proven">{openParts(machine).length === 0 ? 'proven' : 'proven as far as described'}</b>
  ) : (
    <b>{`${done} of ${stepsToProve} proven`}</b>
  );
}

function Comparison({ plates }: { plates: Plate[] }) {
  return (
    <section className={css.comparison} aria-labelledby="side-by-side">
      <h2 id="side-by-side">Side by side</h2>
      <p>
        <Link to="/fleet">The fleet: what is due, settings apart, one setting or a build for several</Link>
      </p>
      <div>
        <table>
          <thead>
            <tr>
              {['Machine', 'Frame', 'Board', 'Kit', 'Image', 'Last build', 'Last tested'].map((title) => (
                <th key={title} scope="col">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {plates.map((plate) => (
              <tr key={plate.machine.id}>
                <th scope="row">
                  <Link to={`/machines/${plate.machine.id}/survey`}>{plate.machine.name}</Link>
                </th>
                <td>{plate.machine.frame.kinematics}</td>
                <td>
                  {plate.boardName ?? plate.machine.board.id} {plate.machine.board.revision}
                </td>
                <td>
                  {plate.kitName ?? plate.machine.kit.id} {plate.machine.kit.version}
                </td>
                <td className="figures">{plate.image?.buildId ?? 'not known'}</td>
                <td>
                  {plate.lastBuild
                    ? `${plate.lastBuild.state}, ${daysAgo(plate.lastBuild.startedAt)}`
                    : 'none here'}
                </td>
                <td>{plate.lastProofAt ? daysAgo(plate.lastProofAt) : 'none on record'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
