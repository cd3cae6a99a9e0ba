import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { pinTableCsv } from '@jolly/core/circuit/pinTable';
import { resolve } from '@jolly/core/machine/facts';
import { writeEndCode, writeStartCode } from '@jolly/core/slicer/writeStartCode';
import { call } from '../product';
import { must, type Trial } from '../trial';

const LETTERS = '*/\\?"\'\n\r\t\0;#(){}=+-@<>&%$`~^|ä°Ω\u2028\u202e\ud83d🦉 ab1';
const STARTS = [
  '*/ #define guard_trips(a,b,c) false /*',
  '??/',
  '"; ',
  '=1+1',
  '-1+1',
  '\\\n',
  '//',
  '#include "/etc/passwd"',
  '; \nM104 S300',
];

const TOKEN =
  /^(#pragma once|\/\*[^*]*\*\/|#define [A-Z][A-Z0-9_]* (?:"(?:[ !#-[\]-~]|\\[0-7]{3})*"|[-\w.{},\s])+(?: \/\*[^*]*\*\/)?)$/;

/** Free text everywhere in a machine: refused, or each writer keeps it text, in C, G-code, CSV and YAML. */
export const hostileText: Trial = {
  name: 'hostile text into C, G-code, YAML',
  share: 1,
  async attempt({ chance, house }) {
    const { address } = house;
    const text = (longest: number) =>
      ((chance.next() < 0.4 ? chance.one(STARTS) : '') + chance.text(LETTERS, longest)).slice(0, longest) ||
      'x';
    const { machine, version } = (await call(address, 'GET', '/machines/bittern')).body;
    const hostile = {
      ...machine,
      name: text(40),
      note: text(200),
      place: text(40),
      pins: { 'x-switch': { pin: 20, because: text(200) } },
      settings: { ...machine.settings, 'speed.y': { value: 150, source: 'override', because: text(200) } },
    };
    // Half of the attempts keep to what may be printed, so that most of these reach the writers.
    const printable = (value: string) => value.replace(/[\p{Cc}\p{Cs}\p{Zl}\u202e]/gu, '') || 'x';
    if (chance.next() < 0.7) {
      for (const key of ['name', 'note', 'place']) hostile[key] = printable(hostile[key]);
      hostile.pins['x-switch'].because = printable(hostile.pins['x-switch'].because);
      hostile.settings['speed.y'].because = printable(hostile.settings['speed.y'].because);
    }
    const saved = await call(address, 'PUT', '/machines/bittern', {
      version,
      machine: hostile,
      label: 'hostile',
    });
    must([200, 400, 422].includes(saved.status), `a save was answered with ${saved.status}`);
    if (saved.status !== 200) return;
    await checkWriters(address, saved.body.machine as Machine);
    const file = (await call(address, 'GET', '/machines/bittern/file')).body as string;
    const back = await call(address, 'POST', '/machines', { file });
    must(
      back.status === 409,
      `its own file is not read back: ${back.status} ${JSON.stringify(back.body).slice(0, 200)}`,
    );
    const started = await call(address, 'POST', '/machines/bittern/builds');
    if (started.status === 409) return;
    must(started.status === 200, `a build was answered with ${started.status}`);
    const { id } = started.body as { id: string };
    await (await fetch(`${address}/api/builds/${id}/events`)).text();
    const build = (await call(address, 'GET', `/builds/${id}`)).body;
    must(build.state === 'done', `text stopped a build: ${JSON.stringify(build.failed ?? build.state)}`);
    const input = (await call(address, 'GET', `/builds/${id}/input`)).body as {
      files: { lines: { text: string }[] }[];
    };
    const odd = input.files.flatMap(({ lines }) => lines).find((line) => !TOKEN.test(line.text));
    must(odd === undefined, `this line of C is not of the writer's: ${odd?.text}`);
  },
};

let catalogue: Catalogue | undefined;

/** What the interface writes by itself: start code whose commands are the plain machine's, CSV that runs nothing. */
async function checkWriters(address: string, machine: Machine): Promise<void> {
  catalogue ??= (await call(address, 'GET', '/catalogue')).body as Catalogue;
  const plain: Machine = { ...machine, name: 'Plain', note: 'plain', place: 'here' };
  const commandsOf = (of: Machine): string => {
    const resolved = resolve(of, catalogue!);
    if ('problems' in resolved)
      throw new Error(`a saved machine does not resolve: ${resolved.problems[0]!.message}`);
    const settings = derive(resolved.facts);
    const code = writeStartCode(resolved.facts, settings) + writeEndCode(resolved.facts, settings);
    return code
      .split(/[\r\n\u2028\u2029]+/)
      .filter((line) => !line.startsWith(';'))
      .join('\n');
  };
  must(commandsOf(machine) === commandsOf(plain), `a text became G-code: ${JSON.stringify(machine.name)}`);
  const resolved = resolve(machine, catalogue);
  if (!('facts' in resolved)) return;
  for (const [, quoted, bare] of pinTableCsv(resolved.facts).matchAll(
    /(?:"((?:[^"]|"")*)"|([^",\r\n]*))(?:,|\r\n)/g,
  )) {
    const field = quoted?.replaceAll('""', '"') ?? bare ?? '';
    must(!/^\s*[=+@]|^\s*-(?![\d.]+$)/.test(field), `a field of CSV runs: ${JSON.stringify(field)}`);
  }
}
