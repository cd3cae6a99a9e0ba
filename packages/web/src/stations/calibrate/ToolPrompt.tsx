import { Button, TextInput } from '@mantine/core';
import type { Measure, Question } from '@jolly/core/bringup/procedure';
import { useEffect, useRef, useState } from 'react';
import { readNumber } from '../../ui/readNumber';
import { BenchSays } from './BenchSays';
import css from './Calibrate.module.css';
import { useMeasuring } from '../../bench/MeasuringProvider';

/** What is asked or told while a tool works, with its answers, what the bench shows of it, and the way out. */
export function ToolPrompt() {
  const { asked, giveUp, running } = useMeasuring();
  const box = useRef<HTMLElement>(null);
  const text = asked === undefined ? '' : textOf(asked);
  useEffect(() => {
    if (text) box.current?.scrollIntoView({ block: 'nearest' });
  }, [text]);
  if (!asked || running === undefined) return null;
  return (
    <section className={css.prompt} aria-label="Under way" ref={box}>
      <strong role="status">{text}</strong>
      {asked.kind === 'question' && <Choices question={asked.question} />}
      {asked.kind === 'measure' && <NumberAsked key={text} measure={asked.measure} />}
      <div>
        <Button size="sm" variant="default" onClick={giveUp}>
          {asked.kind === 'told' ? 'Stop it' : 'Give up'}
        </Button>
      </div>
    </section>
  );
}

const textOf = (asked: NonNullable<ReturnType<typeof useMeasuring>['asked']>): string =>
  asked.kind === 'told' ? asked.text : asked.kind === 'question' ? asked.question.text : asked.measure.text;

function Choices({ question }: { question: Question }) {
  const { answer, atBench } = useMeasuring();
  const seen = question.choices.find(({ id }) => id === atBench?.choice);
  return (
    <>
      <div className={css.answers}>
        {question.choices.map(({ id, label }) => (
          <Button
            key={id}
            size="md"
            variant={id === seen?.id ? 'filled' : 'default'}
            onClick={() => answer(id)}
          >
            {label}
          </Button>
        ))}
      </div>
      {seen && <BenchSays label={seen.label} />}
    </>
  );
}

/** A number that is read off; the unit may be typed, inches too. */
function NumberAsked({ measure }: { measure: Measure }) {
  const { read, atBench } = useMeasuring();
  const [typed, setTyped] = useState('');
  const value = readNumber(typed, measure.unit);
  const [low, high] = measure.range;
  const outside = value !== undefined && (value < low || value > high);
  const problem =
    typed.trim() === ''
      ? undefined
      : value === undefined
        ? `“${typed}” is no number${measure.unit ? ` of ${measure.unit}` : ''}`
        : outside
          ? `${measure.label} must be ${low} to ${high} ${measure.unit}; nothing was taken`
          : undefined;
  return (
    <form
      className={css.answers}
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== undefined && !outside) read(value);
      }}
    >
      <TextInput
        label={measure.unit ? `${measure.label}, ${measure.unit}` : measure.label}
        value={typed}
        inputMode="decimal"
        autoFocus
        error={problem}
        {...(atBench?.value !== undefined && {
          description: `On the virtual bench the ruler says ${atBench.value.toFixed(1)} ${measure.unit}.`,
        })}
        onChange={(event) => setTyped(event.currentTarget.value)}
      />
      <Button type="submit" size="sm" disabled={value === undefined || outside}>
        Take it
      </Button>
      {atBench?.value !== undefined && (
        <Button size="sm" variant="default" onClick={() => read(Number(atBench.value))}>
          {`It reads ${atBench.value.toFixed(1)} ${measure.unit}`}
        </Button>
      )}
    </form>
  );
}
