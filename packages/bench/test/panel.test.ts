import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { panelOf } from '../src/board/panel';

const machine = demoMachine('plover');
/** The panel of Plover with a display, or as it is: without. */
function panelWith(part?: string) {
  const added: Edit[] = [
    { path: ['parts', machine.parts.length], value: { id: 'display', part, role: 'display' } },
    { path: ['harness', 'display'], value: { leads: { supply: 'SHOW.2', ground: 'SHOW.1' } } },
  ];
  return panelOf(factsOf(applyEdits(machine, part === undefined ? [] : added)));
}

describe('a knob', () => {
  it('is there where the display has one, counts turns and presses, and forgets what it told', () => {
    const panel = panelWith('slate-20');
    panel.turn(2);
    panel.turn(-5);
    panel.press();
    expect([panel.turned(), panel.turned(), panel.pressed(), panel.pressed()]).toEqual([-3, 0, true, false]);
  });
  it.each([
    ['a display that is touched', 'vista-128'],
    ['no display', undefined],
  ])('is none at %s', (_what, part) => {
    const panel = panelWith(part);
    panel.turn(2);
    panel.press();
    expect([panel.turned(), panel.pressed()]).toEqual([0, false]);
  });
});
