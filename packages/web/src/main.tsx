import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/red-hat-mono';
import './ui/mantineStyles';
import './ui/tokens.css';
import './ui/words.css';
import './ui/print.css';
import { MantineProvider } from '@mantine/core';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { remembered } from './api/remembered';
import { appWindow } from './app/window';
import { nonce, spreadNonce } from './ui/nonce';
import { router } from './router';
import { resolver, theme } from './ui/theme';

spreadNonce();
// Back again: what is shown may have grown old meanwhile.
appWindow.presence.listen(() => void (appWindow.presence.now().here && remembered.invalidateQueries()));
appWindow.watch();

const root = document.getElementById('root');
if (!root) throw new Error('the page has no place for the interface');
createRoot(root).render(
  <StrictMode>
    <MantineProvider
      getStyleNonce={nonce}
      theme={theme}
      cssVariablesResolver={resolver}
      defaultColorScheme="auto"
    >
      <QueryClientProvider client={remembered}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
