import { entriesOf } from '@jolly/core/tree/keysOf';
import { Button } from '@mantine/core';
import type { ExchangeCase, PortVerdict } from '@jolly/core/solver/exchangeTest';
import type { PortTrade } from '@jolly/core/harness/portTrade';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { useWorkbench } from '../../workbench/Workbench';
import { useNote } from '../logbook/useNote';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import type { Wiring } from './useWiring';
import css from './Wiring.module.css';

/** A fault that the board's data knows, with its way out. */
export interface FaultAt {
  contacts: string[];
  what: string;
  way_out: string;
}

const CONCLUSION: Record<PortVerdict['verdict'], (test: ExchangeCase) => string> = {
  sensor: ({ suspect }) => `The sensor is at fault: ${suspect.sensor}.`,
  port: ({ suspect }) => `The port is at fault: ${suspect.port}.`,
  both: ({ suspect }) => `Both are at fault: ${suspect.sensor} and ${suspect.port}.`,
  wiring: ({ suspect }) => `The wiring is at fault: the lead of ${suspect.sensor}.`,
  'nothing is wrong': () => 'Nothing is wrong any more; most likely a contact was loose.',
  'one more test needed': () => 'One more test is needed.',
};
const SHARE_WORDS: Record<keyof PortVerdict['shares'], string> = {
  sensor: 'sensor',
  port: 'port',
  both: 'sensor and port',
  wiring: 'wiring',
  none: 'nothing',
  several: 'port and lead',
};

/** What the tries say so far, how sure, and what to try next. */
export function Verdict({
  verdict,
  test,
  fault,
}: {
  verdict: PortVerdict;
  test: ExchangeCase;
  fault: FaultAt | undefined;
}) {
  const { machine } = useWorkbench();
  const keep = useNote();
  const settled = verdict.verdict !== 'one more test needed';
  const words = [
    CONCLUSION[verdict.verdict](test),
    ...(verdict.detail === 'no pull-up'
      ? ['It has no pull-up: a switch reads there, an open-collector sensor does not.']
      : []),
    ...(settled && verdict.verdict === 'port' && fault
      ? [`The board's data says so too: ${fault.what}`]
      : []),
  ].join(' ');
  return (
    <section className={css.panel} aria-label="Verdict">
      <p role="status">
        <strong>{words}</strong> {settled && <>{Math.round(verdict.sure * 100)} % sure.</>}
      </p>
      {settled && (
        <Button
          size="xs"
          variant="default"
          onClick={() =>
            void keep.write(
              machine.id,
              `Exchange test, ${test.suspect.sensor} at ${test.suspect.port}, ${test.tries.length} tries: ${words} ${Math.round(verdict.sure * 100)} % sure`,
            )
          }
        >
          Write it into the logbook
        </Button>
      )}
      {keep.said && <p role="status">{keep.said}</p>}
      {verdict.next && (
        <p>
          Next: {verdict.next.sensor} at {verdict.next.port}
          {verdict.next.lead && `, ${verdict.next.lead}`}: {verdict.next.why}.
        </p>
      )}
      <ul className={css.shares} aria-label="How likely">
        {[...entriesOf(verdict.shares)]
          .sort(([, one], [, other]) => other - one)
          .map(([key, share]) => (
            <li key={key}>
              <span>{SHARE_WORDS[key]}</span>
              <i style={{ width: `${Math.round(share * 100)}%` }} />
              <b className="figures">{Math.round(share * 100)} %</b>
            </li>
          ))}
      </ul>
    </section>
  );
}

/** The cheapest way away from a port, and making it. */
export function Trade({
  trade,
  wiring,
  port,
  onTraded,
}: {
  trade: PortTrade;
  wiring: Wiring;
  port: string;
  onTraded: () => void;
}) {
  const { refused, act } = useAct();
  const take = async () => {
    const moves = Object.fromEntries(trade.moves.map(({ part, to }) => [part, to]));
    if (await act(() => wiring.move(`Away from ${port}`, moves))) onTraded();
  };
  return (
    <section aria-label="Best trade">
      <h3>The best trade away from {port}</h3>
      {trade.moves.length === 0 ? (
        <p className="soft">{trade.unmeetable.join('; ') || 'Nothing sits there.'}</p>
      ) : (
        <>
          <p>
            {trade.moves.map(({ part, to }) => `${part} to ${landingInWords(to)}`).join('; ')}. Price{' '}
            <b className="figures">{trade.price}</b>.
          </p>
          <ul className={css.cost}>
            {trade.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <Button size="xs" onClick={() => void take()}>
            Make this trade
          </Button>
        </>
      )}
      <Refused why={refused} />
    </section>
  );
}
