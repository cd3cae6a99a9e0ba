import type { Build, BuildPart } from '@jolly/contract/endpoints/builds';
import { boardTaking, chipOf } from '@jolly/core/catalogue/catalogue';
import type { ImageFormat } from '@jolly/core/image/imageFile';
import { keysOf } from '@jolly/core/tree/keysOf';
import { useQuery } from '@tanstack/react-query';
import { api, buildFileUrl, imageFileUrl } from '../../api/api';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { Budget } from './Budget';
import css from './BuildStation.module.css';
import { FlashWall } from './FlashWall';
import { StackMeasure } from './StackMeasure';

type Done = Extract<Build, { state: 'done' }>;

export function ImageSizes({ build }: { build: Done }) {
  const { chip } = useWorkbench();
  const { sizes } = build;
  return (
    <>
      <div className={css.budgets} aria-label="Budgets">
        <Budget name="Flash" used={sizes.flashBytes} has={chip.flash_bytes} />
        <Budget
          name="RAM"
          used={sizes.ramBytes}
          has={chip.ram_bytes}
          note={`used counts ${sizes.stackBytes.toLocaleString('en')} bytes kept for the stack`}
        />
      </div>
      <StackMeasure key={build.id} build={build} />
      <p className={css.made}>
        Build <b className="figures">{build.buildId}</b> · {build.compiled} sources compiled anew ·{' '}
        {whenOf(build.endedAt)}
      </p>
      <SaveImage build={build} />
      <FlashWall sizes={sizes} has={chip.flash_bytes} />
    </>
  );
}

const FORMATS: Readonly<Record<ImageFormat, string>> = {
  bin: '.bin, for a card',
  hex: 'Intel HEX, for a programmer',
  uf2: 'UF2, for a board that shows itself as a drive (0xFF fills its last block of 256 bytes)',
};

const PARTS: Readonly<Record<BuildPart, string>> = {
  generated: 'generated files',
  machine: 'machine file',
  map: "linker's map",
  log: 'log',
};

/** The image and what belongs to it, as files; each was read back before it is handed out. */
export function SaveImage({ build }: { build: Done }) {
  const { facts, board, chip } = useWorkbench();
  if (build.clearedAt !== undefined)
    return <p className="soft">Its image was cleared away {whenOf(build.clearedAt)}.</p>;
  const madeFor = build.target === undefined ? board : boardTaking(facts.catalogue, build.target);
  const room = madeFor?.chip === board.chip ? chip : chipOf(facts.catalogue, madeFor);
  return (
    <>
      {room && build.sizes.flashBytes > room.flash_bytes ? (
        <p className="soft">It does not fit its board: no board could take it as a file.</p>
      ) : (
        <p className="row" aria-label="Save" role="group">
          Save the image:
          {keysOf(FORMATS).map((format) => (
            <a key={format} href={imageFileUrl(build.imageHash, format)} download>
              {FORMATS[format]}
            </a>
          ))}
        </p>
      )}
      <p className="row" aria-label="Save what belongs to it" role="group">
        Save what belongs to it:
        {keysOf(PARTS).map((part) => (
          <a key={part} href={buildFileUrl(build.id, part)} download>
            {PARTS[part]}
          </a>
        ))}
      </p>
    </>
  );
}

export function Log({ build }: { build: Build }) {
  const log = useQuery({
    queryKey: ['log', build.id],
    queryFn: () => api.buildLog({ id: build.id }),
    meta: { what: 'what the compiler said' },
    staleTime: Infinity,
  });
  if (!log.data?.log) return null;
  return (
    <details className={css.log}>
      <summary>What the compiler said</summary>
      <pre tabIndex={0}>{log.data.log}</pre>
    </details>
  );
}
