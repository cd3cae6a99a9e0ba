import { fixedName } from '../board/cardRule';
import { picksSupply } from '../board/picksSupply';
import { cardRouteOf } from '../board/route';
import { ask, askAll, ended, type Procedure, replies, seen } from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import { byTool, has, type PossibleCause, possibleOn } from './possibleOn';
import { found, type Proof, proof, proven } from './proof';

type Causes = Readonly<Record<string, readonly PossibleCause[]>>;

const SILENT: readonly PossibleCause[] = [
  { cause: 'Host and image talk at different speeds', look: 'Compare the link’s baud in Settings with your program’s.', at: 'settings' },
  { cause: 'The flash holds no image for this board', look: 'Look at the evidence of the last flash.', at: 'flash' },
  { cause: 'Its logic has no supply', look: 'Look at its lamp and at the jumper that picks USB or supply.', at: 'wiring', when: ({ board }) => picksSupply(board) },
  { cause: 'Its logic has no supply', look: 'Look at its lamp, and measure at its terminal.', at: 'wiring', when: ({ board }) => !picksSupply(board) },
]; // prettier-ignore

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
  refused: SILENT,
  other: [
    ...cardCauses(facts),
    { cause: 'A tool wrote another board, or broke off', look: 'Look at the attempts and at their evidence.', at: 'flash', when: byTool },
    { cause: 'The power was not really off', look: 'Unplug USB too, wait until every lamp is dark, and switch on again.' },
  ],
  'not known': [{ cause: 'No build of this machine is known here', look: 'Build it, and flash that.', at: 'build' }],
}); // prettier-ignore

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
    function* () {
      const answer = yield* ask('M115');
      const [who] = replies(answer, 'lantern');
      return who ? seen(who.values) : ended(answer);
    },
    (who, built) => {
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
