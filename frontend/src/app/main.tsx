import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { lazy, Suspense, type ComponentType } from 'react';
import { createRoot } from 'react-dom/client';
import { loadLottieBy, openFilmsBy } from '../features/player';
import { Link, Route, Switch } from 'wouter';
import { ErrorBoundary } from '../shared/ui/ErrorBoundary';
import './base.css';
import { theme } from './theme';
import { setColours } from '../shared/drawing/colours';
import { known } from '../shared/known';

setColours(document.documentElement);
const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content ?? '';
const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });
// Each page is loaded when it is gone to: the shelf needs none of what edits a piece.
const ShelfPage = lazy(async () => ({ default: (await import('../features/shelf')).ShelfPage }));
/** The views of a piece, each by its address. */
const VIEWS: readonly [path: string, load: () => Promise<ComponentType>][] = [
  ['/pieces/:id', async () => (await import('../features/workbench')).WorkbenchPage],
  ['/pieces/:id/takes', async () => (await import('../features/takes')).TakesPage],
  ['/pieces/:id/rehearse', async () => (await import('../features/rehearse')).RehearsePage],
  ['/pieces/:id/hand-off', async () => (await import('../features/handoff')).HandoffPage],
  ['/pieces/:id/run-sheet', async () => (await import('../features/run-sheet')).RunSheetPage],
];
const PAGES = [
  ['/', ShelfPage] as const,
  ...VIEWS.map(([path, load]) => [path, lazy(() => withTheOthers(load))] as const),
];

/** The other views of a piece follow the first: the work goes on in all of them while the server is away. */
async function withTheOthers(load: () => Promise<ComponentType>) {
  const view = await load();
  for (const [, other] of VIEWS) other().catch(() => undefined);
  return { default: view };
}

async function forget(): Promise<void> {
  queries.clear();
  (await import('../features/workbench')).forgetPiece();
}

openFilmsBy(async () => (await import('../features/player/decoded')).openFilm);
loadLottieBy(async () => (await import('lottie-web/build/player/esm/lottie_light.min.js')).default);

createRoot(known(document.getElementById('root'))).render(
  <ConfigProvider theme={theme} csp={{ nonce }} wave={{ disabled: true }}>
    <QueryClientProvider client={queries}>
      <Switch>
        {PAGES.map(([path, Page]) => (
          <Route key={path} path={path}>
            <ErrorBoundary again={forget}>
              <Suspense>
                <Page />
              </Suspense>
            </ErrorBoundary>
          </Route>
        ))}
        <Route>
          <main style={{ margin: '96px auto', textAlign: 'center' }}>
            There is no such page. <Link href="/">To the shelf</Link>
          </main>
        </Route>
      </Switch>
    </QueryClientProvider>
  </ConfigProvider>,
);
