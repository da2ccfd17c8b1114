import '@fontsource-variable/fraunces/index.css';
import '@fontsource-variable/source-sans-3/index.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { toast, Toaster } from 'sonner';
import { Door } from './room/Door.js';
import { fetchPageAt, Pages } from './Pages.js';
import { onNothingKept } from './session/unsaved.js';

onNothingKept(() =>
  toast.warning('This browser keeps nothing aside.', {
    description: 'Leave a page only when it says “saved”: a closed tab would lose what is not.',
    duration: Infinity,
    closeButton: true,
  }),
);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

// A page appears whole: its frame does not take keys before what is in it can.
await fetchPageAt(window.location.pathname);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Door>
          <Pages />
        </Door>
      </BrowserRouter>
      <Toaster
        position="bottom-center"
        offset={72}
        toastOptions={{
          actionButtonStyle: {
            background: 'var(--ink)',
            color: 'var(--on-ink)',
            borderRadius: 999,
            height: 32,
            padding: '0 14px',
            fontSize: 14,
            fontWeight: 600,
          },
          style: {
            // Not the lift of other panels: the toaster has a measure of its own by that name.
            background: 'var(--sheet)',
            color: 'var(--ink)',
            border: '1px solid var(--rule)',
            fontFamily: 'var(--font-work)',
            fontSize: 15,
          },
        }}
      />
    </QueryClientProvider>
  </StrictMode>,
);
