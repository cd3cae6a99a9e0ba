import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { call, linesLost, spawnProduct, startProduct } from '../product';
import { must, type Trial } from '../trial';

const MB = 2 ** 20;

function mountSmall(megabytes: number): string {
  const folder = mkdtempSync(join(tmpdir(), 'jolly-full-'));
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', folder], { stdio: 'ignore' });
  return folder;
}
function unmount(folder: string): void {
  execFileSync('umount', ['-l', folder], { stdio: 'ignore' });
  rmSync(folder, { recursive: true, force: true });
}

/** A disk that fills up under writes: each is kept or refused in words, and what was acknowledged outlives it. */
export const fullDisk: Trial = {
  name: 'a full disk',
  share: 1,
  impossible() {
    try {
      unmount(mountSmall(1));
      return undefined;
    } catch {
      return 'no small file system may be mounted here';
    }
  },
  async attempt({ chance }) {
    const disk = mountSmall(200);
    try {
      const data = join(disk, 'data');
      mkdirSync(data);
      if (chance.next() < 0.25) {
        writeFileSync(join(disk, 'fill'), new Uint8Array(chance.whole(140, 199) * MB));
        const refused = spawnProduct(data);
        must((await refused.ready) === '' && (await refused.ended) === 1, 'it started on a full disk');
        must(/disk that holds .* full/.test(refused.heard()), `it said: ${refused.heard().slice(0, 200)}`);
        return;
      }
      const product = await startProduct(data);
      const acknowledged: string[] = [];
      const { bavail, bsize } = statfsSync(disk);
      writeFileSync(join(disk, 'fill'), new Uint8Array(bavail * bsize - chance.whole(30, 60) * MB));
      try {
        for (let i = 0; i < 40; i += 1) {
          const summary = `${i}`;
          const { status, body } = await call(product.address, 'POST', '/machines/plover/entries', {
            summary,
          });
          must(
            status === 200 || (status === 507 && body.error.code === 'disk-full'),
            `answered with ${status}`,
          );
          if (status === 200) acknowledged.push(summary);
        }
        must(
          (await call(product.address, 'GET', '/machines')).status === 200,
          'nothing can be read any more',
        );
      } finally {
        await product.kill();
      }
      rmSync(join(disk, 'fill'));
      const lost = await linesLost(data, acknowledged);
      must(lost.length === 0, `${lost.length} acknowledged writes are gone`);
    } finally {
      unmount(disk);
    }
  },
};
