import {
  ASPECT_WORDS,
  type Aspect,
  ASPECTS,
  choicesOf,
  guessMeaning,
  judgeReadyMade,
  type Meaning,
  type Meanings,
  nameParts,
  ownOf,
} from '@jolly/core/flash/readyMade';
import { oneOf } from '@jolly/core/tree/keysOf';
import { Button, FileButton, NativeSelect, Textarea } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/api';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { tape } from '../../app/tape/tape';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import css from './ReadyMadeView.module.css';

/** Somebody else's images, of which one may be for this machine: what each name says, and which of them fits. */
export function ReadyMadeView({ choose }: { choose: ReactNode }) {
  const { machine, facts } = useWorkbench();
  const [typed, setTyped] = useDraft(`ready-made:${machine.id}`, '');
  const [said, setSaid] = useDraft<Record<string, Meaning | null>>(`ready-made-says:${machine.id}`, {});
  const names = typed.split('\n').map((line) => line.trim()).filter((line) => line !== '');
  const parts = nameParts(names);
  const meanings: Meanings = Object.fromEntries(
    parts.map((part) => [part, said[part] === null ? undefined : (said[part] ?? guessMeaning(part, facts))]),
  );
  const { files, none } = judgeReadyMade(names, meanings, facts);
  return (
    <>
      <main className="bench">
        {choose}
        <h2>Ready-made images</h2>
        <p className="soft">
          Makers give several images of one firmware, for different boards, drivers and probes; mostly their names say which.
          Write the names, one a line; say what each part means where the guess is wrong.
        </p>
        <Textarea label="Names of the files" autosize minRows={3} maxRows={12} value={typed} onChange={(event) => setTyped(event.currentTarget.value)} />
        <AddFiles onNames={(more) => setTyped((now) => [now.trim(), ...more].filter((line) => line !== '').join('\n'))} />
        {parts.length > 0 && <Parts {...{ parts, meanings }} onSay={(part, meaning) => setSaid((now) => ({ ...now, [part]: meaning }))} />}
        {names.length > 0 && (
          <table className="lines">
            <caption className="unseen">Which file fits</caption>
            <thead>
              <tr><th scope="col">File</th><th scope="col">By its name</th><th scope="col">Because</th></tr>
            </thead>
            <tbody>
              {files.map((file) => (
                <tr key={file.name}>
                  <th scope="row" className="figures">{file.name}</th>
                  <td className={file.verdict === 'fits' ? 'proven' : file.verdict === 'does not fit' ? 'refused' : ''}>{file.verdict}</td>
                  <td>{[
                    ...file.against.map(({ aspect, says }) => `${ASPECT_WORDS[aspect]}: it is for ${labelOf(facts, aspect, says)}, this machine has ${ownWords(facts, aspect)}`),
                    ...file.agrees.map((aspect) => `${ASPECT_WORDS[aspect]} agrees`),
                    ...file.open.map((aspect) => `${ASPECT_WORDS[aspect]} not said`),
                  ].join('; ') || 'its name says nothing that is known'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <Docket title="Which fits" slips={slipsOf(files, none, meanings, facts)} empty="Write the names of the files first." />
    </>
  );
} // prettier-ignore

type Facts = ReturnType<typeof useWorkbench>['facts'];
const labelOf = (facts: Facts, aspect: Aspect, value: string): string =>
  choicesOf(facts)[aspect].find((choice) => choice.value === value)?.label ?? value;
const ownWords = (facts: Facts, aspect: Aspect): string => {
  const own = ownOf(facts)[aspect];
  return own === undefined ? 'more than one kind' : labelOf(facts, aspect, own);
};

/** What each part of the names means; a guess stands until a person says otherwise. */
function Parts({ parts, meanings, onSay }: { parts: string[]; meanings: Meanings; onSay: (part: string, meaning: Meaning | null) => void }) {
  const { facts } = useWorkbench();
  const choices = choicesOf(facts);
  return (
    <ul className={css.parts} aria-label="What parts of the names mean">
      {parts.map((part) => {
        const meaning = meanings[part];
        const first = (aspect: Aspect) => choices[aspect][0]?.value ?? '';
        return (
          <li key={part}>
            <b className="figures">{part}</b>
            <NativeSelect
              size="xs"
              aria-label={`${part} says something of`}
              data={[{ value: '', label: 'says nothing' }, ...ASPECTS.map((aspect) => ({ value: aspect, label: ASPECT_WORDS[aspect] }))]}
              value={meaning?.aspect ?? ''}
              onChange={({ currentTarget: { value } }) => {
                const aspect = oneOf(ASPECTS, value);
                onSay(part, aspect ? { aspect, value: first(aspect) } : null);
              }}
            />
            {meaning && (
              <NativeSelect
                size="xs"
                aria-label={`${part} is for`}
                data={choices[meaning.aspect]}
                value={meaning.value}
                onChange={({ currentTarget: { value } }) => onSay(part, { ...meaning, value })}
              />
            )}
          </li>
        );
      })}
    </ul>
  );
} // prettier-ignore

/** Files from the disk: their names are taken in, and they can be flashed. */
function AddFiles({ onNames }: { onNames: (names: string[]) => void }) {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { write } = tape;
  const { act, busy, refused } = useAct();
  const [taken, setTaken] = useDraft<{ hash: string; name: string }[]>(`ready-made-files:${machine.id}`, []);
  const add = (files: File[]) =>
    act(async () => {
      for (const file of files) {
        const image = await api.addImage({ id: machine.id, name: file.name }, file);
        client.setQueryData<unknown[]>(['foreign', machine.id], (now = []) => [...now, image]);
        setTaken((now) => [...now.filter(({ hash }) => hash !== image.hash), image]);
        write('done', `${file.name} taken in: ${image.evidence.join('; ')}`);
      }
      onNames(files.map(({ name }) => name));
    });
  return (
    <>
      <div className="row">
        <FileButton multiple onChange={(files) => void add(files)} inputProps={{ 'aria-label': 'Ready-made files' }}>
          {(props) => (
            <Button variant="default" loading={busy} {...props}>
              Take the files themselves
            </Button>
          )}
        </FileButton>
        {taken.map(({ hash, name }) => (
          <Button key={hash} variant="default" onClick={() => void navigate(`?route=files&image=${hash}`)}>
            Go on with {name}
          </Button>
        ))}
      </div>
      <Refused why={refused} />
    </>
  );
} // prettier-ignore

function slipsOf(files: ReturnType<typeof judgeReadyMade>['files'], none: Aspect[], meanings: Meanings, facts: Facts): Slip[] {
  if (files.length === 0) return [];
  const fits = files.filter(({ verdict }) => verdict === 'fits');
  const spoken = new Set(Object.values(meanings).flatMap((meaning) => (meaning ? [meaning.aspect] : [])));
  const silent = ASPECTS.filter((aspect) => !spoken.has(aspect));
  const first: Slip =
    fits.length > 0
      ? { id: 'fits', severity: 'ready', what: `By its name, ${fits.map(({ name }) => name).join(' or ')} is for this machine.`, why: 'A name promises nothing: keep a way back, and prove the machine afterwards.', evidence: fits[0]?.agrees.map((aspect) => `${ASPECT_WORDS[aspect]}: ${ownWords(facts, aspect)}`) ?? [], actions: [] }
      : { id: 'fits', severity: 'mend', what: 'None of these names is for this machine in everything it says.', why: 'Take your own build, or ask the maker for the image that is missing.', evidence: files.map(({ name, verdict }) => `${name}: ${verdict}`), actions: [] };
  return [
    first,
    ...none.map((aspect): Slip => ({ id: `none:${aspect}`, severity: 'mend', what: `None of them is for your ${ASPECT_WORDS[aspect]}.`, why: `This machine has ${ownWords(facts, aspect)}.`, evidence: [], actions: [] })),
    ...(silent.length > 0 ? [{ id: 'silent', severity: 'note' as const, what: `The names say nothing of ${silent.map((aspect) => ASPECT_WORDS[aspect]).join(', ')}.`, why: 'Whether a file fits in that is not known. Look for it in what the maker writes.', evidence: [], actions: [] }] : []),
  ];
} // prettier-ignore
