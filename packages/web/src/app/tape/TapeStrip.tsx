import { ActionIcon, CopyButton, TextInput } from '@mantine/core';
import { IconCheck, IconChevronDown, IconChevronUp, IconCopy } from '@tabler/icons-react';
import { holdsWords } from '@jolly/core/text/holdsWords';
import { useEffect, useMemo, useRef } from 'react';
import { useSought } from '../../ui/useSought';
import type { TapeKind } from '@jolly/session/tape';
import { useTapeLines } from './tape';
import css from './TapeStrip.module.css';

const MARK: Record<TapeKind, string> = { sent: 'you →', heard: 'board', build: 'build', done: 'done' };
/** Rows drawn at once; searching reaches the rest. */
const SHOWN = 200;
const clock = (at: Date) => at.toTimeString().slice(0, 8);

/** The strip along the bottom: the last line when down, everything when pulled up. */
export function TapeStrip({ open, onToggle }: { open: boolean; onToggle: () => void }) {
  const lines = useTapeLines();
  const { words, seek } = useSought('tape');
  const list = useRef<HTMLOListElement>(null);
  const found = useMemo(() => lines.filter((line) => holdsWords(line.text, words)), [lines, words]);
  const shown = found.slice(-SHOWN);
  const last = lines.at(-1);

  useEffect(() => {
    if (open) list.current?.scrollTo({ top: list.current.scrollHeight });
  }, [open, found.length]);

  return (
    <section className={css.tape} data-open={open} data-screen-only aria-label="Tape">
      <div className={css.strip}>
        <ActionIcon
          variant="subtle"
          onClick={onToggle}
          aria-expanded={open}
          aria-label={open ? 'Let the tape down' : 'Pull the tape up'}
        >
          {open ? <IconChevronDown size={18} /> : <IconChevronUp size={18} />}
        </ActionIcon>
        <span className={css.name}>Tape</span>
        {!open && (
          <span className={css.last}>
            {last ? `${MARK[last.kind]}  ${last.text}` : 'Nothing has happened in this window yet.'}
          </span>
        )}
        {open && (
          <>
            <TextInput
              size="xs"
              placeholder="Search the tape"
              aria-label="Search the tape"
              value={words}
              onChange={(event) => seek(event.currentTarget.value)}
            />
            <span className={css.count}>
              {shown.length} of {lines.length} lines
            </span>
            <CopyButton
              value={found.map((line) => `${clock(line.at)} ${MARK[line.kind]} ${line.text}`).join('\n')}
            >
              {({ copied, copy }) => (
                <ActionIcon
                  variant="subtle"
                  onClick={copy}
                  aria-label={copied ? 'Copied' : 'Copy these lines'}
                >
                  {copied ? <IconCheck size={18} /> : <IconCopy size={18} />}
                </ActionIcon>
              )}
            </CopyButton>
          </>
        )}
      </div>
      {open && (
        <ol className={css.lines} ref={list} tabIndex={0} aria-label="Lines of the tape">
          {shown.map((line) => (
            <li key={line.id} data-kind={line.kind}>
              <time>{clock(line.at)}</time>
              <b>{MARK[line.kind]}</b>
              <span>{line.text}</span>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
