import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { type FlashRoute, isWired } from '../board/route';
import { routeWords } from './routeWords';

/** A step of a route by a tool. */
export interface ToolStep {
  id: 'off' | 'plug' | 'wire' | 'load' | 'write' | 'after';
  title: string;
  act: string;
  caution?: string;
}

const OFF: ToolStep = {
  id: 'off',
  title: 'Power off, everything out',
  act: 'Switch the supply off and pull its plug. Pull the USB lead.',
  caution: 'Wiring a live board burns board and tool. Unplug first, and touch ground.',
};
const AFTER = (evidence: string): ToolStep => ({
  id: 'after',
  title: 'Look at the evidence',
  act: `${evidence} Then switch on and ask the board who it is.`,
});

/** The steps of a route by a tool, in their order. `what` names what is written. */
export function toolSteps(route: FlashRoute, board: Board, chip: Chip, what: string): ToolStep[] {
  const { power } = routeWords(route, board, chip);
  const write = (act: string): ToolStep => ({ id: 'write', title: 'Write it', act });
  if (isWired(route))
    return [
      OFF,
      { id: 'wire', title: 'Wire the tool', act: `From label to label as drawn. ${power}` },
      write(`Write ${what}, and let the tool read back every byte.`),
      { ...AFTER(route.evidence), act: `${route.evidence} Take the wires off before the supply comes on; then ask the board who it is.` },
    ];
  if (route.kind === 'serial')
    return [
      { ...OFF, title: 'Supply off', act: 'Switch the supply off. Close every program that talks to the board.', caution: 'A board on two supplies can feed one into the other. Leave the supply off unless nothing answers.' },
      { id: 'plug', title: 'Plug USB', act: `${power} Then look which port appeared.` },
      write(`Write ${what} right after the reset, at ${route.baud} baud.`),
      AFTER(route.evidence),
    ];
  const boot = 'boot' in route ? route.boot : '';
  return [
    { ...OFF, title: 'Supply off', act: 'Switch the supply off.', caution: 'A board on two supplies can feed one into the other. Leave the supply off unless nothing answers.' },
    { id: 'load', title: 'Start its loader', act: `${boot}. Plug USB or press reset, and let go. ${power}` },
    write(route.kind === 'drive' && 'label' in route ? `Copy ${what} as .uf2 onto the drive ${route.label ?? ''}, and wait until it leaves by itself.` : `Write ${what}; the computer reads it back.`),
    { ...AFTER(route.evidence), act: `${route.evidence} Take the bridge away and reset; then ask the board who it is.` },
  ];
} // prettier-ignore
