import { createTheme, type CSSVariablesResolver, type MantineColorsTuple } from '@mantine/core';

const brass: MantineColorsTuple = [
  '#fbf3df',
  '#f3e3bd',
  '#e6cb8d',
  '#d9b25c',
  '#c99a37',
  '#b08024',
  '#8f6514',
  '#79540f',
  '#63440b',
  '#4d3407',
];
const verdigris: MantineColorsTuple = [
  '#e4f3ee',
  '#c5e5db',
  '#9bd2c1',
  '#6cbda4',
  '#44a487',
  '#2c8a6e',
  '#1d6d56',
  '#175a47',
  '#114738',
  '#0b3429',
];
const vermilion: MantineColorsTuple = [
  '#fdebe5',
  '#f9cfc2',
  '#f2a48f',
  '#ea7a5d',
  '#e05a38',
  '#cf4220',
  '#b53315',
  '#96280f',
  '#78200c',
  '#5b1808',
];

/** Warm greys: what is neutral on this bench is paper and ink, not steel. */
const gray: MantineColorsTuple = [
  '#fcf8ee',
  '#f4ecd9',
  '#e9dfc8',
  '#d8caac',
  '#b8a888',
  '#9a8a6b',
  '#7d6e53',
  '#62584a',
  '#463e32',
  '#2a241b',
];
const dark: MantineColorsTuple = [
  '#efe7d6',
  '#cfc4af',
  '#b9ad98',
  '#8a7e69',
  '#5c5447',
  '#423c32',
  '#332f28',
  '#282520',
  '#1c1a17',
  '#141210',
];

/** Tokens for Mantine's components; our own colours live in tokens.css and follow the same scheme. */
export const theme = createTheme({
  fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
  fontFamilyMonospace: "'Red Hat Mono Variable', monospace",
  headings: { fontFamily: "'Bricolage Grotesque Variable', sans-serif", fontWeight: '650' },
  colors: { brass, verdigris, vermilion, gray, dark },
  primaryColor: 'brass',
  primaryShade: 6,
  autoContrast: true,
  defaultRadius: 3,
  cursorType: 'pointer',
  respectReducedMotion: true,
  components: {
    Button: { defaultProps: { size: 'sm' } },
    Modal: { defaultProps: { transitionProps: { duration: 120 } } },
    Tooltip: { defaultProps: { withArrow: true, openDelay: 250 } },
  },
});

/** Mantine's surfaces take the workbench's colours in both lamps. */
export const resolver: CSSVariablesResolver = () => ({
  variables: {},
  light: surfaces,
  dark: surfaces,
});
const surfaces = {
  '--mantine-color-body': 'var(--sheet)',
  '--mantine-color-text': 'var(--ink)',
  '--mantine-color-dimmed': 'var(--ink-soft)',
  '--mantine-color-placeholder': 'var(--ink-soft)',
  '--mantine-color-default': 'var(--sheet)',
  '--mantine-color-default-border': 'var(--line-strong)',
  '--mantine-color-default-color': 'var(--ink)',
  '--mantine-color-default-hover': 'var(--hover)',
  '--mantine-color-error': 'var(--vermilion)',
  '--mantine-color-disabled': 'var(--paper-deep)',
  '--mantine-color-disabled-color': 'var(--ink-soft)',
  '--mantine-color-disabled-border': 'var(--line)',
};
