import css from './Describe.module.css';

/** A frame seen from the front and a little from above; what moves carries arrows. */
export function FrameDrawing({ kind }: { kind: string }) {
  return (
    <svg viewBox="0 0 160 120" className={css.frameDrawing} aria-hidden>
      {/* The posts and the floor. */}
      <path className={css.fixed} d="M18 104V16H142V104M8 112H152" />
      {kind === 'moving-bed' && <MovingBed />}
      {kind === 'lifting-bed' && <LiftingBed />}
      {kind === 'cross-belt' && <CrossBelt />}
    </svg>
  );
}

const PLATE = 'M44 96H126L112 80H58Z';
const HIGH_PLATE = 'M44 84H126L112 70H58Z';

function MovingBed() {
  return (
    <>
      <path className={css.plate} d={PLATE} />
      <path className={css.moves} d="M82 78L74 100M74 100l-1 -8M74 100l7 -4M82 78l1 8M82 78l-7 4" />
      <path className={css.beam} d="M18 48H142" />
      <rect className={css.nozzleBlock} x="68" y="42" width="20" height="20" />
      <path className={css.moves} d="M40 36H60M40 36l6 -4M40 36l6 4M60 36l-6 -4M60 36l-6 4" />
      <path className={css.moves} d="M132 38V24M132 24l-4 6M132 24l4 6" />
    </>
  );
}

function LiftingBed() {
  return (
    <>
      <path className={css.plate} d={HIGH_PLATE} />
      <path className={css.moves} d="M134 66V98M134 98l-4 -6M134 98l4 -6" />
      <path className={css.beam} d="M18 30H142M62 22L98 40" />
      <rect className={css.nozzleBlock} x="70" y="26" width="20" height="18" />
      <path className={css.moves} d="M36 24H56M36 24l6 -4M36 24l6 4M56 24l-6 -4M56 24l-6 4" />
      <path className={css.moves} d="M104 36l14 9M118 45l-8 -1M118 45l-4 -7" />
    </>
  );
}

function CrossBelt() {
  return (
    <>
      <path className={css.plate} d={HIGH_PLATE} />
      <path className={css.moves} d="M134 66V98M134 98l-4 -6M134 98l4 -6" />
      <path className={css.belt} d="M26 24L134 54M134 24L26 54M26 24H134M26 54H134" />
      <circle className={css.fixed} cx="26" cy="54" r="6" />
      <circle className={css.fixed} cx="134" cy="54" r="6" />
      <rect className={css.nozzleBlock} x="70" y="30" width="20" height="18" />
      <path className={css.moves} d="M36 16H56M36 16l6 -4M36 16l6 4M56 16l-6 -4M56 16l-6 4" />
    </>
  );
}
