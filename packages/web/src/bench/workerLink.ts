import type { Beginning, BenchLink, BenchLook, BoardState, PrintCard } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { proxy, wrap } from 'comlink';
import type { BenchWorker } from './benchWorker';

/** A link to a board that runs on the virtual bench, in a worker of its own. */
export function workerLink(
  on: {
    machine: Machine;
    catalogue: Catalogue;
    state: BoardState;
    begins: Beginning | undefined;
    hands: readonly HandAct[];
  },
  told: { look: (look: BenchLook) => void; store: (bytes: Uint8Array) => void },
): BenchLink {
  const thread = new Worker(new URL('./benchWorker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<BenchWorker>(thread);
  let card: PrintCard | undefined;
  return {
    kind: 'bench',
    open: (hear) =>
      remote.powerOn(
        on.machine,
        on.catalogue,
        on.state,
        on.begins,
        on.hands,
        proxy(({ lines, store, written, ...look }) => {
          for (const [block, bytes] of written) card?.written.set(block, bytes);
          told.look(look);
          if (store) told.store(store);
          for (const { line, atS } of lines) hear(line, atS);
        }),
      ),
    // A worker that is ended never answers.
    close: () => thread.terminate(),
    writeLine: (line) => void remote.send(line),
    setStepping: (on) => void remote.setStepping(on),
    setPace: (pace) => void remote.setPace(pace),
    turn: (steps) => void remote.turn(steps),
    press: () => void remote.press(),
    touch: (finger) => void remote.touch(finger),
    putCard(put) {
      card = put;
      void remote.putCard(put);
    },
    hand: (act) => void remote.hand(act),
    recording: () => remote.recording(),
  };
}
