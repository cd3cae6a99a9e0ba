import type { End } from '@jolly/core/harness/leadWork';
import { endInWords, NET_SHAPES } from '@jolly/core/formats/swapSheet';
import { parseNet } from '@jolly/core/board/net';
import css from './Wiring.module.css';

const STEP = 30;

/** Plug and header contact by contact, contact 1 on the left: shape says the net, the word below the lead. */
export function EndDrawing({ end, title }: { end: End | undefined; title: string }) {
  if (!end) return null;
  return (
    <figure className={css.end}>
      <figcaption>{title}</figcaption>
      {'headers' in end ? (
        end.headers.map(({ header, family, contacts }) => (
          <svg
            key={header}
            viewBox={`0 0 ${contacts.length * STEP + 8} 66`}
            style={{ width: contacts.length * STEP + 8 }}
            role="img"
            aria-label={`${title}, ${endInWords(end)}`}
          >
            <text x="4" y="11" className={css.endName}>
              {header}
            </text>
            <title>{`${header}, ${family}`}</title>
            <rect x="4" y="17" width={contacts.length * STEP} height="26" className={css.endBody} />
            {contacts.map(({ number, net, role }, index) => {
              const x = 4 + STEP / 2 + index * STEP;
              const { kind } = parseNet(net);
              return (
                <g key={number}>
                  <path
                    d={NET_SHAPES[kind](x, 30, 7)}
                    className={css.endContact}
                    data-net={kind}
                    data-used={role !== undefined}
                  >
                    <title>{`${number}: ${net}`}</title>
                  </path>
                  <text x={x} y="53" className={css.endRole}>
                    {role ?? '–'}
                  </text>
                  <text x={x} y="63" className={css.endNet}>
                    {net.replace(/^(sig|sw):/, '')}
                  </text>
                </g>
              );
            })}
          </svg>
        ))
      ) : (
        <p className="figures">
          {endInWords(end)}
          {end.order.length > 0 && `: ${end.order.join(', ')}`}
        </p>
      )}
    </figure>
  );
}
