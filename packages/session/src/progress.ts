import type { Entry } from '@jolly/contract/endpoints/machines';
import type { Proofs } from '@jolly/contract/endpoints/board';
import { cardRouteOf } from '@jolly/core/board/route';
import { fitFindings } from '@jolly/core/build/fitFindings';
import { stopping } from '@jolly/core/finding/stopping';
import type { CardReason } from '@jolly/core/flash/judgeCard';
import { sameBoardType } from '@jolly/core/machine/same';
import type { Consequence, StationId } from '@jolly/core/ripple/consequence';
import { surveyTick } from '@jolly/core/ripple/surveyTick';
import { cardState, OF_THE_CARD } from './cardState';
import type { Known, KnownJob } from './known';
import { PARTS, partOfFinding, partOfSetting } from './machineParts';
import { newestDone, upToDate } from './newestBuild';
import { isAboutWiring } from './aboutWiring';

export type ToothState = 'todo' | 'done' | 'stopped';
/** One thing to do at a station. */
export interface Tooth {
  id: string;
  title: string;
  state: ToothState;
}
export interface StationTeeth {
  id: StationId;
  title: string;
  teeth: Tooth[];
  /** What a cog without teeth means. */
  idle: string;
}

const tooth = (id: string, title: string, done: boolean, stopped = false): Tooth => ({
  id,
  title,
  state: stopped ? 'stopped' : done ? 'done' : 'todo',
});

/** The stations in working order; each with the teeth of its cog. */
export const STATIONS: { id: StationId; title: string; teeth: (known: Known) => Tooth[] }[] = [
  { id: 'survey', title: 'Survey', teeth: surveyTeeth },
  { id: 'wiring', title: 'Wiring', teeth: wiringTeeth },
  { id: 'settings', title: 'Settings', teeth: settingTeeth },
  { id: 'build', title: 'Build', teeth: buildTeeth },
  { id: 'flash', title: 'Flash', teeth: flashTeeth },
  { id: 'bring-up', title: 'Bring-up', teeth: proofTeeth },
  { id: 'calibrate', title: 'Calibrate', teeth: calibrateTeeth },
  { id: 'logbook', title: 'Logbook', teeth: recordTeeth },
];

/** All cogs of the train. */
export function progressOf(known: Known): StationTeeth[] {
  return STATIONS.map(({ id, title, teeth }) => ({
    id,
    title,
    teeth: teeth(known),
    idle: idle(id, known.job),
  }));
}

/** That a job asks for nothing is one thing; that nothing is due, or that nobody knows, another. */
function idle(station: StationId, { stored, dues, unmeasured }: KnownJob): string {
  if (station !== 'calibrate') return stored ? 'nothing to do in this job' : 'nothing to do without a job';
  if (dues === undefined) return 'what is due is not known yet';
  return unmeasured ? `nothing due, ${unmeasured} never measured` : 'nothing due';
}

/** The steps of the survey; each is a section of its station. */
export const SURVEY_STEPS = [
  { id: 'job', title: 'The job', done: 'The changes go together' },
  { id: 'board', title: 'Which board', done: 'You know which board is on the bench' },
  { id: 'report', title: 'Present settings', done: 'Every measured value has its decision' },
  { id: 'losses', title: 'What goes', done: 'You know what the next image takes away' },
  { id: 'way-back', title: 'The way back', done: 'A way back is kept' },
  { id: 'photos', title: 'Photos', done: 'The connectors are photographed' },
  { id: 'ready', title: 'Before you start', done: 'Everything is at hand' },
] as const;
export type SurveyStep = (typeof SURVEY_STEPS)[number]['id'];

function surveyTeeth({ job }: Known): Tooth[] {
  const { stored, tail, wayBack } = job;
  const back = tooth(
    'way-back',
    'A way back is kept',
    wayBack?.findings.length === 0,
    (wayBack?.findings.length ?? 0) > 0,
  );
  if (!stored) return [back];
  const looked = (step: 'report' | 'losses' | 'ready') => job.isDone(surveyTick(step, stored.job.changes));
  const state: Record<SurveyStep, () => Tooth> = {
    job: () =>
      tooth(
        'job',
        '',
        tail?.ripple.contradictions.length === 0,
        (tail?.ripple.contradictions.length ?? 0) > 0,
      ),
    board: () => tooth('board', '', job.isDone('survey:board')),
    report: () => tooth('report', '', looked('report')),
    losses: () => tooth('losses', '', looked('losses')),
    'way-back': () => back,
    photos: () => tooth('photos', '', isPhotographed(job)),
    ready: () => tooth('ready', '', looked('ready')),
  };
  const needed = SURVEY_STEPS.filter(
    ({ id }) =>
      (id !== 'photos' || of(job, 'wiring', 'lead').length > 0) && (id !== 'losses' || !noFlash({ job })),
  );
  return needed.map((step) => ({ ...state[step.id](), id: step.id, title: step.done }));
}

/** Whether there is a picture of the board that the job begins with; those of another board tell nothing of its leads. */
export const isPhotographed = ({ stored, photos }: Pick<KnownJob, 'stored' | 'photos'>): boolean =>
  stored !== undefined && photos.some(({ board }) => sameBoardType(board, stored.job.before.board));

/** What a job asks for at a station. */
function of({ tail }: KnownJob, station: StationId, ...kinds: Consequence['kind'][]): Consequence[] {
  return (tail?.ripple.consequences ?? []).filter(
    (entry) => entry.station === station && kinds.includes(entry.kind),
  );
}

function wiringTeeth({ job, workbench }: Known): Tooth[] {
  // A job has its rows on the sheet; without one, what is wrong with the wiring as it is is what there is to do.
  const wrong = workbench.findings.filter(
    (finding) =>
      !job.stored && isAboutWiring(finding) && finding.severity !== 'note' && finding.waived === undefined,
  );
  return [
    ...wrong.map(({ id, subject, what, severity }) =>
      tooth(`${id}:${subject.id}`, what, false, severity === 'stop'),
    ),
    ...job.putBack.map((back) => tooth(`back:${back.done.id}`, back.title, false)),
    ...of(job, 'wiring', 'lead', 'step').map((row) => tooth(row.id, row.title, job.isDone(row.id))),
  ];
}

function calibrateTeeth({ job }: Known): Tooth[] {
  const isDue = ({ kind, subject }: Consequence) =>
    kind === 'calibration' && (job.dues ?? []).some(({ id }) => id === subject);
  return [
    ...of(job, 'calibrate', 'calibration', 'slicer').map((entry) =>
      // Ticked, and due again since: the machine was changed once more, or what was measured is not in its file.
      tooth(entry.id, entry.title, job.isDone(entry.id) && !isDue(entry)),
    ),
    // What the job asks for already has its tooth.
    ...(job.dues ?? [])
      .filter(({ id }) => !of(job, 'calibrate', 'calibration').some(({ subject }) => subject === id))
      .map((due) => tooth(`due:${due.id}`, due.title, false)),
  ];
}

/** Decisions of the job that are still open, by the part of the machine they are found under. */
export function openDecisions(job: KnownJob): Consequence[] {
  return of(job, 'settings', 'decide').filter((entry) => !job.isDone(entry.id));
}

/** Whether the job at hand needs no new image at all. */
const noFlash = ({ job }: Pick<Known, 'job'>) => job.tail !== undefined && !job.tail.ripple.flash;

function settingTeeth({ workbench, job }: Known): Tooth[] {
  const undecided = new Set(openDecisions(job).map((entry) => partOfSetting(entry.subject, workbench)));
  return PARTS.map(({ id, title }) => {
    const findings = workbench.findings.filter((finding) => partOfFinding(finding, workbench) === id);
    const open = findings.filter(({ severity, waived }) => severity !== 'note' && waived === undefined);
    return tooth(
      id,
      title,
      open.length === 0 && !undecided.has(id),
      open.some((finding) => finding.severity === 'stop'),
    );
  });
}

function buildTeeth(known: Known): Tooth[] {
  if (noFlash(known)) return [];
  const { workbench, builds } = known;
  const done = newestDone(builds, workbench.board);
  const stops = stopping(workbench.findings);
  // How an older image fits says nothing of the settings as they are.
  const fresh = upToDate(known);
  const fit = done && fresh ? fitFindings(done.sizes, workbench.chip) : [];
  const over = (id: string) => fit.some((finding) => finding.id === id);
  return [
    tooth('clear', 'Nothing stops the build', stops.length === 0, stops.length > 0),
    tooth('built', 'An image is built', done !== undefined, builds[0]?.state === 'failed'),
    tooth('fresh', 'It is built from the settings as they are', fresh),
    tooth('flash', 'It fits the flash', fresh && !over('fit.flash-over'), over('fit.flash-over')),
    tooth('ram', 'It fits the RAM', fresh && !over('fit.ram-over'), over('fit.ram-over')),
    tooth('brim', 'It stays clear of the brim', fresh && fit.length === 0),
  ];
}

function flashTeeth(known: Known): Tooth[] {
  if (noFlash(known)) return [];
  const { taken, onCard, against } = cardState(known);
  const stops = known.job.wayBack?.findings ?? [];
  return [
    tooth(
      'way-back',
      'A way back is kept',
      known.job.wayBack !== undefined && stops.length === 0,
      stops.length > 0,
    ),
    tooth('image', 'There is an image to flash', upToDate(known)),
    ...(cardRouteOf(known.workbench.board) ? cardTeeth(taken, onCard, against) : []),
    tooth('taken', 'The board took it', taken),
    tooth('says', 'The flash holds what you built last', taken && upToDate(known)),
  ];
}

function cardTeeth(taken: boolean, onCard: boolean, against: CardReason[]): Tooth[] {
  return [
    tooth(
      'name',
      'The file name is one the board will take',
      taken || (onCard && !against.some((reason) => !OF_THE_CARD.has(reason))),
    ),
    tooth(
      'card',
      'The card fits the board',
      taken || (onCard && !against.some((reason) => OF_THE_CARD.has(reason))),
    ),
    tooth('written', 'The card is written and in the slot', taken || onCard),
  ];
}

function proofTeeth({ proofs, job }: Known): Tooth[] {
  // A job takes only the stations it needs: a nozzle voids no proof.
  if (noFlash({ job }) && of(job, 'bring-up', 'proof').length === 0) return [];
  return (proofs?.steps ?? []).map((step) => {
    const proof = proofs?.proofs.find((entry) => entry.step === step.id);
    return tooth(step.id, step.title, proof?.outcome === 'proven', proof?.outcome === 'failed');
  });
}

/** Whether every step of bring-up is proven for the image in the flash. */
export function allProven(proofs: Proofs | undefined): boolean {
  const proven = new Set(
    (proofs?.proofs ?? []).filter((proof) => proof.outcome === 'proven').map((proof) => proof.step),
  );
  return proofs !== undefined && proofs.steps.length > 0 && proofs.steps.every((step) => proven.has(step.id));
}

function recordTeeth({ workbench, entries, board, proofs, builds }: Known): Tooth[] {
  const done = newestDone(builds, workbench.board);
  const recorded = (kind: Entry['kind'], hash: string | null | undefined) =>
    hash != null && entries.some((entry) => entry.kind === kind && entry.detail.imageHash === hash);
  return [
    tooth('build', 'The newest build is recorded', recorded('build', done?.imageHash)),
    tooth('flash', 'The flash is recorded', recorded('flash', board?.imageHash)),
    tooth('image', 'It is known which image runs', board?.image !== undefined),
    tooth('proof', 'The bring-up is recorded', allProven(proofs)),
  ];
}
