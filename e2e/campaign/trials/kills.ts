import { call, linesOf, newFolder, type Product, spawnProduct, startProduct } from '../product';
import { must, type Trial } from '../trial';

interface Kept {
  data: string;
  product?: Product;
  /** What was acknowledged and must be there from then on. */
  notes: string[];
  version: number;
  note: string;
}
let kept: Kept | undefined;
/** The logbook lists its newest 1000 lines, those too that were written and not acknowledged any more. */
const MOST_NOTES = 450;

async function verify(address: string, { notes, version, note }: Kept): Promise<void> {
  const there = await linesOf(address);
  const lost = notes.filter((text) => !there.has(text));
  must(lost.length === 0, `${lost.length} acknowledged notes lost, the first "${lost[0]}"`);
  const stored = (await call(address, 'GET', '/machines/dunlin')).body as {
    version: number;
    machine: { note?: string };
  };
  must(stored.version >= version, `an acknowledged save lost: version ${stored.version}, was ${version}`);
  must(
    stored.version > version || (stored.machine.note ?? '') === note,
    'a saved machine is not what was saved',
  );
}

/** Writes from several clients at once until the product is gone; what was acknowledged is noted down. */
async function write(address: string, state: Kept, seed: number): Promise<void> {
  const noting = async (client: number) => {
    for (let i = 0; ; i += 1) {
      const summary = `${seed}-${client}-${i}`;
      const { status } = await call(address, 'POST', '/machines/plover/entries', { summary });
      if (status === 0) return;
      must(status === 200, `a note was answered with ${status}`);
      state.notes.push(summary);
    }
  };
  const saving = async () => {
    for (let i = 0; ; i += 1) {
      const { status, body } = await call(address, 'GET', '/machines/dunlin');
      if (status === 0) return;
      const note = `${seed} ${i}`;
      const saved = await call(address, 'PUT', '/machines/dunlin', {
        version: body.version,
        machine: { ...body.machine, note },
        label: 'Note',
      });
      if (saved.status === 0) return;
      must(saved.status === 200, `a save was answered with ${saved.status}`);
      [state.version, state.note] = [saved.body.version, note];
    }
  };
  const building = async () => {
    await call(address, 'POST', '/machines/bittern/builds');
  };
  await Promise.all([noting(1), noting(2), noting(3), saving(), building()]);
}

/** A power cut: the product is killed at a random instant under writes, and started on what it kept. */
export const killsUnderWrites: Trial = {
  name: 'killed under acknowledged writes',
  share: 9,
  async attempt({ chance, count }) {
    if (!kept || kept.notes.length > MOST_NOTES)
      kept = { data: newFolder(), notes: [], version: 0, note: '' };
    const product = await startProduct(kept.data);
    try {
      await verify(product.address, kept);
      const writing = write(product.address, kept, count);
      await new Promise((resolve) => setTimeout(resolve, chance.whole(20, 900)));
      await product.kill();
      await writing;
    } finally {
      await product.kill();
    }
  },
};

/** Killed while it lays its data for the first time; the next start finds or makes a whole demo. */
export const killsInFirstStart: Trial = {
  name: 'killed in the first start',
  share: 2,
  async attempt({ chance }) {
    const data = newFolder();
    for (let i = chance.whole(1, 3); i > 0; i -= 1) {
      const begun = spawnProduct(data);
      begun.ready.catch(() => undefined);
      await Promise.race([
        begun.ended,
        new Promise((resolve) => setTimeout(resolve, chance.whole(50, 2600))),
      ]);
      await begun.kill();
    }
    const product = await startProduct(data);
    try {
      const { body } = await call(product.address, 'GET', '/machines');
      must(body.length === 3, `${body.length} machines instead of three`);
      const bittern = (await call(product.address, 'GET', '/machines/bittern/kept')).body;
      must(bittern.kept.length === 1, 'the image that the demo keeps is missing');
      const bytes = await call(product.address, 'GET', `/machines/bittern/kept/${bittern.kept[0].id}/bytes`);
      must(bytes.status === 200, 'a kept image has no bytes');
    } finally {
      await product.kill();
    }
  },
};
