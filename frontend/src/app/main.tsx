import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { lazy, Suspense, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { Route, Switch } from 'wouter';
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
const VIEWS = {
  workbench: async () => ({ default: (await import('../features/workbench')).WorkbenchPage }),
  takes: async () => ({ default: (await import('../features/takes')).TakesPage }),
  runSheet: async () => ({ default: (await import('../features/run-sheet')).RunSheetPage }),
};
const WorkbenchPage = lazy(() => withTheOthers(VIEWS.workbench));
const TakesPage = lazy(() => withTheOthers(VIEWS.takes));
const RunSheetPage = lazy(() => withTheOthers(VIEWS.runSheet));

/** The other views of a piece follow the first: the work goes on in all of them while the server is away. */
async function withTheOthers<T>(view: () => Promise<T>): Promise<T> {
  const shown = await view();
  for (const other of Object.values(VIEWS)) other().catch(() => undefined);
  return shown;
}

const PAGES: readonly [path: string, page: ReactNode][] = [
  ['/', <ShelfPage />],
  ['/pieces/:id', <WorkbenchPage />],
  ['/pieces/:id/takes', <TakesPage />],
  ['/pieces/:id/run-sheet', <RunSheetPage />],
];

async function forget(): Promise<void> {
  queries.clear();
  (await import('../features/workbench')).forgetPiece();
}

createRoot(known(document.getElementById('root'))).render(
  <ConfigProvider theme={theme} csp={{ nonce }} wave={{ disabled: true }}>
    <QueryClientProvider client={queries}>
      <Switch>
        {PAGES.map(([path, page]) => (
          <Route key={path} path={path}>
            <ErrorBoundary again={forget}>
              <Suspense>{page}</Suspense>
            </ErrorBoundary>
          </Route>
        ))}
      </Switch>
    </QueryClientProvider>
  </ConfigProvider>,
);
