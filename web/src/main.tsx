import './noEval';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Link, RouterProvider } from 'react-router';
import { Levels } from './app/Levels';
import { applySheet, shownSheet } from './theme/sheetTheme';
import './theme/theme.css';

applySheet(shownSheet());

const router = createBrowserRouter([
  { path: '/', Component: Levels },
  { path: '/new', lazy: async () => ({ Component: (await import('./app/NewLevel')).NewLevel }) },
  { path: '/levels/:id', lazy: async () => ({ Component: (await import('./app/Editor')).Editor }) },
  { path: '*', element: <main className="grid h-full place-content-center"><p>There is nothing at this address. <Link className="underline" to="/">To the levels</Link></p></main> },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: 1 } } })}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
