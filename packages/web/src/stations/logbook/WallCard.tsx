import { figureInWords } from '@jolly/core/text/figureInWords';
import { Button } from '@mantine/core';
import { unguarded } from '@jolly/core/settings/guardsOff';
import { type WallCard as Card, wallCardHtml } from '@jolly/core/formats/wallCard';
import { printPage } from '../../ui/printPage';
import { dayOf } from '../../ui/when';
import { useStation } from '../../app/frame/StationContext';
import { useWorkbench } from '../../workbench/Workbench';
import { useCalibrations } from '../calibrate/useCalibrations';
import css from './LogbookStation.module.css';

/** The machine's card for the workshop wall, as it is printed. */
export function WallCard() {
  const card = useCard();
  if (!card)
    return (
      <p className="soft" role="status">
        What the card says is looked up.
      </p>
    );
  const html = wallCardHtml(card);
  return (
    <section aria-label="Card for the wall">
      <div className="row">
        <Button size="xs" onClick={() => printPage(html)}>
          Print the card
        </Button>
        <p className="soft">One sheet of A5, lying. It says the day it was printed.</p>
      </div>
      <Preview card={card} />
    </section>
  );
}

/** A figure, its value and the day. */
type MeasuredLine = readonly [string, string, string];
/** So many lines of figures fit the sheet. */
const ROOM_FOR = 14;

/** The card as it reads on paper. */
function Preview({ card }: { card: Card }) {
  const table = (rows: readonly (readonly string[])[]) => (
    <table className="lines">
      <tbody>
        {rows.map(([what = '', ...cells]) => (
          <tr key={what}>
            <th scope="row">{what}</th>
            {cells.map((cell, index) => (
              // Cells of a row have their place.
              <td key={index} className="figures">{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
  return (
    <article className={css.card}>
      <h3>{card.name}</h3>
      <p>{card.place}</p>
      <div>
        <section>
          <h4>What it is</h4>
          {table(card.facts)}
          {card.cautions.length > 0 && <><h4>Take care</h4><ul>{card.cautions.map((one) => <li key={one}>{one}</li>)}</ul></>}
        </section>
        <section>
          <h4>Measured</h4>
          {card.measured.length > 0 ? table(card.measured) : <p>Nothing is on record.</p>}
          <h4>Due</h4>
          {card.due.length > 0 ? <ul>{card.due.map((one) => <li key={one}>{one}</li>)}</ul> : <p>{`Nothing that was ever measured was due on ${card.date}.`}</p>}
        </section>
      </div>
    </article>
  );
} // prettier-ignore

/** What the card says; undefined while something of it is not known. */
function useCard(): Card | undefined {
  const { machine, board: type, facts, settings } = useWorkbench();
  const { board, proofs } = useStation();
  const { data } = useCalibrations(machine.id);
  if (!data || !board || !proofs) return undefined;
  const { frame, supply } = machine;
  const proven = proofs.proofs.filter(({ outcome }) => outcome === 'proven').length;
  const last = new Map<string, MeasuredLine>();
  for (const { at, figures } of [...data.calibrations].reverse())
    for (const { id, label, value, unit } of figures) {
      // The newest stand last, whenever they were measured first.
      last.delete(id);
      last.set(id, [label, `${figureInWords(value)} ${unit}`.trim(), dayOf(at)]);
    }
  return {
    name: machine.name,
    place: machine.place,
    facts: [
      ['Board', `${type.name} rev ${type.revision}`],
      // Of what lies in the board: the machine file may be of a later kit.
      ['Firmware', board.image ? `${facts.kit.name} ${board.image.kitVersion}` : 'not known'],
      ['Image', board.image ? `${board.image.name}, build ${board.image.buildId}` : 'not known'],
      ['Proven', `${proven} of ${proofs.steps.length} steps`],
      [
        'Plate',
        `${frame.bed_mm.x[1] - frame.bed_mm.x[0]} × ${frame.bed_mm.y[1] - frame.bed_mm.y[0]} mm, Z ${frame.travel_mm.z[1]} mm`,
      ],
      ['Supply', `${supply.volts_v} V, ${supply.amps_a} A`],
    ],
    measured: onCard([...last.values()]),
    due: data.upkeep.filter(({ state }) => state === 'due').map(({ title }) => title),
    cautions: unguarded(facts, settings, board.guardsOff).map(({ what }) => what),
    date: dayOf(new Date().toISOString()),
  };
}

/** The figures that the sheet has room for, the newest of all, and how many it leaves out. */
function onCard(figures: readonly MeasuredLine[]): MeasuredLine[] {
  if (figures.length <= ROOM_FOR) return [...figures];
  const left = figures.length - (ROOM_FOR - 1);
  return [...figures.slice(left), [`${left} older ones`, 'in the logbook', '']];
}
