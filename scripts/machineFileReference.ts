// Writes docs/machine-file.md and docs/machine.schema.json from the schema that guards machine files: npx tsx scripts/machineFileReference.ts
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileSchema } from '../packages/contract/src/fileSchemas';
import { jsonSchema } from '../packages/contract/src/jsonSchema';
import { line, lines } from '../packages/core/src/text/plainText';

/** The rules of free text, by the pattern that stands for each in the schema. */
const patternOf = (rule: typeof line) => (jsonSchema(rule(1)) as { pattern: string }).pattern;
const FREE_TEXT = new Map([
  [patternOf(line), 'one line of text'],
  [patternOf(lines), 'text'],
]);

interface Schema {
  type?: string | string[];
  properties?: Record<string, Schema>;
  patternProperties?: Record<string, Schema>;
  items?: Schema | Schema[];
  anyOf?: Schema[];
  prefixItems?: Schema[];
  required?: string[];
  enum?: unknown[];
  const?: unknown;
  minimum?: number;
  maximum?: number;
  maxLength?: number;
  exclusiveMinimum?: number | boolean;
  pattern?: string;
}

const root = join(import.meta.dirname, '..');
const rows: string[] = [];

function rule(schema: Schema): string {
  if (schema.const !== undefined) return `\`${String(schema.const)}\``;
  if (schema.enum) return schema.enum.map((value) => `\`${String(value)}\``).join(' · ');
  const parts = [String(schema.type ?? 'see below')];
  if (schema.exclusiveMinimum !== undefined)
    parts.push(`above ${schema.exclusiveMinimum === true ? schema.minimum : schema.exclusiveMinimum}`);
  else if (schema.minimum !== undefined) parts.push(`from ${schema.minimum}`);
  if (schema.maximum !== undefined) parts.push(`to ${schema.maximum}`);
  const free = FREE_TEXT.get(schema.pattern ?? '');
  if (free) return `${free}, at most ${schema.maxLength} characters`;
  if (schema.pattern) parts.push(`matching \`${schema.pattern.replaceAll('|', '\\|')}\``);
  return parts.join(' ');
}

function list(schema: Schema, path: string): void {
  for (const [key, child] of Object.entries(schema.properties ?? {})) {
    const here = path ? `${path}.${key}` : key;
    rows.push(`| \`${here}\` | ${schema.required?.includes(key) ? 'yes' : ''} | ${rule(child)} |`);
    list(child, here);
    if (child.items && !Array.isArray(child.items)) list(child.items, `${here}[]`);
    for (const pattern of Object.values(child.patternProperties ?? {})) list(pattern, `${here}.*`);
  }
}

const schema = fileSchema('machine') as Schema;
list(schema, '');
writeFileSync(join(root, 'docs/machine.schema.json'), `${JSON.stringify(schema, null, 1)}\n`);
const example = readFileSync(join(root, 'catalogue/demo/dunlin.yaml'), 'utf8');
writeFileSync(
  join(root, 'docs/machine-file.md'),
  `# The machine file, \`machine/1\`

Everything of a machine but its history. YAML; unknown keys are errors; numbers carry their unit in the key. Files over 256 kB, deeper than 20 levels or with more than 50 alias expansions are refused. An error names line, column and what was expected. The JSON Schema is [machine.schema.json](machine.schema.json), and at \`/api/schemas/machine\` of the running product.

This page is written from the schema: \`npx tsx scripts/machineFileReference.ts\`.

| key | needed | value |
|---|---|---|
${rows.join('\n')}

A landing in \`harness\` is either \`{ socket: M1, turned: true }\` for motors and drivers, or \`{ leads: { signal: HEADER.contact, … } }\` with the roles \`signal\`, \`supply\`, \`ground\`, \`control\`. What sits between leads and contacts stands in \`with\` beside them, at most eight: \`{ kind: divider, lead: signal, top_ohms: 10000, bottom_ohms: 20000 }\`, \`pull-up\`, \`shifter\`, \`converter\`, \`splice\`, \`power-switch\`, and for a display's ribbon \`{ kind: tap, header: SHOW }\` (an adapter board) or \`ribbon-lead\` (a single wire taken out of it). A drive in \`axes\` has \`pitch_mm\` and \`teeth\` for a belt, \`lead_mm\` for a screw, \`diameter_mm\` for a roller. \`settings\` holds only values that hide what the facts say, each with its source and because.

A part's \`role\` says what it serves. Lantern knows \`x\`, \`y\`, \`z\`, \`e\` for motors and drivers (twice: a second one of that axis), \`x\`, \`y\`, \`z\` for switches, \`hotend\`, \`bed\`, \`hotend-2\`, \`chamber\` for heaters, their relays and thermistors, \`spare\` for a thermistor that watches the hot end a second time, \`part\`, \`hotend\`, \`board\` for fans. Up to four servos have any role; of probes, displays, lamps and filament sensors the first is taken, whatever its role. A wired part that no image has a pin for is told by the check \`kit.unheard\`.

## Example

\`\`\`yaml
${example}\`\`\`
`,
);
