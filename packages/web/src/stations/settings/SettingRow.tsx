import { Button, NativeSelect, Switch, TextInput } from '@mantine/core';
import type { Setting } from '@jolly/core/settings/setting';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { overrideEdit, resetEdit } from '@jolly/core/machine/edit';
import { type Option, refusal } from '@jolly/core/kit/kit';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import css from './SettingsStation.module.css';
import { valueInWords } from '@jolly/session/inWords';
import { readNumber } from '../../ui/readNumber';

const SOURCE_WORD = { derived: 'follows', kit: 'kit', carried: 'carried', override: 'yours' } as const;

/** One setting: its value, where it comes from and why; opened, a value of your own with your reason. */
export function SettingRow({
  option,
  setting,
  changed,
  old,
  open,
  onToggle,
}: {
  option: Option;
  setting: Setting;
  /** What it would be after the change that is shown. */
  changed: Setting | undefined;
  /** What it was before the open job. */
  old: Setting | undefined;
  open: boolean;
  onToggle: () => void;
}) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (open) row.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const unit = 'unit' in option ? option.unit : '';
  return (
    <li
      ref={row}
      className={css.row}
      data-source={setting.source}
      data-open={open}
      data-changed={changed !== undefined}
    >
      <button className={css.rowHead} onClick={onToggle} aria-expanded={open}>
        <span className={css.rowLabel}>
          {option.label} {option.from && <small className={css.from}>kept for {option.from}</small>}
        </span>
        <span className={css.value}>
          {changed && <s>{valueInWords(setting.value)}</s>} {valueInWords((changed ?? setting).value)}{' '}
          <small>{unit}</small>
        </span>
        <span className={css.source}>{SOURCE_WORD[setting.source]}</span>
      </button>
      <p className={css.because}>
        {(changed ?? setting).because}
        {old && old.value !== setting.value && (
          <>
            {' '}
            <span className={css.was}>was {valueInWords(old.value)}</span>
          </>
        )}
      </p>
      {open && <OwnValue option={option} setting={setting} old={old} />}
    </li>
  );
}

function OwnValue({ option, setting, old }: { option: Option; setting: Setting; old: Setting | undefined }) {
  const { change, facts, tryOut, dropPreview } = useWorkbench();
  // What is typed and not used yet stays over a change of view; another value under it sets it aside.
  const [draft, setDraft] = useDraft<{ value?: SettingValue; text?: string; because?: string }>(
    `own:${facts.machine.id}:${option.key}:${String(setting.value)}`,
    {},
  );
  const { value = setting.value, text = String(setting.value), because = '' } = draft;
  const set = (part: typeof draft) => setDraft((now) => ({ ...now, ...part }));
  const [refused, setRefused] = useState<string>();

  const save = async () => {
    const wanted =
      option.kind === 'number' ? readNumber(text, option.unit) : option.kind === 'text' ? text : value;
    if (wanted === undefined) return setRefused(`“${text}” is no number`);
    const problem = refusal(option, wanted);
    if (problem) return setRefused(problem);
    if (because.trim() === '') return setRefused('Say why, so that you still know next year');
    const failed = await change(`${option.label}: ${valueInWords(setting.value)} → ${valueInWords(wanted)}`, [
      overrideEdit(option.key, wanted, because.trim()),
    ]);
    setRefused(failed);
    if (failed === undefined) setDraft(undefined);
  };
  const choices =
    option.kind === 'choice'
      ? option.choices.map(String)
      : facts.catalogue.parts.filter((part) => part.kind === 'thermistor').map((part) => part.id);

  return (
    <div className={css.own}>
      <p className="soft">
        {option.for} {option.without ? `Without it: ${option.without}` : ''} <code>{option.key}</code>
      </p>
      {option.from && (
        <p className={css.later}>
          {facts.kit.name} {facts.kit.version} does not read this yet. It is decided, checked and kept now,
          and {facts.kit.name} {option.from} will use it.
        </p>
      )}
      {!option.from && (
        <p>
          <Link to={`/machines/${facts.machine.id}/settings?view=files&key=${option.key}`}>
            Its line in the generated files
          </Link>
        </p>
      )}
      <dl className={css.ledger}>
        <div>
          <dt>Old machine</dt>
          <dd className="figures">{old ? valueInWords(old.value) : 'no job open'}</dd>
        </div>
        <div>
          <dt>Kit</dt>
          <dd className="figures">{valueInWords(setting.kit)}</dd>
        </div>
        <div>
          <dt>Facts</dt>
          <dd className="figures">{inWordsOf(setting)}</dd>
        </div>
      </dl>
      {setting.hidden && (
        <p>
          Without your value it would be <b className="figures">{valueInWords(setting.hidden.value)}</b>:{' '}
          {setting.hidden.because}.
        </p>
      )}
      <div className={css.ownFields}>
        {(option.kind === 'number' || option.kind === 'text') && (
          <TextInput
            size="xs"
            label="Value of your own"
            value={text}
            onChange={(event) => {
              const raw = event.currentTarget.value;
              set({ text: raw });
              const wanted = option.kind === 'number' ? readNumber(raw, option.unit) : raw;
              // What would follow is shown with every key; nothing is saved yet.
              if (wanted !== undefined && !refusal(option, wanted))
                tryOut(option.label, [overrideEdit(option.key, wanted, because.trim() || 'being typed')]);
              else dropPreview();
            }}
            description={
              option.kind === 'number'
                ? `${option.range[0]} to ${option.range[1]} ${option.unit}`
                : `up to ${option.longest} characters`
            }
          />
        )}
        {option.kind === 'flag' && (
          <Switch
            label={value ? 'on' : 'off'}
            checked={value === true}
            onChange={(event) => set({ value: event.currentTarget.checked })}
          />
        )}
        {(option.kind === 'choice' || option.kind === 'sensor') && (
          <NativeSelect
            size="xs"
            label="Value of your own"
            data={choices}
            value={String(value)}
            onChange={(event) =>
              set({
                value:
                  option.kind === 'choice'
                    ? (option.choices.find((choice) => String(choice) === event.currentTarget.value) ?? value)
                    : event.currentTarget.value,
              })
            }
          />
        )}
        <TextInput
          size="xs"
          label="Because"
          value={because}
          onChange={(event) => set({ because: event.currentTarget.value })}
          description="kept with the value"
          error={refused}
        />
      </div>
      <div className={css.ownButtons}>
        <Button size="xs" onClick={() => void save()}>
          Use this value
        </Button>
        {setting.hidden && (
          <Button
            size="xs"
            variant="default"
            onClick={() =>
              void change(
                `${option.label}: let the ${setting.hidden?.source === 'kit' ? 'kit' : 'facts'} decide`,
                [resetEdit(option.key)],
              )
            }
          >
            Let the {setting.hidden.source === 'kit' ? 'kit' : 'facts'} decide <kbd aria-hidden="true">r</kbd>
          </Button>
        )}
      </div>
    </div>
  );
}

/** What the facts say of a setting, own value or not. */
function inWordsOf({ source, value, hidden }: Setting): string {
  if (source === 'derived') return valueInWords(value);
  return hidden?.source === 'derived' ? valueInWords(hidden.value) : 'do not decide it';
}
