import { boardBy } from '@jolly/core/catalogue/catalogue';
import { describe, expect, it } from 'vitest';
import { installed } from '../../core/test/fixtures/demo';
import { newestDone, otherBoardOf } from '../src/newestBuild';
import { build } from './fixtures/known';

const { catalogue } = installed;
const alder = boardBy(catalogue, { id: 'alder-a32', revision: '1.1' })!;
const fenwick = boardBy(catalogue, { id: 'fenwick-f8', revision: '2' })!;
const target = alder.routes[0].target;

describe('what a build was made for', () => {
  it('is the board that takes its image, called by name where it is another one', () => {
    expect(otherBoardOf({ target }, alder, catalogue)).toBeUndefined();
    expect(otherBoardOf({ target }, fenwick, catalogue)).toBe('Alder A32 rev 1.1');
    expect(otherBoardOf({ target: 'gone-1' }, fenwick, catalogue)).toBe('gone-1');
  });
  it('of an older build is not on record: it counts as this board’s', () => {
    expect(otherBoardOf({}, fenwick, catalogue)).toBeUndefined();
    expect(newestDone([build({ id: '2', target }), build({ id: '1' })], fenwick)?.id).toBe('1');
    expect(newestDone([build({ id: '2', target })], fenwick)).toBeUndefined();
  });
});
