import type { Finding } from '@jolly/core/finding/finding';
import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import { derive } from '@jolly/core/settings/derive';
import { type Call, type Command, EXIT, JSON_FLAG } from './command';
import { readMachine } from './readMachine';

export const checkCommand: Command = {
  does: 'findings for a machine file',
  takes: ['FILE'],
  options: { json: JSON_FLAG },
  run: checkFile,
};

async function checkFile({ words, has, root }: Call): Promise<number> {
  const facts = await readMachine(root, words[0] ?? '');
  const findings = check(facts, derive(facts));
  console.log(
    has('json') ? JSON.stringify({ findings }) : findings.map(inWords).join('\n\n') || 'Nothing to settle.',
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
