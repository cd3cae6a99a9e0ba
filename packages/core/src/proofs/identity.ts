import { fixedName } from '../board/cardRule';
import { picksSupply } from '../board/picksSupply';
import { cardRouteOf } from '../board/route';
import { ask, askAll, ended, NO_ANSWER, type Procedure, replies, type Run, seen } from '../bringup/procedure';
import type { Reply } from '../bringup/reply';
import type { Facts } from '../machine/facts';
import { byTool, has, type PossibleCause, possibleOn } from './possibleOn';
import { type Cause, found, type Proof, proof, proven } from './proof';

type Causes = Readonly<Record<string, readonly PossibleCause[]>>;

const OTHER_SPEED: Cause = { cause: 'Host and image talk at different speeds', look: 'Compare the link’s baud in Settings with your program’s.', at: 'settings' }; // prettier-ignore
const SILENT: readonly PossibleCause[] = [
  { cause: 'Its logic has no supply', look: 'Look at its lamp and at the jumper that picks USB or supply.', at: 'wiring', when: ({ board }) => picksSupply(board) },
  { cause: 'Its logic has no supply', look: 'Look at its lamp, and measure at its terminal.', at: 'wiring', when: ({ board }) => !picksSupply(board) },
  { cause: 'The flash holds no image for this board', look: 'Look at the evidence of the last flash.', at: 'flash' },
  { cause: 'The cable is out, carries no data, or the port is another one’s', look: 'Push both plugs in. Pull the cable and see which port goes; try another cable.' },
  OTHER_SPEED,
]; // prettier-ignore
const UNREADABLE: readonly Cause[] = [
  OTHER_SPEED,
  { cause: 'The port is another device’s', look: 'Pull the cable and see which port goes.' },
];

/** Why another image runs than the one that was written to a card, by how this board treats what it finds there. */
function cardCauses({ board }: Facts): PossibleCause[] {
  const rule = cardRouteOf(board)?.rule;
  if (!rule) return [];
  const named: PossibleCause = { cause: 'The file had another name than the one this board takes', look: `Write the card anew: it takes ${fixedName(rule)} only.`, at: 'flash' };
  const repeated: PossibleCause = { cause: 'The file had a name the board took before', look: 'Write the card anew under another name.', at: 'flash' };
  const looked = rule.renames ? 'Look whether the file ends in .OLD, and try' : 'Try';
  return [
    ...(rule.ignoresRepeat ? [repeated] : []),
    ...(rule.kind === 'fixed' ? [named] : []),
    { cause: 'Two images were on the card', look: 'Leave one file on it.', at: 'flash' },
    { cause: 'The card was not taken', look: `${looked} a smaller card in FAT32.`, at: 'flash' },
    { cause: 'The card sat in the slot of the display, not in the board’s', look: 'Put it into the slot on the board.', at: 'flash', when: has('display') },
  ];
} // prettier-ignore

const causesOn = (facts: Facts): Causes => ({
  silent: SILENT,
  unreadable: UNREADABLE,
  refused: SILENT,
  other: [
    ...cardCauses(facts),
    { cause: 'A tool wrote another board, or broke off', look: 'Look at the attempts and at their evidence.', at: 'flash', when: byTool },
    { cause: 'The power was not really off', look: 'Unplug USB too, wait until every lamp is dark, and switch on again.' },
  ],
  'not known': [{ cause: 'No build of this machine is known here', look: 'Build it, and flash that.', at: 'build' }],
}); // prettier-ignore

/** Who the board says it is; or that it did not answer, and whether there was noise. */
type Heard = { who: Reply['values'] } | { noise: boolean };

/** The image that runs is the one that was built. */
export const identityProof = (facts: Facts): Proof =>
  proof(
    {
      id: 'identity',
      title: 'The right image runs',
      act: 'Switch the power on and compare the name and build the board reports with what you built.',
      restsOn: ['board', 'kit', 'image'],
      causes: possibleOn(facts, causesOn(facts)),
    },
    function* (): Run<Heard> {
      const answer = yield* ask('M115');
      const [who] = replies(answer, 'lantern');
      if (who) return seen({ who: who.values });
      return answer.problem === NO_ANSWER ? seen({ noise: answer.noise === true }) : ended(answer);
    },
    (heard, built) => {
      if ('noise' in heard)
        return heard.noise ? found('unreadable', NO_ANSWER, 'something came that cannot be read') : found('silent', NO_ANSWER, 'nothing came at all');
      const { who } = heard;
      const says = `board says ${who['name']}, build ${who['build']}`;
      if (!built) return found('not known', says, 'which image was built is not known');
      const same = who['name'] === built.name && who['build'] === built.buildId;
      const evidence = [says, `you built ${built.name}, build ${built.buildId}`];
      return same ? proven(...evidence) : found('other', ...evidence);
    },
  ); // prettier-ignore

/** Its stored settings are those of the image. */
export const STORE: Proof = proof(
    {
      id: 'store',
      title: 'Stored settings are fresh',
      act: 'Reset the stored settings to those of the image and store them, so that old values cannot linger.',
      restsOn: ['board', 'kit', 'image', 'stored'],
      after: ['identity'],
      causes: {
        'not loaded': [
          { cause: 'The memory of settings is worn out or locked', look: 'Store once more; if it stays so, build with the values you need as the image’s own.', at: 'settings' },
        ],
      },
    },
    function* () {
      const before = yield* reported();
      const problem = yield* askAll(['M502', 'M500']);
      if (problem) return ended(problem);
      const [state] = replies(yield* ask('M501'), 'store');
      return seen({ state: state?.values['state'], before, after: yield* reported() });
    },
    ({ state, before, after }) => {
      const old = before.filter((line) => !after.includes(line));
      const evidence = [
        `stored settings: ${state ?? 'no reply'}`,
        ...(old.length > 0 ? [`${old.length} of their lines were not the image’s own, and are now: ${old.slice(0, 4).join('; ')}`] : []),
      ];
      return state === 'loaded' ? proven(...evidence) : found('not loaded', ...evidence);
    },
  ); // prettier-ignore

/** The settings report, line by line; none where the image has none. */
function* reported(): Procedure<string[]> {
  const { lines, problem } = yield* ask('M503');
  return problem === undefined ? lines.filter((line) => line !== 'done') : [];
}
