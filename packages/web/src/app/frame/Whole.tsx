import { Link } from 'react-router';
import css from './Whole.module.css';

/** A whole page with one thing to say: waiting, failed, not there. */
export function Whole({ title, text, back = false }: { title: string; text: string; back?: boolean }) {
  return (
    <main className={css.whole}>
      <h1>{title}</h1>
      <p>{text}</p>
      {back && <Link to="/">Back to the shelf</Link>}
    </main>
  );
}
