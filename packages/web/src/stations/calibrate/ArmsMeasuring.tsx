import type { CalibrationTool } from '@jolly/core/calibration/calibrationTool';
import type { Choice, Measure } from '@jolly/core/bringup/procedure';
import { type ReactNode, useEffect, useLayoutEffect, useState } from 'react';
import { createPortal } from 'react-dom';
import { useStation } from '../../app/frame/StationContext';
import armsCss from '../bringup/ArmsProving.module.css';
import { useMeasuring } from '../../bench/MeasuringProvider';
import { BenchSays } from './BenchSays';
import css from './Calibrate.module.css';
import { type ChosenBefore, chosenInWords } from './useChosen';

interface AtArmsLength {
  tool: CalibrationTool;
  /** Why it cannot begin. */
  why: string | undefined;
  before: ChosenBefore;
  /** What it trusts, is not proven, and was not read yet. */
  unread: readonly string[] | undefined;
  markRead: () => void;
  outcome: ReactNode;
}

/** The tool at arm's length: each answer by its own key or its number, numbers by plus, minus and arrows. */
export function ArmsMeasuring(props: AtArmsLength) {
  const { arms } = useStation();
  return arms ? createPortal(<Step {...props} />, arms.slot) : null;
}

interface Key {
  keys: readonly string[];
  label: string;
  act: () => void;
}

const SHOWN: Readonly<Record<string, string>> = {
  ' ': 'space',
  Enter: 'enter',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
};

function Step({ tool, why, before, unread, markRead, outcome }: AtArmsLength) {
  const measuring = useMeasuring();
  const { running, asked, atBench } = measuring;
  const [typed, setTyped] = useState<number>();
  const measure = asked?.kind === 'measure' ? asked.measure : undefined;
  useEffect(() => setTyped(undefined), [measure]);
  const mine = running === tool.id;
  // Nothing is read off before somebody says so: where the keys begin is no number.
  const value = measure && (typed ?? atBench?.value);
  const keys: Key[] = !mine
    ? running === undefined && why === undefined
      ? [
          unread
            ? { keys: ['r'], label: 'I have read it, and go on at my own risk', act: markRead }
            : { keys: ['b'], label: 'Begin', act: () => void measuring.begin(tool, before.chosen) },
        ]
      : []
    : [
        ...(asked?.kind === 'question' ? asked.question.choices.map((choice, index) => answerKey(choice, index, measuring.answer)) : []), // prettier-ignore
        ...(measure ? numberKeys(measure, value, { set: setTyped, take: measuring.read }) : []),
        { keys: ['g'], label: asked?.kind === 'told' ? 'Stop it' : 'Give up', act: measuring.giveUp },
      ];
  useOwnKeys(keys, mine);
  const choices = asked?.kind === 'question' ? asked.question.choices : [];
  const seen = choices.find(({ id }) => id === atBench?.choice);
  const text =
    asked === undefined
      ? ''
      : asked.kind === 'told'
        ? asked.text
        : asked.kind === 'question'
          ? asked.question.text
          : asked.measure.text;
  return (
    <div className={armsCss.step}>
      {mine ? (
        <p className={armsCss.prompt} role="status">
          {text}
          {value !== undefined && ` ${value.toFixed(2)} ${measure?.unit ?? ''}`}
        </p>
      ) : (
        <Before why={why} unread={unread} words={outcome ? [] : chosenInWords(before)} />
      )}
      {mine && seen && <BenchSays label={seen.label} />}
      <div className={armsCss.keys}>
        {keys.map(({ keys: own, label, act }) => (
          <button key={label} type="button" onClick={act}>
            {label} <kbd>{own.map((key) => SHOWN[key] ?? key).join(' ')}</kbd>
          </button>
        ))}
      </div>
      {!mine && outcome}
    </div>
  );
}

/** What it is about to begin with, and what has to be read first. */
function Before({
  why,
  unread,
  words,
}: {
  why: string | undefined;
  unread: readonly string[] | undefined;
  words: readonly string[];
}) {
  return (
    <>
      {words.length > 0 && <p className={css.begins}>{words.join(' · ')}</p>}
      {why === undefined && unread && (
        <p className={css.begins}>
          <b>Not proven for this image:</b> {unread.join('; ')}. What is not proven can hurt, or measure nonsense.
        </p>
      )}
      <p className={armsCss.state}>{why ?? (unread ? 'Press r when you have read it.' : 'Press b to begin.')}</p>
    </>
  );
} // prettier-ignore

const middle = ({ range: [low, high] }: Pick<Measure, 'range'>) => Math.round((low + high) * 5) / 10;

const answerKey = ({ id, label, keys = [] }: Choice, index: number, answer: (id: string) => void): Key => ({
  keys: [...keys, String(index + 1)],
  label,
  act: () => answer(id),
});

function numberKeys(
  { range: [low, high], near }: Measure,
  value: number | undefined,
  { set, take }: { set: (value: number) => void; take: (value: number) => void },
): Key[] {
  const from = value ?? near ?? middle({ range: [low, high] });
  const to = (next: number) => set(Math.min(high, Math.max(low, Number(next.toFixed(3)))));
  const step = high - low > 5 ? 0.1 : 0.01;
  return [
    { keys: ['+'], label: 'A little more', act: () => to(from + step) },
    { keys: ['-'], label: 'A little less', act: () => to(from - step) },
    { keys: ['ArrowUp'], label: 'More', act: () => to(from + step * 10) },
    { keys: ['ArrowDown'], label: 'Less', act: () => to(from - step * 10) },
    ...(value === undefined ? [] : [{ keys: ['Enter'], label: 'Take it', act: () => take(value) }]),
  ];
}

/** While a tool is under way its keys are its own: those that go from step to step, or close, wait. */
function useOwnKeys(keys: readonly Key[], own: boolean): void {
  // Bound with what is drawn: a key that is pressed at once is heard.
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      // The stop goes past everything.
      if (event.key === '.' || event.metaKey || event.ctrlKey || event.altKey) return;
      if (event.target instanceof HTMLElement && event.target.closest('input, textarea, select')) return;
      const hit = keys.find((one) => one.keys.includes(event.key));
      if (!hit && !(own && [' ', 'Enter', 'Backspace'].includes(event.key))) return;
      event.preventDefault();
      event.stopPropagation();
      hit?.act();
    };
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  }, [keys, own]);
}
