import type { Finding } from '@jolly/core/finding/finding';
import { describe, expect, it } from 'vitest';
import { progressOf } from '../src/progress';
import { finding, known, noJob, teeth, workbench } from './fixtures/known';

describe('without a job', () => {
  it('what is wrong with the wiring is to do there without a job too, and a mere note is not', () => {
    const speaks = (id: string, severity: Finding['severity']) => ({
      ...finding(severity, { kind: 'part', id: 'x-switch' }),
      id,
    });
    const findings = [
      speaks('harness.unlanded', 'stop'),
      speaks('wire.gauge', 'mend'),
      speaks('endstop.open-on-break', 'note'),
      speaks('map.no-centre', 'mend'),
    ];
    expect(teeth('wiring', { workbench: workbench(findings) })).toEqual({
      'harness.unlanded:x-switch': 'stopped',
      'wire.gauge:x-switch': 'todo',
    });
    const waived = findings.map((one) => ({ ...one, waived: 'seen' }));
    expect(teeth('wiring', { workbench: workbench(waived) })).toEqual({});
  });
  it('a cog without teeth says whether nothing is due, or nobody has measured or knows', () => {
    const idleWith = (more: object) =>
      progressOf(known({ job: { ...noJob, ...more } })).find(({ id }) => id === 'calibrate')?.idle;
    expect(idleWith({})).toBe('what is due is not known yet');
    expect(idleWith({ dues: [], unmeasured: 0 })).toBe('nothing due');
    expect(idleWith({ dues: [], unmeasured: 3 })).toBe('nothing due, 3 never measured');
  });
});
