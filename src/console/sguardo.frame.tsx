/** Around every look: what the console's parts find around them in the console. */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { BrowserRouter } from 'react-router';
import { useTheme } from './theme.ts';
import './console.css';

export default function Frame({ children }: { children: ReactNode }) {
  const [queries] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: false } } }));
  useTheme();
  return (
    <QueryClientProvider client={queries}>
      <BrowserRouter useTransitions={false}>
        <Tooltip.Provider>{children}</Tooltip.Provider>
      </BrowserRouter>
    </QueryClientProvider>
  );
}
