import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';
import { Button, NativeSelect, NumberInput, TextInput } from '@mantine/core';
import { type Draft, EMPTY_HEADER, type HeaderDraft } from './ownBoardDraft';
import css from './SurveyStation.module.css';

const PURPOSES = [
  'X switch', 'Y switch', 'Z switch', 'bed probe', 'filament sensor', 'servo', 'hot-end sensor', 'bed sensor',
  'chamber sensor', 'hot-end heater', 'bed heater', 'part fan', 'hot-end fan', 'board fan', 'lamp', 'display',
]; // prettier-ignore
const DRIVERS: readonly Board['drivers'][] = ['plugged in', 'soldered'];

interface Filling {
  draft: Draft;
  set: (part: Partial<Draft>) => void;
}

/** What a board is, field by field, and its headers. */
export function BoardForm({ draft, set, chips }: Filling & { chips: readonly Chip[] }) {
  return (
    <>
      <div className={css.seen}>
        <Word draft={draft} set={set} of="name" label="Name" />
        <Word draft={draft} set={set} of="revision" label="Revision" />
        <ChipChoice draft={draft} set={set} chips={chips} />
        <Word draft={draft} set={set} of="print" label="Printed on it" />
        <Size draft={draft} set={set} of="width" label="Width" />
        <Size draft={draft} set={set} of="depth" label="Depth" />
        <NativeSelect
          size="xs"
          label="Drivers"
          data={[...DRIVERS]}
          value={draft.drivers}
          onChange={({ currentTarget: { value } }) =>
            set({ drivers: DRIVERS.find((one) => one === value) ?? draft.drivers })
          }
        />
        <NumberInput
          size="xs"
          label="Driver places"
          min={0}
          max={12}
          hideControls
          value={draft.sockets}
          onChange={(value) => set({ sockets: Math.max(0, Math.min(12, Number(value) || 0)) })}
        />
        <Word draft={draft} set={set} of="cardName" label="Name on the card" placeholder="any" capital />
        <Word draft={draft} set={set} of="extension" label="Ending" capital />
      </div>
      <h3>Headers</h3>
      {draft.headers.map((header, index) => (
        <HeaderRow
          key={index}
          header={header}
          name={header.id || String(index + 1)}
          onSet={(part) =>
            set({ headers: draft.headers.map((one, at) => (at === index ? { ...one, ...part } : one)) })
          }
          onTakeOut={() => set({ headers: draft.headers.filter((_, at) => at !== index) })}
        />
      ))}
      <Button size="xs" variant="default" onClick={() => set({ headers: [...draft.headers, EMPTY_HEADER] })}>
        One more header
      </Button>
    </>
  );
}

function Word({
  draft,
  set,
  of,
  label,
  placeholder,
  capital = false,
}: Filling & {
  of: 'name' | 'revision' | 'print' | 'cardName' | 'extension';
  label: string;
  placeholder?: string;
  capital?: boolean;
}) {
  return (
    <TextInput
      size="xs"
      label={label}
      {...(placeholder && { placeholder })}
      value={draft[of]}
      onChange={({ currentTarget: { value } }) => set({ [of]: capital ? value.toUpperCase() : value })}
    />
  );
}

function Size({ draft, set, of, label }: Filling & { of: 'width' | 'depth'; label: string }) {
  return (
    <NumberInput
      size="xs"
      label={label}
      suffix=" mm"
      hideControls
      value={draft[of]}
      onChange={(value) => set({ [of]: Number(value) || 0 })}
    />
  );
}

function ChipChoice({ draft, set, chips }: Filling & { chips: readonly Chip[] }) {
  return (
    <NativeSelect
      size="xs"
      label="Chip"
      data={chips.map(({ id, name, marking }) => ({ value: id, label: `${name}, marked ${marking}` }))}
      value={draft.chip}
      onChange={(event) => set({ chip: event.currentTarget.value })}
    />
  );
}

function HeaderRow({
  header,
  name,
  onSet,
  onTakeOut,
}: {
  header: HeaderDraft;
  name: string;
  onSet: (part: Partial<HeaderDraft>) => void;
  onTakeOut: () => void;
}) {
  return (
    <div className={css.headerRow} role="group" aria-label={`Header ${name}`}>
      <TextInput
        size="xs"
        aria-label="Header name"
        placeholder="name"
        value={header.id}
        onChange={(event) => onSet({ id: event.currentTarget.value.toUpperCase() })}
      />
      <NativeSelect
        size="xs"
        aria-label="For"
        data={PURPOSES}
        value={header.serves}
        onChange={(event) => onSet({ serves: event.currentTarget.value })}
      />
      <TextInput
        size="xs"
        aria-label="Plug family"
        value={header.family}
        onChange={(event) => onSet({ family: event.currentTarget.value })}
      />
      <TextInput
        size="xs"
        aria-label="Contacts in order"
        value={header.contacts}
        onChange={(event) => onSet({ contacts: event.currentTarget.value })}
      />
      <NumberInput
        size="xs"
        aria-label="May give at most"
        suffix=" A"
        min={0.1}
        max={60}
        hideControls
        value={header.max_a}
        onChange={(value) => onSet({ max_a: Number(value) || 0.1 })}
      />
      <Button size="xs" variant="subtle" aria-label={`Take out header ${name}`} onClick={onTakeOut}>
        ×
      </Button>
    </div>
  );
}
