import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/red-hat-mono';
import '@mantine/core/styles.css';
import './ui/tokens.css';
import './ui/words.css';
import './ui/print.css';
import { MantineProvider } from '@mantine/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { appWindow } from './app/window';
import { nonce, spreadNonce } from './ui/nonce';
import { router } from './router';
import { TapeProvider } from './app/tape/tape';
import { resolver, theme } from './ui/theme';

const client = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, retry: 1, refetchOnWindowFocus: true } },
});

spreadNonce();
// Back again: what is shown may have grown old meanwhile.
appWindow.presence.listen(() => void (appWindow.presence.now().here && client.invalidateQueries()));
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
      <QueryClientProvider client={client}>
        <TapeProvider>
          <RouterProvider router={router} />
        </TapeProvider>
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
