import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { asked, leftOpen, openOf, passedOver } from '@jolly/core/describe/description';
import { PAGES } from '@jolly/core/describe/pages';
import type { Answers, Page, Question } from '@jolly/core/describe/question';
import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api } from '../../api/api';
import { Whole } from '../../app/frame/Whole';
import { DescribingPage } from '../../app/frame/DescribingPage';
import { KeptNote } from '../../app/KeptNote';
import { Refused } from '../../ui/Refused';
import { SectionList } from '../../ui/SectionList';
import { useAct } from '../../ui/useAct';
import { useTitle } from '../../ui/useTitle';
import css from './Describe.module.css';
import { GrowingDrawing } from './GrowingDrawing';
import { OneTurn } from './OneTurn';
import { QuestionField } from './QuestionField';
import { ReportTrains } from './ReportTrains';
import { type Describing, useDescription } from './useDescription';
import { askAnew, held } from '../../api/held';

/** A machine from nothing: one looks at the printer and answers, in any order. */
export function DescribePage() {
  const { id = '' } = useParams();
  const describing = useDescription(id);
  const catalogue = useQuery({ queryKey: held('catalogue'), queryFn: api.catalogue, staleTime: Infinity });
  if (describing && 'failed' in describing)
    return <Whole title="This description cannot be opened" text={describing.failed.message} back />;
  if (!describing || !catalogue.data)
    return <Whole title="One moment" text="The description is being fetched." />;
  return <Describe id={id} describing={describing} catalogue={catalogue.data} />;
}

const FIRST = PAGES[0];

function Describe({
  id,
  describing,
  catalogue,
}: {
  id: string;
  describing: Describing;
  catalogue: Catalogue;
}) {
  const [search, setSearch] = useSearchParams();
  const page = PAGES.find((entry) => entry.id === search.get('at')) ?? FIRST;
  const heading = useRef<HTMLHeadingElement>(null);
  const { description } = describing;
  const { answers } = description;
  useTitle('Describe', typeof answers['name'] === 'string' ? answers['name'] : 'A new machine');
  if (!page) return null;
  const go = (to: string) => {
    setSearch({ at: to });
    heading.current?.focus();
  };
  const next = PAGES[PAGES.indexOf(page) + 1];
  return (
    <DescribingPage
      title={typeof answers['name'] === 'string' ? answers['name'] : 'A new machine'}
      note={<KeptNote saved={describing.saved} what="Every answer" />}
      columns="210px minmax(0, 1fr) 350px"
      parts={
        <SectionList
          label="Pages"
          entries={PAGES.map((entry) => ({ id: entry.id, title: entry.title, ...markOf(entry, answers) }))}
          at={page.id}
          leads={(id) => ({ at: id })}
        />
      }
      asked={page.title}
      side={
        <>
          <GrowingDrawing answers={answers} catalogue={catalogue} />
          <Shelve id={id} describing={describing} onPage={go} />
        </>
      }
    >
      <h2 ref={heading} tabIndex={-1}>
        {page.title}
      </h2>
      {page.hint && <p className={css.hint}>{page.hint}</p>}
      <ReportTrains describing={describing} page={page.id} />
      <OneTurn page={page.id} onAnswer={(given) => void describing.answer(given)} />
      {asked(answers, page.questions).map((question) => (
        <QuestionField
          key={question.id}
          question={question}
          given={answers[question.id]}
          origin={description.origins?.[question.id]}
          catalogue={catalogue}
          onAnswer={(value) => describing.answer({ [question.id]: value })}
        />
      ))}
      <div className="row">
        {next && <Button onClick={() => go(next.id)}>{`Next: ${next.title}`}</Button>}
      </div>
    </DescribingPage>
  );
}

/** How far a page is: what is answered of what is asked. */
function markOf({ questions }: Page, answers: Answers): { mark: string; tone?: 'good' } {
  const all = asked(answers, questions);
  const said = all.filter(({ id }) => answers[id] !== undefined).length;
  const whole = said === all.length;
  return { mark: whole ? 'all' : `${said} of ${all.length}`, ...(whole && { tone: 'good' as const }) };
}

/** What is still wanted before it is a machine, and the act that makes it one. */
function Shelve({
  id,
  describing,
  onPage,
}: {
  id: string;
  describing: Describing;
  onPage: (page: string) => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const open = openOf(describing.description);
  const unknown = leftOpen(describing.description).length;
  const passed = passedOver(describing.description);
  const shelve = () =>
    act(async () => {
      await describing.settled();
      const { machine } = await api.shelve({ id });
      await askAnew(client, 'machines');
      await askAnew(client, 'descriptions');
      void navigate(`/machines/${machine.id}/survey?at=job&new=yes`);
    });
  return (
    <section className={css.shelve} aria-label="Onto the shelf">
      {open.length > 0 ? (
        <>
          <h2>Still wanted for a machine: {open.length}</h2>
          <ul>
            {open.slice(0, 4).map((question) => (
              <li key={question.id}>
                <button
                  onClick={() =>
                    onPage(PAGES.find(({ questions }) => questions.includes(question))?.id ?? '')
                  }
                >
                  {question.label}
                </button>
              </li>
            ))}
            {open.length > 4 && <li className="soft">and {open.length - 4} more</li>}
          </ul>
          <p className="soft">You can leave it here and go on another day: it stays on the shelf as begun.</p>
        </>
      ) : (
        <>
          <h2>It can be a machine now</h2>
          <p className="soft">
            {unknown === 0
              ? passed.length === 0
                ? 'Everything that was asked is answered.'
                : 'Nothing is left as a question.'
              : `${unknown} ${unknown === 1 ? 'thing is' : 'things are'} not known yet; ${unknown === 1 ? 'it stands' : 'they stand'} there as questions. Nothing is put in their place.`}
          </p>
          {passed.length > 0 && <TakenSo questions={passed} />}
        </>
      )}
      <Refused why={refused} />
      <Button disabled={open.length > 0 || busy} onClick={() => void shelve()}>
        Put it on the shelf
      </Button>
    </section>
  );
}

/** What nobody said anything about, and what it is taken for: few machines are otherwise. */
function TakenSo({ questions }: { questions: readonly Question[] }) {
  return (
    <details className="soft">
      <summary>
        {questions.length === 1
          ? 'One thing was not said, and is taken so:'
          : `${questions.length} things were not said, and are taken so:`}
      </summary>
      <ul>
        {questions.map(({ id, label, unsaid }) => (
          <li key={id}>
            {label}: {unsaid}
          </li>
        ))}
      </ul>
    </details>
  );
}
