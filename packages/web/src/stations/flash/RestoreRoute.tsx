import { Button, Radio } from '@mantine/core';
import type { ReactNode } from 'react';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps } from '../../app/frame/StationContext';
import { useBench } from '../../bench/BenchProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { Refused } from '../../ui/Refused';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import css from './FlashStation.module.css';
import { FlashStep } from './FlashStep';
import { PowerOff } from './PowerOff';
import { useRestore } from './useRestore';

/** A kept image back onto the board, by programmer: choose it, wire the programmer, write, read back. */
export function RestoreRoute({ choose }: { choose: ReactNode }) {
  const { board, chip } = useWorkbench();
  const { live } = useBench();
  const restoring = useRestore();
  const { image, restored, holds } = restoring;
  const wires =
    chip.word_bits === 8
      ? 'six wires of the programmer'
      : 'three wires of the debug probe: clock, data, ground';
  const off = {
    title: 'Power off',
    act: 'Switch the power off. The board is wired to a programmer only when it is dead.',
    caution: 'Wiring a live board burns programmer and chip. Unplug first.',
    done: !live,
  };
  const wire = {
    title: 'Wire the programmer',
    act: `Connect the ${wires}. Check the labels on yours: they differ.`,
    done: false,
  };
  const write = {
    title: 'Write and read back',
    act: `Write ${image?.name ?? 'the kept image'} and compare what is read back, byte for byte.`,
    done: restored !== undefined,
  };
  useArmsSteps([off, wire, write]);
  return (
    <>
      <main className="bench">
        {choose}
        <h2>A kept image back, to {board.name}</h2>
        <p className="soft">
          A programmer writes the flash behind the bootloader, whatever the image is. The flash holds {holds}.
        </p>
        <div className={css.two}>
          <ol className={css.steps}>
            <ImageChoice restoring={restoring} />
            <FlashStep {...off}>
              <p>{off.act}</p>
              <PowerOff />
            </FlashStep>
            <FlashStep {...wire}>
              <p>{wire.act}</p>
            </FlashStep>
            <FlashStep {...write}>
              <WriteBack restoring={restoring} />
            </FlashStep>
          </ol>
          <BoardDrawing board={board} lit={live} />
        </div>
      </main>
      <Docket
        title="Evidence"
        slips={useSlips(restoring)}
        empty="Choose what was kept, wire the programmer, and write it back."
      />
    </>
  );
}

type Restoring = ReturnType<typeof useRestore>;

function ImageChoice({ restoring: { here, known, image, choose } }: { restoring: Restoring }) {
  return (
    <FlashStep title="Choose the image" done={image !== undefined}>
      {known && here.length === 0 && <p>Nothing is kept of this board. Keep its image in Survey first.</p>}
      {here.length > 0 && (
        <Radio.Group
          value={String(image?.id ?? '')}
          onChange={(value) => choose(Number(value))}
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
    </FlashStep>
  );
}

function WriteBack({
  restoring: { image, asking, restore, refused, empty, holds },
}: {
  restoring: Restoring;
}) {
  const { live } = useBench();
  const sure = empty ? `Write ${image?.name} into the empty flash` : `Overwrite ${holds} with ${image?.name}`;
  return (
    <>
      <p>{empty ? 'The flash is empty; nothing is overwritten.' : `This overwrites ${holds}.`}</p>
      <Button disabled={!image || live} color={asking ? 'vermilion' : 'brass'} onClick={() => void restore()}>
        {asking ? sure : 'Write it back'}
      </Button>
      <Refused why={refused} />
    </>
  );
}

function useSlips({ restored, holds, elsewhere }: Restoring): Slip[] {
  const { board } = useWorkbench();
  return [
    ...(restored ? [{ id: 'restored', severity: 'proven' as const, what: `${restored} is back in the flash.`, why: 'It reads back byte for byte. The bench runs images of this kit only; a foreign one lies in its flash and stays silent.', evidence: [`flash: ${holds}`], actions: [] }] : []),
    ...elsewhere.map((entry): Slip => ({
      id: String(entry.id), severity: 'note', what: `${entry.name} belongs to another board.`,
      why: `It was kept from ${entry.board.id} rev ${entry.board.revision}; this machine has ${board.name} rev ${board.revision} now. Its way back is that board.`, evidence: [], actions: [],
    })),
  ]; // prettier-ignore
}
