import type { ReactNode } from 'react';

/** One step of a route, as it stands in the list of steps. */
export function FlashStep({ title, done, children }: { title: string; done: boolean; children?: ReactNode }) {
  return (
    <li data-done={done}>
      <h3>{title}</h3>
      {children}
    </li>
  );
}
