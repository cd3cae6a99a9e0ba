import { fileSchema } from '@jolly/contract/fileSchemas';
import type { archives as archivesContract } from '@jolly/contract/endpoints/archives';
import type { board as boardContract } from '@jolly/contract/endpoints/board';
import type { descriptions as descriptionsContract } from '@jolly/contract/endpoints/descriptions';
import type { jobs as jobsContract } from '@jolly/contract/endpoints/jobs';
import type { keeping as keepingContract } from '@jolly/contract/endpoints/kept';
import type { machines as machinesContract } from '@jolly/contract/endpoints/machines';
import type { photos as photosContract } from '@jolly/contract/endpoints/photos';
import { Refusal } from '@jolly/contract/refusal';
import { openApi } from '@jolly/contract/openApi';
import { writePartFile } from '@jolly/core/formats/partFile';
import { writeMachineFile } from '@jolly/core/formats/machineFile';
import { createUploads } from '../archive/uploads';
import { writeArchive } from '../archive/writeArchive';
import * as board from '../app/board';
import * as descriptions from '../app/descriptions';
import * as flash from '../app/flash';
import * as job from '../app/job';
import { keepFile, keepFromBoard } from '../app/keep';
import { theMachine } from '../app/known';
import * as firstPower from '../app/firstPower';
import * as machines from '../app/machines';
import { shelf } from '../app/shelf';
import { addPart, thePart } from '../app/ownParts';
import * as photos from '../app/photos';
import * as place from '../app/place';
import * as proving from '../app/prove';
import { imageForBoard } from '../app/artefacts';
import { addForeignImage } from '../app/foreignImage';
import * as undo from '../app/undo';
import * as wayBack from '../app/wayBack';
import type { Context } from '../context';
import type { Handlers, Of, Sent } from './handler';
import { ofBoardTypes } from './ofBoardTypes';
import { newsOf, ofBuilds, type Work } from './ofBuilds';
import { ofFleet, ofRecord } from './ofRecord';
import { readDrawer } from '../files/drawer';
import { describedMachines } from '../sql/descriptions';
import { demoOnShelf, listMachines, listPutAway } from '../sql/machines';

const OCTETS = 'application/octet-stream';

/** What answers each endpoint of the contract: the use-case behind it, and nothing else. */
export function handlers(context: Context, work: Work): Handlers {
  return {
    ...ofMachines(context),
    ...ofBoardTypes(context),
    ...ofBuilds(context, work),
    ...ofBoards(context, work),
    powerNotes: ({ params }) => firstPower.powerNotes(context, params.id),
    notePower: ({ params, body }) => firstPower.notePower(context, params.id, body),
    ...ofJobs(context),
    ...ofKept(context),
    ...ofPhotos(context),
    ...ofRecord(context),
    ...ofFleet(context),
    ...ofDescriptions(context),
    ...ofArchives(context),
  };
}

function ofMachines(context: Context): Of<typeof machinesContract> {
  return {
    health: () => ({ ok: true }),
    openApi,
    catalogue: () => context.catalogue,
    schema: ({ params }) => fileSchema(params.family),
    machines: () => shelf(context),
    addMachine: ({ body }) => machines.addFromFile(context, body.file),
    machine: ({ params }) => theMachine(context, params.id),
    saveMachine: ({ params, body }) => machines.save(context, params.id, body),
    machineFile: async ({ params }) => {
      const { machine } = await theMachine(context, params.id);
      return { type: 'text/yaml', bytes: writeMachineFile(machine), saveAs: `${machine.id}.yaml` };
    },
    entries: ({ params }) => machines.logbook(context, params.id),
    addNote: ({ params, body }) => machines.addNote(context, params.id, body.summary),
    takeNoteBack: ({ params }) => machines.takeNoteBack(context, params.id, Number(params.number)),
    edits: ({ params }) => undo.edits(context, params.id),
    edit: ({ params }) => undo.edit(context, params.id, Number(params.number)),
    undo: ({ params }) => undo.goBack(context, params.id, 'undo', versionOf(params)),
    redo: ({ params }) => undo.goBack(context, params.id, 'redo', versionOf(params)),
  };
}

const versionOf = ({ version }: { version?: string }) =>
  version === undefined ? undefined : Number(version);

const ZIP = 'application/zip';

function ofArchives(context: Context): Of<typeof archivesContract> {
  const uploads = createUploads(context);
  const zipOf = (ids: readonly string[], saveAs: string): Sent => ({
    type: ZIP,
    bytes: '',
    write: (to) => writeArchive(context, ids, to),
    saveAs,
  });
  return {
    machineArchive: async ({ params }) => {
      const { machine } = await theMachine(context, params.id);
      return zipOf([machine.id], `${machine.id}.zip`);
    },
    shelfArchive: async () => {
      const ids = (await listMachines(context.db)).map(({ machine }) => machine.id);
      if (ids.length === 0) throw new Refusal('nothing-to-do', 'the shelf is empty');
      return zipOf(ids, 'shelf.zip');
    },
    beginUpload: () => uploads.begin(),
    addToUpload: ({ params, body }) => uploads.add(params.id, Number(params.number), body),
    uploadPlan: ({ params }) => uploads.plan(params.id),
    takeUpload: ({ params, body }) => uploads.take(params.id, body.choices),
    dropUpload: async ({ params }) => {
      await uploads.drop(params.id);
      return {};
    },
  };
}

function ofDescriptions(context: Context): Of<typeof descriptionsContract> {
  return {
    descriptions: () => describedMachines.list(context.db),
    beginDescription: ({ body }) => descriptions.begin(context, body),
    description: ({ params }) => descriptions.theDescription(context, params.id),
    saveDescription: ({ params, body }) => descriptions.saveOver(context, params.id, body),
    dropDescription: async ({ params }) => {
      await descriptions.throwAway(context, params.id);
      return {};
    },
    shelve: ({ params }) => descriptions.shelve(context, params.id),
    addPart: ({ body }) => addPart(context, body.file),
    partFile: ({ params }) => ({
      type: 'text/yaml',
      bytes: writePartFile(thePart(context, params.id)),
      saveAs: `${params.id}.yaml`,
    }),
    demo: () => demoOnShelf(context.db),
    layDemo: () => place.layDemo(context),
    takeDemoOff: () => place.takeDemoOff(context),
    copyMachine: ({ params, body }) => place.copyMachine(context, params.id, body.name),
    putAway: ({ params, body }) => place.put(context, params.id, body.at),
    archive: () => listPutAway(context.db),
  };
}

function ofBoards(context: Context, { flashRuns }: Work): Of<typeof boardContract> {
  return {
    board: ({ params }) => board.boardOnBench(context, params.id),
    putCard: ({ params, body }) => board.putCard(context, params.id, body.card),
    putStore: async ({ params, body }) => {
      await board.putStore(context, params.id, body.store);
      return {};
    },
    putScrews: async ({ params, body }) => {
      await board.putScrews(context, params.id, body.screws);
      return {};
    },
    flash: ({ params, body }) => flash.flashFromCard(context, params.id, body.laid),
    flashes: ({ params }) => flash.flashes(context, params.id),
    startFlash: ({ params, body }) => flashRuns.start(params.id, body),
    flashRun: async ({ params }) => {
      await theMachine(context, params.id);
      return flashRuns.stands(params.id);
    },
    flashEvents: ({ params }) =>
      newsOf(flashRuns, params.id, async () => {
        await theMachine(context, params.id);
        return flashRuns.stands(params.id);
      }),
    breakFlash: ({ params, body }) => flashRuns.break(params.id, body.by),
    wroteCard: ({ params, body }) => board.wroteCard(context, params.id, body.fileName, body.imageHash),
    imageForBoard: async ({ params }) => ({
      type: OCTETS,
      bytes: await imageForBoard(context, params.id, params.hash, params.format),
      saveAs: params.name,
    }),
    addImage: ({ params, body }) => addForeignImage(context, params.id, params.name, body),
    proofs: ({ params }) => proving.proofs(context, params.id),
    prove: ({ params, body }) => proving.prove(context, params.id, body),
  };
}

function ofJobs(context: Context): Of<typeof jobsContract> {
  return {
    job: ({ params }) => job.jobOf(context, params.id),
    startJob: ({ params, body }) => job.startJob(context, params.id, body),
    saveJob: ({ params, body }) => job.changeJob(context, params.id, body),
    setJobState: ({ params, body }) => job.endJob(context, params.id, body),
    reopenJob: ({ params }) => job.reopenJob(context, params.id),
    dues: ({ params }) => job.dues(context, params.id),
    settleDue: ({ params }) => job.settleDue(context, params.id, params.due),
  };
}

function ofKept(context: Context): Of<typeof keepingContract> {
  return {
    wayBack: ({ params }) => wayBack.wayBack(context, params.id),
    keep: ({ params: { id, kind, name, source = 'file' }, body: bytes }) =>
      keepFile(context, id, { kind, name, bytes, source }),
    keepFromBoard: ({ params }) => keepFromBoard(context, params.id),
    keptBytes: async ({ params }) => {
      const { name, hash } = await wayBack.keptThing(context, params.id, Number(params.number));
      return { type: OCTETS, bytes: await board.imageBytes(context, hash), saveAs: name };
    },
    waive: ({ params, body }) => wayBack.waive(context, params.id, body.check, body.because),
    drawer: async ({ params }) => {
      const { machine } = await theMachine(context, params.id);
      return { type: OCTETS, bytes: await readDrawer(context, machine.id, params.name) };
    },
  };
}

function ofPhotos(context: Context): Of<typeof photosContract> {
  return {
    photos: ({ params }) => photos.photos(context, params.id),
    addPhoto: ({ params, body }) => photos.keepPhoto(context, params.id, params.title, body),
    savePhoto: ({ params, body }) => photos.namePhoto(context, params.id, Number(params.number), body),
    removePhoto: ({ params }) => photos.removePhoto(context, params.id, Number(params.number)),
    putPhotoBack: ({ params }) => photos.putPhotoBack(context, params.id, Number(params.number)),
    forgetPhoto: async ({ params }) => {
      await photos.forgetNow(context, params.id, Number(params.number));
      return {};
    },
    photoBytes: async ({ params }) => {
      const { photo, bytes } = await photos.photoBytes(context, params.id, Number(params.number));
      // Asked for anew each time: a removed photo is not shown from the browser's memory.
      return { type: photo.type, bytes, cache: 'private, no-cache' };
    },
  };
}
