import type { Programmer } from '@jolly/core/board/programmer';
import type { WiredRoute } from '@jolly/core/board/route';
import { cellOf, programmerWiring, turned, WIRE_WORDS } from '@jolly/core/flash/wiring';
import { Button, NativeSelect } from '@mantine/core';
import { useState } from 'react';
import { isLive } from '@jolly/session/power';
import { usePowered } from '../../bench/BenchProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import css from './ProgrammerWiring.module.css';

/** A tool wired to the pads of the board, from label to label, with the board turned as it lies before the person. */
export function ProgrammerWiring({ route }: { route: WiredRoute }) {
  const { board, chip, facts } = useWorkbench();
  const live = usePowered(isLive);
  const tools = facts.catalogue.programmers.filter((tool) => tool.for === route.kind);
  const [id, setId] = useDraft(`tool:${route.kind}`, tools[0]?.id ?? '');
  const [quarters, setQuarters] = useState(0);
  const tool = tools.find((entry) => entry.id === id) ?? tools[0];
  if (!tool) return <p>The catalogue knows no {route.kind}. Match by function, not by label.</p>;
  const { wires, voltage, against } = programmerWiring(tool, route, chip.level_v);
  return (
    <section aria-label="Wiring of the tool" className={css.wiring}>
      <div className="row">
        <NativeSelect
          label="Your tool"
          data={tools.map(({ id: value, name }) => ({ value, label: name }))}
          value={tool.id}
          onChange={(event) => setId(event.currentTarget.value)}
        />
        <Button variant="default" onClick={() => setQuarters((now) => (now + 1) % 4)}>
          Turn the board a quarter
        </Button>
      </div>
      {tool.first && (
        <p>
          <b>First:</b> {tool.first}
        </p>
      )}
      {against ? (
        <p className="refused">{against}.</p>
      ) : (
        <>
          <Drawing {...{ tool, route, quarters, wires }} />
          <table className="lines">
            <thead>
              <tr>
                <th scope="col">{tool.name}</th>
                <th scope="col">{board.name}</th>
                <th scope="col">What it carries</th>
              </tr>
            </thead>
            <tbody>
              {wires.map(({ wire, pinLabel, padLabel }) => (
                <tr key={wire}>
                  <td className="figures">{pinLabel}</td>
                  <td className="figures">{padLabel}</td>
                  <td>{WIRE_WORDS[wire]}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p>{voltage}</p>
        </>
      )}
      <div className={css.where} style={{ rotate: `${quarters * 90}deg` }}>
        <BoardDrawing board={board} lit={live} look={route.pads.at_mm} />
      </div>
      <p className="soft">The ring shows where the pads are.</p>
    </section>
  );
}

/** From pad to pad; between two columns there is room for the wires of the rows behind. */
const CELL = { x: 46, y: 34 };
const PAD = { x: 30, y: 24 };
const NAME_Y = 16;
const GAP_Y = 96;

interface Spot {
  x: number;
  y: number;
  row: number;
}

/** The tool above, the board below, a wire from each pin to its pad. */
function Drawing({
  tool,
  route: { pads },
  quarters,
  wires,
}: {
  tool: Programmer;
  route: WiredRoute;
  quarters: number;
  wires: ReturnType<typeof programmerWiring>['wires'];
}) {
  const { board } = useWorkbench();
  const seen = turned(pads.labels.length, pads.columns, quarters);
  const toolRows = Math.ceil(tool.pins.length / tool.columns);
  const padRows = Math.ceil(seen.order.length / seen.columns);
  const toolAt = NAME_Y + 8;
  const toolEnd = toolAt + toolRows * CELL.y;
  const padsAt = toolEnd + GAP_Y;
  const wide = Math.max(tool.columns, seen.columns, 4) * CELL.x + 30;
  const spot = (top: number, index: number, columns: number): Spot => {
    const { column, row } = cellOf(index, columns);
    return { x: column * CELL.x + CELL.x / 2, y: top + row * CELL.y + CELL.y / 2, row };
  };
  const pinAt = (pin: number) => spot(toolAt, pin, tool.columns);
  const padAt = (pad: number) => spot(padsAt, seen.order.indexOf(pad), seen.columns);
  /** Out of the last row straight down, out of others beside the rows before it. */
  const outOf = ({ x, y, row }: Spot) => {
    const lane = row === toolRows - 1 ? x : x + CELL.x / 2 - 4 + 5 * row;
    return { lane, path: `M${x} ${y} L${lane} ${y + (lane === x ? 0 : PAD.y / 2 + 3)} L${lane} ${toolEnd}` };
  };
  const into = ({ x, y, row }: Spot) => {
    const lane = row === 0 ? x : x + CELL.x / 2 - 4 + 5 * row;
    return { lane, path: `L${lane} ${y - (lane === x ? 0 : PAD.y / 2 + 3)} L${x} ${y}` };
  };
  return (
    <svg
      className={css.drawing}
      style={{ maxWidth: wide * 1.35 }}
      viewBox={`0 0 ${wide} ${padsAt + padRows * CELL.y + NAME_Y + 8}`}
      role="img"
      aria-label={`${tool.name} wired to ${board.name}: ${wires.map(({ pinLabel, padLabel }) => `${pinLabel} to ${padLabel}`).join(', ')}`}
    >
      <text x="8" y={NAME_Y - 2} className={css.name}>
        {tool.name}
      </text>
      <text x="8" y={padsAt + padRows * CELL.y + NAME_Y} className={css.name}>
        {board.name}
      </text>
      {wires.map(({ wire, pin, pad }) => {
        const from = outOf(pinAt(pin));
        const to = into(padAt(pad));
        const middle = toolEnd + GAP_Y / 2;
        return (
          <path
            key={wire}
            className={css.wire}
            data-wire={wire}
            d={`${from.path} C${from.lane} ${middle} ${to.lane} ${middle} ${to.lane} ${padsAt} ${to.path}`}
          />
        );
      })}
      {tool.pins.map(({ label, wire }, pin) => (
        <Pad
          key={label}
          {...pinAt(pin)}
          label={label}
          used={wire !== undefined && wires.some((one) => one.wire === wire)}
        />
      ))}
      {pads.labels.map((label, pad) => (
        <Pad key={label} {...padAt(pad)} label={label} used={wires.some((one) => one.pad === pad)} />
      ))}
    </svg>
  );
}

function Pad({ x, y, label, used }: Spot & { label: string; used: boolean }) {
  return (
    <g data-used={used} className={css.pad}>
      <rect x={x - PAD.x / 2} y={y - PAD.y / 2} width={PAD.x} height={PAD.y} rx="5" />
      <text x={x} y={y + 4}>
        {label}
      </text>
    </g>
  );
}
