import type { Option } from '@jolly/core/kit/kit';

/** A setting by its name, and by its key for those who look for it in a machine file; one a kit has no more, by its key. */
export function SettingName({ option, settingKey }: { option: Option | undefined; settingKey: string }) {
  if (!option) return <code>{settingKey}</code>;
  return (
    <>
      {option.label} <code className="key">{settingKey}</code>
    </>
  );
}
