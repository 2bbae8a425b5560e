import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { useStore } from 'zustand';
import { ShelfPage } from './shelf/ShelfPage.tsx';
import { keepSettings } from './stores/keep-settings.ts';
import { settingsStore } from './stores/settings-store.ts';
import './theme/theme.css';
import { NotFoundPage } from './ui/NotFoundPage.tsx';
import { WorkspacePage } from './workspace/WorkspacePage.tsx';

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });

const router = createBrowserRouter([
  { path: '/', element: <ShelfPage /> },
  { path: '/models/:id', element: <WorkspacePage /> },
  { path: '/models/:id/at/:link', element: <WorkspacePage /> },
  { path: '*', element: <NotFoundPage /> },
]);

const TOASTS = {
  className: 'font-sans',
  style: { background: 'var(--panel)', color: 'var(--ink)', borderColor: 'var(--border)' },
  actionButtonStyle: { background: 'var(--blue)', color: 'var(--on-blue)' },
};

function App() {
  const theme = useStore(settingsStore, (s) => s.theme);
  return (
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
      <Toaster theme={theme === 'abyss' ? 'dark' : 'light'} position="bottom-center" offset={112} toastOptions={TOASTS} />
    </QueryClientProvider>
  );
}

void keepSettings();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
