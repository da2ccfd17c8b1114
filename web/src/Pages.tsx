/** Every page by its address. */
import { lazy, Suspense, type ReactElement } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Navigate, Outlet, Route, Routes, useLocation } from 'react-router';
import { KeyStep } from './key/KeyStep.js';
import { ScenePage } from './scene/ScenePage.js';
import { FaultPage } from './ui/FaultPage.js';
import { LostPage } from './ui/LostPage.js';

/** A scene and its Key step come with the page; everything else when it is opened. */
const HomePage = lazy(async () => ({ default: (await import('./home/HomePage.js')).HomePage }));
const OverviewPage = lazy(async () => ({ default: (await import('./home/OverviewPage.js')).OverviewPage }));
const SeveralPage = lazy(async () => ({ default: (await import('./home/SeveralPage.js')).SeveralPage }));
const PronunciationsPage = lazy(async () => ({ default: (await import('./pronunciations/PronunciationsPage.js')).PronunciationsPage }));
const ChartPage = lazy(async () => ({ default: (await import('./chart/ChartPage.js')).ChartPage }));
const ChartStep = lazy(async () => ({ default: (await import('./chart/ChartStep.js')).ChartStep }));
const ListenStep = lazy(async () => ({ default: (await import('./listen/ListenStep.js')).ListenStep }));
const CheckStep = lazy(async () => ({ default: (await import('./check/CheckStep.js')).CheckStep }));
const HandOffStep = lazy(async () => ({ default: (await import('./handOff/HandOffStep.js')).HandOffStep }));
const ReviewPage = lazy(async () => ({ default: (await import('./review/ReviewPage.js')).ReviewPage }));
const ShootPage = lazy(async () => ({ default: (await import('./shoot/ShootPage.js')).ShootPage }));
const TakePage = lazy(async () => ({ default: (await import('./shoot/TakePage.js')).TakePage }));
const RoomPage = lazy(async () => ({ default: (await import('./room/RoomPage.js')).RoomPage }));
const ByLinkPage = lazy(async () => ({ default: (await import('./room/ByLinkPage.js')).ByLinkPage }));

/** What is routed to inside: a fault in it is told in its place, and is over when another address is gone to. */
function Guarded(): ReactElement {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={FaultPage} resetKeys={[pathname]}>
      <Suspense>
        <Outlet />
      </Suspense>
    </ErrorBoundary>
  );
}

export function Pages(): ReactElement {
  return (
    <Routes>
      <Route element={<Guarded />}>
        <Route path="/" element={<HomePage />} />
        <Route path="/scenes/:sceneId" element={<ScenePage />}>
          <Route index element={<Navigate to="key" replace />} />
          <Route element={<Guarded />}>
            <Route path="chart" element={<ChartStep />} />
            <Route path="listen" element={<ListenStep />} />
            <Route path="key" element={<KeyStep />} />
            <Route path="check" element={<CheckStep />} />
            <Route path="hand-off" element={<HandOffStep />} />
          </Route>
        </Route>
        <Route path="/scenes/:sceneId/review" element={<ReviewPage />} />
        <Route path="/scenes/:sceneId/shoot/:trackId" element={<ShootPage />} />
        <Route path="/scenes/:sceneId/shoot/:trackId/take" element={<TakePage />} />
        <Route path="/charts/:chartId" element={<ChartPage />} />
        <Route path="/productions/:productionId/pronunciations" element={<PronunciationsPage />} />
        <Route path="/productions/:productionId" element={<OverviewPage />} />
        <Route path="/productions/:productionId/hand-off" element={<SeveralPage />} />
        <Route path="/room" element={<RoomPage />} />
        <Route path="/in" element={<ByLinkPage />} />
        <Route path="*" element={<LostPage />} />
      </Route>
    </Routes>
  );
}
