import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, HashRouter } from 'react-router';
import { App } from './App.tsx';
import { site } from './site.ts';
import { useTheme } from './theme.ts';
import './console.css';

const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
});

/** Of a site only one address is a file: where one is on it stands behind the `#`. */
const Router = site ? HashRouter : BrowserRouter;

function Console() {
  const theme = useTheme();
  return <App theme={theme} />;
}

createRoot(document.getElementById('console')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* The address changes as the key is pressed, not in a later transition: what follows is read from it. */}
      <Router useTransitions={false}>
        <Console />
      </Router>
    </QueryClientProvider>
  </StrictMode>,
);
