import type { Diagnostic } from './diagnostic';

/** What is behind an error, and what there is to do, in plain words. */
export interface Explained {
  what: string;
  remedy: string;
}

/** Families of errors by what the compiler, the linker or a guard of the firmware says. */
const FAMILIES: readonly (Explained & { says: RegExp })[] = [
  {
    says: /undeclared identifier ['‘]?PIN_|(is|are) not connected|has no .* connected|sits on a driver of its own|no stall line|needs a servo lead/,
    what: 'Something is switched on and has no pin.',
    remedy: 'Give its lead a place at Wiring, or switch it off.',
  },
  {
    says: /servo.*(delay|count)|excess elements in (array )?initiali[sz]er|(delay|count).*servo/i,
    what: 'The number of servos and of their delays do not agree.',
    remedy: 'Each servo wants one delay: set the count to what is wired, and a delay for each.',
  },
  {
    says: /there is none|does not exist|only a display of pixels|host and display|nothing to touch/i,
    what: 'Two settings do not go together.',
    remedy: 'Switch on what the one needs, or switch that one off.',
  },
  {
    says: /comes out as|needs more than|ends before it begins|has no area|may be set hotter|below 9600/,
    what: 'A value is out of what the firmware can do.',
    remedy: 'Change the value, or the fact it follows from.',
  },
  {
    says: /the settings say|is not in the image/,
    what: 'The image does not guard as the settings promise.',
    remedy:
      'It was not stored. The sources are not as they should be: put them back as they came, and build again.',
  },
  {
    says: /undefined symbol|duplicate symbol|multiple definition/,
    what: 'The sources do not fit each other.',
    remedy: 'One of them is of another version or was edited: put them back as they came, and build again.',
  },
  {
    says: /took longer than|wanted more than|was ended twice/,
    what: 'The compiler did not come to its end.',
    remedy: 'Close other programs and build again; what was compiled is kept.',
  },
  {
    says: /table of settings is not whole|slots overlap|more settings than|a line for each/,
    what: 'A table in the sources does not fit the settings.',
    remedy: 'The sources are not as they should be: put them back as they came, and build again.',
  },
];

/** The family an error belongs to; undefined for one that is only known by the compiler's own words. */
export function explain({ message }: Pick<Diagnostic, 'message'>): Explained | undefined {
  const family = FAMILIES.find(({ says }) => says.test(message));
  return family && { what: family.what, remedy: family.remedy };
}
