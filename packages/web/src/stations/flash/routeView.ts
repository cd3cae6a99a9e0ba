import type { FlashRoute } from '@jolly/core/board/route';
import type { ReactNode } from 'react';

/** One way of flashing, as its page gets it. */
export interface RouteView<R extends FlashRoute = FlashRoute> {
  route: R;
  /** The list of routes above it. */
  choose: ReactNode;
  /** Why it is the one to take, where it is. */
  why: string | undefined;
}
