import { Button } from '@mantine/core';
import {
  OUTCOMES,
  proofSheetCsv,
  proofSheetHtml,
  proofSummary,
  type ProofRow,
  settingsInWords,
} from '@jolly/core/formats/proofSheet';
import { untripped } from '@jolly/core/proofs/guards';
import { proofSteps } from '@jolly/core/proofs/proofs';
import { settingPath } from '@jolly/session/machineParts';
import { type ReactNode, useMemo } from 'react';
import { Docket } from '../../app/docket/Docket';
import { useBuiltWith } from '../../app/frame/useBuiltWith';
import { useStation } from '../../app/frame/StationContext';
import { download } from '../../ui/download';
import { SaveCsv } from '../../ui/SaveCsv';
import { printPage } from '../../ui/printPage';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import css from './ProofSheetView.module.css';
import { voidInWords } from './proofSlips';
import { sheetSlips } from './sheetSlips';

/** Everything that is proven of the image in the flash, with its evidence, and what is still open: on one sheet. */
export function ProofSheetView({ choose }: { choose: ReactNode }) {
  const workbench = useWorkbench();
  const { machine, facts, settings, board: type } = workbench;
  const { proofs, board } = useStation();
  const steps = useMemo(() => proofSteps(facts, settings), [facts, settings]);
  const outcomes = new Map((proofs?.proofs ?? []).map((proof) => [proof.step, proof]));
  const rows = steps.map((step): ProofRow => {
    const [proof, lapsed] = [outcomes.get(step.id), proofs?.voided.find((one) => one.step === step.id)];
    if (proof) return { step, outcome: proof.outcome, evidence: proof.evidence, when: whenOf(proof.at) };
    return { step, outcome: lapsed ? 'voided' : 'unproven', evidence: lapsed ? [voidInWords(lapsed)] : [], when: '' };
  }); // prettier-ignore
  const builtWith = useBuiltWith();
  const sheet = () => ({ facts, settings, image: board?.image, builtWith, rows, date: new Date().toLocaleDateString('en-GB') });
  const file = (ending: string) => `${machine.id}-proof-sheet.${ending}`;
  const known = proofs !== undefined && board !== undefined;
  const slips = known
    ? sheetSlips({
        machine: machine.id,
        rows,
        bare: untripped(facts, settings),
        settingAt: (key) => settingPath(key, workbench),
      })
    : [];
  return (
    <>
      <main className="bench">
        {choose}
        <div className="row">
          <Button size="xs" disabled={!known} onClick={() => printPage(proofSheetHtml(sheet()))}>
            Print the sheet
          </Button>
          <Button size="xs" variant="default" disabled={!known} onClick={() => download(file('html'), 'text/html', proofSheetHtml(sheet()))}>
            Save as HTML
          </Button>
          <SaveCsv name={file('csv')} disabled={!known} rows={() => proofSheetCsv(sheet())} />
        </div>
        {known ? (
          <>
            <h2>{proofSummary({ facts, settings, rows })}</h2>
            <p className="soft">
              {type.name} rev {type.revision} ·{' '}
              {board.image ? `${board.image.name}, build ${board.image.buildId}` : 'nothing known is in its flash'} · {settingsInWords(sheet())}
            </p>
            <table className={css.sheet}>
              <thead>
                <tr>
                  <th>Step</th>
                  <th>Outcome</th>
                  <th>Evidence</th>
                  <th>When</th>
                </tr>
              </thead>
              <tbody>
                {rows.map(({ step, outcome, evidence, when }) => (
                  <tr key={step.id} data-outcome={outcome}>
                    <td>{step.title}</td>
                    <td>
                      <b>{OUTCOMES[outcome]}</b>
                    </td>
                    <td className="figures">
                      {evidence.map((line) => (
                        <div key={line}>{line}</div>
                      ))}
                    </td>
                    <td className="figures">{when}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        ) : (
          <p role="status">What is proven is not known yet.</p>
        )}
      </main>
      <Docket title="To settle" slips={slips} checking={!known} empty={rows.length > 0 ? 'Nothing is left to prove.' : 'Nothing was asked of it yet.'} />
    </>
  );
} // prettier-ignore
