import type { Plate } from '@jolly/contract/endpoints/machines';
import { Button, FileButton, Textarea } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, shelfArchiveUrl } from '../../api/api';
import { useDropped } from '../../app/drop/dropped';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { ArchiveIn } from './ArchiveIn';
import css from './Shelf.module.css';
import { askAnew, held } from '../../api/held';

/** How a machine comes onto the shelf: described, from a file, or the demo's. */
export function WaysIn({ plates }: { plates: readonly Plate[] }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const demo = useQuery({ queryKey: held('demo'), queryFn: api.demo, meta: { what: 'the demo’s machines' } });
  const { busy, refused, act } = useAct();
  const [archive, setArchive] = useState<File>();
  const [report, setReport] = useState<string>();
  const [said, setSaid] = useState<string>();
  const anew = async () => {
    await askAnew(client, 'machines', 'demo', 'archive');
  };
  const begin = (from: Parameters<typeof api.beginDescription>[0]) =>
    act(async () => {
      const { stored } = await api.beginDescription(from);
      await askAnew(client, 'descriptions');
      void navigate(`/describe/${stored.id}`);
    });
  const open = (file: File | null) =>
    file &&
    act(async () => {
      const { machine } = await api.addMachine({ file: await file.text() }).catch((error: unknown) => {
        throw new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`);
      });
      await anew();
      void navigate(`/machines/${machine.id}/survey`);
    });
  const add = (what: string, take: (file: string) => Promise<{ name: string }>) => (file: File) =>
    void act(async () => {
      const { name } = await take(await file.text());
      await askAnew(client, 'catalogue');
      await askAnew(client, 'own-types');
      setSaid(`${name} is among the ${what} you can choose.`);
    });
  useDropped('machine', (file) => void open(file));
  useDropped('archive', setArchive);
  useDropped('report', (file) => void file.text().then(setReport));
  useDropped(
    'board',
    add('boards', (file) => api.addBoard({ file })),
  );
  useDropped(
    'chip',
    add('chips', (file) => api.addChip({ file })),
  );
  useDropped(
    'part',
    add('parts', (file) => api.addPart({ file })),
  );
  return (
    <section className={css.ways} aria-label="Bring a machine in" data-first={plates.length === 0}>
      {plates.length === 0 && <h2>The shelf is empty. Three ways to bring a machine in:</h2>}
      <ul>
        <li>
          <h3>Describe a machine</h3>
          <p>You look at the printer and answer, in any order. What you do not know yet stays a question.</p>
          <Button disabled={busy} onClick={() => void begin({ from: 'nothing' })}>
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
            onChange={(file) => (file?.name.endsWith('.zip') ? setArchive(file) : void open(file))}
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
        <li>
          <h3>The demo’s three machines</h3>
          <p>Invented printers with a history, to try everything on.</p>
          {(demo.data?.length ?? 0) > 0 ? (
            <Button
              variant="default"
              disabled={busy}
              onClick={() =>
                void act(async () => {
                  await api.takeDemoOff();
                  await anew();
                })
              }
            >
              Take them off the shelf
            </Button>
          ) : (
            <Button
              variant="default"
              disabled={busy || !demo.data}
              onClick={() =>
                void act(async () => {
                  await api.layDemo();
                  await anew();
                })
              }
            >
              Lay them on the shelf
            </Button>
          )}
        </li>
      </ul>
      {report !== undefined && (
        <div className={css.report}>
          <Textarea
            label="Settings report of the old board"
            description="Connect a terminal to the old board, send M503, and paste here what it answers. Or open a file with it."
            autosize
            minRows={5}
            maxRows={12}
            value={report}
            onChange={(event) => setReport(event.currentTarget.value)}
          />
          <div className="row">
            <Button
              disabled={busy || report.trim() === ''}
              onClick={() => void begin({ from: 'report', text: report })}
            >
              Begin from this report
            </Button>
            <FileButton
              onChange={(file) => void file?.text().then(setReport)}
              inputProps={{ 'aria-label': 'Report file' }}
            >
              {(props) => (
                <Button variant="default" {...props}>
                  Open a report file
                </Button>
              )}
            </FileButton>
          </div>
        </div>
      )}
      {archive && <ArchiveIn file={archive} onClose={() => setArchive(undefined)} />}
      {said !== undefined && <p role="status">{said}</p>}
      <Refused why={refused} />
    </section>
  );
}
