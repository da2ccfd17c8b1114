/** Every page by its address. */
import { isValidElement, Suspense, useEffect, type ComponentType, type ReactElement } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { createRoutesFromElements, matchRoutes, Navigate, Outlet, Route, useLocation, useRoutes } from 'react-router';
import { KeyStep } from './key/KeyStep.js';
import { isFetched, page } from './page.js';
import { ScenePage } from './scene/ScenePage.js';
import { FaultInPlace, FaultPage } from './ui/FaultPage.js';
import { LostPage } from './ui/LostPage.js';

/** A scene and its Key step come with the application; everything else when it is opened. */
const HomePage = page(async () => (await import('./home/HomePage.js')).HomePage);
const OverviewPage = page(async () => (await import('./home/OverviewPage.js')).OverviewPage);
const SeveralPage = page(async () => (await import('./home/SeveralPage.js')).SeveralPage);
const PronunciationsPage = page(async () => (await import('./pronunciations/PronunciationsPage.js')).PronunciationsPage);
const ChartPage = page(async () => (await import('./chart/ChartPage.js')).ChartPage);
const ChartStep = page(async () => (await import('./chart/ChartStep.js')).ChartStep);
const ListenStep = page(async () => (await import('./listen/ListenStep.js')).ListenStep);
const CheckStep = page(async () => (await import('./check/CheckStep.js')).CheckStep);
const HandOffStep = page(async () => (await import('./handOff/HandOffStep.js')).HandOffStep);
const ReviewPage = page(async () => (await import('./review/ReviewPage.js')).ReviewPage);
const ShootPage = page(async () => (await import('./shoot/ShootPage.js')).ShootPage);
const TakePage = page(async () => (await import('./shoot/TakePage.js')).TakePage);
const RoomPage = page(async () => (await import('./room/RoomPage.js')).RoomPage);
const ByLinkPage = page(async () => (await import('./room/ByLinkPage.js')).ByLinkPage);

/** What is routed to inside: a fault in it is told in its place, and is over when another address is gone to. */
function Guarded({ told }: { told: ComponentType<FallbackProps> }): ReactElement {
  const { pathname } = useLocation();
  useEffect(() => void fetchPageAt(pathname), [pathname]);
  return (
    <ErrorBoundary FallbackComponent={told} resetKeys={[pathname]}>
      <Suspense>
        <Outlet />
      </Suspense>
    </ErrorBoundary>
  );
}

const ROUTES = createRoutesFromElements(
  <Route element={<Guarded told={FaultPage} />}>
    <Route path="/" element={<HomePage />} />
    <Route path="/scenes/:sceneId" element={<ScenePage />}>
      <Route index element={<Navigate to="key" replace />} />
      <Route element={<Guarded told={FaultInPlace} />}>
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
  </Route>,
);

/** Fetches what is shown at an address, so that it can be while what lies around it is. What cannot be fetched is told where it would stand. */
export async function fetchPageAt(pathname: string): Promise<void> {
  const pages = (matchRoutes(ROUTES, pathname) ?? []).flatMap(({ route: { element } }) =>
    isValidElement(element) && isFetched(element.type) ? [element.type] : [],
  );
  await Promise.all(pages.map((one) => one.fetch().catch(() => undefined)));
}

export function Pages(): ReactElement | null {
  return useRoutes(ROUTES);
}
