import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { betaFrom } from '@jolly/core/heat/betaFrom';
import { freeId } from '@jolly/core/machine/freeId';
import { type PartField, PART_FORM } from '@jolly/core/parts/partForm';
import type { Part, PartKind } from '@jolly/core/parts/part';
import { valueAt } from '@jolly/core/tree/path';
import { put } from '@jolly/core/tree/put';
import { Button, NativeSelect, TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { Fragment, useEffect, useRef, useState } from 'react';
import { api } from '../../api/api';
import { typedOf } from '../../ui/form/readField';
import { readNumber } from '../../ui/readNumber';
import { OpenTextFile } from '../../ui/OpenTextFile';
import { asShown } from '../../ui/asShown';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Describe.module.css';
import { askAnew } from '../../api/held';

/** A part that is in no catalogue: begun from one like it, by what its label says and what was measured; or from a file. */
export function PartForm({
  kind,
  catalogue,
  again,
  onMade,
  onClose,
}: {
  kind: PartKind;
  catalogue: Catalogue;
  /** A part of one's own that is described once more; it stays the part it is. */
  again?: Part;
  onMade: (id: string) => Promise<void>;
  onClose: () => void;
}) {
  const alike = catalogue.parts.filter((part) => part.kind === kind);
  // Whose leads it has is told, where there is more than one to be like.
  const [like, setLike] = useState(again?.id ?? (alike.length === 1 ? alike[0]?.id : undefined) ?? '');
  const [name, setName] = useState(again?.name ?? '');
  const [typed, setTyped] = useState<Record<string, string>>(() => (again ? typedOfPart(again) : {}));
  const { busy, refused, add, make } = usePartMaking(kind, onMade);
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const base = alike.find(({ id }) => id === like);
  const set = (field: string, text: string) => setTyped((now) => ({ ...now, [field]: text }));
  const makeIt = () =>
    make(() => {
      if (!base) throw new Error('Choose the part whose leads it has.');
      if (name.trim() === '')
        throw new Error('Give it a name: what stands on its label, or what you call it.');
      const taken = new Set(catalogue.parts.map(({ id }) => id));
      return partOf(base, name.trim(), typed, again?.id ?? freeId(name, taken, kind));
    });
  return (
    <fieldset className={css.partForm}>
      <legend>{again ? `Describe ${again.name} anew` : `Describe it: ${WORDS[kind]}`}</legend>
      <TextInput
        ref={first}
        size="sm"
        label="Its name"
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      {!again && (
        <NativeSelect
          size="sm"
          label="Its leads, and what is not asked here, are like those of"
          data={asShown(
            alike.map(({ id, name: words }) => ({ value: id, label: words })),
            like,
            'choose …',
          )}
          value={like}
          onChange={(event) => setLike(event.currentTarget.value)}
        />
      )}
      {PART_FORM[kind].map((field) => (
        <Fragment key={keyOf(field)}>
          <FieldInput
            field={field}
            typed={typed[keyOf(field)] ?? ''}
            onType={(text) => set(keyOf(field), text)}
          />
          {keyOf(field) === 'watts' && <ByOhms typed={typed} onWatts={(watts) => set('watts', watts)} />}
        </Fragment>
      ))}
      {kind === 'thermistor' && <ByPoints onFound={(found) => setTyped((now) => ({ ...now, ...found }))} />}
      <Refused why={refused} />
      <div className="row">
        <Button size="xs" disabled={busy} onClick={() => void makeIt()}>
          {again ? 'Keep it so' : 'Add this part'}
        </Button>
        {!again && (
          <OpenTextFile words="Open a part file" label="Part file" onText={(text) => void add(text)} />
        )}
        <Button size="xs" variant="subtle" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </fieldset>
  );
}

/** Adds a part to the catalogue: from a file, or as it was typed. */
function usePartMaking(kind: PartKind, onMade: (id: string) => Promise<void>) {
  const { busy, refused, act } = useAct();
  const client = useQueryClient();
  const keep = async (file: string) => {
    const part = await api.addPart({ file });
    await askAnew(client, 'catalogue');
    return part;
  };
  const add = (file: string) =>
    act(async () => {
      const part = await keep(file);
      if (part.kind !== kind)
        throw new Error(`This file describes a ${part.kind}; it was kept, but a ${kind} is asked for here.`);
      await onMade(part.id);
    });
  const make = (typed: () => Part) =>
    act(async () => {
      const part = typed();
      // Who never describes a part needs no writer of files.
      const { writePartFile } = await import('@jolly/core/formats/partFile');
      await keep(writePartFile(part));
      await onMade(part.id);
    });
  return { busy, refused, add, make };
}

const WORDS: Readonly<Record<PartKind, string>> = {
  motor: 'a motor', driver: 'a driver', switch: 'a switch', probe: 'a probe', thermistor: 'a thermistor', heater: 'a heater', fan: 'a fan',
  servo: 'a servo', 'filament-sensor': 'a filament sensor', display: 'a display', lamp: 'a lamp', relay: 'a relay',
}; // prettier-ignore
/** What stands in a part, as it would be typed. */
const typedOfPart = (part: Part): Record<string, string> =>
  Object.fromEntries(PART_FORM[part.kind].map((field) => [keyOf(field), typedOf(valueAt(part, field.path))]));
const keyOf = ({ path }: PartField): string => path.join('.');

function FieldInput({
  field,
  typed,
  onType,
}: {
  field: PartField;
  typed: string;
  onType: (text: string) => void;
}) {
  if (field.choices)
    return (
      <NativeSelect
        size="sm"
        label={field.label}
        {...(field.how && { description: field.how })}
        data={[
          { value: '', label: 'choose …' },
          ...Object.entries(field.choices).map(([value, label]) => ({ value, label })),
        ]}
        value={typed}
        onChange={(event) => onType(event.currentTarget.value)}
      />
    );
  return (
    <TextInput
      size="sm"
      label={`${field.label}${field.unit ? `, ${field.unit}` : ''}${field.optional ? ' (if known)' : ''}`}
      {...(field.how && { description: field.how })}
      inputMode="decimal"
      value={typed}
      onChange={(event) => onType(event.currentTarget.value)}
    />
  );
}

/** The part as it was typed; how the one it was begun from warms is not how this one does. @throws {Error} naming what is missing */
function partOf(base: Part, name: string, typed: Record<string, string>, id: string): Part {
  const { body: _warms, ...like } = { body: undefined, ...base };
  const alone = PART_FORM[base.kind].find(
    (field) =>
      field.optional &&
      !isSaid(typed, field) &&
      PART_FORM[base.kind].some((other) => isSaid(typed, other) && together(field, other)),
  );
  if (alone)
    throw new Error(
      `${alone.label} is missing: it goes with what stands beside it, or leave all of it empty`,
    );
  const fresh: unknown = { ...like, id, name };
  return PART_FORM[base.kind].reduce((part, field) => {
    const said = (typed[keyOf(field)] ?? '').trim();
    if (said === '' && !field.optional) throw new Error(`${field.label} is missing`);
    if (said === '') return valueAt(part, field.path) === undefined ? part : put(part, field.path, undefined);
    if (field.choices) return put(part, field.path, said);
    const value = readNumber(said, field.unit);
    if (value === undefined)
      throw new Error(`${field.label}: “${said}” is no number${field.unit ? ` of ${field.unit}` : ''}`);
    return put(part, field.path, value);
  }, fresh) as Part; // every field of its kind was just put; the server reads it with the part's schema
}

const isSaid = (typed: Record<string, string>, field: PartField): boolean =>
  (typed[keyOf(field)] ?? '').trim() !== '';
/** Pieces of one thing: all of them are known, or none. */
const together = ({ path: [one, ...rest] }: PartField, { path: [other] }: PartField): boolean =>
  rest.length > 0 && one === other;

/** A heater without a label: its ohms tell its watts. */
function ByOhms({ typed, onWatts }: { typed: Record<string, string>; onWatts: (watts: string) => void }) {
  const [text, setText] = useState('');
  const [ohms, volts] = [readNumber(text, 'Ω'), readNumber(typed['volts'] ?? '', 'V')];
  const watts = ohms && volts ? (volts * volts) / ohms : undefined;
  return (
    <div className="row">
      <TextInput
        size="sm"
        label="No label? Its ohms, cold, plug out"
        inputMode="decimal"
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Button
        size="sm"
        variant="default"
        disabled={watts === undefined}
        onClick={() => watts !== undefined && onWatts(String(Math.round(watts * 10) / 10))}
      >
        {watts === undefined ? 'Its watts' : `Its watts: ${(Math.round(watts * 10) / 10).toString()} W`}
      </Button>
    </div>
  );
}

const POINTS = [0, 1, 2];
/** A thermistor without data: ohms at three known temperatures tell R25 and β. */
function ByPoints({ onFound }: { onFound: (found: Record<string, string>) => void }) {
  const [points, setPoints] = useState(POINTS.map(() => ({ ohms: '', c: '' })));
  const [said, setSaid] = useState<string>();
  const take = () => {
    const read = points.flatMap(({ ohms, c }) => {
      const [r, t] = [readNumber(ohms, 'Ω'), readNumber(c, '°C')];
      return r === undefined || t === undefined ? [] : [{ ohms: r, c: t }];
    });
    try {
      const { r25, beta, errorC } = betaFrom({ points: read });
      onFound({ r25: String(Math.round(r25)), beta: String(Math.round(beta)) });
      const fits =
        read.length < 3
          ? 'Two points always fit: a third tells whether it does.'
          : `The points lie within ${errorC.toFixed(1)} °C of it.`;
      setSaid(`R25 ${Math.round(r25)} Ω, β ${Math.round(beta)} K. ${fits}`);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div>
      <p className="soft">
        No data? Measure its ohms at two or three known temperatures: ice water 0 °C, the room, hot water with
        a thermometer in it.
      </p>
      {points.map((point, index) => (
        <div className="row" key={index}>
          <TextInput
            size="sm"
            label={`Point ${index + 1}, Ω`}
            value={point.ohms}
            inputMode="decimal"
            onChange={({ currentTarget: { value } }) =>
              setPoints((now) => now.map((one, at) => (at === index ? { ...one, ohms: value } : one)))
            }
          />
          <TextInput
            size="sm"
            label={`Point ${index + 1}, °C`}
            value={point.c}
            inputMode="decimal"
            onChange={({ currentTarget: { value } }) =>
              setPoints((now) => now.map((one, at) => (at === index ? { ...one, c: value } : one)))
            }
          />
        </div>
      ))}
      <Button size="xs" variant="default" onClick={take}>
        Work R25 and β out
      </Button>
      {said && <p role="status">{said}</p>}
    </div>
  );
}
