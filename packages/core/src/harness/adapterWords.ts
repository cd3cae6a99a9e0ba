import type { Adapter, Landing } from '../machine/landing';

const ohms = (value: number) => (value >= 1000 ? `${value / 1000} kΩ` : `${value} Ω`);
const WORDS: { [K in Adapter['kind']]: (adapter: Extract<Adapter, { kind: K }>) => string } = {
  divider: ({ lead, top_ohms, bottom_ohms }) =>
    `voltage divider in the ${lead} lead: ${ohms(top_ohms)} in line, ${ohms(bottom_ohms)} to ground`,
  'pull-up': ({ lead, ohms: value, to }) => `resistor of ${ohms(value)} from ${lead} to ${to}`,
  shifter: ({ lead }) => `level shifter in the ${lead} lead`,
  converter: ({ lead, volts_v }) => `converter to ${volts_v} V in the ${lead} lead`,
  'power-switch': () => 'an external power switch, steered by this header',
  splice: ({ lead }) => `${lead} wire joined to another at its contact`,
  tap: ({ header }) => `adapter board between the ribbon and ${header}`,
  'ribbon-lead': ({ header }) => `single wire taken out of the ribbon at ${header}`,
};

/** What has to be put in or joined for a landing; what a ribbon asks is told by its own work. */
export function adapterTasks(landing: Landing | undefined): string[] {
  if (!landing || !('leads' in landing)) return [];
  return (landing.with ?? []).flatMap((adapter) => {
    if (adapter.kind === 'tap' || adapter.kind === 'ribbon-lead') return [];
    return adapter.kind === 'splice'
      ? [`Join the ${adapter.lead} wire to the one at ${landing.leads[adapter.lead]}.`]
      : [`Put in ${articleFor(adapterInWords(adapter))}.`];
  });
}

/** What has to be bought or made for an adapter. */
const MATERIAL: Partial<Record<Adapter['kind'], (words: string) => string>> = {
  splice: () => 'a crimp joint, or solder and a sleeve',
  tap: (words) => `an ${words}, with its contacts brought out`,
  'ribbon-lead': () => 'sleeves for the ends of a ribbon wire that is cut',
};

/** What must lie on the table for what sits between a part's leads and the contacts, and was not there before. */
export function adapterMaterial(landing: Landing | undefined, before: Landing | undefined): string[] {
  const known = new Set(adaptersInWords(before));
  const list = landing && 'leads' in landing ? (landing.with ?? []) : [];
  return list.flatMap((adapter) => {
    const words = adapterInWords(adapter);
    return known.has(words) ? [] : [MATERIAL[adapter.kind]?.(words) ?? articleFor(words)];
  });
}

const articleFor = (words: string) => (/^an? /.test(words) ? words : `a ${words}`);

/** An adapter as a clause, with its figures. */
export function adapterInWords(adapter: Adapter): string {
  // Each entry is asked with its own kind of adapter.
  return WORDS[adapter.kind](adapter as never);
}

/** What sits between a part's leads and the contacts, one sentence part each. */
export function adaptersInWords(landing: Landing | undefined): string[] {
  return landing && 'leads' in landing ? (landing.with ?? []).map(adapterInWords) : [];
}
