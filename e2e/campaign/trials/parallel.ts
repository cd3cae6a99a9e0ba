import { call } from '../product';
import { must, type Trial } from '../trial';

/** Many clients on one machine: of saves over one version one wins, undo and redo lose nothing, limits hold. */
export const parallelClients: Trial = {
  name: 'parallel clients',
  share: 1,
  async attempt({ chance, house, count }) {
    const { address } = house;
    const { machine, version } = (await call(address, 'GET', '/machines/dunlin')).body;
    const clients = chance.whole(3, 12);
    const saves = await Promise.all(
      Array.from({ length: clients }, (_, client) =>
        call(address, 'PUT', '/machines/dunlin', {
          version,
          machine: { ...machine, note: `${count} of client ${client}` },
          label: `client ${client}`,
        }),
      ),
    );
    const won = saves.filter(({ status }) => status === 200);
    must(won.length === 1, `${won.length} of ${clients} saves over one version won`);
    must(
      saves.every(({ status }) => status === 200 || status === 409),
      'a save was answered oddly',
    );
    const steps = await Promise.all(
      Array.from({ length: chance.whole(2, 8) }, () =>
        call(address, 'POST', `/machines/dunlin/${chance.next() < 0.5 ? 'undo' : 'redo'}`),
      ),
    );
    must(
      steps.every(({ status }) => status === 200 || status === 409),
      'an undo was answered oddly',
    );
    const notes = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        call(address, 'POST', '/machines/dunlin/entries', { summary: `n${count}-${i}` }),
      ),
    );
    must(
      notes.every(({ status }) => status === 200),
      'a note was refused',
    );
    const entries = (await call(address, 'GET', '/machines/dunlin/entries')).body as { summary: string }[];
    for (let i = 0; i < 6; i += 1)
      must(
        entries.some(({ summary }) => summary === `n${count}-${i}`),
        'an acknowledged note is not there',
      );
  },
};
