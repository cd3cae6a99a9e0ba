import type { Heights } from '@jolly/core/plate/heights';
import { heightColour } from './heightColour';

/** How steeply the plate is looked at, and how tall its heights stand at most, in shares of its width. */
const LOOK = 0.5;
const TALL = 0.3;

type Pen = Pick<
  CanvasRenderingContext2D,
  'clearRect' | 'beginPath' | 'moveTo' | 'lineTo' | 'closePath' | 'fill' | 'stroke' | 'fillText' | 'font' | 'fillStyle' | 'strokeStyle' | 'lineWidth' | 'textAlign'
>; // prettier-ignore

/** Draws a plate as cells from the far to the near, turned about its middle. @param turn radians */
export function drawSurface(
  pen: Pen,
  { xs, ys, z }: Heights,
  { turn, wide, high, ink }: { turn: number; wide: number; high: number; ink: string },
): void {
  const [x0, x1, y0, y1] = [xs[0] ?? 0, xs.at(-1) ?? 1, ys[0] ?? 0, ys.at(-1) ?? 1];
  const size = Math.max(x1 - x0, y1 - y0);
  const all = z.flat();
  const [low, top] = [Math.min(...all), Math.max(...all)];
  const range = Math.max(0.02, top - low);
  const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
  const scale = wide / 1.55;
  const project = (x: number, y: number, height: number) => {
    const [u, v] = [(x - (x0 + x1) / 2) / size, (y - (y0 + y1) / 2) / size];
    const [across, away] = [u * cos - v * sin, u * sin + v * cos];
    const up = ((height - (low + top) / 2) / range) * TALL;
    return { x: wide / 2 + across * scale, y: high * 0.54 - (away * LOOK + up) * scale, away };
  };
  pen.clearRect(0, 0, wide, high);
  const cells = ys.slice(1).flatMap((_, row) =>
    xs.slice(1).map((__, column) => {
      const corner = (right: number, back: number) =>
        project(xs[column + right] ?? 0, ys[row + back] ?? 0, z[row + back]?.[column + right] ?? 0);
      const corners = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
      const height = ((z[row]?.[column] ?? 0) + (z[row]?.[column + 1] ?? 0) + (z[row + 1]?.[column] ?? 0) + (z[row + 1]?.[column + 1] ?? 0)) / 4; // prettier-ignore
      return { corners, away: corners.reduce((sum, { away }) => sum + away, 0), height };
    }),
  );
  pen.lineWidth = 0.8;
  pen.strokeStyle = ink;
  for (const { corners, height } of cells.sort((one, other) => other.away - one.away)) {
    pen.beginPath();
    corners.forEach(({ x, y }, index) => (index === 0 ? pen.moveTo(x, y) : pen.lineTo(x, y)));
    pen.closePath();
    pen.fillStyle = heightColour((height - low) / range);
    pen.fill();
    pen.stroke();
  }
  pen.font = '13px sans-serif';
  pen.fillStyle = ink;
  pen.textAlign = 'center';
  const front = project((x0 + x1) / 2, y0 - size * 0.09, low - range * 0.3);
  pen.fillText('front', front.x, front.y);
  pen.textAlign = 'left';
  pen.fillText(`${(top - low).toFixed(2)} mm from low to high, enlarged`, 10, high - 10);
}
