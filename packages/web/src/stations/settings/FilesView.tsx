import { NativeSelect, TextInput } from '@mantine/core';
import type { ComparedFile, ComparedLine } from '@jolly/core/build/fileDifferences';
import { IconSearch } from '@tabler/icons-react';
import { useEffect, useRef, useState } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import { SectionList } from '../../ui/SectionList';
import css from './FilesView.module.css';
import { type Compared, useComparison, useEarlier } from './useComparison';

const NOTHING = 'nothing';

/** What the compiler will read: every line leads to its setting, and stands against an earlier state if you like. */
export function FilesView({
  path,
  chosenKey,
  onKey,
}: {
  path: string | undefined;
  chosenKey: string | undefined;
  onKey: (key: string) => void;
}) {
  const { settings } = useWorkbench();
  const earlier = useEarlier();
  const [against, setAgainst] = useState(NOTHING);
  const [wanted, setWanted] = useState('');
  const compared = useComparison(earlier.find(({ id }) => id === against));
  const { files } = compared;
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const hits = (file: ComparedFile) =>
    words.length === 0 ? 0 : file.lines.filter((entry) => matches(entry, words)).length;
  const file =
    files.find((entry) => entry.path === path) ??
    files.find((entry) =>
      entry.lines.some(({ line }) => line.key === chosenKey && chosenKey !== undefined),
    ) ??
    files.find(({ differs }) => differs > 0) ??
    files[0];
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    const line = list.current?.querySelector('[data-chosen="true"], [data-found="true"]');
    if (line instanceof HTMLElement && list.current)
      list.current.scrollTop = line.offsetTop - list.current.offsetTop - 60;
  }, [file?.path, chosenKey, wanted]);

  return (
    <div className={css.view}>
      <div className={css.head}>
        <NativeSelect
          size="xs"
          label="Held against"
          value={against}
          onChange={(event) => setAgainst(event.currentTarget.value)}
          data={[
            { value: NOTHING, label: 'nothing' },
            ...earlier.map(({ id, title }) => ({ value: id, label: title })),
          ]}
        />
        <TextInput
          size="xs"
          label="Search in all files"
          leftSection={<IconSearch size={15} />}
          value={wanted}
          onChange={(event) => setWanted(event.currentTarget.value)}
        />
        <p className={css.told} role={compared.state === 'failed' ? 'alert' : 'status'}>
          {comparedInWords(compared)}
        </p>
      </div>
      <SectionList
        label="Generated files"
        entries={files.map((entry) => ({
          id: entry.path,
          title: entry.path,
          mark: toldOf(entry.differs, hits(entry)),
          tone: hits(entry) > 0 ? 'good' : undefined,
        }))}
        at={file?.path}
        leads={(id, now) => ({ ...now, file: id })}
      />
      <ol
        className={css.lines}
        ref={list}
        tabIndex={0}
        aria-label={file ? `Lines of ${file.path}` : 'No file'}
      >
        {file?.lines.map((entry, index) => (
          <Line
            key={index}
            entry={entry}
            chosen={entry.line.key !== undefined && entry.line.key === chosenKey}
            found={words.length > 0 && matches(entry, words)}
            onKey={entry.line.key !== undefined && settings.has(entry.line.key) ? onKey : undefined}
          />
        ))}
      </ol>
    </div>
  );
}

/** What the comparison came to; nothing where nothing was chosen. */
function comparedInWords(compared: Compared): string {
  if (compared.state === 'alone') return '';
  if (compared.state === 'pending') return 'Not compared yet. One moment.';
  if (compared.state === 'failed') return `Not compared: ${compared.because}`;
  const other = compared.files.filter(({ differs }) => differs > 0);
  const lines = other.reduce((sum, { differs }) => sum + differs, 0);
  return lines === 0
    ? 'Every line is the same.'
    : `${lines} ${lines === 1 ? 'line differs' : 'lines differ'}, in ${other.length === 1 ? (other[0]?.path ?? '') : `${other.length} files`}.`;
}

const toldOf = (differ: number, found: number): string | undefined =>
  [differ > 0 && `${differ} differ`, found > 0 && `${found} found`].filter(Boolean).join(', ') || undefined;

const matches = ({ line }: ComparedLine, words: string[]) => {
  const text = `${line.text} ${line.key ?? ''}`.toLowerCase();
  return words.every((word) => text.includes(word));
};
const SIGN = { same: '', changed: '≠', added: '+', removed: '−' };

function Line({
  entry,
  chosen,
  found,
  onKey,
}: {
  entry: ComparedLine;
  chosen: boolean;
  found: boolean;
  onKey: ((key: string) => void) | undefined;
}) {
  const { line, kind, was } = entry;
  const { key } = line;
  const text = (
    <code>
      <Coloured text={line.text} />
    </code>
  );
  return (
    <>
      {was !== undefined && (
        <li data-kind="removed" aria-label="was">
          <span aria-hidden="true">−</span>
          <code>
            <Coloured text={was} />
          </code>
        </li>
      )}
      <li data-kind={kind === 'changed' ? 'added' : kind} data-chosen={chosen} data-found={found}>
        <span aria-hidden="true">{kind === 'changed' ? '+' : SIGN[kind]}</span>
        {onKey && key !== undefined ? (
          <button onClick={() => onKey(key)} title={`Show ${key}`}>
            {text}
          </button>
        ) : (
          text
        )}
      </li>
    </>
  );
}

/** Macro name, value and remark told apart by weight and tone. */
function Coloured({ text }: { text: string }) {
  const match = /^(#\w+)\s+(\S+)(\s+.*?)?(\s*\/\*.*\*\/)?$/.exec(text);
  if (!match) return <i>{text}</i>;
  const [, directive, name, value = '', remark = ''] = match;
  return (
    <>
      {directive} <b>{name}</b>
      <span className={css.fileValue}>{value}</span>
      <i>{remark}</i>
    </>
  );
}
