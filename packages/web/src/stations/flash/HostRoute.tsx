import { Docket } from '../../app/docket/Docket';
import { useWorkbench } from '../../workbench/Workbench';
import type { RouteView } from './routeView';
import { RouteHead, RouteTrouble } from './RouteHead';

/** The route from the computer that drives the board: told, and not walked, because the kit of the machine is not of that school. */
export function HostRoute({ route, choose, why }: RouteView) {
  const { kit } = useWorkbench();
  return (
    <>
      <main className="bench">
        {choose}
        <RouteHead route={route} why={why} />
        <RouteTrouble route={route} />
      </main>
      <Docket
        title="Evidence"
        slips={[
          {
            id: 'host',
            severity: 'note',
            what: `${kit.name} is not flashed from a host.`,
            why: 'It runs on the board by itself and has no host beside it. Take another route.',
            evidence: [],
            actions: [],
          },
        ]}
        empty=""
      />
    </>
  );
}
