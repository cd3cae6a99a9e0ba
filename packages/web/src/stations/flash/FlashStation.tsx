import { type CardRoute as CardRouteData, isCardRoute, isWired } from '@jolly/core/board/route';
import { canFlash, chooseRoute } from '@jolly/core/flash/chooseRoute';
import { routeWords } from '@jolly/core/flash/routeWords';
import { useSearchParams } from 'react-router';
import { useStation } from '../../app/frame/StationContext';
import { type SectionEntry, SectionList } from '../../ui/SectionList';
import { useWorkbench } from '../../workbench/Workbench';
import { BootloaderView } from './BootloaderView';
import { CardRoute } from './CardRoute';
import { FilesView } from './FilesView';
import { HostRoute } from './HostRoute';
import { ReadyMadeView } from './ReadyMadeView';
import type { RouteView } from './routeView';
import { ToolRoute } from './ToolRoute';

const VIEWS = [
  { id: 'bootloader', title: 'Bootloader' },
  { id: 'files', title: 'Files' },
  { id: 'ready-made', title: 'Ready-made' },
] as const;

/** The routes of the board, the one to take marked; its bootloader; images as files. */
export function FlashStation() {
  const { board, chip } = useWorkbench();
  const known = useStation().board?.bootloader ?? { is: 'unknown' as const, because: '' };
  const [search] = useSearchParams();
  const chosen = chooseRoute(board, known);
  const asked = search.get('route');
  const view = VIEWS.find(({ id }) => id === asked)?.id;
  // Links of before: a kept image goes back by wires.
  const back = asked === 'back' ? board.routes.find(isWired) : undefined;
  const route = back ?? board.routes.find(({ kind }) => kind === asked) ?? chosen.route;
  const entries: SectionEntry<string>[] = [
    ...board.routes.map((entry) => ({
      id: entry.kind,
      title: routeWords(entry, board, chip).title,
      ...(entry === chosen.route && { mark: 'take this', tone: 'good' as const }),
      ...(!canFlash(entry) && { mark: 'not this kit' }),
    })),
    ...VIEWS.map(({ id, title }) => ({
      id,
      title,
      ...(id === 'bootloader' && { mark: KNOWN[known.is] }),
    })),
  ];
  const choose = (
    <SectionList
      label="Routes"
      entries={entries}
      at={view ?? route.kind}
      // Which image is at hand stays the same by another route.
      leads={(id, now) => ({ ...now, route: id })}
      lying
    />
  );
  if (view === 'bootloader') return <BootloaderView choose={choose} known={known} />;
  if (view === 'files') return <FilesView choose={choose} />;
  if (view === 'ready-made') return <ReadyMadeView choose={choose} />;
  const why = route === chosen.route ? chosen.because : undefined;
  return <Route key={route.kind} {...{ route, choose, why, keptFirst: back !== undefined }} />;
}

const KNOWN = { unknown: 'not known', there: 'is there', absent: 'none' };

function Route({ keptFirst, ...view }: RouteView & { keptFirst: boolean }) {
  const { route } = view;
  if (isCardRoute(route)) return <CardRoute {...view} route={route satisfies CardRouteData} />;
  if (!canFlash(route)) return <HostRoute {...view} />;
  return <ToolRoute {...view} keptFirst={keptFirst} />;
}
