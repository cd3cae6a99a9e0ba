import type { Finding } from '@jolly/core/finding/finding';
import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import { derive } from '@jolly/core/settings/derive';
import { badInput, type Call, EXIT, readWords } from './command';
import { readMachine } from './readMachine';

/** `check FILE`: findings for a machine file. */
export async function checkCommand({ words, root }: Call): Promise<number> {
  const { flags, rest } = readWords(words);
  const read = await readMachine(root, rest[0] ?? '');
  if ('problems' in read) return badInput(read.problems.join('\n'));
  const findings = check(read.facts, derive(read.facts));
  console.log(
    flags.has('json')
      ? JSON.stringify({ findings })
      : findings.map(inWords).join('\n\n') || 'Nothing to settle.',
  );
  return stopping(findings).length > 0 ? EXIT.stopped : EXIT.fine;
}

function inWords(finding: Finding): string {
  return [
    `${finding.severity.toUpperCase()}  ${finding.id}  (${finding.subject.id})${finding.waived === undefined ? '' : `  set aside: ${finding.waived}`}`,
    `  ${finding.what}`,
    `  ${finding.why}`,
    ...finding.evidence.map((line) => `    ${line}`),
  ].join('\n');
}
