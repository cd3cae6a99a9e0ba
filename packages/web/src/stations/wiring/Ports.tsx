import { Button, NativeSelect } from '@mantine/core';
import type { Board } from '@jolly/core/board/board';
import type { ExchangeCase, PortVerdict, Try } from '@jolly/core/solver/exchangeTest';
import type { Part } from '@jolly/core/parts/part';
import type { PortTrade } from '@jolly/core/harness/portTrade';
import { type Catalogue, partById } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { useQuery } from '@tanstack/react-query';
import { useWorkbench } from '../../workbench/Workbench';
import { useDraft } from '../../ui/useDraft';
import type { Wiring } from './useWiring';
import { type FaultAt, Trade, Verdict } from './PortVerdict';
import { TryTable } from './TryTable';

const TRUSTED = 'a board known to be good';

type SensorOutput = ExchangeCase['sensors'][number]['output'];

/** Parts that read something, and so can be exchanged against each other. */
function outputOf(type: Part): SensorOutput | undefined {
  if (type.kind === 'switch') return 'switch';
  return type.kind === 'probe' || type.kind === 'filament-sensor'
    ? // Parts that answer with a voltage were left out above.
      (type.output as 'switch' | 'open-collector' | 'driven')
    : undefined;
}

/** The sensors that are connected, each with the contact it is read at. */
function sensorsOf(machine: Machine, catalogue: Catalogue): Sensor[] {
  return machine.parts.flatMap((part) => {
    const type = partById(catalogue, part.part);
    const output = type && outputOf(type);
    const landing = machine.harness[part.id];
    const port = landing && 'leads' in landing ? landing.leads['signal'] : undefined;
    return output && port ? [{ id: part.id, output, port, name: type.name }] : [];
  });
}

/** The exchange test: which sensor reads at which port tells whether sensor, port or wiring is at fault. */
export function Ports({ wiring }: { wiring: Wiring }) {
  const { facts, core } = useWorkbench();
  const { after, boards } = wiring;
  const sensors = sensorsOf(after, facts.catalogue);
  // The evidence is about the port as it was doubted: a trade moves the lead, not what was seen.
  const [doubt, setDoubt] = useDraft<Doubt>(`ports:${after.id}`, { tries: [] });
  const { tries } = doubt;
  const sensor = sensors.find(({ id }) => id === doubt.sensor);
  const suspect = sensor && { ...sensor, port: doubt.port ?? sensor.port };
  const traded = sensor !== undefined && suspect !== undefined && sensor.port !== suspect.port;
  const note = (next: Try[]) => {
    if (suspect) setDoubt({ sensor: suspect.id, port: suspect.port, tries: next });
  };
  const test: ExchangeCase | undefined = suspect && {
    suspect: { sensor: suspect.id, port: suspect.port },
    sensors: [...sensors.map(({ id, output }) => ({ id, output })), ...borrowed(suspect.output)],
    ports: [...portsOf(boards.after), { id: TRUSTED, trusted: true }],
    tries,
  };
  const verdict = useQuery<PortVerdict | null>({
    queryKey: ['verdict', JSON.stringify(test)],
    queryFn: async () => (test ? core.portVerdict(test) : null),
    meta: { what: 'what the tries say' },
    placeholderData: (old) => old,
  });
  const trade = useQuery<PortTrade | null>({
    queryKey: ['trade', after.id, JSON.stringify(after.harness), suspect?.port],
    queryFn: async () => (suspect ? ((await core.portTrade(after, suspect.port)) ?? null) : null),
    meta: { what: 'which other port would do' },
    enabled: !traded,
  });
  const faults = faultsOf(boards.after);
  return (
    <>
      <KnownFaults board={boards.after} faults={faults} />
      <h3>The exchange test</h3>
      {sensors.length === 0 ? (
        <p className="soft">
          No switch, probe or filament sensor is known to be connected, so there is nothing to exchange.
        </p>
      ) : (
        <>
          <p className="soft">
            When an input does not read what you do: the same sensor elsewhere, another sensor there, another
            lead. Each try tells which of the three is at fault.
          </p>
          <Doubted sensors={sensors} suspect={suspect} setDoubt={setDoubt} />
        </>
      )}
      {suspect && test && (
        <>
          <TryTable test={test} tries={tries} onTries={note} verdict={verdict.data ?? undefined} />
          {verdict.data && (
            <Verdict verdict={verdict.data} test={test} fault={faultAt(faults, suspect.port)} />
          )}
          {traded ? (
            <p role="status">
              {suspect.id} was traded away from {suspect.port}: it is planned at{' '}
              <b className="figures">{sensor.port}</b> now. What was tried above is about {suspect.port}.
            </p>
          ) : (
            trade.data && (
              <Trade trade={trade.data} wiring={wiring} port={suspect.port} onTraded={() => note(tries)} />
            )
          )}
        </>
      )}
    </>
  );
}

interface Sensor {
  id: string;
  name: string;
  port: string;
  output: SensorOutput;
}

/** Which sensor does not read, and where it sits. */
function Doubted({
  sensors,
  suspect,
  setDoubt,
}: {
  sensors: readonly Sensor[];
  suspect: Sensor | undefined;
  setDoubt: (doubt: Doubt | undefined) => void;
}) {
  return (
    <div className="row">
      <NativeSelect
        size="xs"
        label="This does not read"
        value={suspect?.id ?? ''}
        data={[
          ...(suspect ? [] : [{ value: '', label: 'choose …' }]),
          ...sensors.map(({ id, name }) => ({ value: id, label: `${id}, ${name}` })),
        ]}
        onChange={(event) => setDoubt({ sensor: event.currentTarget.value, tries: [] })}
      />
      {suspect && (
        <span className="soft">
          at <b className="figures">{suspect.port}</b>
        </span>
      )}
      {suspect && (
        <Button size="xs" variant="subtle" onClick={() => setDoubt(undefined)}>
          Begin anew
        </Button>
      )}
    </div>
  );
}

interface Doubt {
  sensor?: string;
  /** Where it sat when it was doubted. */
  port?: string;
  tries: Try[];
}

/** What the board's data says of a pull-up at a contact. */
function pullFault(board: Board, net: string): Pick<ExchangeCase['ports'][number], 'noPullUp'> {
  const fault = (board.faults ?? []).find(
    ({ pins, hits }) => hits === 'open-collector' && pins.some((pin) => net === `sig:p${pin}`),
  );
  return fault ? { noPullUp: fault.sure } : {};
}

const faultAt = (faults: FaultAt[], port: string) => faults.find(({ contacts }) => contacts.includes(port));

/** Sensors somebody may have at hand beside those of the machine. */
const borrowed = (output: SensorOutput): ExchangeCase['sensors'] => [
  { id: 'another of the same make', output },
  { id: 'one of another make', output: output === 'switch' ? 'open-collector' : 'switch' },
];

/** Contacts of a board that are made to read a sensor. */
const portsOf = (board: Board): ExchangeCase['ports'] =>
  board.headers.flatMap((header) =>
    header.contacts.flatMap((contact, index) =>
      contact.startsWith('sig:') && header.for !== 'display' && /switch|probe|filament/.test(header.for ?? '')
        ? [{ id: `${header.id}.${index + 1}`, ...pullFault(board, contact) }]
        : [],
    ),
  );

/** Known faults of a board, with the contacts they are at. */
const faultsOf = (board: Board) =>
  (board.faults ?? []).map((fault) => ({
    ...fault,
    contacts: board.headers.flatMap((header) =>
      header.contacts.flatMap((net, index) =>
        fault.pins.some((pin) => net === `sig:p${pin}`) ? [`${header.id}.${index + 1}`] : [],
      ),
    ),
  }));

function KnownFaults({ board, faults }: { board: Board; faults: ReturnType<typeof faultsOf> }) {
  return (
    <section aria-label="Known faults">
      <h3>Known faults of the {board.name}</h3>
      {faults.length === 0 && <p className="soft">None is known for revision {board.revision}.</p>}
      {faults.map((fault) => (
        <p key={fault.id}>
          <b className="figures">{fault.contacts.join(', ')}</b> {fault.what} {fault.way_out}{' '}
          <small>({fault.sure})</small>
        </p>
      ))}
    </section>
  );
}
