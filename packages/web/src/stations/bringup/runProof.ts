import type { Facts } from '@jolly/core/machine/facts';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { parseReply, type Reply } from '@jolly/core/bringup/reply';
import type { Answer } from '../../bench/askQueue';

/** What a bring-up test came to, with the replies it rests on. */
export interface ProofResult {
  outcome: 'proven' | 'failed';
  evidence: string[];
}
export interface ProofTools {
  ask: (line: string) => Promise<Answer>;
  facts: Facts;
  /** Header of the image that was built and flashed last. */
  built: ImageHeader | undefined;
  /** Tells the person what to do now. */
  prompt: (text: string) => void;
  given: () => boolean;
}

const ROOM_C = [5, 40] as const;
const POLL_MS = 120;
/** How much heat a relay is asked for, and how long it is watched after; what is in the heater still comes out. */
const RELAY_RISE_C = 15;
const RELAY_WATCH_S = 40;
const RELAY_SLACK_C = 6;

const replies = (answer: Answer, word: string): Reply[] =>
  answer.lines.map(parseReply).filter((reply) => reply.word === word);
const failed = (answer: Answer): ProofResult => ({
  outcome: 'failed',
  evidence: [answer.problem ?? 'no reply', ...answer.lines],
});
const judged = (ok: boolean, evidence: string[]): ProofResult => ({
  outcome: ok ? 'proven' : 'failed',
  evidence,
});

/** How each step of bring-up is carried out over the link, by step id; `switch-x` and the like by its stem. */
const RUNS: Record<string, (tools: ProofTools, of: string) => Promise<ProofResult>> = {
  async identity({ ask, built }) {
    const answer = await ask('M115');
    const who = replies(answer, 'lantern')[0];
    if (!who || !built) return failed(answer);
    const same = who.values['name'] === built.name && who.values['build'] === built.buildId;
    return judged(same, [
      `board says ${who.values['name']}, build ${who.values['build']}`,
      `you built ${built.name}, build ${built.buildId}`,
    ]);
  },
  async store({ ask }) {
    for (const line of ['M502', 'M500']) {
      const answer = await ask(line);
      if (answer.problem) return failed(answer);
    }
    const answer = await ask('M501');
    const state = replies(answer, 'store')[0]?.values['state'];
    return judged(state === 'loaded', [`stored settings: ${state ?? 'no reply'}`]);
  },
  async cold({ ask }) {
    const answer = await ask('M105');
    const bodies = replies(answer, 'heat');
    const ok =
      bodies.length > 0 &&
      bodies.every(
        (body) => Number(body.values['now']) >= ROOM_C[0] && Number(body.values['now']) <= ROOM_C[1],
      );
    return judged(
      ok,
      bodies.map(
        (body) =>
          `${body.values['body']} reads ${body.values['now']} °C; ${ROOM_C[0]} to ${ROOM_C[1]} °C is plausible`,
      ),
    );
  },
  switch: (tools, axis) =>
    bothWays(tools, axis, `Press the ${axis.toUpperCase()} switch on the bench, then let it go.`),
  async probe(tools) {
    const out = await tools.ask('M401');
    if (out.problem) return failed(out);
    const result = await bothWays(
      tools,
      'probe',
      'Hold something under the probe on the bench, then take it away.',
    );
    await tools.ask('M402');
    return result;
  },
  async relay({ ask, prompt }, body) {
    const read = async () =>
      replies(await ask('M105'), 'heat').find(({ values }) => values['body'] === body)?.values;
    const cold = await read();
    if (!cold) return failed({ lines: [], problem: `no reading of the ${body}` });
    prompt('Watch the lamp of the relay: it lights while heat is asked for, and goes dark after.');
    const heat = body === 'bed' ? 'M140' : 'M104';
    const on = await ask(`${heat} S${Math.round(Number(cold['now']) + RELAY_RISE_C)}`);
    if (on.problem) return failed(on);
    await ask('G4 S2');
    const warm = await read();
    await ask(`${heat} S0`);
    await ask('G4 S2');
    const off = await read();
    await ask(`G4 S${RELAY_WATCH_S}`);
    const later = await read();
    const duty = (values: typeof warm) => Number(values?.['duty'] ?? NaN);
    const stays = Number(later?.['now']) <= Number(off?.['now']) + RELAY_SLACK_C;
    return judged(duty(warm) > 0 && duty(off) === 0 && stays, [
      `while asked for heat the board switched it on ${Math.round(duty(warm) * 100)} % of the time`,
      `asked for none: ${Math.round(duty(off) * 100)} %`,
      `${off?.['now']} °C then, ${later?.['now']} °C ${RELAY_WATCH_S} s later: ${stays ? 'it dropped out' : 'it still heats'}`,
    ]);
  },
  async home({ ask, prompt }) {
    prompt('Homing. Keep a hand on the stop.');
    const answer = await ask('G28');
    if (answer.problem) return failed(answer);
    const at = replies(await ask('M114'), 'at')[0];
    return judged(at?.values['homed'] === 'xyz', [
      `homed ${at?.values['homed']}`,
      `at X ${at?.values['x']}, Y ${at?.values['y']}, Z ${at?.values['z']} mm`,
    ]);
  },
};

/** An input that is met before anybody touched it. */
const STANDS_CLOSED =
  'It reads closed already. If it is pressed, move the axis off it by hand with the motors off. If it is not, give up here: it is read the wrong way round, or its wire is broken.';

/** Waits until an input was read open, closed, and open again. */
async function bothWays(
  { ask, prompt, given }: ProofTools,
  input: string,
  text: string,
): Promise<ProofResult> {
  const seen: string[] = [];
  prompt(text);
  while (!given()) {
    const answer = await ask('M119');
    const state = replies(answer, 'switch')[0]?.values[input];
    if (state === undefined) return failed(answer);
    if (seen.at(-1) !== state) {
      seen.push(state);
      if (seen.length === 1 && state === 'closed') prompt(STANDS_CLOSED);
      else if (seen.length === 2) prompt(text);
    }
    if (seen.join(' ').endsWith('open closed open'))
      return judged(true, [`${input} read ${seen.join(', then ')}`]);
    await new Promise((resolve) => setTimeout(resolve, POLL_MS));
  }
  return judged(false, [`${input} read ${seen.join(', then ')}, then you gave up`]);
}

/** Carries one bring-up step out. */
export function runProof(stepId: string, tools: ProofTools): Promise<ProofResult> {
  const [stem = '', axis = ''] = stepId.split('-');
  const run = RUNS[stem];
  return run
    ? run(tools, axis)
    : Promise.resolve({ outcome: 'failed', evidence: [`nobody knows how to run ${stepId}`] });
}
