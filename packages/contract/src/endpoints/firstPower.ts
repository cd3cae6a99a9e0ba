import { endpoint, json } from '../endpoint';
import { ofMachine, shortLine } from '../params';
import { list, moment, nullable, object, text, type TypeOf } from '../shape';

/** What was ticked or read off a meter, and what was expected then. */
const powerNote = object({ asked: text, expected: text, said: text, at: moment });
export type PowerNote = TypeOf<typeof powerNote>;

/** What counts for the machine as it is now, and what was noted before it was changed. */
const powerNotes = object({
  notes: list(powerNote),
  voided: list(object({ asked: text, because: text })),
});
export type PowerNotes = TypeOf<typeof powerNotes>;

export const firstPower = {
  powerNotes: endpoint('get /machines/{id}/first-power', {
    summary: 'What was ticked and read off a meter before and at the first power',
    params: ofMachine,
    answer: json(powerNotes),
    refusals: ['unknown-id'],
  }),
  notePower: endpoint('put /machines/{id}/first-power', {
    summary: 'Note a tick or a reading of the first power, or take it back (said: null)',
    params: ofMachine,
    body: object({ asked: shortLine(80), expected: shortLine(400), said: nullable(shortLine(40)) }),
    answer: json(powerNotes),
    refusals: ['unknown-id'],
  }),
};
