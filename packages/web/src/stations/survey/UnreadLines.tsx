import type { Dump } from '@jolly/core/report/parseDump';
import { numbersIn } from '@jolly/core/report/teachLine';
import { Button } from '@mantine/core';
import { useState } from 'react';
import css from './SurveyStation.module.css';
import { TeachLine } from './TeachLine';

const FIRST_UNREAD = 200;

/** Lines of a report that nobody understood; some can be taught. */
export function UnreadLines({ unread }: { unread: Dump['unread'] }) {
  if (unread.length === 0) return null;
  return (
    <details className={css.group}>
      <summary>{unread.length === 1 ? '1 line' : `${unread.length} lines`} not understood</summary>
      <p className="soft">
        You can teach a line: say which of its numbers is which setting, and lines like it are read from then
        on.
      </p>
      <ol className={css.unread}>
        {unread.slice(0, FIRST_UNREAD).map((line) => (
          <UnreadLine key={line.line} {...line} />
        ))}
      </ol>
      {unread.length > FIRST_UNREAD && (
        <p className="soft">and {unread.length - FIRST_UNREAD} more; the kept report holds them all</p>
      )}
    </details>
  );
}

/** Bytes that cannot be shown stand as a dot. */
const shown = (text: string) => text.replace(/[^\P{C}\t]|\ufffd/gu, '·').slice(0, 200);

function UnreadLine({ line, text, from = 0 }: Dump['unread'][number]) {
  const [teaching, setTeaching] = useState(false);
  const said = text.slice(from).trim();
  const teachable = said === shown(said) && numbersIn(said).length > 0;
  return (
    <li value={line}>
      {shown(text)}{' '}
      {teachable && !teaching && (
        <Button size="compact-xs" variant="default" onClick={() => setTeaching(true)}>
          Teach it
        </Button>
      )}
      {teaching && <TeachLine text={said} onDone={() => setTeaching(false)} />}
    </li>
  );
}
