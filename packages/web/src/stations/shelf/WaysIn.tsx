import type { Plate } from '@jolly/contract/endpoints/machines';
import { Button, FileButton } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, shelfArchiveUrl } from '../../api/api';
import { useDropped } from '../../app/drop/dropped';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { ArchiveIn } from './ArchiveIn';
import { ReportIn } from './ReportIn';
import css from './Shelf.module.css';
import { useTypesDropped } from './useTypesDropped';
import { askAnew, held } from '../../api/held';

/** How a machine comes onto the shelf: described, from a file, or the demo's. */
export function WaysIn({ plates }: { plates: readonly Plate[] }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const [archive, setArchive] = useState<File>();
  const [report, setReport] = useState<string>();
  const said = useTypesDropped(act);
  const begin = (from: Parameters<typeof api.beginDescription>[0]) =>
    void act(async () => {
      const { stored } = await api.beginDescription(from);
      await askAnew(client, 'descriptions');
      void navigate(`/describe/${stored.id}`);
    });
  const open = (file: File | null) => {
    if (!file) return;
    void act(async () => {
      const { machine } = await api.addMachine({ file: await file.text() }).catch((error: unknown) => {
        throw new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`);
      });
      await askAnew(client, ...OF_THE_SHELF);
      void navigate(`/machines/${machine.id}/survey`);
    });
  };
  useDropped('machine', open);
  useDropped('archive', setArchive);
  useDropped('report', (file) => void file.text().then(setReport));
  return (
    <section className={css.ways} aria-label="Bring a machine in" data-first={plates.length === 0}>
      {plates.length === 0 && <h2>The shelf is empty. Three ways to bring a machine in:</h2>}
      <ul>
        <li>
          <h3>Describe a machine</h3>
          <p>You look at the printer and answer, in any order. What you do not know yet stays a question.</p>
          <Button disabled={busy} onClick={() => begin({ from: 'nothing' })}>
            Describe a machine
          </Button>
          <Button
            variant="default"
            disabled={busy}
            aria-expanded={report !== undefined}
            onClick={() => setReport(report === undefined ? '' : undefined)}
          >
            From a settings report
          </Button>
        </li>
        <li>
          <h3>Open a file</h3>
          <p>A machine file, or an archive of one machine or of a whole shelf.</p>
          <FileButton
            onChange={(file) => (file?.name.endsWith('.zip') ? setArchive(file) : open(file))}
            accept=".yaml,.yml,.zip"
            inputProps={{ 'aria-label': 'Machine file' }}
          >
            {(props) => (
              <Button variant="default" disabled={busy} {...props}>
                Open a file
              </Button>
            )}
          </FileButton>
          {plates.length > 0 && (
            <Button component="a" variant="default" href={shelfArchiveUrl} download>
              Save the whole shelf
            </Button>
          )}
        </li>
        <Demo busy={busy} act={act} />
      </ul>
      {report !== undefined && <ReportIn report={report} setReport={setReport} busy={busy} begin={begin} />}
      {archive && <ArchiveIn file={archive} onClose={() => setArchive(undefined)} />}
      {said !== undefined && <p role="status">{said}</p>}
      <Refused why={refused} />
    </section>
  );
}

const OF_THE_SHELF = ['machines', 'demo', 'archive'] as const;
type Act = ReturnType<typeof useAct>['act'];

/** The demo's machines are laid on the shelf, or taken off it. */
function Demo({ busy, act }: { busy: boolean; act: Act }) {
  const client = useQueryClient();
  const demo = useQuery({ queryKey: held('demo'), queryFn: api.demo, meta: { what: 'the demo’s machines' } });
  const lies = (demo.data?.length ?? 0) > 0;
  const turn = () =>
    act(async () => {
      await (lies ? api.takeDemoOff() : api.layDemo());
      await askAnew(client, ...OF_THE_SHELF);
    });
  return (
    <li>
      <h3>The demo’s three machines</h3>
      <p>Invented printers with a history, to try everything on.</p>
      <Button variant="default" disabled={busy || !demo.data} onClick={() => void turn()}>
        {lies ? 'Take them off the shelf' : 'Lay them on the shelf'}
      </Button>
    </li>
  );
}
