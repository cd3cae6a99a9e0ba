import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { BoardQuestion } from '@jolly/core/describe/question';
import { useEffect } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { BeginBoard } from '../boards/BeginBoard';
import { Picked } from './Picked';
import type { Field } from './field';

/** A board of the catalogue or one's own; one that is nowhere is described, and is the answer when one comes back. */
export function BoardAnswer({ catalogue, ...field }: Field<BoardQuestion> & { catalogue: Catalogue }) {
  const [search, setSearch] = useSearchParams();
  const { pathname } = useLocation();
  const added = search.get('added');
  const { onAnswer } = field;
  useEffect(() => {
    if (added === null) return;
    setSearch((now) => {
      const { added: _taken, ...rest } = Object.fromEntries(now);
      return rest;
    }, { replace: true }); // prettier-ignore
    void onAnswer(added);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each board one comes back with
  }, [added]);
  return (
    <>
      <Picked
        {...field}
        choices={catalogue.boards.map(({ id, revision, name }) => ({
          value: `${id} ${revision}`,
          label: `${name}, revision ${revision}`,
        }))}
      />
      <BeginBoard words="It is another: describe it" back={`${pathname}?${search.toString()}`} />
    </>
  );
}
