import type { Setting } from '@jolly/core/settings/setting';
import type { Option } from '@jolly/core/kit/kit';
import { useEffect, useRef } from 'react';
import css from './SettingsStation.module.css';
import { settingInWords, valueInWords } from '@jolly/core/kit/settingInWords';
import { OwnValue } from './OwnValue';

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
      data-find={`set-${option.key}`}
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
            <span className={css.was}>was {settingInWords(option, old.value)}</span>
          </>
        )}
      </p>
      {open && <OwnValue option={option} setting={setting} old={old} />}
    </li>
  );
}
