import { ActionIcon, Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconLamp, IconLamp2 } from '@tabler/icons-react';

/** Switches the workbench lamp: the light theme, or the dark one for a dark workshop. */
export function LampSwitch() {
  const { setColorScheme } = useMantineColorScheme();
  const lit = useComputedColorScheme('light') === 'light';
  const label = lit ? 'Lamp off' : 'Lamp on';
  return (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" aria-label={label} onClick={() => setColorScheme(lit ? 'dark' : 'light')}>
        {lit ? <IconLamp size={20} /> : <IconLamp2 size={20} />}
      </ActionIcon>
    </Tooltip>
  );
}
