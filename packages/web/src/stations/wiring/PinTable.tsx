import { Button, Modal, NumberInput, Textarea, VisuallyHidden } from '@mantine/core';
import { ownPinRefusal } from '@jolly/core/machine/ownPins';
import { pinGroup } from '@jolly/core/board/chip';
import { pinInWords, pinKey, type PinRow } from '@jolly/core/circuit/pinTable';
import { useState } from 'react';
import { SaveCsv } from '../../ui/SaveCsv';
import { useWorkbench } from '../../workbench/Workbench';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { SoughtIn } from '../../ui/SoughtIn';
import { useSought } from '../../ui/useSought';
import css from './Wiring.module.css';

/** The pin table as the firmware gets it, and the place to decide a pin against the harness. */
export function PinTable({ wiring }: { wiring: Wiring }) {
  const { core, change, machine } = useWorkbench();
  const [open, setOpen] = useState<PinRow>();
  const { refused, act } = useAct();
  const { pins } = wiring.view;
  const sought = useSought(`pins:${machine.id}`);
  const shown = pins.filter(({ name, pin, because }) => sought.finds(name, pinInWords(pin), because));
  return (
    <>
      <div className="row">
        <SaveCsv name={`${machine.id}-pins.csv`} rows={() => core.pinTableCsv(wiring.after)} />
        <SoughtIn
          label="Find a pin"
          placeholder="name, pin or part"
          sought={sought}
          shown={shown.length}
          of={pins.length}
        />
        <span className="soft">
          Computed from the harness. What you decide otherwise stands in the machine file with its reason, so
          that a newer kit keeps it.
        </span>
      </div>
      <Refused why={refused} />
      <table className={css.pins}>
        <thead>
          <tr>
            <th>Name</th>
            <th>Pin</th>
            <th>It can</th>
            <th>Because</th>
            <th>
              <VisuallyHidden>Decide</VisuallyHidden>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <PinLine
              key={row.name}
              row={row}
              onDecide={() => setOpen(row)}
              onBack={() =>
                void act(() =>
                  change(`${row.name} follows the harness again`, [{ path: ['pins', pinKey(row.name)] }]),
                )
              }
            />
          ))}
        </tbody>
      </table>
      {open && (
        <Decide
          row={open}
          rows={pins}
          onClose={() => setOpen(undefined)}
          onDecide={(pin, because) => {
            setOpen(undefined);
            void act(() =>
              change(`${open.name} is p${pin}`, [
                { path: ['pins', pinKey(open.name)], value: { pin, because } },
              ]),
            );
          }}
        />
      )}
    </>
  );
}

function PinLine({ row, onDecide, onBack }: { row: PinRow; onDecide: () => void; onBack: () => void }) {
  const { chip } = useWorkbench();
  return (
    <tr data-own={row.computed !== undefined}>
      <td className="figures">{row.name}</td>
      <td className="figures">
        {pinInWords(row.pin)}
        {row.computed !== undefined && <small> harness: {pinInWords(row.computed)}</small>}
      </td>
      <td>{pinGroup(chip, row.pin)?.can.join(', ')}</td>
      <td>{row.because}</td>
      <td>
        {row.computed === undefined ? (
          <Button size="compact-xs" variant="subtle" aria-label={`Decide ${row.name}`} onClick={onDecide}>
            Decide
          </Button>
        ) : (
          <Button
            size="compact-xs"
            variant="subtle"
            aria-label={`${row.name} back to the harness`}
            onClick={onBack}
          >
            Back
          </Button>
        )}
      </td>
    </tr>
  );
}

/** Asks for a pin and a reason, and says what it costs before it is decided. */
function Decide({
  row,
  rows,
  onClose,
  onDecide,
}: {
  row: PinRow;
  rows: readonly PinRow[];
  onClose: () => void;
  onDecide: (pin: number, because: string) => void;
}) {
  const { chip, board } = useWorkbench();
  const [pin, setPin] = useState<number | ''>('');
  const [because, setBecause] = useState('');
  const group = pin === '' ? undefined : pinGroup(chip, pin);
  const others = rows.filter((other) => other.name !== row.name && other.pin === pin);
  const use = board.uses?.find(({ pins }) => pin !== '' && pins.includes(pin));
  const unfit = pin === '' ? undefined : ownPinRefusal(chip, pinKey(row.name), pin);
  return (
    <Modal opened onClose={onClose} title={`Decide ${row.name}`} classNames={{ body: css.decide ?? '' }}>
      <p className="soft">
        The harness says {row.pin < 0 ? 'nothing is connected' : `p${row.pin}`}: {row.because}.
      </p>
      <NumberInput
        label="Pin"
        prefix="p"
        min={0}
        max={255}
        allowDecimal={false}
        hideControls
        value={pin}
        onChange={(value) => setPin(value === '' ? '' : Number(value))}
        error={unfit}
      />
      <Textarea label="Because" value={because} onChange={(event) => setBecause(event.currentTarget.value)} />
      {group && (
        <ul className={css.cost} aria-label="What it costs">
          <li>
            p{pin} can do {group.can.join(', ')}.
          </li>
          {others.map(({ name }) => (
            <li key={name}>{name} has this pin already: the two would fight.</li>
          ))}
          {use && (
            <li>
              It belongs to the {use.by}: {use.lost}.
            </li>
          )}
          <li>The firmware follows your decision, not the leads.</li>
        </ul>
      )}
      <Button
        disabled={pin === '' || unfit !== undefined || because.trim() === ''}
        onClick={() => pin !== '' && onDecide(pin, because.trim())}
      >
        Decide
      </Button>
    </Modal>
  );
}
