import type { Option } from '@jolly/core/kit/kit';
import { valueInWords } from '@jolly/core/kit/settingInWords';
import { NativeSelect, Select, TextInput } from '@mantine/core';
import { useMemo } from 'react';
import { choicesOf } from './wantedValue';

interface Fields {
  options: ReadonlyMap<string, Option>;
  settingKey: string;
  choose: (key: string) => void;
  text: string;
  type: (text: string) => void;
}

/** A setting, found by its name or its key, and the value it is to have. */
export function SettingWanted({ options, settingKey, choose, text, type }: Fields) {
  const listed = useMemo(
    () => [...options.values()].map(({ key, label }) => ({ value: key, label: `${label} (${key})` })),
    [options],
  );
  return (
    <>
      <Select
        size="xs"
        w={340}
        label="Setting"
        placeholder="find: name or key"
        searchable
        limit={40}
        data={listed}
        value={settingKey === '' ? null : settingKey}
        onChange={(chosen) => choose(chosen ?? '')}
      />
      <WantedField option={options.get(settingKey)} text={text} type={type} />
    </>
  );
}

function WantedField({ option, text, type }: Pick<Fields, 'text' | 'type'> & { option: Option | undefined }) {
  const choices = option && choicesOf(option);
  if (choices)
    return (
      <NativeSelect
        size="xs"
        label="Value"
        data={[{ value: '', label: 'choose' }, ...choices.map(valueInWords)]}
        value={text}
        onChange={(event) => type(event.currentTarget.value)}
      />
    );
  return (
    <TextInput
      size="xs"
      label={option?.kind === 'number' && option.unit !== '' ? `Value (${option.unit})` : 'Value'}
      value={text}
      disabled={!option}
      onChange={(event) => type(event.currentTarget.value)}
    />
  );
}
