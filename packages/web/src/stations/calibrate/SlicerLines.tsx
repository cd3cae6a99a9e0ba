import { readStartCode } from '@jolly/core/slicer/readStartCode';
import { lineDifferences } from '@jolly/core/slicer/lineDifferences';
import { writeEndCode, writeStartCode } from '@jolly/core/slicer/writeStartCode';
import { Link } from 'react-router';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Calibrate.module.css';

/** Start and end code as the machine wants them now, against what the slicer has: what differs, line by line. */
export function SlicerLines() {
  const { machine, facts, settings } = useWorkbench();
  const both = [
    { which: 'start', title: 'Before a print', wanted: writeStartCode(facts, settings), has: machine.slicer?.start },
    { which: 'end', title: 'After a print', wanted: writeEndCode(facts, settings), has: machine.slicer?.end },
  ] as const; // prettier-ignore
  const wrong = machine.slicer?.start ? readStartCode(machine.slicer.start, facts, settings).length : 0;
  return (
    <section className={css.kept} aria-label="Slicer">
      <h3>Slicer</h3>
      {both.map(({ which, title, wanted, has }) => {
        if (has === undefined)
          return (
            <p key={which} className="soft">
              {title}: nobody has pasted what the slicer has, so it is not known whether it agrees.
            </p>
          );
        const lines = lineDifferences(has, wanted);
        return (
          <details key={which} open={lines.some(({ is }) => is !== 'same') && lines.length < 24}>
            <summary>
              {`${title}: ${count(lines)}${which === 'start' && wrong > 0 ? `, ${wrong} of them against this machine` : ''}`}
            </summary>
            <pre>
              {lines
                .map(({ is, text }) => `${is === 'same' ? '  ' : is === 'only has' ? '− ' : '+ '}${text}`)
                .join('\n')}
            </pre>
          </details>
        );
      })}
      <p>
        <Link to={`/machines/${machine.id}/settings?view=slicer`}>Paste it, or copy what the machine wants</Link>
        . Lines with − are the slicer’s alone, lines with + the machine’s.
      </p>
    </section>
  );
} // prettier-ignore

function count(lines: readonly { is: string }[]): string {
  const differ = lines.filter(({ is }) => is !== 'same').length;
  return differ === 0 ? 'the same' : `${differ} line${differ === 1 ? '' : 's'} differ`;
}
