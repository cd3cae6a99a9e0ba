import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { MOST_BENCH_INPUTS } from '@jolly/core/text/limits';
import { crc32Of } from '@jolly/core/bytes/crc32';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { boardHolding } from '../board/board';
import type { Finger } from '../board/panel';
import { type Bench, type BenchOptions, powerOn } from '../clock/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { handsAt } from '../hands/hands';
import { plantOf } from '../plant/plant';
import type { Beginning } from '../plant/truth';

/** Something that was done from outside, at an exact time of the bench's clock. */
export type BenchInput =
  | { atNs: number; line: string }
  | { atNs: number; hand: HandAct }
  /** Of the display's knob: steps to the right, 0 for a press. */
  | { atNs: number; knob: number }
  /** On the display's layer; null when it is lifted. */
  | { atNs: number; finger: Finger | null };

/** All that a run rests on beside image and machine, and what came of it: whoever runs it again hears the same. */
export interface Recording {
  seed: number;
  hostBaud: number;
  /** The stored settings as the power came on, base64. */
  store: string;
  /** Where the machine stood, and how warm it was, if it had power before. */
  begins?: Beginning;
  /** What hands had done to the machine before the power came on. */
  hands: HandAct[];
  inputs: BenchInput[];
  untilNs: number;
  /** Lines heard, and the CRC-32 over them one after another. */
  heard: number;
  sum: number;
}

/** Longest run that is run again, in s of the bench's clock. */
export const LONGEST_RUN_S = 12 * 3600;

/** A bench that writes down what is done to it. */
export interface RecordedBench extends Bench {
  /** Does something to the machine by hand, or takes it back. @throws when there is nothing of that name */
  hand(act: HandAct): void;
  /** Undefined once a card was in the slot: what it held is no part of what can be run again. */
  recording(): Recording | undefined;
}

/** Lines as one number: each added to what came before. */
function lineSum(): { add: (line: string) => void; now: () => { heard: number; sum: number } } {
  let heard = 0;
  let sum = 0;
  return {
    add(line) {
      heard += 1;
      sum = crc32Of(new TextEncoder().encode(`${sum} ${line}`));
    },
    now: () => ({ heard, sum }),
  };
}

type Asked = Omit<BenchOptions, 'onLine'> & {
  seed: number;
  hostBaud: number;
  /** What hands have done to the machine already. */
  hands?: readonly HandAct[];
  onLine?: (line: string) => void;
};

/** Switches the power on and writes down everything that is done from then on. */
export async function powerOnRecorded(options: Asked): Promise<RecordedBench> {
  const lines = lineSum();
  const inputs: BenchInput[] = [];
  let withCard = options.card !== undefined;
  const hands = handsAt(options.facts);
  for (const act of options.hands ?? []) hands.take(act);
  const before = hands.acts();
  const plant = plantOf(options.facts, options.seed, undefined, options.begins);
  hands.apply(plant.live);
  plant.rewire(0);
  const bench = await powerOn({
    ...options,
    plant,
    onLine(line) {
      lines.add(line);
      options.onLine?.(line);
    },
  });
  const hand = (act: HandAct) => {
    hands.take(act);
    inputs.push({ atNs: bench.nowNs(), hand: act });
    bench.change((live) => hands.apply(live));
  };
  return {
    ...bench,
    hand,
    hold: (part, on) => hand({ hold: part, on }),
    send(line) {
      inputs.push({ atNs: bench.nowNs(), line });
      bench.send(line);
    },
    turn(knob) {
      if (knob === 0) return;
      inputs.push({ atNs: bench.nowNs(), knob });
      bench.turn(knob);
    },
    press() {
      inputs.push({ atNs: bench.nowNs(), knob: 0 });
      bench.press();
    },
    touch(finger) {
      inputs.push({ atNs: bench.nowNs(), finger: finger ?? null });
      bench.touch(finger);
    },
    putCard(card) {
      withCard ||= card !== undefined;
      bench.putCard(card);
    },
    recording: () =>
      withCard
        ? undefined
        : {
            seed: options.seed,
            hostBaud: options.hostBaud,
            store: toBase64(options.state.store),
            ...(options.begins && { begins: options.begins }),
            hands: before,
            inputs: [...inputs],
            untilNs: bench.nowNs(),
            ...lines.now(),
          },
  };
}

/**
 * Runs a recording again, with an image on a machine.
 * @returns undefined when it said the same, else in words how it differs
 */
export async function replayed(
  facts: Facts,
  image: Uint8Array,
  recording: Recording,
): Promise<string | undefined> {
  const { seed, hostBaud, store, begins, hands, inputs, untilNs, heard, sum } = recording;
  if (untilNs > LONGEST_RUN_S * 1e9 || inputs.length > MOST_BENCH_INPUTS)
    return 'the power has been on for too long to run all of it again; switch it off and on, and test then';
  const again = await powerOnRecorded({
    facts,
    state: { ...boardHolding(image, asSold(facts)), store: fromBase64(store) },
    seed,
    hostBaud,
    hands,
    ...(begins && { begins }),
  });
  for (const input of inputs) {
    again.advanceTo(input.atNs);
    if ('line' in input) again.send(input.line);
    else if ('hand' in input) again.hand(input.hand);
    else if ('finger' in input) again.touch(input.finger ?? undefined);
    else if (input.knob === 0) again.press();
    else again.turn(input.knob);
  }
  again.advanceTo(untilNs);
  const now = again.recording();
  if (!now) throw new Error('a run that is run again has no card');
  if (now.heard !== heard) return `the image says ${now.heard} lines where ${heard} were told`;
  return now.sum === sum ? undefined : `the image says ${heard} lines as told, but not the same ones`;
}
