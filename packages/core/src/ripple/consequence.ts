/** The stations of the train, in working order. */
export const STATION_IDS = [
  'survey', 'wiring', 'settings', 'build', 'flash', 'bring-up', 'calibrate', 'logbook',
] as const; // prettier-ignore
export type StationId = (typeof STATION_IDS)[number];

/**
 * `lead`: a cable to move, add or retire. `step`: other work with hands. `setting`: changes by itself. `decide`: wants a decision. `idle`: a part
 * or header without work. `proof`: no longer valid. `calibration`: falls due. `caution`: can hurt.
 * `slicer`: a line to change there.
 */
export const CONSEQUENCE_KINDS = [
  'lead', 'step', 'setting', 'decide', 'idle', 'proof', 'calibration', 'caution', 'slicer',
] as const; // prettier-ignore
export type ConsequenceKind = (typeof CONSEQUENCE_KINDS)[number];

/** One thing that follows from a job. */
export interface Consequence {
  /** The same for the same consequence in every computation; another target is another consequence. */
  id: string;
  kind: ConsequenceKind;
  station: StationId;
  /** Id of the part, setting, proof or calibration it is about. */
  subject: string;
  title: string;
  from?: string;
  to?: string;
  because: string;
  /** Ids of the changes it follows from. */
  causes: string[];
  /** For a lead: why moving the plug as it is will not do. */
  attention?: string[];
}

/** What a rule says; the rest is added where all are gathered. */
export type Said = Omit<Consequence, 'id' | 'station' | 'causes'> & {
  station?: StationId;
  /** What is done for it, one by one. */
  acts?: readonly string[];
};

export const STATION_OF: Record<ConsequenceKind, StationId> = {
  lead: 'wiring',
  step: 'wiring',
  setting: 'settings',
  decide: 'settings',
  idle: 'wiring',
  proof: 'bring-up',
  calibration: 'calibrate',
  caution: 'bring-up',
  slicer: 'calibrate',
};
