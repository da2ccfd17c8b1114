import '@fontsource-variable/fraunces/index.css';
import '@fontsource-variable/source-sans-3/index.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { toast, Toaster } from 'sonner';
import { KeyStep } from './key/KeyStep.js';
import { Door } from './room/Door.js';
import { ScenePage } from './scene/ScenePage.js';
import { onNothingKept } from './session/unsaved.js';
import { FaultPage } from './ui/FaultPage.js';
import { LostPage } from './ui/LostPage.js';

/** A scene and its Key step come with the page; everything else when it is opened. */
onNothingKept(() =>
  toast.warning('This browser keeps nothing aside.', {
    description: 'Leave a page only when it says “saved”: a closed tab would lose what is not.',
    duration: Infinity,
    closeButton: true,
  }),
);

const router = createBrowserRouter([
  {
    ErrorBoundary: FaultPage,
    hydrateFallbackElement: <></>,
    children: [
      { path: '/', hydrateFallbackElement: <></>, lazy: async () => ({ Component: (await import('./home/HomePage.js')).HomePage }) },
      {
        path: '/scenes/:sceneId',
        element: <ScenePage />,
        hydrateFallbackElement: <></>,
        children: [
          { index: true, element: <Navigate to="key" replace /> },
          { path: 'chart', ErrorBoundary: FaultPage, lazy: async () => ({ Component: (await import('./chart/ChartStep.js')).ChartStep }) },
          {
            path: 'listen',
            ErrorBoundary: FaultPage,
            lazy: async () => ({ Component: (await import('./listen/ListenStep.js')).ListenStep }),
          },
          { path: 'key', ErrorBoundary: FaultPage, element: <KeyStep /> },
          {
            path: 'check',
            ErrorBoundary: FaultPage,
            lazy: async () => ({ Component: (await import('./check/CheckStep.js')).CheckStep }),
          },
          {
            path: 'hand-off',
            ErrorBoundary: FaultPage,
            lazy: async () => ({ Component: (await import('./handOff/HandOffStep.js')).HandOffStep }),
          },
        ],
      },
      {
        path: '/scenes/:sceneId/review',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./review/ReviewPage.js')).ReviewPage }),
      },
      {
        path: '/scenes/:sceneId/shoot/:trackId',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./shoot/ShootPage.js')).ShootPage }),
      },
      {
        path: '/scenes/:sceneId/shoot/:trackId/take',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./shoot/TakePage.js')).TakePage }),
      },
      {
        path: '/charts/:chartId',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./chart/ChartPage.js')).ChartPage }),
      },
      {
        path: '/productions/:productionId/pronunciations',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./pronunciations/PronunciationsPage.js')).PronunciationsPage }),
      },
      {
        path: '/productions/:productionId',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./home/OverviewPage.js')).OverviewPage }),
      },
      {
        path: '/productions/:productionId/hand-off',
        hydrateFallbackElement: <></>,
        lazy: async () => ({ Component: (await import('./home/SeveralPage.js')).SeveralPage }),
      },
      { path: '/room', hydrateFallbackElement: <></>, lazy: async () => ({ Component: (await import('./room/RoomPage.js')).RoomPage }) },
      { path: '/in', hydrateFallbackElement: <></>, lazy: async () => ({ Component: (await import('./room/ByLinkPage.js')).ByLinkPage }) },
      { path: '*', element: <LostPage /> },
    ],
  },
]);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Door>
        <RouterProvider router={router} />
      </Door>
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
