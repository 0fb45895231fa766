import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, ConfigProvider } from 'antd';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { RunSheetPage } from '../features/run-sheet';
import { ShelfPage } from '../features/shelf';
import { TakesPage } from '../features/takes';
import { WorkbenchPage } from '../features/workbench';
import { ErrorBoundary } from '../shared/ui/ErrorBoundary';
import './base.css';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content ?? '';
const queries = new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false } } });
const router = createBrowserRouter([
  { path: '/', element: <ErrorBoundary><ShelfPage /></ErrorBoundary> },
  { path: '/pieces/:id', element: <ErrorBoundary><WorkbenchPage /></ErrorBoundary> },
  { path: '/pieces/:id/takes', element: <ErrorBoundary><TakesPage /></ErrorBoundary> },
  { path: '/pieces/:id/run-sheet', element: <ErrorBoundary><RunSheetPage /></ErrorBoundary> },
]);

createRoot(document.getElementById('root')!).render(
  <ConfigProvider theme={theme} csp={{ nonce }} wave={{ disabled: true }}>
    <AntApp style={{ height: '100%' }}>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </AntApp>
  </ConfigProvider>,
);
