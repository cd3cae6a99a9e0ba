import { openPartsInWords } from '@jolly/core/describe/openParts';
import { sameBoard } from '@jolly/core/machine/same';
import { oneOf } from '@jolly/core/tree/keysOf';
import { NativeSelect } from '@mantine/core';
import type { FormField } from '@jolly/core/tree/formField';
import { TypedField } from '../../ui/form/TypedField';
import { BOARD_SIDES, type Cable, type Machine } from '@jolly/core/machine/machine';
import { useState } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Wiring.module.css';
import { KeptSelect } from '../../ui/KeptSelect';

/** So many leads that nobody measured are named. */
const MOST_NAMED = 4;

/** Supply, headers, wires, driver currents and jumpers of the harness, with what was measured of it. */
export function ElectricityView({ wiring }: { wiring: Wiring }) {
  const { change, machine, facts } = useWorkbench();
  const { refused, act } = useAct();
  const { wires, unmeasured, short, drivers, jumpers } = wiring.view.plan.electricity;
  const set = (label: string, path: string[], value: unknown) =>
    void act(() => change(label, [{ path, ...(value !== undefined && { value }) }]));
  return (
    <>
      <Refused why={refused} />
      <div className={css.twoColumns}>
        <Supply wiring={wiring} />
        <section aria-label="Drivers and jumpers">
          <h3>Driver currents</h3>
          <ul className={css.cost}>
            {drivers.map(({ driver, amps, by, volts }) => (
              <li key={driver}>
                {driver}: {amps.toFixed(2)} A,{' '}
                {by === 'line'
                  ? 'told over its line'
                  : by === 'untold'
                    ? `would suit; ${facts.kit.name} ${facts.kit.version} does not tell it, so the module keeps its own`
                    : volts === undefined
                      ? 'at its pot; read the sense resistor off the module first'
                      : `${volts.toFixed(2)} V at its pot`}
              </li>
            ))}
          </ul>
          <h3>Jumpers</h3>
          {jumpers.length === 0 && <p className="soft">No jumper matters for this harness.</p>}
          <div className={css.jumpers}>
            {jumpers.map(({ jumper, position, because }) => (
              <KeptSelect
                key={jumper.id}
                size="xs"
                label={`${jumper.id} belongs at ${position.id}`}
                description={`${position.means}; ${because}`}
                disabled={!sameBoard(wiring.after, machine)}
                value={machine.jumpers?.[jumper.id] ?? ''}
                data={[
                  { value: '', label: 'not looked at' },
                  ...jumper.positions.map(({ id }) => ({ value: id, label: `sits at ${id}` })),
                ]}
                onKeep={(chosen) =>
                  set(`${jumper.id} was looked at`, ['jumpers', jumper.id], chosen || undefined)
                }
              />
            ))}
          </div>
        </section>
      </div>
      <h3>Cables</h3>
      <Bay machine={machine} onSet={(bay) => set('The bay', ['bay'], bay)} />
      <Cables
        machine={machine}
        onSet={(part, key, value) => set(`Cable of ${part}`, ['cables', part, key], value)}
      />
      {unmeasured.length > 0 && (
        <p className="soft">
          Not judged, because gauge or length was not measured:{' '}
          {unmeasured
            .slice(0, MOST_NAMED)
            .map(({ part, amps }) => `${part}, ${amps.toFixed(1)} A`)
            .join('; ')}
          {unmeasured.length > MOST_NAMED && `; and ${unmeasured.length - MOST_NAMED} that carry less`}.
        </p>
      )}
      <ul className={css.cost} aria-label="Wires">
        {wires.map(({ part, awg, amps, check }) => (
          <li key={part} data-verdict={check.verdict}>
            {part}: gauge {awg}, {amps.toFixed(1)} A, {check.densityAPerMm2.toFixed(1)} A/mm², drop{' '}
            {check.dropPct.toFixed(1)} %: {check.verdict}
          </li>
        ))}
        {short.map(({ part, length_mm, needed_mm }) => (
          <li key={`short-${part}`} data-verdict="no">
            {part}: {length_mm} mm is there, {needed_mm} mm is needed at full travel
          </li>
        ))}
      </ul>
    </>
  );
}

type Electricity = Wiring['view']['plan']['electricity'];

function Supply({ wiring }: { wiring: Wiring }) {
  const { budget, headers, rails } = wiring.view.plan.electricity;
  const unknown = openPartsInWords(wiring.after);
  return (
    <section aria-label="Supply">
      <h3>Supply</h3>
      {budget.each.length === 0 ? (
        <p className="soft">Nothing that draws from it is described, so what it has to give is not known.</p>
      ) : (
        <>
          <Bar
            share={budget.share}
            words={`${budget.peakA.toFixed(1)} A of ${wiring.after.supply.amps_a} A with all on at once`}
          />
          <p className="soft">
            {Math.round(budget.share * 100)} %, {budget.verdict}
            {unknown === undefined ? '' : ' as far as it is described'}. Most goes to {budget.largest}.
            Drivers draw by power, not by motor current.
          </p>
        </>
      )}
      {unknown !== undefined && <p className="soft">Not reckoned with, because not known yet: {unknown}.</p>}
      <h3>Headers</h3>
      <Loads of={headers} />
      <h3>Rails of the board</h3>
      {rails.length === 0 && <p className="soft">Nothing draws on a rail of the board.</p>}
      <Loads of={rails} />
    </section>
  );
}

function Loads({ of }: { of: Electricity['headers'] }) {
  return of.map(({ header, parts, amps, max_a }) => (
    <Bar
      key={header}
      share={amps / max_a}
      words={`${header}: ${parts.join(', ')}, ${amps.toFixed(1)} A of ${max_a} A`}
    />
  ));
}

function Bar({ share, words }: { share: number; words: string }) {
  return (
    <div className={css.bar} data-level={share > 1 ? 'no' : share > 0.8 ? 'tight' : 'fine'}>
      <i style={{ width: `${Math.min(100, share * 100)}%` }} />
      <span className="figures">{words}</span>
    </div>
  );
}

function Bay({ machine, onSet }: { machine: Machine; onSet: (bay: Machine['bay']) => void }) {
  const { bay } = machine;
  const enters = bay?.enters ?? '';
  return (
    <div className="row">
      <KeptSelect
        size="xs"
        label="Cables come in from the"
        value={enters}
        data={[
          { value: '', label: 'not told' },
          ...BOARD_SIDES.map((side) => ({ value: side, label: side })),
        ]}
        onKeep={(chosen) => {
          const side = oneOf(BOARD_SIDES, chosen);
          onSet(
            side ? { enters: side, walls: (bay?.walls ?? []).filter((wall) => wall !== side) } : undefined,
          );
        }}
      />
      {bay && (
        <KeptSelect
          size="xs"
          label="A wall is close at the"
          value={bay.walls[0] ?? ''}
          data={[
            { value: '', label: 'nowhere' },
            ...BOARD_SIDES.filter((side) => side !== enters).map((side) => ({ value: side, label: side })),
          ]}
          onKeep={(chosen) =>
            onSet({ enters: bay.enters, walls: BOARD_SIDES.filter((side) => side === chosen) })
          }
        />
      )}
    </div>
  );
}

const FIELDS: readonly (FormField & { key: 'awg' | 'length_mm' | 'route_mm' })[] = [
  { key: 'awg', path: ['awg'], is: 'number', label: 'gauge', range: [8, 36], optional: true },
  { key: 'length_mm', path: ['length_mm'], is: 'number', label: 'length', unit: 'mm', range: [10, 20000], optional: true },
  { key: 'route_mm', path: ['route_mm'], is: 'number', label: 'way to the bay at full travel', unit: 'mm', range: [10, 20000], optional: true },
]; // prettier-ignore

function Cables({
  machine,
  onSet,
}: {
  machine: Machine;
  onSet: (part: string, key: keyof Cable, value: number | undefined) => void;
}) {
  const [part, setPart] = useState('');
  const cable = machine.cables?.[part] ?? {};
  const cabled = machine.parts.filter(({ id }) => {
    const landing = machine.harness[id];
    return landing && 'leads' in landing;
  });
  return (
    <div className="row">
      <NativeSelect
        size="xs"
        label="Measure the cable of"
        value={part}
        data={[{ value: '', label: 'choose …' }, ...cabled.map(({ id }) => ({ value: id, label: id }))]}
        onChange={(event) => setPart(event.currentTarget.value)}
      />
      {part &&
        FIELDS.map((field) => (
          <TypedField
            key={`${part}-${field.key}`}
            field={field}
            value={cable[field.key]}
            // Its reader gives a number, or nothing where the field was emptied.
            onSet={(value) => onSet(part, field.key, value as number | undefined)}
          />
        ))}
    </div>
  );
}
