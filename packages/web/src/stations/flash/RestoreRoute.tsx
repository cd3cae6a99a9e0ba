import { Button, Radio } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { api } from '../../api/api';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useTape } from '../../app/tape/tape';
import { useBench } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import css from './FlashStation.module.css';

/** A kept image back onto the board, by programmer: choose it, wire the programmer, write, read back. */
export function RestoreRoute({ choose }: { choose: ReactNode }) {
  const { machine, board, chip } = useWorkbench();
  const { wayBack } = useJob();
  const station = useStation();
  const bench = useBench();
  const client = useQueryClient();
  const { write } = useTape();
  const [chosen, setChosen] = useState<number>();
  const [asking, setAsking] = useState(false);
  const [refused, setRefused] = useState<string>();
  const [restored, setRestored] = useState<string>();
  const images = (wayBack?.kept ?? []).filter((entry) => entry.kind === 'image' && entry.verdict !== 'empty');
  const here = images.filter(
    (entry) => entry.board.id === board.id && entry.board.revision === board.revision,
  );
  const elsewhere = images.filter((entry) => !here.includes(entry));
  const image = here.find((entry) => entry.id === chosen) ?? here[0];
  const powered = bench.power.state === 'on' || bench.power.state === 'starting';
  const wires =
    chip.word_bits === 8
      ? 'six wires of the programmer'
      : 'three wires of the debug probe: clock, data, ground';
  const steps = [
    {
      title: 'Power off',
      act: 'Switch the power off. The board is wired to a programmer only when it is dead.',
      caution: 'Wiring a live board burns programmer and chip. Unplug first.',
      done: !powered,
    },
    {
      title: 'Wire the programmer',
      act: `Connect the ${wires}. Check the labels on yours: they differ.`,
      done: false,
    },
    {
      title: 'Write and read back',
      act: `Write ${image?.name ?? 'the kept image'} and compare what is read back, byte for byte.`,
      done: restored !== undefined,
    },
  ];
  useArmsSteps(steps);
  const restore = async () => {
    if (!image) return;
    if (!asking) return setAsking(true);
    setAsking(false);
    setRefused(undefined);
    try {
      await api.restore({ id: machine.id }, { kept: image.id });
      setRestored(image.name);
      write('done', `Restored ${image.name} by programmer; it reads back the same`);
    } catch (error) {
      setRefused((error as Error).message);
    }
    for (const key of ['board', 'flashes', 'entries', 'proofs', 'wayBack'])
      await client.invalidateQueries({ queryKey: [key, machine.id] });
  };
  const holds = station.board?.image
    ? `${station.board.image.name}, build ${station.board.image.buildId}`
    : station.board?.imageHash
      ? 'a foreign image'
      : 'nothing';
  const empty = station.board?.imageHash == null;
  const slips: Slip[] = [
    ...(restored ? [{ id: 'restored', severity: 'proven' as const, what: `${restored} is back in the flash.`, why: 'It reads back byte for byte. The bench runs images of this kit only; a foreign one lies in its flash and stays silent.', evidence: [`flash: ${holds}`], actions: [] }] : []),
    ...elsewhere.map((entry): Slip => ({
      id: String(entry.id), severity: 'note', what: `${entry.name} belongs to another board.`,
      why: `It was kept from ${entry.board.id} rev ${entry.board.revision}; this machine has ${board.name} rev ${board.revision} now. Its way back is that board.`, evidence: [], actions: [],
    })),
  ]; // prettier-ignore
  return (
    <>
      <main className={css.bench}>
        {choose}
        <h2>A kept image back, to {board.name}</h2>
        <p className={css.soft}>
          A programmer writes the flash behind the bootloader, whatever the image is. The flash holds {holds}.
        </p>
        <div className={css.two}>
          <ol className={css.steps}>
            <li data-done={image !== undefined}>
              <h3>Choose the image</h3>
              {wayBack && here.length === 0 && (
                <p>Nothing is kept of this board. Keep its image in Survey first.</p>
              )}
              {here.length > 0 && (
                <Radio.Group
                  value={String(image?.id ?? '')}
                  onChange={(value) => setChosen(Number(value))}
                  label="Kept image"
                >
                  {here.map((entry) => (
                    <Radio
                      key={entry.id}
                      value={String(entry.id)}
                      label={`${entry.name}, ${entry.bytes} bytes, kept ${whenOf(entry.at)}`}
                      description={entry.evidence.join('; ')}
                    />
                  ))}
                </Radio.Group>
              )}
            </li>
            <li data-done={!powered}>
              <h3>{steps[0]!.title}</h3>
              <p>{steps[0]!.act}</p>
              {powered && (
                <Button variant="default" onClick={bench.powerOff}>
                  Switch the power off
                </Button>
              )}
            </li>
            <li>
              <h3>{steps[1]!.title}</h3>
              <p>{steps[1]!.act}</p>
            </li>
            <li data-done={restored !== undefined}>
              <h3>{steps[2]!.title}</h3>
              <p>{empty ? 'The flash is empty; nothing is overwritten.' : `This overwrites ${holds}.`}</p>
              <Button
                disabled={!image || powered}
                color={asking ? 'vermilion' : 'brass'}
                onClick={() => void restore()}
              >
                {!asking
                  ? 'Write it back'
                  : empty
                    ? `Write ${image?.name} into the empty flash`
                    : `Overwrite ${holds} with ${image?.name}`}
              </Button>
              <Refused why={refused} />
            </li>
          </ol>
          <BoardDrawing board={board} lit={powered} />
        </div>
      </main>
      <Docket
        title="Evidence"
        slips={slips}
        empty="Choose what was kept, wire the programmer, and write it back."
      />
    </>
  );
}
