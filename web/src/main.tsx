import './noEval';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Link, RouterProvider, useRouteError } from 'react-router';
import { Levels } from './app/Levels';
import { applySheet, shownSheet } from './theme/sheetTheme';
import './theme/theme.css';

applySheet(shownSheet());

/** A fault of ours while drawing: said plainly, with the way on. */
function Crash() {
  const error = useRouteError();
  return (
    <main className="grid h-full place-content-center gap-3 text-center">
      <p role="alert" className="m-0">
        <b>Rammer failed at drawing this page:</b> {error instanceof Error ? error.message : 'unknown'}.
      </p>
      <p className="label m-0">What you made is saved in this browser and on the server; nothing is lost.</p>
      <p className="m-0 flex justify-center gap-2">
        <button className="act main" onClick={() => location.reload()}>
          reload
        </button>
        <Link className="act" to="/" reloadDocument>
          to the levels
        </Link>
      </p>
    </main>
  );
}

const Waiting = () => (
  <main className="grid h-full place-content-center">
    <h1 className="sr-only">Rammer</h1>
    <p role="status">opening</p>
  </main>
);

const router = createBrowserRouter([
  {
    ErrorBoundary: Crash,
    HydrateFallback: Waiting,
    children: [
      { path: '/', Component: Levels },
      { path: '/new', lazy: async () => ({ Component: (await import('./app/NewLevel')).NewLevel }) },
      { path: '/levels/:id', lazy: async () => ({ Component: (await import('./app/Editor')).Editor }) },
      {
        path: '*',
        element: (
          <main className="grid h-full place-content-center">
            <p>
              There is nothing at this address.{' '}
              <Link className="underline" to="/">
                To the levels
              </Link>
            </p>
          </main>
        ),
      },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: 1 } } })}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
