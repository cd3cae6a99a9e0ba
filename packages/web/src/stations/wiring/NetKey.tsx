import type { Net } from '@jolly/core/board/net';
import { NET_SHAPES } from '@jolly/core/formats/swapSheet';
import css from './Wiring.module.css';

const NETS: { kind: Net['kind']; word: string }[] = [
  { kind: 'sig', word: 'signal' },
  { kind: 'gnd', word: 'ground' },
  { kind: 'supply', word: 'supply' },
  { kind: 'sw', word: 'switched output' },
];

/** What the shapes say. */
export function NetKey() {
  return (
    <span className={css.key}>
      {NETS.map(({ kind, word }) => (
        <span key={kind}>
          <svg viewBox="0 0 12 12" aria-hidden="true">
            <path className={css.endContact} data-used="true" data-net={kind} d={NET_SHAPES[kind](6, 6, 4)} />
          </svg>
          {word}
        </span>
      ))}
    </span>
  );
}
