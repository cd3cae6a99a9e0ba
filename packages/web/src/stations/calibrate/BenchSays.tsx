import css from './Calibrate.module.css';

/** What a hand feels and an eye sees at the bench's machine, beside the answers; it answers for nobody. */
export function BenchSays({ label }: { label: string }) {
  return (
    <p className={css.says}>
      On the virtual bench your hand and eye say: <b>{label.toLowerCase()}</b>.
    </p>
  );
}
