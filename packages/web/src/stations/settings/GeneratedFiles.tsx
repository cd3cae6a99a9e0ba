import { NativeSelect } from '@mantine/core';
import { useEffect, useRef } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import css from './GeneratedFiles.module.css';

/** What the compiler will read, line by line; a line leads to the setting it was written from. */
export function GeneratedFiles({
  path,
  onPath,
  chosenKey,
  onKey,
}: {
  path: string | undefined;
  onPath: (path: string) => void;
  chosenKey: string | undefined;
  onKey: (key: string) => void;
}) {
  const { files, settings } = useWorkbench();
  const file =
    files.find((entry) => entry.path === path) ??
    files.find((entry) => entry.lines.some((line) => line.key === chosenKey)) ??
    files[0]!;
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    const line = list.current?.querySelector('[data-chosen="true"]');
    if (line instanceof HTMLElement && list.current)
      list.current.scrollTop = line.offsetTop - list.current.offsetTop - 60;
  }, [file.path, chosenKey]);
  return (
    <div className={css.files}>
      <NativeSelect
        size="xs"
        aria-label="Generated file"
        data={files.map((entry) => entry.path)}
        value={file.path}
        onChange={(event) => onPath(event.currentTarget.value)}
      />
      <ol className={css.lines} ref={list} tabIndex={0} aria-label={`Lines of ${file.path}`}>
        {file.lines.map((line, index) => {
          const { key } = line;
          const known = key !== undefined && settings.has(key);
          return (
            <li key={index} data-chosen={key !== undefined && key === chosenKey}>
              {known ? (
                <button onClick={() => onKey(key)} title={`Show ${key}`}>
                  <Coloured text={line.text} />
                </button>
              ) : (
                <Coloured text={line.text} />
              )}
            </li>
          );
        })}
      </ol>
    </div>
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
