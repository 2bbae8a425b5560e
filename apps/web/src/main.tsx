import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { useStore } from 'zustand';
import { ShelfPage } from './shelf/ShelfPage.tsx';
import { keepSettings } from './workspace/keeping/keep-settings.ts';
import { createProfileState, type Theme } from './state/settings-store.ts';
import './theme/theme.css';
import { BASE } from './api/under-base.ts';
import { createEventLine, type EventLine } from './api/events.ts';
import { EventsContext } from './panels/use-events.ts';
import { useVersion } from './panels/use-version.ts';
import { ProfileContext } from './panels/use-profile.ts';
import { NotFoundPage } from './ui/NotFoundPage.tsx';
import type { Profile } from './workspace/workspace.ts';
import { WorkspacePage } from './panels/WorkspacePage.tsx';

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });

/** px: above the view strip and the scale bar. */
const TOASTS_FROM_BELOW = 132;
const TOASTS = {
  className: 'font-sans',
  style: { background: 'var(--panel)', color: 'var(--ink)', borderColor: 'var(--border)' },
  actionButtonStyle: { background: 'var(--blue)', color: 'var(--on-blue)' },
};

interface AppProps {
  profile: Profile;
  events: EventLine;
  router: ReturnType<typeof createBrowserRouter>;
}

function App({ profile, events, router }: AppProps) {
  const theme = useStore(profile, (s) => s.theme);
  return (
    <ProfileContext value={profile}>
      <QueryClientProvider client={queries}>
        <EventsContext value={events}>
          <Updates />
          <RouterProvider router={router} />
        </EventsContext>
        <Toaster
          theme={theme === 'abyss' ? 'dark' : 'light'}
          position="bottom-center"
          offset={TOASTS_FROM_BELOW}
          toastOptions={TOASTS}
        />
      </QueryClientProvider>
    </ProfileContext>
  );
}

/** Stands beside every page. */
function Updates() {
  useVersion();
  return null;
}

const showTheme = (theme: Theme): void => void (document.documentElement.dataset['theme'] = theme);

function start(): void {
  const profile = createProfileState();
  showTheme(profile.getState().theme);
  profile.subscribe((s) => showTheme(s.theme));
  void keepSettings(profile);
  const events = createEventLine();
  const routes = [
    { path: '/', element: <ShelfPage /> },
    { path: '/models/:id', element: <WorkspacePage /> },
    { path: '/models/:id/at/:link', element: <WorkspacePage /> },
    { path: '/models/:id/revisions/:revision', element: <WorkspacePage /> },
    { path: '/models/:id/revisions/:revision/at/:link', element: <WorkspacePage /> },
    { path: '*', element: <NotFoundPage /> },
  ];
  const router = createBrowserRouter(routes, { basename: BASE });
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <App profile={profile} events={events} router={router} />
    </StrictMode>,
  );
}

start();
