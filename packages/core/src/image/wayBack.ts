import type { Finding } from '../checks/finding';

/** What can be kept of a machine before it is changed. */
export const KEPT_KINDS = ['image', 'bootloader', 'options', 'store', 'dump'] as const;
export type KeptKind = (typeof KEPT_KINDS)[number];

export interface KeptThing {
  kind: KeptKind;
  verdict: 'fits' | 'doubtful' | 'empty';
}

/** `keep.no-way-back`: silent once an image is kept, the flash was read and is empty, or it was waived in words. */
export function wayBackFindings(machineId: string, kept: readonly KeptThing[], waived?: string): Finding[] {
  const images = kept.filter((thing) => thing.kind === 'image');
  if (waived !== undefined || images.length > 0) return [];
  return [
    {
      id: 'keep.no-way-back',
      severity: 'stop',
      subject: { kind: 'machine', id: machineId },
      what: 'There is no way back.',
      why: 'Once the board takes another image, the one it has is gone for good. Keep it first.',
      evidence: ['no earlier image is kept', ...kept.map((thing) => `kept: ${thing.kind}`)],
      remedies: [],
    },
  ];
}
