import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, ConfigProvider } from 'antd';
import type { ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { RunSheetPage } from '../features/run-sheet';
import { ShelfPage } from '../features/shelf';
import { TakesPage } from '../features/takes';
import { forgetPiece, WorkbenchPage } from '../features/workbench';
import { ErrorBoundary } from '../shared/ui/ErrorBoundary';
import './base.css';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content ?? '';
const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });
const forget = () => {
  queries.clear();
  forgetPiece();
};
const PAGES: readonly [path: string, page: ReactNode][] = [
  ['/', <ShelfPage />],
  ['/pieces/:id', <WorkbenchPage />],
  ['/pieces/:id/takes', <TakesPage />],
  ['/pieces/:id/run-sheet', <RunSheetPage />],
];
const router = createBrowserRouter(PAGES.map(([path, page]) => ({ path, element: <ErrorBoundary key={path} again={forget}>{page}</ErrorBoundary> })));

createRoot(document.getElementById('root')!).render(
  <ConfigProvider theme={theme} csp={{ nonce }} wave={{ disabled: true }}>
    <AntApp style={{ height: '100%' }}>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </AntApp>
  </ConfigProvider>,
);
