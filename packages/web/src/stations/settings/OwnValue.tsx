import { EFFORT_KEY } from '@jolly/core/fit/chooseFit';
import { type Option, refusal } from '@jolly/core/kit/kit';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { overrideEdit, resetEdit } from '@jolly/core/machine/edit';
import type { Setting } from '@jolly/core/settings/setting';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { Button, NativeSelect, Switch, TextInput } from '@mantine/core';
import { Link } from 'react-router';
import { readNumber } from '../../ui/readNumber';
import { useJob } from '../../job/JobProvider';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { MeasuredCost } from './MeasuredCost';
import { useAct } from '../../ui/useAct';
import css from './SettingsStation.module.css';

interface Shown {
  option: Option;
  setting: Setting;
}

/** A setting opened: what it is for, what old machine, kit and facts say, and a value of your own with your reason. */
export function OwnValue({ option, setting, old }: Shown & { old: Setting | undefined }) {
  const own = useOwnValue({ option, setting });
  const { hidden } = setting;
  const decider = hidden?.source === 'kit' ? 'kit' : 'facts';
  return (
    <div className={css.own}>
      <About option={option} />
      <Ledger option={option} setting={setting} old={old} />
      {hidden && (
        <p>
          Without your value it would be <b className="figures">{settingInWords(option, hidden.value)}</b>:{' '}
          {hidden.because}.
        </p>
      )}
      <div className={css.ownFields}>
        <ValueField option={option} own={own} />
        <TextInput
          size="xs"
          label="Because"
          value={own.because}
          onChange={(event) => own.set({ because: event.currentTarget.value })}
          description="kept with the value"
          error={own.refused}
        />
      </div>
      <div className={css.ownButtons}>
        <Button size="xs" onClick={() => void own.save()}>
          Use this value
        </Button>
        {hidden && (
          <Button size="xs" variant="default" onClick={() => void own.letDecide(decider)}>
            Let the {decider} decide <kbd aria-hidden="true">r</kbd>
          </Button>
        )}
      </div>
    </div>
  );
}

/** What is typed and not used yet stays over a change of view; another value under it sets it aside. */
function useOwnValue({ option, setting }: Shown) {
  const { change, facts, tryOut, dropPreview } = useWorkbench();
  const [draft, setDraft] = useDraft<{ value?: SettingValue; text?: string; because?: string }>(
    `own:${facts.machine.id}:${option.key}:${String(setting.value)}`,
    {},
  );
  const { value = setting.value, text = String(setting.value), because = '' } = draft;
  const { refused, act } = useAct();
  const set = (part: typeof draft) => setDraft((now) => ({ ...now, ...part }));
  const wantedOf = (raw: string) =>
    option.kind === 'number' ? readNumber(raw, option.unit) : option.kind === 'text' ? raw : value;
  /** What would follow is shown with every key; nothing is saved yet. */
  const type = (raw: string) => {
    set({ text: raw });
    const wanted = wantedOf(raw);
    if (wanted !== undefined && !refusal(option, wanted))
      tryOut(option.label, [overrideEdit(option.key, wanted, because.trim() || 'being typed')]);
    else dropPreview();
  };
  const save = async () => {
    const saved = await act(async () => {
      const wanted = wantedOf(text);
      if (wanted === undefined) return `“${text}” is no number`;
      const problem = refusal(option, wanted);
      if (problem) return problem;
      if (because.trim() === '') return 'Say why, so that you still know next year';
      return change(
        `${option.label}: ${settingInWords(option, setting.value)} → ${settingInWords(option, wanted)}`,
        [overrideEdit(option.key, wanted, because.trim())],
      );
    });
    if (saved) setDraft(undefined);
  };
  const letDecide = (decider: string) =>
    act(() => change(`${option.label}: let the ${decider} decide`, [resetEdit(option.key)]));
  return { value, text, because, refused, set, type, save, letDecide };
}

/** Features of the image, and how hard the compiler tries. */
const isMeasured = ({ key, worth, from }: Option): boolean =>
  key === EFFORT_KEY || (worth !== undefined && !from);

function About({ option }: { option: Option }) {
  const { facts } = useWorkbench();
  return (
    <>
      {isMeasured(option) && <MeasuredCost optionKey={option.key} />}
      <p className="soft">
        {option.for} {option.without ? `Without it: ${option.without}` : ''} <code>{option.key}</code>
      </p>
      {option.from ? (
        <p className={css.later}>
          {facts.kit.name} {facts.kit.version} does not read this yet. It is decided, checked and kept now,
          and {facts.kit.name} {option.from} will use it.
        </p>
      ) : (
        <p>
          <Link to={`/machines/${facts.machine.id}/settings?view=files&key=${option.key}`}>
            Its line in the generated files
          </Link>
        </p>
      )}
    </>
  );
}

function Ledger({ option, setting, old }: Shown & { old: Setting | undefined }) {
  const inWords = (value: SettingValue) => settingInWords(option, value);
  const { stored } = useJob();
  const columns = {
    'Old machine': old ? inWords(old.value) : stored ? 'none known' : 'no job open',
    Kit: inWords(setting.kit),
    Facts: factsInWords(setting, inWords),
  };
  return (
    <dl className={css.ledger}>
      {Object.entries(columns).map(([title, value]) => (
        <div key={title}>
          <dt>{title}</dt>
          <dd className="figures">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What the facts say of a setting, own value or not. */
function factsInWords({ source, value, hidden }: Setting, inWords: (value: SettingValue) => string): string {
  if (source === 'derived') return inWords(value);
  return hidden?.source === 'derived' ? inWords(hidden.value) : 'do not decide it';
}

function ValueField({ option, own }: { option: Option; own: ReturnType<typeof useOwnValue> }) {
  const { facts } = useWorkbench();
  const { value, text, set, type } = own;
  if (option.kind === 'flag')
    return (
      <Switch
        label={value ? 'on' : 'off'}
        checked={value === true}
        onChange={(event) => set({ value: event.currentTarget.checked })}
      />
    );
  if (option.kind === 'number' || option.kind === 'text')
    return (
      <TextInput
        size="xs"
        label="Value of your own"
        value={text}
        onChange={(event) => type(event.currentTarget.value)}
        description={
          option.kind === 'number'
            ? `${option.range[0]} to ${option.range[1]} ${option.unit}`
            : `up to ${option.longest} characters`
        }
      />
    );
  const choices: readonly SettingValue[] =
    option.kind === 'choice'
      ? option.choices
      : facts.catalogue.parts.filter((part) => part.kind === 'thermistor').map((part) => part.id);
  return (
    <NativeSelect
      size="xs"
      label="Value of your own"
      data={choices.map(String)}
      value={String(value)}
      onChange={({ currentTarget }) =>
        set({ value: choices.find((choice) => String(choice) === currentTarget.value) ?? value })
      }
    />
  );
}
