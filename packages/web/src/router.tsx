import { createBrowserRouter, Navigate, type RouteObject, useRouteError } from 'react-router';
import { askAhead } from './api/asked';
import { Shelf } from './stations/shelf/Shelf';
import { DropAnywhere } from './app/drop/DropAnywhere';
import { StationBroken } from './app/frame/StationBroken';
import { Whole } from './app/frame/Whole';
import { startCore } from './workbench/core';
import { remembered } from './api/remembered';
import { fetchStations, STATION_PAGES } from './stationPages';

const pages: RouteObject[] = [
  { path: '/', element: <Shelf />, errorElement: <Broken /> },
  {
    path: '/describe/:id',
    lazy: async () => ({ Component: (await import('./stations/describe/DescribePage')).DescribePage }),
    errorElement: <Broken />,
    hydrateFallbackElement: <Whole title="One moment" text="The description is being fetched." />,
  },
  {
    path: '/fleet',
    lazy: async () => ({ Component: (await import('./stations/fleet/Fleet')).Fleet }),
    errorElement: <Broken />,
    hydrateFallbackElement: <Whole title="One moment" text="The machines are being lined up." />,
  },
  {
    path: '/boards/:id',
    lazy: async () => ({ Component: (await import('./stations/boards/BoardPage')).BoardPage }),
    errorElement: <Broken />,
    hydrateFallbackElement: <Whole title="One moment" text="The board is being fetched." />,
  },
  {
    path: '/machines/:id',
    // While the station's own program is fetched, not after it.
    loader: ({ params: { id = '' } }) => {
      startCore();
      askAhead(remembered, id);
      return null;
    },
    shouldRevalidate: () => false,
    lazy: async () => {
      const { MachineFrame } = await import('./app/frame/MachineFrame');
      return { element: <MachineFrame whenShown={fetchStations} /> };
    },
    errorElement: <Broken />,
    hydrateFallbackElement: <Whole title="One moment" text="The machine is being laid on the bench." />,
    children: [
      { index: true, element: <Navigate to="survey" replace /> },
      ...Object.entries(STATION_PAGES).map(([path, load]) => ({
        path,
        lazy: async () => ({ Component: await load() }),
        errorElement: <StationBroken />,
      })),
      { path: '*', element: <Navigate to=".." replace /> },
    ],
  },
  {
    path: '*',
    element: (
      <Whole title="There is nothing here" text="This address leads to no machine and no station." back />
    ),
  },
];

export const router = createBrowserRouter([{ element: <DropAnywhere />, children: pages }]);

function Broken() {
  const error = useRouteError();
  return (
    <Whole
      title="Something broke in this page"
      text={error instanceof Error ? error.message : 'Load the page again; what was saved is saved.'}
      back
    />
  );
}
