import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { Shelf } from '../stations/shelf/Shelf';
import { MachineFrame } from './frame/MachineFrame';
import { Whole } from './frame/Whole';

export const router = createBrowserRouter([
  { path: '/', element: <Shelf />, errorElement: <Broken /> },
  {
    path: '/machines/:id',
    element: <MachineFrame />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Whole title="One moment" text="The machine is being laid on the bench." />,
    children: [
      { index: true, element: <Navigate to="survey" replace /> },
      {
        path: 'survey',
        lazy: async () => ({ Component: (await import('../stations/survey/SurveyStation')).SurveyStation }),
      },
      {
        path: 'wiring',
        lazy: async () => ({ Component: (await import('../stations/wiring/WiringStation')).WiringStation }),
      },
      {
        path: 'settings',
        lazy: async () => ({
          Component: (await import('../stations/settings/SettingsStation')).SettingsStation,
        }),
      },
      {
        path: 'build',
        lazy: async () => ({ Component: (await import('../stations/build/BuildStation')).BuildStation }),
      },
      {
        path: 'flash',
        lazy: async () => ({ Component: (await import('../stations/flash/FlashStation')).FlashStation }),
      },
      {
        path: 'bring-up',
        lazy: async () => ({
          Component: (await import('../stations/bringup/BringUpStation')).BringUpStation,
        }),
      },
      {
        path: 'calibrate',
        lazy: async () => ({
          Component: (await import('../stations/calibrate/CalibrateStation')).CalibrateStation,
        }),
      },
      {
        path: 'logbook',
        lazy: async () => ({
          Component: (await import('../stations/logbook/LogbookStation')).LogbookStation,
        }),
      },
      { path: '*', element: <Navigate to=".." replace /> },
    ],
  },
  {
    path: '*',
    element: (
      <Whole title="There is nothing here" text="This address leads to no machine and no station." back />
    ),
  },
]);

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
