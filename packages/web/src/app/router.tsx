import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { Shelf } from '../stations/shelf/Shelf';
import { BringUpStation } from '../stations/bringup/BringUpStation';
import { BuildStation } from '../stations/build/BuildStation';
import { FlashStation } from '../stations/flash/FlashStation';
import { LogbookStation } from '../stations/logbook/LogbookStation';
import { CalibrateStation } from '../stations/calibrate/CalibrateStation';
import { SurveyStation } from '../stations/survey/SurveyStation';
import { WiringStation } from '../stations/wiring/WiringStation';
import { SettingsStation } from '../stations/settings/SettingsStation';
import { MachineFrame } from './frame/MachineFrame';
import { Whole } from './frame/Whole';

export const router = createBrowserRouter([
  { path: '/', element: <Shelf />, errorElement: <Broken /> },
  {
    path: '/machines/:id',
    element: <MachineFrame />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Navigate to="survey" replace /> },
      { path: 'survey', element: <SurveyStation /> },
      { path: 'wiring', element: <WiringStation /> },
      { path: 'settings', element: <SettingsStation /> },
      { path: 'build', element: <BuildStation /> },
      { path: 'flash', element: <FlashStation /> },
      { path: 'bring-up', element: <BringUpStation /> },
      { path: 'calibrate', element: <CalibrateStation /> },
      { path: 'logbook', element: <LogbookStation /> },
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
