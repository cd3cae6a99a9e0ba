import { testPrint } from '@jolly/core/slicer/testPrint';
import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { useDropped } from '../../app/drop/dropped';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import css from './PrintCardBox.module.css';

/** So much G-code a card on the bench may hold. */
const MOST_BYTES = 8_000_000;

/** The card to print from: a tray of our own, or your G-code. Files are named as FAT keeps them: eight letters and .GCO. */
export function PrintCardBox() {
  const { putPrints } = useBench();
  const prints = usePowered((now) => now.prints);
  const { facts, settings } = useWorkbench();
  const [refused, setRefused] = useState<string>();
  const put = (name: string, bytes: Uint8Array) => {
    if (bytes.length > MOST_BYTES)
      return setRefused(`${name} has ${(bytes.length / 1e6).toFixed(1)} MB; a card on the bench takes 8 MB.`);
    setRefused(undefined);
    putPrints([{ name: `${name.replace(/\.[^.]*$/, '')}.GCO`, bytes }]);
  };
  const own = async (file: File | null) => {
    if (file) put(file.name, new Uint8Array(await file.arrayBuffer()));
  };
  useDropped('print', (file) => void own(file));
  return (
    <section className={css.box} aria-label="Card to print from">
      <h2>Card to print from</h2>
      <p>{prints ? `In the slot: ${prints.join(', ')}.` : 'No card to print from is in the slot.'}</p>
      <div className={css.keys}>
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => put('TRAY', new TextEncoder().encode(testPrint(facts, settings)))}
        >
          Put in our tray
        </Button>
        <FileButton onChange={(file) => void own(file)} accept=".gcode,.gco,.g,.txt">
          {(props) => (
            <Button {...props} size="compact-sm" variant="default">
              Put in your G-code
            </Button>
          )}
        </FileButton>
        {prints && (
          <Button size="compact-sm" variant="default" onClick={() => putPrints(undefined)}>
            Take it out
          </Button>
        )}
      </div>
      <Refused why={refused} />
      {prints && (
        <p className="soft">
          A run with this card cannot be run again by the server. To prove something, take it out and switch
          the power off and on.
        </p>
      )}
    </section>
  );
}
